<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\UnreadableMesh;
use Isotome\Geometry\Affine;
use Isotome\Mesh\Compact;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Mesh\SmoothNormals;

/**
 * Reads Wavefront OBJ: vertices, polygons (also concave ones, also with negative indices), objects and groups; materials with their library and pictures,
 * texture coordinates, normals, smoothing groups, and colours behind a vertex (common practice). Everything else is passed over.
 * Source: "Object Files (.obj)", Wavefront Advanced Visualizer, appendix B1 (1991).
 */
final class ObjReader
{
    private const LONGEST_LINE = 4_000_000;

    private const MOST_GROUPS = 100_000;

    private const MOST_MATERIALS = 10_000;

    /** @var list<float> */
    private array $xyz = [];

    private int $count = 0;

    /** @var list<int> of all faces as triangles, in the order of the file */
    private array $corners = [];

    /** @var list<array{string, int}> groups and the corners at which they begin */
    private array $groups = [];

    /** @var array<string, true> */
    private array $named = [];

    /** @var list<array{int, int}> materials, counted as does, and the triangles at which they begin */
    private array $dressed = [];

    /** @var array<string, int> materials that faces have, by name */
    private array $used = [];

    /** @var list<string> */
    private array $libraries = [];

    /** @var list<float> two a texture coordinate: across and down */
    private array $uv = [];

    /** @var list<float> three a normal */
    private array $normals = [];

    /** @var array<int, float> four a vertex, where colours are given */
    private array $colours = [];

    /** @var list<int> entries of corners, −1 for none; as long as the list of corners, or shorter where nothing more has any */
    private array $uvAt = [];

    /** @var list<int> */
    private array $normalAt = [];

    /** @var list<array{int, int}> smoothing groups and the triangles at which they begin */
    private array $smoothed = [];

    private int $missing = 0;

    /** Is it a file of our own, and have its normals been worked out? */
    private bool $isOurs = false;

    private bool $areWorkedOut = false;

    private function __construct(private readonly string $name)
    {
    }

    /** @throws UnreadableMesh */
    public static function read(string $path, Units $units = Units::Millimetres, ?Companions $files = null): ReadMesh
    {
        $file = Files::open($path);
        $reader = new self(basename($path));
        try {
            $reader->lines($file, $units->millimetres());
        } finally {
            fclose($file);
        }

        return $reader->result($files ?? Companions::none());
    }

    /** @param  resource  $file */
    private function lines($file, float $scale): void
    {
        $name = $this->name;
        $looks = PolygonFaces::LOOKS;
        $line = 0;
        while (($text = Files::line($file, self::LONGEST_LINE)) !== false) {
            $line++;
            // A backslash at the end goes on in the next line.
            while (str_ends_with(rtrim($text, "\r\n"), '\\') && strlen($text) < self::LONGEST_LINE && ($more = Files::line($file, self::LONGEST_LINE)) !== false) {
                $text = substr(rtrim($text, "\r\n"), 0, -1).' '.$more;
                $line++;
            }
            if (str_contains($text, "\0")) {
                throw new UnreadableMesh("The OBJ file $name is no text at line $line; check that it is an OBJ file.");
            }
            if ($text[0] === 'v' && ($text[1] ?? '') === ' ') {
                $words = preg_split('/\s+/', trim($text), 9) ?: [];
                if (count($words) < 4) {
                    throw new UnreadableMesh("The OBJ file $name is damaged at line $line: a vertex has fewer than three numbers; export it again.");
                }
                for ($k = 1; $k < 4; $k++) {
                    $value = TextNumber::of($words[$k]) * $scale;
                    if (! is_finite($value)) {
                        throw new UnreadableMesh("The OBJ file $name has a coordinate that is not a usable number at line $line; mend or export it again.");
                    }
                    $this->xyz[] = $value;
                }
                if (isset($words[6])) {
                    $this->colour($words);
                }
                $this->count++;
            } elseif ($text[0] === 'f' && (($text[1] ?? '') === ' ' || ($text[1] ?? '') === "\t")) {
                $words = preg_split('/\s+/', trim($text), -1, PREG_SPLIT_NO_EMPTY) ?: [];
                if (count($words) < 4 || count($words) > PolygonFaces::MOST_CORNERS) {
                    throw new UnreadableMesh("The OBJ file $name is damaged at line $line: a face has ".(count($words) - 1).' corners; export it again.');
                }
                $polygon = [];
                $isPlain = true;
                for ($k = 1; isset($words[$k]); $k++) {
                    $slash = strpos($words[$k], '/');
                    $isPlain = $isPlain && $slash === false;
                    $word = $slash === false ? $words[$k] : substr($words[$k], 0, $slash);
                    $index = preg_match('/^-?\d{1,10}$/', $word) === 1 ? (int) $word : 0;
                    $index = $index < 0 ? $this->count + $index : $index - 1;
                    if ($index < 0 || $index >= $this->count) {
                        throw new UnreadableMesh("The OBJ file $name is damaged at line $line: a face names vertex \"".substr((string) preg_replace('/[^\x20-\x7e]/', '?', $word), 0, 12)."\" where {$this->count} are known; export it again.");
                    }
                    $polygon[] = $index;
                }
                $triangles = count($polygon) === 3 ? $polygon : PolygonFaces::triangles($this->xyz, $polygon, $looks);
                if (! $isPlain) {
                    $this->entries($words, $polygon, $triangles);
                }
                foreach ($triangles as $v) {
                    $this->corners[] = $v;
                }
            } else {
                $this->statement($text, $line);
            }
        }
    }

    /** Whatever is neither a vertex nor a face. */
    private function statement(string $text, int $line): void
    {
        $words = preg_split('/\s+/', trim($text), 4) ?: [];
        $rest = trim(substr(ltrim($text), strlen($words[0])));
        switch ($words[0]) {
            case 'vt':
                $u = TextNumber::of($words[1] ?? '');
                $v = TextNumber::of($words[2] ?? '0');
                $isUsable = is_finite($u) && is_finite($v);
                $this->missing += $isUsable ? 0 : 1;
                // Upwards there, downwards here.
                array_push($this->uv, ...($isUsable ? [$u, 1.0 - $v] : [0.0, 0.0]));
                break;
            case 'vn':
                $n = array_map(TextNumber::of(...), array_slice($words, 1, 3));
                array_push($this->normals, ...(count($n) === 3 && is_finite(array_sum($n)) ? $n : [0.0, 0.0, 0.0]));
                break;
            case 'g':
            case 'o':
                $group = mb_substr($rest, 0, 120);
                if (! isset($this->named[$group]) && count($this->named) >= self::MOST_GROUPS) {
                    throw new UnreadableMesh("The OBJ file {$this->name} has more than 100,000 groups; join some of them.");
                }
                $this->named[$group] = true;
                // One after the other without a face between them: only the last counts.
                $this->groups[self::at($this->groups, count($this->corners))] = [$group, count($this->corners)];
                break;
            case 'usemtl':
                $material = MtlReader::name($rest);
                if (isset($this->used[$material]) || count($this->used) < self::MOST_MATERIALS) {
                    $from = intdiv(count($this->corners), 3);
                    $this->dressed[self::at($this->dressed, $from)] = [$this->used[$material] ??= count($this->used), $from];
                }
                break;
            case 'mtllib':
                if (count($this->libraries) < 100) {
                    $this->libraries[] = $rest;
                }
                break;
            case 's':
                $from = intdiv(count($this->corners), 3);
                $this->smoothed[self::at($this->smoothed, $from)] = [max(0, (int) $rest), $from];
                break;
            case '#':
                if ($line === 1 && str_starts_with($text, ObjWriter::HEAD)) {
                    $this->isOurs = true;
                    $this->areWorkedOut = str_contains($text, ObjWriter::WORKED_OUT);
                }
                break;
        }
    }

    /**
     * @param  list<array{int|string, int}>  $begun  stretches by where they begin
     * @return int the place of one that begins there: that of the last, when it has got nothing
     */
    private static function at(array $begun, int $from): int
    {
        $last = count($begun) - 1;

        return $last >= 0 && $begun[$last][1] === $from ? $last : $last + 1;
    }

    /** @param  list<string>  $words  of a vertex with three numbers behind its place, or four */
    private function colour(array $words): void
    {
        $parts = [];
        for ($k = 4; $k < 7; $k++) {
            $parts[] = TextNumber::of($words[$k]);
        }
        if (is_finite(array_sum($parts))) {
            $alpha = TextNumber::of($words[7] ?? '1');
            // Some write 0 to 255.
            $scale = max($parts) > 1.0 ? 1 / 255 : 1.0;
            foreach ([...array_map(static fn (float $part): float => Colours::linear($scale * $part), $parts), is_finite($alpha) ? $alpha : 1.0] as $c => $part) {
                $this->colours[4 * $this->count + $c] = $part;
            }
        }
    }

    /**
     * Texture coordinates and normals of a face.
     *
     * @param  list<string>  $words  of the face, a corner each from the second on
     * @param  list<int>  $polygon  its vertices
     * @param  list<int>  $triangles  the same as triangles
     */
    private function entries(array $words, array $polygon, array $triangles): void
    {
        $uv = $normal = [];
        $knownUv = intdiv(count($this->uv), 2);
        $knownNormals = intdiv(count($this->normals), 3);
        foreach ($polygon as $k => $v) {
            $parts = explode('/', $words[$k + 1], 4);
            foreach ([1 => $knownUv, 2 => $knownNormals] as $which => $known) {
                $index = (int) ($parts[$which] ?? 0);
                $index = $index < 0 ? $known + $index : $index - 1;
                if ($index >= $known || $index < -1) {
                    $this->missing++;
                    $index = -1;
                }
                if ($which === 1) {
                    $uv[$v] = $index;
                } else {
                    $normal[$v] = $index;
                }
            }
        }
        $before = count($this->corners);
        if ($uv !== [] && max($uv) >= 0) {
            for ($i = count($this->uvAt); $i < $before; $i++) {
                $this->uvAt[] = -1;
            }
            foreach ($triangles as $v) {
                $this->uvAt[] = $uv[$v];
            }
        }
        if ($normal !== [] && max($normal) >= 0) {
            for ($i = count($this->normalAt); $i < $before; $i++) {
                $this->normalAt[] = -1;
            }
            foreach ($triangles as $v) {
                $this->normalAt[] = $normal[$v];
            }
        }
    }

    private function result(Companions $files): ReadMesh
    {
        $assembly = new Assembly($this->name, 'OBJ');
        [$looks, $numbers, $leftOut] = $this->used === [] && $this->libraries === [] ? [new Looks, [], []] : MtlReader::read($this->libraries, $files);
        [$looks, $tags, $materials] = $this->materials($looks, $numbers);
        $attributes = $this->attributes($tags);
        if ($this->missing > 0) {
            $leftOut[] = 'texture coordinates or normals that are named and not there';
        }
        $isDressed = $attributes !== [] || ($materials !== [] && max($materials) >= 0);
        $skin = $isDressed ? new SkinBuilder($looks) : null;
        if ($skin !== null) {
            $tags = $skin->add($this->corners, $tags, $materials === [] ? array_fill(0, count($tags), -1) : $materials, $attributes, Affine::IDENTITY);
        }
        unset($attributes, $materials);
        foreach ($this->parts() as $label => $ranges) {
            [$corners, $own] = $this->picked($ranges, $tags);
            [$xyz, $corners] = count($ranges) === 1 && count($corners) === count($this->corners) ? [$this->xyz, $corners] : Compact::of($this->xyz, $corners);
            $assembly->add((string) $label, $xyz, $corners, $own);
        }
        $this->xyz = $this->corners = [];
        $read = $assembly->result();

        return $skin === null ? new ReadMesh($read->mesh, $read->collapsed, $read->format, $read->parts, $leftOut) : $skin->onto($read, $leftOut);
    }

    /**
     * @param  array<string, int>  $numbers  of the materials in the libraries
     * @return array{Looks, list<int>, list<int>} with materials of which only names are known as well; a tag for each triangle; a material for each, −1 for none, or nothing
     *     when none has any
     */
    private function materials(Looks $looks, array $numbers): array
    {
        $triangles = intdiv(count($this->corners), 3);
        $tags = $triangles === 0 ? [] : array_fill(0, $triangles, 0);
        if ($this->dressed === []) {
            return [$looks, $tags, []];
        }
        $list = $looks->materials;
        $by = $insides = [];
        foreach ($this->used as $name => $n) {
            $name = (string) $name;
            // Our own files tell skin and inside of each piece by these names; others may have an inside as well.
            $insides[$n] = strcasecmp($name, 'inside') === 0 || ($this->isOurs && str_ends_with($name, '_inside'));
            if ($insides[$n] || ($this->isOurs && str_ends_with($name, '_skin')) || $name === '') {
                $by[$n] = -1;
            } elseif (isset($numbers[$name])) {
                $by[$n] = $numbers[$name];
            } else {
                $by[$n] = count($list);
                $list[] = ['name' => $name];
            }
        }
        $materials = array_fill(0, $triangles, -1);
        foreach ($this->dressed as $k => [$n, $from]) {
            $to = $this->dressed[$k + 1][1] ?? $triangles;
            for ($t = $from; $t < $to; $t++) {
                $materials[$t] = $by[$n];
                $tags[$t] = $insides[$n] ? 1 : 0;
            }
        }

        return [new Looks($list, $looks->textures, $looks->pictures), array_values($tags), array_values($materials)];
    }

    /**
     * @param  list<int>  $tags
     * @return array<string, array{0: int, 1: list<float>, 2?: list<int>}> see SkinBuilder::add
     */
    private function attributes(array $tags): array
    {
        $attributes = [];
        $all = count($this->corners);
        foreach ([[Skin::TEXTURE.'0', 2, $this->uv, $this->uvAt], [Skin::NORMAL, 3, $this->areWorkedOut ? [] : self::units($this->normals), $this->normalAt]] as [$name, $width, $values, $at]) {
            for ($i = count($at); $i < $all && $at !== []; $i++) {
                $at[] = -1;
            }
            if (self::isOnSkin($at, $tags) && $values !== []) {
                $attributes[$name] = [$width, $values, $at];
            }
        }
        if ($this->colours !== []) {
            $colours = [];
            for ($i = 0; $i < 4 * $this->count; $i++) {
                $colours[] = $this->colours[$i] ?? 1.0;
            }
            $attributes[Skin::COLOUR] = [4, $colours];
        }
        if (! isset($attributes[Skin::NORMAL]) && ! $this->areWorkedOut && $all > 0 && array_filter(array_column($this->smoothed, 0)) !== []) {
            $groups = array_fill(0, intdiv($all, 3), 0);
            foreach ($this->smoothed as $k => [$group, $from]) {
                for ($t = $from, $to = $this->smoothed[$k + 1][1] ?? intdiv($all, 3); $t < $to; $t++) {
                    $groups[$t] = $group;
                }
            }
            /** @var array<int, float> $normals */
            $normals = unpack('e*', SmoothNormals::of(Mesh::of($this->xyz, $this->corners), groups: array_values($groups)));
            $attributes[Skin::NORMAL] = [3, array_values($normals), range(0, $all - 1)];
        }

        return $attributes;
    }

    /**
     * Inside faces have coordinates by a rule of their own: they are none that the mesh carries.
     *
     * @param  list<int>  $at
     * @param  list<int>  $tags
     */
    private static function isOnSkin(array $at, array $tags): bool
    {
        foreach ($at as $i => $entry) {
            if ($entry >= 0 && $tags[intdiv($i, 3)] === 0) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param  list<float>  $normals
     * @return list<float> of length 1, or 0
     */
    private static function units(array $normals): array
    {
        for ($i = 0, $count = count($normals); $i < $count; $i += 3) {
            $length = sqrt($normals[$i] ** 2 + $normals[$i + 1] ** 2 + $normals[$i + 2] ** 2);
            for ($k = $i; $k < $i + 3; $k++) {
                $normals[$k] = $length > 0.0 ? $normals[$k] / $length : 0.0;
            }
        }

        return array_values($normals);
    }

    /** @return array<array-key, list<array{int, int}>> stretches of corners of each part: groups that share a vertex number are one, under the name of the first */
    private function parts(): array
    {
        $stretches = [];
        $end = count($this->corners);
        $begins = [['', 0], ...$this->groups];
        foreach ($begins as $k => [$group, $from]) {
            $to = $begins[$k + 1][1] ?? $end;
            if ($to > $from) {
                $stretches[$group][] = [$from, $to];
            }
        }
        if (count($stretches) < 2) {
            return $stretches;
        }
        $names = array_keys($stretches);
        $parent = array_keys($names);
        $owner = [];
        foreach ($names as $g => $name) {
            foreach ($stretches[$name] as [$from, $to]) {
                for ($i = $from; $i < $to; $i++) {
                    $other = $owner[$this->corners[$i]] ??= $g;
                    if ($other !== $g) {
                        while ($parent[$other] !== $other) {
                            $other = $parent[$other] = $parent[$parent[$other]];
                        }
                        $own = $g;
                        while ($parent[$own] !== $own) {
                            $own = $parent[$own] = $parent[$parent[$own]];
                        }
                        $parent[max($own, $other)] = min($own, $other);
                    }
                }
            }
        }
        $joined = [];
        foreach ($names as $g => $name) {
            $root = $g;
            while ($parent[$root] !== $root) {
                $root = $parent[$root];
            }
            $joined[$names[$root]] = [...$joined[$names[$root]] ?? [], ...$stretches[$name]];
        }

        return $joined;
    }

    /**
     * @param  list<array{int, int}>  $ranges  of corners
     * @param  list<int>  $tags
     * @return array{list<int>, list<int>} corners and tags of one part
     */
    private function picked(array $ranges, array $tags): array
    {
        if (count($ranges) === 1 && $ranges[0][0] === 0 && $ranges[0][1] === count($this->corners)) {
            return [$this->corners, $tags];
        }
        $corners = $own = [];
        foreach ($ranges as [$from, $to]) {
            for ($i = $from; $i < $to; $i++) {
                $corners[] = $this->corners[$i];
            }
            for ($t = intdiv($from, 3), $last = intdiv($to, 3); $t < $last; $t++) {
                $own[] = $tags[$t];
            }
        }

        return [$corners, $own];
    }
}
