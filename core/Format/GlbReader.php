<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\UnreadableMesh;
use Isotome\Geometry\Affine;
use Isotome\Mesh\Skin;

/**
 * Reads glTF 2.0, binary and as text: static triangles with node transforms, metres and Y up brought to millimetres and Z up.
 *
 * Source: Khronos Group, glTF 2.0 Specification. Nothing is read but the file and what came with it; extensions that the file requires, sparse accessors, and
 * buffers elsewhere are refused by name.
 */
final class GlbReader
{
    private const DEEPEST = 64;

    private const MOST_NODES = 100_000;

    /** Components → bytes and unpack's letter. */
    private const COMPONENTS = [5120 => [1, 'c'], 5121 => [1, 'C'], 5122 => [2, 's'], 5123 => [2, 'v'], 5125 => [4, 'V'], 5126 => [4, 'g']];

    /** Attributes of vertices that are carried. */
    private const CARRIED = '/^(TEXCOORD_[0-7]|COLOR_0|NORMAL)$/D';

    /** Y up and metres to Z up and millimetres: (x, y, z) to (x, −z, y). */
    private const TO_OURS = [1000.0, 0.0, 0.0, 0.0, 0.0, 1000.0, 0.0, -1000.0, 0.0, 0.0, 0.0, 0.0];

    /** @var array<mixed> */
    private array $json = [];

    private string $binary = '';

    private int $placed = 0;

    private ?SkinBuilder $skin = null;

    private function __construct(private readonly string $name, private readonly string $format, private readonly Companions $files)
    {
    }

    /** @throws UnreadableMesh */
    public static function read(string $path, ?Companions $files = null): ReadMesh
    {
        $file = Files::open($path);
        try {
            $reader = new self(basename($path), 'GLB', $files ?? Companions::none());
            $reader->chunks($file);

            return $reader->scene();
        } finally {
            fclose($file);
        }
    }

    /**
     * The description as text, with its data in it or beside it.
     *
     * @throws UnreadableMesh
     */
    public static function readText(string $path, ?Companions $files = null): ReadMesh
    {
        $reader = new self(basename($path), 'glTF', $files ?? Companions::none());
        [$reader->json, $reader->binary] = GltfText::read($path, $reader->files);

        return $reader->scene();
    }

    private function bad(string $what): UnreadableMesh
    {
        return new UnreadableMesh("The {$this->format} file {$this->name} is damaged: $what; export it again.");
    }

    /** @param  resource  $file */
    private function chunks($file): void
    {
        $size = (int) (fstat($file)['size'] ?? 0);
        $head = (string) fread($file, 12);
        if (strlen($head) < 12 || ! str_starts_with($head, 'glTF')) {
            throw new UnreadableMesh("The file {$this->name} does not begin as a GLB file does; check that it is glTF binary.");
        }
        [$version, $length] = self::words($head, 4);
        if ($version !== 2) {
            throw new UnreadableMesh("The GLB file {$this->name} is of version $version; export it as glTF 2.0.");
        }
        if ($length > $size) {
            throw $this->bad("it promises $length bytes and holds $size");
        }
        for ($at = 12; $at + 8 <= $length;) {
            [$bytes, $kind] = self::words((string) fread($file, 8), 0);
            if ($bytes > $length - $at - 8) {
                throw $this->bad('a chunk reaches beyond its end');
            }
            $chunk = $bytes > 0 ? (string) stream_get_contents($file, $bytes) : '';
            if ($kind === 0x4E4F534A) {
                $json = json_decode($chunk, true, 64);
                if (! is_array($json)) {
                    throw $this->bad('its description is no JSON');
                }
                $this->json = $json;
            } elseif ($kind === 0x004E4942 && $this->binary === '') {
                $this->binary = $chunk;
            }
            $at += 8 + $bytes;
        }
    }

    private function scene(): ReadMesh
    {
        $required = $this->json['extensionsRequired'] ?? [];
        $required = is_array($required) ? array_values(array_filter($required, static fn (mixed $name): bool => ! in_array($name, GltfLooks::EXTENSIONS, true))) : [];
        if ($required !== []) {
            $first = is_string($required[0]) ? substr((string) preg_replace('/[^\w]/', '', $required[0]), 0, 40) : '?';
            throw new UnreadableMesh("The {$this->format} file {$this->name} requires the extension $first, which this program does not read; export it without this extension.");
        }
        $this->refuseUnfolded();
        $assembly = new Assembly($this->name, $this->format);
        $looks = GltfLooks::of($this->json, $this->binary, $this->files);
        $this->skin = $this->carriesAnything() ? new SkinBuilder($looks->looks) : null;
        foreach ($this->roots() as $node) {
            $this->node($assembly, $node, self::TO_OURS, 0);
        }
        $read = $assembly->result();

        return $this->skin === null ? $read : $this->skin->onto($read, [...$looks->leftOut, ...GltfLooks::otherwiseLeftOut($this->json)]);
    }

    /** Has any mesh a material, texture coordinates, colours or normals? */
    private function carriesAnything(): bool
    {
        foreach (is_array($this->json['meshes'] ?? null) ? $this->json['meshes'] : [] as $mesh) {
            foreach (is_array($mesh) && is_array($mesh['primitives'] ?? null) ? $mesh['primitives'] : [] as $primitive) {
                if (! is_array($primitive)) {
                    continue;
                }
                $isInside = is_int($primitive['material'] ?? null) && $this->isInside($primitive['material']);
                foreach (array_keys(is_array($primitive['attributes'] ?? null) ? $primitive['attributes'] : []) as $name) {
                    if (! $isInside && $this->isCarried((string) $name)) {
                        return true;
                    }
                }
                if (is_int($primitive['material'] ?? null) && ! $isInside && ! $this->isPieceColour($primitive['material'])) {
                    return true;
                }
            }
        }

        return false;
    }

    private function isCarried(string $attribute): bool
    {
        $asset = $this->json['asset'] ?? null;
        $remarks = is_array($asset) ? $asset['extras'] ?? null : null;
        $isWorkedOut = $attribute === 'NORMAL' && is_array($remarks) && ($remarks[GlbWriter::NORMALS] ?? null) === GlbWriter::WORKED_OUT;

        return ! $isWorkedOut && preg_match(self::CARRIED, $attribute) === 1;
    }

    /** Is it the plain material in which this program writes a piece that carries none? It tells the piece's colour, and nothing of its own. */
    private function isPieceColour(int $material): bool
    {
        $asset = $this->json['asset'] ?? null;

        return is_array($asset) && ($asset['generator'] ?? null) === 'Isotome' && $this->materialName($material) === 'skin';
    }

    private function isInside(int $material): bool
    {
        return strcasecmp($this->materialName($material), 'inside') === 0;
    }

    /** @return array{int, int} two 32-bit words */
    private static function words(string $bytes, int $at): array
    {
        /** @var array{1: int, 2: int}|false $words */
        $words = strlen($bytes) >= $at + 8 ? unpack('V2', $bytes, $at) : false;

        return $words === false ? [0, 0] : [$words[1], $words[2]];
    }

    /** @return list<int> */
    private function roots(): array
    {
        $scene = $this->entry('scenes', is_int($this->json['scene'] ?? null) ? $this->json['scene'] : 0, false);
        if ($scene !== null) {
            return $this->numbers($scene['nodes'] ?? []);
        }
        $nodes = is_array($this->json['nodes'] ?? null) ? array_keys($this->json['nodes']) : [];
        $children = [];
        foreach ($nodes as $n) {
            $children += array_fill_keys($this->numbers($this->entry('nodes', (int) $n)['children'] ?? []), true);
        }

        return array_values(array_filter(array_map(intval(...), $nodes), static fn (int $n): bool => ! isset($children[$n])));
    }

    /**
     * @return ($must is true ? array<mixed> : array<mixed>|null)
     */
    private function entry(string $list, int $n, bool $must = true): ?array
    {
        $all = $this->json[$list] ?? null;
        $entry = is_array($all) ? $all[$n] ?? null : null;
        if (is_array($entry)) {
            return $entry;
        }

        return $must ? throw $this->bad("number $n of its $list is used and not there") : null;
    }

    /** @return list<int> */
    private function numbers(mixed $list): array
    {
        return is_array($list) ? array_values(array_filter($list, is_int(...))) : [];
    }

    /** Counts the triangles of all instances before the first is made. */
    private function refuseUnfolded(): void
    {
        $triangles = [];
        $stored = $shown = $placed = 0;
        $waiting = array_map(static fn (int $n): array => [$n, 0], $this->roots());
        while ($waiting !== []) {
            [$n, $depth] = array_pop($waiting);
            if ($depth > self::DEEPEST || ++$placed > self::MOST_NODES) {
                throw $this->bad('its nodes are nested too deep, in a circle, or are too many');
            }
            $node = $this->entry('nodes', $n);
            $mesh = $node['mesh'] ?? null;
            if (is_int($mesh)) {
                if (! isset($triangles[$mesh])) {
                    $triangles[$mesh] = $this->trianglesOf($this->entry('meshes', $mesh));
                    $stored += $triangles[$mesh];
                }
                $shown += $triangles[$mesh];
            }
            foreach ($this->numbers($node['children'] ?? []) as $child) {
                $waiting[] = [$child, $depth + 1];
            }
        }
        // Many meshes may be made of the same bytes: a triangle takes six at least.
        Assembly::refuseUnfolded($this->name, $this->format, min($stored, intdiv(strlen($this->binary), 6)), $shown);
    }

    /**
     * Its triangles, or a third of its vertices where there are more: what it costs.
     *
     * @param  array<mixed>  $mesh
     */
    private function trianglesOf(array $mesh): int
    {
        $sum = 0;
        foreach (is_array($mesh['primitives'] ?? null) ? $mesh['primitives'] : [] as $primitive) {
            if (! is_array($primitive)) {
                continue;
            }
            $position = is_array($primitive['attributes'] ?? null) ? $primitive['attributes']['POSITION'] ?? null : null;
            if (! is_int($position)) {
                continue;
            }
            $list = is_int($primitive['indices'] ?? null) ? $primitive['indices'] : $position;
            $count = $this->entry('accessors', $list)['count'] ?? 0;
            if (is_int($count) && $count > 0) {
                $sum += ($primitive['mode'] ?? 4) === 4 ? intdiv($count, 3) : $count;
            }
        }

        // What an accessor promises beyond its data is refused when it is read.
        return min($sum, 1 << 40);
    }

    /**
     * @param  list<float>  $above
     */
    private function node(Assembly $assembly, int $n, array $above, int $depth): void
    {
        if ($depth > self::DEEPEST || ++$this->placed > self::MOST_NODES) {
            throw $this->bad('its nodes are nested too deep, in a circle, or are too many');
        }
        $node = $this->entry('nodes', $n);
        $transform = Affine::then($this->transform($node), $above);
        if (is_int($node['mesh'] ?? null)) {
            $mesh = $this->entry('meshes', $node['mesh']);
            $name = is_string($node['name'] ?? null) && $node['name'] !== '' ? $node['name'] : (is_string($mesh['name'] ?? null) ? $mesh['name'] : "node $n");
            [$xyz, $corners, $tags, $attributes, $materials] = $this->primitives($mesh);
            $corners = Affine::corners($corners, $transform);
            if ($this->skin !== null) {
                $tags = $this->skin->add($corners, $tags, $materials, $attributes, $transform);
            }
            $assembly->add($name, Affine::points($xyz, $transform), $corners, $tags);
        }
        foreach ($this->numbers($node['children'] ?? []) as $child) {
            $this->node($assembly, $child, $transform, $depth + 1);
        }
    }

    /**
     * @param  array<mixed>  $node
     * @return list<float>
     */
    private function transform(array $node): array
    {
        if (isset($node['matrix'])) {
            $m = $this->floats($node['matrix'], 16);

            return [$m[0], $m[1], $m[2], $m[4], $m[5], $m[6], $m[8], $m[9], $m[10], $m[12], $m[13], $m[14]];
        }
        [$x, $y, $z, $w] = $this->floats($node['rotation'] ?? [0, 0, 0, 1], 4);
        [$a, $b, $c] = $this->floats($node['scale'] ?? [1, 1, 1], 3);
        $t = $this->floats($node['translation'] ?? [0, 0, 0], 3);

        return [
            $a * (1 - 2 * ($y * $y + $z * $z)), $a * 2 * ($x * $y + $z * $w), $a * 2 * ($x * $z - $y * $w),
            $b * 2 * ($x * $y - $z * $w), $b * (1 - 2 * ($x * $x + $z * $z)), $b * 2 * ($y * $z + $x * $w),
            $c * 2 * ($x * $z + $y * $w), $c * 2 * ($y * $z - $x * $w), $c * (1 - 2 * ($x * $x + $y * $y)),
            $t[0], $t[1], $t[2],
        ];
    }

    /** @return list<float> */
    private function floats(mixed $list, int $count): array
    {
        $numbers = [];
        foreach (is_array($list) ? $list : [] as $number) {
            $numbers[] = is_int($number) || is_float($number) ? (float) $number : NAN;
        }
        if (count($numbers) !== $count || ! is_finite(array_sum($numbers))) {
            throw $this->bad("a transform is not $count numbers");
        }

        return $numbers;
    }

    /**
     * @param  array<mixed>  $mesh
     * @return array{list<float>, list<int>, list<int>, array<string, array{int, list<float>}>, list<int>} coordinates, corners, tags; layers by name, numbers a
     *     vertex and the numbers; material of each triangle, −1 for none
     */
    private function primitives(array $mesh): array
    {
        $xyz = $corners = $tags = $attributes = $materials = [];
        foreach (is_array($mesh['primitives'] ?? null) ? $mesh['primitives'] : [] as $primitive) {
            if (! is_array($primitive)) {
                throw $this->bad('a primitive is no object');
            }
            $mode = $primitive['mode'] ?? 4;
            if (! in_array($mode, [4, 5, 6], true)) {
                continue;
            }
            $position = is_array($primitive['attributes'] ?? null) ? $primitive['attributes']['POSITION'] ?? null : null;
            if (! is_int($position)) {
                continue;
            }
            if (($this->entry('accessors', $position)['componentType'] ?? null) !== 5126) {
                throw $this->bad("accessor $position has components that fit neither places nor indices");
            }
            $base = intdiv(count($xyz), 3);
            $given = $this->entry('accessors', $position)['count'] ?? 0;
            $vertices = is_int($given) ? $given : 0;
            $indices = is_int($primitive['indices'] ?? null) ? $this->accessor($primitive['indices'], 'SCALAR', 1) : null;
            $used = null;
            if ($indices === null || $vertices <= 2 * count($indices)) {
                /** @var list<float> $places */
                $places = $this->accessor($position, 'VEC3', 3);
                $xyz = $xyz === [] ? $places : [...$xyz, ...$places];
                unset($places);
                /** @var list<int> $list */
                $list = $indices ?? ($vertices > 0 ? range(0, $vertices - 1) : []);
                // No index is negative: they are unsigned.
                if ($list !== [] && max($list) >= $vertices) {
                    throw $this->bad('a triangle names vertex '.max($list)." where there are $vertices");
                }
            } else {
                [$list, $used] = $this->sparingly($position, $indices, $vertices, $xyz);
            }
            $material = is_int($primitive['material'] ?? null) ? $primitive['material'] : -1;
            $isInside = $material >= 0 && $this->isInside($material) ? 1 : 0;
            $isColour = $material >= 0 && $this->isPieceColour($material);
            if ($this->skin !== null && $isInside === 0) {
                /** @var array<mixed> $named */
                $named = $primitive['attributes'];
                $attributes = $this->attributes($attributes, $named, $vertices, $used, $base);
            }
            $list = self::triangles($list, $mode);
            $count = intdiv(count($list), 3);
            if ($base === 0 && $corners === []) {
                $corners = $list;
            } else {
                foreach ($list as $v) {
                    $corners[] = $base + $v;
                }
            }
            $tags = [...$tags, ...array_fill(0, $count, $isInside)];
            $materials = [...$materials, ...array_fill(0, $count, $isInside === 1 || $isColour ? -1 : $material)];
        }

        return [$xyz, $corners, $tags, $attributes, $materials];
    }

    /**
     * Three corners a triangle, of lists, strips and fans.
     *
     * @param  list<int>  $list
     * @return list<int>
     */
    private static function triangles(array $list, int $mode): array
    {
        $last = count($list) - 2;
        if ($mode === 4) {
            return array_slice($list, 0, 3 * intdiv(count($list), 3));
        }
        $corners = [];
        for ($i = 0; $i < $last; $i++) {
            array_push($corners, ...($mode === 5 ? [$list[$i], $list[$i + 1 + $i % 2], $list[$i + 2 - $i % 2]] : [$list[$i + 1], $list[$i + 2], $list[0]]));
        }

        return $corners;
    }

    /**
     * With the attributes of another primitive; what it lacks is blank.
     *
     * @param  array<string, array{int, list<float>}>  $attributes
     * @param  array<mixed>  $named  accessors by attribute
     * @param  list<int>|null  $used  the vertices that are read; all when null
     * @return array<string, array{int, list<float>}>
     */
    private function attributes(array $attributes, array $named, int $vertices, ?array $used, int $base): array
    {
        foreach ($named as $name => $accessor) {
            if (! is_int($accessor) || ! $this->isCarried((string) $name)) {
                continue;
            }
            $layer = match (true) {
                $name === 'NORMAL' => Skin::NORMAL,
                $name === 'COLOR_0' => Skin::COLOUR,
                default => Skin::TEXTURE.substr((string) $name, 9),
            };
            $type = $this->entry('accessors', $accessor)['type'] ?? null;
            $width = ['VEC2' => 2, 'VEC3' => 3, 'VEC4' => 4][is_string($type) ? $type : ''] ?? 0;
            $fits = $layer === Skin::COLOUR ? $width > 2 : $width === ($layer === Skin::NORMAL ? 3 : 2);
            if (! $fits || ($this->entry('accessors', $accessor)['count'] ?? null) !== $vertices) {
                throw $this->bad("its $name are not one for each vertex");
            }
            $values = $this->scaled($accessor, is_string($type) ? $type : '', $width, $used);
            if (! is_finite(array_sum($values))) {
                throw $this->bad("its $name are not all numbers");
            }
            if ($layer === Skin::COLOUR && $width === 3) {
                $values = self::withAlpha($values);
                $width = 4;
            }
            $before = array_pad($attributes[$layer][1] ?? [], $width * $base, $layer === Skin::COLOUR ? 1.0 : 0.0);
            $attributes[$layer] = [$width, $before === [] ? $values : [...$before, ...$values]];
        }

        return $attributes;
    }

    /**
     * @param  list<float>  $colours  3 each
     * @return list<float> 4 each
     */
    private static function withAlpha(array $colours): array
    {
        $all = [];
        foreach (array_chunk($colours, 3) as $colour) {
            array_push($all, ...$colour);
            $all[] = 1.0;
        }

        return $all;
    }

    /**
     * Floats, or whole numbers that stand for 0 to 1.
     *
     * @param  list<int>|null  $used  the vertices that are read; all when null
     * @return list<float>
     */
    private function scaled(int $n, string $type, int $width, ?array $used): array
    {
        $component = $this->entry('accessors', $n)['componentType'] ?? null;
        $largest = [5121 => 255.0, 5123 => 65535.0, 5126 => 1.0][is_int($component) ? $component : 0] ?? 0.0;
        if ($largest === 0.0 || ($largest > 1.0 && ($this->entry('accessors', $n)['normalized'] ?? false) !== true)) {
            throw $this->bad("accessor $n has components that fit no attribute");
        }
        $all = [];
        if ($used === null) {
            $values = $this->accessor($n, $type, $width);
            if ($component === 5126) {
                /** @var list<float> $values */
                return $values;
            }
            foreach ($values as $value) {
                $all[] = $value / $largest;
            }

            return $all;
        }
        [$at, $stride, , , $letter] = $this->extent($n, $type, $width);
        foreach ($used as $v) {
            /** @var array<int, int|float> $values */
            $values = unpack($letter.$width, $this->binary, $at + $stride * $v);
            foreach ($values as $value) {
                $all[] = $value / $largest;
            }
        }

        return $all;
    }

    /**
     * Only the vertices that are used: many small meshes may share one long list.
     *
     * @param  list<int|float>  $indices
     * @param  list<float>  $xyz  they are added to it
     * @return array{list<int>, list<int>} corners, counted from the first that was added; the vertices that were added
     */
    private function sparingly(int $position, array $indices, int $vertices, array &$xyz): array
    {
        [$at, $stride] = $this->extent($position, 'VEC3', 3);
        $number = $list = [];
        foreach ($indices as $v) {
            $v = (int) $v;
            if ($v >= $vertices || $v < 0) {
                throw $this->bad("a triangle names vertex $v where there are $vertices");
            }
            if (! isset($number[$v])) {
                $number[$v] = count($number);
                /** @var array{1: float, 2: float, 3: float} $place */
                $place = unpack('g3', $this->binary, $at + $stride * $v);
                array_push($xyz, $place[1], $place[2], $place[3]);
            }
            $list[] = $number[$v];
        }

        return [$list, array_keys($number)];
    }

    private function materialName(int $n): string
    {
        $name = $this->entry('materials', $n)['name'] ?? '';

        return is_string($name) ? $name : '';
    }

    /**
     * Where an accessor's data lies, after it was found to lie within the file.
     *
     * @return array{int, int, int, int, string} offset, stride, end, bytes of a component and unpack's letter for it
     */
    private function extent(int $n, string $type, int $width): array
    {
        $accessor = $this->entry('accessors', $n);
        $count = $accessor['count'] ?? null;
        $component = $accessor['componentType'] ?? null;
        if (! is_int($count) || $count < 0 || ! is_int($component) || ! isset(self::COMPONENTS[$component]) || ($accessor['type'] ?? null) !== $type || isset($accessor['sparse'])) {
            throw $this->bad("accessor $n is not a plain list of $type");
        }
        // Attributes besides places are looked at in scaled().
        if ($type === 'SCALAR' && ! in_array($component, [5121, 5123, 5125], true)) {
            throw $this->bad("accessor $n has components that fit neither places nor indices");
        }
        if (! is_int($accessor['bufferView'] ?? null)) {
            throw $this->bad("accessor $n has no data");
        }
        $view = $this->entry('bufferViews', $accessor['bufferView']);
        $buffer = $this->entry('buffers', is_int($view['buffer'] ?? null) ? $view['buffer'] : -1);
        if (isset($buffer['uri']) || ($view['buffer'] ?? null) !== 0) {
            throw new UnreadableMesh("The GLB file {$this->name} keeps its data in another file; export it as one binary file.");
        }
        [$bytes, $letter] = self::COMPONENTS[$component];
        $offset = self::int($view['byteOffset'] ?? 0) + self::int($accessor['byteOffset'] ?? 0);
        $stride = self::int($view['byteStride'] ?? 0) ?: $bytes * $width;
        $end = $count === 0 ? $offset : $offset + $stride * ($count - 1) + $bytes * $width;
        if ($offset < 0 || $stride < $bytes * $width || $end > strlen($this->binary) || $end > self::int($view['byteOffset'] ?? 0) + self::int($view['byteLength'] ?? 0)) {
            throw $this->bad("accessor $n reaches beyond its data");
        }

        return [$offset, $stride, $end, $bytes, $letter];
    }

    /** @return list<int|float> */
    private function accessor(int $n, string $type, int $width): array
    {
        [$offset, $stride, $end, $bytes, $letter] = $this->extent($n, $type, $width);
        $values = [];
        if ($stride === $bytes * $width) {
            $piece = 1000 * $width * $bytes;
            for ($at = $offset; $at < $end; $at += $piece) {
                array_push($values, ...(unpack($letter.'*', substr($this->binary, $at, min($piece, $end - $at))) ?: []));
            }

            /** @var list<int|float> $values */
            return $values;
        }
        for ($at = $offset; $at < $end; $at += $stride) {
            foreach (unpack($letter.$width, $this->binary, $at) ?: [] as $value) {
                $values[] = $value;
            }
        }

        /** @var list<int|float> $values */
        return $values;
    }

    private static function int(mixed $value): int
    {
        return is_int($value) ? $value : -1;
    }
}
