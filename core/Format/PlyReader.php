<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\UnreadableMesh;
use Isotome\Geometry\Affine;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Skin;

/**
 * Reads PLY, text and both byte orders: vertices with x, y, z and faces with a list of corners; colours, normals and texture coordinates of vertices
 * under their common names, colours of faces, and a list `texcoord` of theirs (common practice). Other properties and elements are passed over; those of vertices are named as left out.
 * Source: G. Turk, "The PLY Polygon File Format" (1994).
 */
final class PlyReader
{
    private const MOST_HEADER_LINES = 1000;

    /** Bytes, and unpack's letter in either byte order; '' where PHP has none. */
    private const TYPES = [
        'char' => [1, 'c', 'c'], 'int8' => [1, 'c', 'c'], 'uchar' => [1, 'C', 'C'], 'uint8' => [1, 'C', 'C'],
        'short' => [2, 'v', 'n'], 'int16' => [2, 'v', 'n'], 'ushort' => [2, 'v', 'n'], 'uint16' => [2, 'v', 'n'],
        'int' => [4, 'V', 'N'], 'int32' => [4, 'V', 'N'], 'uint' => [4, 'V', 'N'], 'uint32' => [4, 'V', 'N'],
        'float' => [4, 'g', 'G'], 'float32' => [4, 'g', 'G'], 'double' => [8, 'e', 'E'], 'float64' => [8, 'e', 'E'],
    ];

    private string $buffer = '';

    private int $at = 0;

    /** @var array<string, array{int, list<float>, list<int>}> what faces say of their corners, see SkinBuilder::add */
    private array $ofFaces = [];

    /** @param  resource  $file */
    private function __construct(
        private $file,
        private readonly string $name,
    ) {
    }

    /** @throws UnreadableMesh */
    public static function read(string $path, Units $units = Units::Millimetres): ReadMesh
    {
        $file = Files::open($path);
        try {
            return (new self($file, basename($path)))->mesh($units->millimetres());
        } finally {
            fclose($file);
        }
    }

    private function bad(string $what): UnreadableMesh
    {
        return new UnreadableMesh("The PLY file {$this->name} is damaged: $what; export it again.");
    }

    private function mesh(float $scale): ReadMesh
    {
        [$format, $elements] = $this->header();
        $this->refuseMissing($format, $elements);
        $xyz = $corners = $attributes = $leftOut = [];
        $seen = false;
        foreach ($elements as ['name' => $element, 'count' => $count, 'properties' => $properties]) {
            if ($element === 'vertex') {
                $places = [];
                foreach (['x', 'y', 'z'] as $axis) {
                    $place = array_search($axis, array_column($properties, 'name'), true);
                    if ($place === false || isset($properties[$place]['of'])) {
                        throw $this->bad("its vertices have no $axis");
                    }
                    $places[] = (int) $place;
                }
                [$layers, $leftOut] = PlyColumns::of($properties);
                $columns = array_merge($places, ...array_column($layers, 'columns'));
                $rows = $this->vertices($format, $count, $properties, $columns, $scale);
                $xyz = count($columns) === 3 ? $rows : PlyColumns::places($rows, count($columns));
                $attributes = PlyColumns::attributes($rows, count($columns), $layers);
                unset($rows);
                $seen = true;
            } elseif ($element === 'face') {
                if (! $seen) {
                    throw $this->bad('its faces come before its vertices');
                }
                $corners = $this->faces($format, $count, $properties, $xyz, isset($attributes[Skin::COLOUR]));
                $attributes = [...$attributes, ...$this->ofFaces];
                break;
            } elseif ($properties !== []) {
                for ($n = 0; $n < $count; $n++) {
                    $this->row($format, $properties);
                }
            }
        }
        $assembly = new Assembly($this->name, 'PLY');
        if ($attributes === []) {
            $assembly->add('part', $xyz, $corners);

            return $assembly->result();
        }
        $skin = new SkinBuilder(new Looks);
        $triangles = intdiv(count($corners), 3);
        $tags = $corners === [] ? [] : $skin->add($corners, array_fill(0, $triangles, 0), array_fill(0, $triangles, -1), $attributes, Affine::IDENTITY);
        unset($attributes);
        $assembly->add('part', $xyz, $corners, $tags);

        return $skin->onto($assembly->result(), $leftOut);
    }

    /**
     * What cannot be there is refused before it is looked for: every element needs some bytes.
     *
     * @param  list<array{name: string, count: int, properties: list<array{name: string, type: string, of?: string}>}>  $elements
     */
    private function refuseMissing(string $format, array $elements): void
    {
        $left = (int) (fstat($this->file)['size'] ?? 0) - (int) ftell($this->file);
        foreach ($elements as ['name' => $element, 'count' => $count, 'properties' => $properties]) {
            $least = 0;
            foreach ($properties as $property) {
                // In text, a digit and what ends it.
                $least += $format === 'ascii' ? 2 : self::TYPES[$property['type']][0];
            }
            if ($count > 0 && $least === 0 && in_array($element, ['vertex', 'face'], true)) {
                throw $this->bad("its elements \"$element\" have no properties");
            }
            // The last line of a text may lack its end.
            $left -= $count * $least;
            if ($left < -1) {
                throw $this->bad('it ends before all its elements are there');
            }
        }
    }

    /** @return array{string, list<array{name: string, count: int, properties: list<array{name: string, type: string, of?: string}>}>} */
    private function header(): array
    {
        if (trim((string) fgets($this->file, 64)) !== 'ply') {
            throw new UnreadableMesh("The file {$this->name} does not begin with \"ply\"; check that it is a PLY file.");
        }
        $format = '';
        $elements = [];
        for ($n = 0; $n < self::MOST_HEADER_LINES; $n++) {
            $text = fgets($this->file, 4096);
            if ($text === false) {
                break;
            }
            /** @var list<string> $words */
            $words = preg_split('/\s+/', $text, -1, PREG_SPLIT_NO_EMPTY) ?: [''];
            $last = count($elements) - 1;
            if ($words[0] === 'format') {
                $format = $words[1] ?? '';
                if (! in_array($format, ['ascii', 'binary_little_endian', 'binary_big_endian'], true)) {
                    throw $this->bad('its format is neither ascii nor binary');
                }
            } elseif ($words[0] === 'element') {
                if (! isset($words[2]) || preg_match('/^\d{1,9}$/', $words[2]) !== 1) {
                    throw $this->bad('an element in its header has no count');
                }
                $elements[] = ['name' => $words[1], 'count' => (int) $words[2], 'properties' => []];
            } elseif ($words[0] === 'property' && isset($elements[$last])) {
                $isList = ($words[1] ?? '') === 'list';
                $types = $isList ? [$words[2] ?? '', $words[3] ?? ''] : [$words[1] ?? ''];
                foreach ($types as $type) {
                    if (! isset(self::TYPES[$type])) {
                        throw $this->bad('a property in its header has an unknown type');
                    }
                }
                $of = $elements[$last];
                $of['properties'][] = $isList
                    ? ['name' => $words[4] ?? '', 'type' => $types[0], 'of' => $types[1] ?? '']
                    : ['name' => $words[2] ?? '', 'type' => $types[0]];
                $elements[$last] = $of;
            } elseif ($words[0] === 'end_header') {
                if ($format === '') {
                    throw $this->bad('its header names no format');
                }

                return [$format, $elements];
            } elseif ($words[0] !== 'comment' && $words[0] !== 'obj_info' && $words[0] !== '') {
                throw $this->bad('a line of its header cannot be understood');
            }
        }
        throw $this->bad('its header does not end');
    }

    /**
     * @param  list<array{name: string, type: string, of?: string}>  $properties
     * @param  list<int>  $places  the properties that are wanted: x, y, z, and others
     * @return list<float> as many numbers a vertex
     */
    private function vertices(string $format, int $count, array $properties, array $places, float $scale): array
    {
        $xyz = [];
        $isPlain = $format !== 'ascii' && ! in_array(true, array_map(static fn (array $p): bool => isset($p['of']), $properties), true);
        if ($isPlain) {
            $size = 0;
            $letters = [];
            foreach ($properties as $k => $property) {
                [$bytes, $little, $big] = self::TYPES[$property['type']];
                if (in_array($k, $places, true)) {
                    $letters[$k] = [$size, $format === 'binary_big_endian' ? $big : $little, $bytes, $property['type']];
                }
                $size += $bytes;
            }
            $pattern = '';
            $at = 0;
            foreach ($letters as $k => [$offset, $letter, $bytes]) {
                $pattern .= ($offset > $at ? 'x'.($offset - $at).'/' : '').$letter."p$k/";
                $at = $offset + $bytes;
            }
            $pattern = rtrim($pattern, '/');
            for ($n = 0; $n < $count; $n++) {
                /** @var array<string, int|float> $row */
                $row = unpack($pattern, $this->bytes($size)) ?: [];
                foreach ($places as $at3 => $k) {
                    $value = $this->signed((float) ($row["p$k"] ?? NAN), $letters[$k][3]);
                    $xyz[] = $at3 < 3 ? $value * $scale : $value;
                }
            }

            return $xyz;
        }
        for ($n = 0; $n < $count; $n++) {
            $row = $this->row($format, $properties);
            foreach ($places as $at3 => $k) {
                $value = is_array($row[$k]) ? NAN : $row[$k];
                $xyz[] = $at3 < 3 ? $value * $scale : $value;
            }
        }

        return $xyz;
    }

    /**
     * @param  list<array{name: string, type: string, of?: string}>  $properties
     * @param  list<float>  $xyz
     * @param  bool  $areColoured  vertices have colours: then those of faces are passed over
     * @return list<int>
     */
    private function faces(string $format, int $count, array $properties, array $xyz, bool $areColoured): array
    {
        $list = null;
        foreach ($properties as $k => $property) {
            if (isset($property['of']) && in_array($property['name'], ['vertex_indices', 'vertex_index'], true)) {
                $list = $k;
            }
        }
        if ($list === null) {
            throw $this->bad('its faces have no list of corners');
        }
        $vertices = intdiv(count($xyz), 3);
        $corners = $colours = $colourAt = $places = $placeAt = [];
        $coloured = $areColoured ? null : PlyColumns::of($properties)[0][Skin::COLOUR] ?? null;
        $placed = array_search('texcoord', array_column($properties, 'name'), true);
        $placed = $placed !== false && isset($properties[$placed]['of']) ? $placed : null;
        $looks = PolygonFaces::LOOKS;
        for ($f = 0; $f < $count; $f++) {
            $row = $this->row($format, $properties);
            $polygon = $row[$list];
            $polygon = array_map(intval(...), is_array($polygon) ? $polygon : []);
            foreach ($polygon as $v) {
                if ($v < 0 || $v >= $vertices) {
                    throw $this->bad('face '.($f + 1)." names vertex $v where there are $vertices");
                }
            }
            if (count($polygon) < 3) {
                continue;
            }
            $triangles = count($polygon) === 3 ? $polygon : PolygonFaces::triangles($xyz, $polygon, $looks);
            foreach ($triangles as $v) {
                $corners[] = $v;
            }
            if ($coloured !== null) {
                foreach ($coloured['columns'] as $c => $k) {
                    $part = is_array($row[$k]) ? NAN : $row[$k] / $coloured['full'];
                    $colours[] = $c === 3 ? max(0.0, min(1.0, $part)) : Colours::linear($part);
                }
                if (count($coloured['columns']) === 3) {
                    $colours[] = 1.0;
                }
                foreach ($triangles as $_) {
                    $colourAt[] = intdiv(count($colours), 4) - 1;
                }
            }
            if ($placed !== null) {
                $own = $row[$placed];
                $isThere = is_array($own) && count($own) === 2 * count($polygon) && is_finite(array_sum($own));
                $first = intdiv(count($places), 2);
                foreach ($isThere ? $own : [] as $i => $value) {
                    $places[] = $i % 2 === 1 ? 1.0 - $value : $value;
                }
                $at = array_flip($polygon);
                foreach ($triangles as $v) {
                    $placeAt[] = $isThere ? $first + $at[$v] : -1;
                }
            }
        }
        $this->ofFaces = [...($colours === [] ? [] : [Skin::COLOUR => [4, $colours, $colourAt]]), ...($places === [] ? [] : [Skin::TEXTURE.'0' => [2, $places, $placeAt]])];

        return $corners;
    }

    /**
     * @param  list<array{name: string, type: string, of?: string}>  $properties
     * @return list<float|list<float>>
     */
    private function row(string $format, array $properties): array
    {
        $row = [];
        if ($format === 'ascii') {
            do {
                $text = Files::line($this->file, 4_000_000);
                if ($text === false) {
                    throw $this->bad('it ends before all its elements are there');
                }
                $words = preg_split('/\s+/', $text, -1, PREG_SPLIT_NO_EMPTY) ?: [];
            } while ($words === []);
            $w = 0;
            foreach ($properties as $property) {
                if (! isset($property['of'])) {
                    $row[] = TextNumber::of($words[$w++] ?? '');

                    continue;
                }
                $count = TextNumber::of($words[$w++] ?? '');
                if (! ($count >= 0 && $count <= PolygonFaces::MOST_CORNERS) || count($words) < $w + $count) {
                    throw $this->bad('a list holds fewer numbers than it says');
                }
                $row[] = array_map(TextNumber::of(...), array_slice($words, $w, (int) $count));
                $w += (int) $count;
            }
            foreach ($row as $value) {
                foreach (is_array($value) ? $value : [$value] as $number) {
                    if (! is_finite($number)) {
                        throw $this->bad('a line holds something that is not a usable number');
                    }
                }
            }

            return $row;
        }
        $order = $format === 'binary_big_endian' ? 2 : 1;
        foreach ($properties as $property) {
            [$bytes] = self::TYPES[$property['type']];
            $letter = self::TYPES[$property['type']][$order];
            /** @var array{1: int|float} $one */
            $one = unpack($letter, $this->bytes($bytes)) ?: [1 => 0];
            $value = $this->signed((float) $one[1], $property['type']);
            if (! isset($property['of'])) {
                $row[] = $value;

                continue;
            }
            if (! ($value >= 0 && $value <= PolygonFaces::MOST_CORNERS)) {
                throw $this->bad("a list says that it holds $value numbers");
            }
            $count = (int) $value;
            $size = self::TYPES[$property['of']][0];
            $letter = self::TYPES[$property['of']][$order];
            $type = $property['of'];
            $row[] = $count === 0 ? [] : array_map(fn (mixed $n): float => $this->signed((float) (is_numeric($n) ? $n : NAN), $type), array_values(unpack($letter.$count, $this->bytes($size * $count)) ?: []));
        }

        return $row;
    }

    private function signed(float $value, string $type): float
    {
        return match ($type) {
            'short', 'int16' => $value > 32767 ? $value - 65536 : $value,
            'int', 'int32' => $value > 2147483647 ? $value - 4294967296 : $value,
            default => $value,
        };
    }

    private function bytes(int $count): string
    {
        if (strlen($this->buffer) - $this->at < $count) {
            $more = fread($this->file, max(262144, $count));
            $this->buffer = substr($this->buffer, $this->at).($more === false ? '' : $more);
            $this->at = 0;
            while (strlen($this->buffer) < $count && ! feof($this->file)) {
                $this->buffer .= (string) fread($this->file, 262144);
            }
            if (strlen($this->buffer) < $count) {
                throw $this->bad('it ends before all its elements are there');
            }
        }
        $this->at += $count;

        return substr($this->buffer, $this->at - $count, $count);
    }
}
