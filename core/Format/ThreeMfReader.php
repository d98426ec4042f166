<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\UnreadableMesh;
use Isotome\Geometry\Affine;
use XMLReader;
use ZipArchive;

/**
 * Reads 3MF: units, mesh objects, components, build items with their transforms; base materials, colours and textures.
 *
 * Sources: 3MF Core Specification 1.3, 3MF Materials and Properties Extension 1.2 (3MF Consortium). Archives that unpack to far too much, entities and document types, components
 * that contain themselves, and paths that lead out of the archive are refused.
 */
final class ThreeMfReader
{
    private const DEEPEST = 32;

    private const MOST_ITEMS = 100_000;

    /** Longest tag or text, bytes: XML readers take time that grows faster than the length, and cannot be interrupted. */
    private const LONGEST_TAG = 65_536;

    /** Most attributes of a tag: their names are compared with each other. */
    private const MOST_ATTRIBUTES = 200;

    private const DEEPEST_XML = 200;

    private const UNITS = ['micron' => 0.001, 'millimeter' => 1.0, 'centimeter' => 10.0, 'inch' => 25.4, 'foot' => 304.8, 'meter' => 1000.0];

    /** @var array<string, array{name: string, xyz: list<float>, corners: list<int>, tags: list<int>, bearing: string, components: list<array{string, list<float>}>}> */
    private array $objects = [];

    private ThreeMfLooks $looks;

    private ?SkinBuilder $skin = null;

    /** @var array<string, int> triangles of an object with those of its components, by id */
    private array $unfolded = [];

    /** @var list<array{string, list<float>}> */
    private array $items = [];

    /** @var array<string, array<int, true>> places of materials named inside, by group */
    private array $insides = [];

    private float $scale = 1.0;

    private int $placed = 0;

    private function __construct(private readonly string $name)
    {
        $this->looks = new ThreeMfLooks;
    }

    /** @throws UnreadableMesh */
    public static function read(string $path): ReadMesh
    {
        fclose(Files::open($path));

        return (new self(basename($path)))->archive($path);
    }

    private function bad(string $what): UnreadableMesh
    {
        return new UnreadableMesh("The 3MF file {$this->name} is damaged: $what; export it again.");
    }

    private function archive(string $path): ReadMesh
    {
        $zip = new ZipArchive;
        if (@$zip->open($path, ZipArchive::RDONLY) !== true) {
            throw new UnreadableMesh("The file {$this->name} is no archive, as a 3MF file must be; check that it is a 3MF file.");
        }
        $unpacked = tempnam(sys_get_temp_dir(), 'isotome');
        if ($unpacked === false) {
            throw new UnreadableMesh("There is no room to unpack {$this->name}; free some disk space.");
        }
        try {
            $part = $this->modelPart($zip);
            $this->unpack($zip, $part, $unpacked);
            $this->parse($unpacked);
            $this->looks->finish($zip);
            $zip->close();
        } finally {
            @unlink($unpacked);
        }
        $assembly = new Assembly($this->name, '3MF');
        if ($this->items === []) {
            throw $this->bad('it builds nothing');
        }
        $stored = $shown = 0;
        foreach ($this->objects as $object) {
            $stored += self::weight($object);
        }
        foreach ($this->items as [$id]) {
            $shown += $this->trianglesOf($id, []);
        }
        Assembly::refuseUnfolded($this->name, '3MF', $stored, $shown);
        // The plain materials in which this program writes skin and inside are no look.
        if (array_filter($this->objects, static fn (array $object): bool => $object['bearing'] !== '') !== []) {
            $this->skin = new SkinBuilder($this->looks->looks);
        }
        foreach ($this->items as [$id, $transform]) {
            $this->place($assembly, $id, $transform, []);
        }
        $read = $assembly->result();

        return $this->skin === null ? $read : $this->skin->onto($read, $this->looks->leftOut);
    }

    private function modelPart(ZipArchive $zip): string
    {
        $part = '3D/3dmodel.model';
        $relations = $zip->getFromName('_rels/.rels', 1_000_000);
        if (is_string($relations)) {
            $this->refuseEntities(substr($relations, 0, 4096));
            $xml = XMLReader::XML($relations, null, LIBXML_NONET | LIBXML_NOERROR | LIBXML_NOWARNING);
            while ($xml instanceof XMLReader && @$xml->read()) {
                if ($xml->nodeType === XMLReader::DOC_TYPE) {
                    throw $this->bad('it carries a document type, which may hide entities');
                }
                if ($xml->localName === 'Relationship' && $xml->getAttribute('Type') === 'http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel') {
                    $part = ltrim((string) $xml->getAttribute('Target'), '/');
                }
            }
        }
        if (str_contains($part, '..') || $zip->locateName($part) === false) {
            throw $this->bad('it holds no model part');
        }

        return $part;
    }

    private function unpack(ZipArchive $zip, string $part, string $to): void
    {
        $open = 0;
        match (Archive::unpack($zip, (int) $zip->locateName($part), $to, function (string $chunk) use (&$open): void {
            $open = $this->refuseLong($chunk, $open);
        })) {
            Archive::TOO_LARGE => throw new UnreadableMesh("The 3MF file {$this->name} unpacks to far more than a mesh of its size does; it was not read, so check where it comes from."),
            Archive::DAMAGED => throw $this->bad('its model part cannot be unpacked to the end'),
            default => null,
        };
    }

    /**
     * Refuses a stretch without the end of a tag that is too long. Half such a stretch fills one of the places that are looked at one
     * after the other, so a long one is never missed; shorter ones may be found as well.
     *
     * @param  int  $open  bytes before this chunk since the last end of a tag
     * @return int the same, after it
     */
    private function refuseLong(string $chunk, int $open): int
    {
        $half = intdiv(self::LONGEST_TAG, 2);
        $length = strlen($chunk);
        for ($at = 0; $at < $length; $at += $half) {
            $end = strpos($chunk, '>', $at);
            $run = ($end === false ? $length : $end) - $at + ($at === 0 ? $open : 0);
            if ($run >= $half) {
                throw $this->bad('a tag or a text in it is longer than 32 kB');
            }
        }
        $last = strrpos($chunk, '>');

        return $last === false ? $open + $length : $length - $last - 1;
    }

    private function refuseEntities(string $head): void
    {
        if (stripos($head, '<!DOCTYPE') !== false || stripos($head, '<!ENTITY') !== false) {
            throw $this->bad('it carries a document type, which may hide entities');
        }
    }

    private function parse(string $path): void
    {
        $this->refuseEntities((string) file_get_contents($path, false, null, 0, 65536));
        $xml = XMLReader::open($path, null, LIBXML_NONET | LIBXML_NOERROR | LIBXML_NOWARNING | LIBXML_PARSEHUGE);
        if (! $xml instanceof XMLReader) {
            throw $this->bad('its model part is no XML');
        }
        $errors = libxml_use_internal_errors(true);
        $id = '';
        $materials = '';
        $place = 0;
        $defaults = ['', ''];
        $depth = 0;
        $ended = false;
        try {
            while ($xml->read()) {
                if ($xml->nodeType === XMLReader::DOC_TYPE) {
                    throw $this->bad('it carries a document type, which may hide entities');
                }
                if ($xml->nodeType === XMLReader::END_ELEMENT && $xml->localName === 'model') {
                    $ended = true;
                }
                if ($xml->nodeType !== XMLReader::ELEMENT) {
                    continue;
                }
                if ($xml->attributeCount > self::MOST_ATTRIBUTES || $xml->depth > self::DEEPEST_XML) {
                    throw $this->bad('its tags have too many attributes or are nested too deep');
                }
                switch ($xml->localName) {
                    case 'vertex':
                        if (! isset($this->objects[$id])) {
                            throw $this->bad('a vertex stands outside an object');
                        }
                        foreach (['x', 'y', 'z'] as $axis) {
                            $value = TextNumber::of((string) $xml->getAttribute($axis));
                            if (! is_finite($value)) {
                                throw $this->bad('a vertex of object '.self::shown($id).' has a coordinate that is not a usable number');
                            }
                            $this->objects[$id]['xyz'][] = $value;
                        }
                        break;
                    case 'triangle':
                        if (! isset($this->objects[$id])) {
                            throw $this->bad('a triangle stands outside an object');
                        }
                        $count = intdiv(count($this->objects[$id]['xyz']), 3);
                        foreach (['v1', 'v2', 'v3'] as $corner) {
                            $text = (string) $xml->getAttribute($corner);
                            $v = preg_match('/^\d{1,9}$/', $text) === 1 ? (int) $text : -1;
                            if ($v < 0 || $v >= $count) {
                                throw $this->bad('a triangle of object '.self::shown($id)." names a vertex that is not one of the $count");
                            }
                            $this->objects[$id]['corners'][] = $v;
                        }
                        $own = $xml->getAttribute('pid');
                        $group = $own ?? $defaults[0];
                        $first = (int) ($xml->getAttribute('p1') ?? $defaults[1]);
                        $this->objects[$id]['tags'][] = isset($this->insides[$group][$first]) ? 1 : 0;
                        // A property at one corner holds at all three.
                        $bearing = $this->looks->packed($group, $first, (int) ($own === null ? $first : $xml->getAttribute('p2') ?? $first), (int) ($own === null ? $first : $xml->getAttribute('p3') ?? $first));
                        if ($bearing !== '') {
                            $missing = ThreeMfLooks::PACKED * (count($this->objects[$id]['tags']) - 1) - strlen($this->objects[$id]['bearing']);
                            $this->objects[$id]['bearing'] .= ($missing > 0 ? str_repeat("\0", $missing) : '').$bearing;
                        }
                        break;
                    case 'object':
                        $id = (string) $xml->getAttribute('id');
                        $defaults = [(string) $xml->getAttribute('pid'), (string) $xml->getAttribute('pindex')];
                        if (isset($this->objects[$id]) || count($this->objects) >= self::MOST_ITEMS) {
                            throw $this->bad('object '.self::shown($id).' is there twice');
                        }
                        $this->objects[$id] = ['name' => (string) $xml->getAttribute('name'), 'xyz' => [], 'corners' => [], 'tags' => [], 'bearing' => '', 'components' => []];
                        break;
                    case 'component':
                        $this->objects[$id]['components'][] = [(string) $xml->getAttribute('objectid'), $this->transform($xml->getAttribute('transform'))];
                        break;
                    case 'item':
                        if (count($this->items) >= self::MOST_ITEMS) {
                            throw $this->bad('it builds more than 100,000 items');
                        }
                        $this->items[] = [(string) $xml->getAttribute('objectid'), $this->transform($xml->getAttribute('transform'))];
                        break;
                    case 'basematerials':
                        $materials = (string) $xml->getAttribute('id');
                        $place = 0;
                        break;
                    case 'base':
                        if (strcasecmp((string) $xml->getAttribute('name'), 'inside') === 0) {
                            $this->insides[$materials][$place] = true;
                        }
                        $this->looks->base($materials, (string) $xml->getAttribute('name'), (string) $xml->getAttribute('displaycolor'));
                        $place++;
                        break;
                    case 'colorgroup':
                    case 'texture2dgroup':
                        $materials = (string) $xml->getAttribute('id');
                        $this->looks->group($materials, $xml->localName === 'colorgroup' ? null : (string) $xml->getAttribute('texid'));
                        break;
                    case 'color':
                        $this->looks->colour($materials, (string) $xml->getAttribute('color'));
                        break;
                    case 'tex2coord':
                        $this->looks->place($materials, (string) $xml->getAttribute('u'), (string) $xml->getAttribute('v'));
                        break;
                    case 'texture2d':
                        $this->looks->texture((string) $xml->getAttribute('id'), (string) $xml->getAttribute('path'), (string) $xml->getAttribute('tilestyleu'), (string) $xml->getAttribute('tilestylev'), (string) $xml->getAttribute('filter'));
                        break;
                    case 'compositematerials':
                    case 'multiproperties':
                        $this->looks->leftOut[] = $xml->localName === 'multiproperties' ? 'several properties at once' : 'mixed materials';
                        break;
                    case 'metadata':
                        if ($xml->getAttribute('name') === 'Application' && $xml->readString() === 'Isotome') {
                            $this->looks->isOurs = true;
                        }
                        break;
                    case 'model':
                        $unit = $xml->getAttribute('unit') ?? 'millimeter';
                        $this->scale = self::UNITS[$unit] ?? throw $this->bad('its unit '.self::shown($unit).' is not one of '.implode(', ', array_keys(self::UNITS)));
                        $extensions = trim((string) $xml->getAttribute('requiredextensions'));
                        $others = array_filter(preg_split('/\s+/', $extensions) ?: [], static fn (string $prefix): bool => $prefix !== '' && $xml->lookupNamespace($prefix) !== ThreeMfLooks::MATERIALS);
                        if ($others !== []) {
                            throw new UnreadableMesh("The 3MF file {$this->name} requires the extension ".self::shown($extensions).', which this program does not read; export it with the core specification only.');
                        }
                        break;
                }
            }
        } finally {
            $broken = libxml_get_errors() !== [];
            libxml_clear_errors();
            libxml_use_internal_errors($errors);
            $xml->close();
        }
        if ($broken || ! $ended) {
            throw $this->bad('its model part is not well-formed XML');
        }
    }

    private static function shown(string $text): string
    {
        return '"'.substr((string) preg_replace('/[^\x20-\x7e]/', '?', $text), 0, 40).'"';
    }

    /** @return list<float> */
    private function transform(?string $text): array
    {
        if ($text === null) {
            return Affine::IDENTITY;
        }
        $numbers = array_map(TextNumber::of(...), preg_split('/\s+/', trim($text)) ?: []);
        if (count($numbers) !== 12 || ! is_finite(array_sum($numbers))) {
            throw $this->bad('a transform is not twelve numbers');
        }

        return $numbers;
    }

    /**
     * What an object costs, in triangles: unused vertices count as well.
     *
     * @param  array{xyz: list<float>, corners: list<int>, ...}  $object
     */
    private static function weight(array $object): int
    {
        return $object['corners'] === [] ? 0 : intdiv(max(count($object['corners']), intdiv(count($object['xyz']), 3)), 3);
    }

    /**
     * Triangles that an object shows, those of its components counted as often as they are shown.
     *
     * @param  array<string, true>  $above
     */
    private function trianglesOf(string $id, array $above): int
    {
        if (isset($this->unfolded[$id])) {
            return $this->unfolded[$id];
        }
        $object = $this->objects[$id] ?? throw $this->bad('object '.self::shown($id).' is used and not there');
        if (isset($above[$id])) {
            throw $this->bad('object '.self::shown($id).' contains itself');
        }
        if (count($above) >= self::DEEPEST) {
            throw $this->bad('its components are nested too deep or are too many');
        }
        $sum = self::weight($object);
        foreach ($object['components'] as [$inner]) {
            // Far more than is ever read, and far less than would overflow.
            $sum = min(1 << 50, $sum + $this->trianglesOf($inner, $above + [$id => true]));
        }

        return $this->unfolded[$id] = $sum;
    }

    /**
     * @param  list<float>  $transform
     * @param  array<string, true>  $above
     */
    private function place(Assembly $assembly, string $id, array $transform, array $above): void
    {
        $object = $this->objects[$id] ?? throw $this->bad('object '.self::shown($id).' is used and not there');
        if (isset($above[$id])) {
            throw $this->bad('object '.self::shown($id).' contains itself');
        }
        if (count($above) >= self::DEEPEST || ++$this->placed > self::MOST_ITEMS) {
            throw $this->bad('its components are nested too deep or are too many');
        }
        if ($object['corners'] !== []) {
            $points = Affine::points($object['xyz'], $transform);
            if ($this->scale !== 1.0) {
                foreach ($points as $i => $c) {
                    $points[$i] = $c * $this->scale;
                }
            }
            $corners = Affine::corners($object['corners'], $transform);
            $tags = $object['tags'];
            if ($this->skin !== null) {
                [$materials, $attributes] = $this->looks->of($object['bearing'], count($tags), $corners !== $object['corners']);
                $tags = $this->skin->add($corners, $tags, $materials, $attributes, $transform);
            }
            $assembly->add($object['name'] === '' ? "object $id" : $object['name'], array_values($points), $corners, $tags);
        }
        foreach ($object['components'] as [$inner, $own]) {
            $this->place($assembly, $inner, Affine::then($own, $transform), $above + [$id => true]);
        }
    }
}
