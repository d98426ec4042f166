<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Geometry\Affine;
use Isotome\Mesh\Layer;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mark;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Skin;

/** Gathers what the triangles of a file carry, while their shapes are put together elsewhere: marks tell afterwards which triangle is which. */
final class SkinBuilder
{
    private string $materials = '';

    /** @var array<int, true> the numbers of materials that triangles have, as they are written */
    private array $seen = [];

    private int $triangles = 0;

    /** @var array<string, array{int, string}> numbers a corner, and bytes, by layer */
    private array $layers = [];

    public function __construct(private readonly Looks $looks)
    {
    }

    /**
     * @param  list<int>  $corners  as they will be
     * @param  list<int>  $tags
     * @param  list<int>  $materials  of each triangle, −1 for none
     * @param  array<string, array{0: int, 1: list<float>, 2?: list<int>}>  $attributes  by layer: numbers an entry, the numbers, and the entry of each corner; the corner's vertex
     *     where no entries are given, −1 for none
     * @param  list<float>  $transform  of the places, 12 numbers: normals are turned with them
     * @return list<int> marked tags
     */
    public function add(array $corners, array $tags, array $materials, array $attributes, array $transform): array
    {
        $count = count($tags);
        $known = array_fill(0, count($this->looks->materials), true);
        $numbers = $marked = [];
        foreach ($materials as $material) {
            $numbers[] = isset($known[$material]) ? $material + 1 : 0;
        }
        $this->seen += array_fill_keys($numbers, true);
        $this->materials .= Packing::longs($numbers);
        foreach ($attributes as $name => $attribute) {
            [$width, $values] = $attribute;
            if ($name === Skin::NORMAL) {
                $values = self::normals($values, $transform);
            }
            $this->layers[$name] ??= [$width, str_repeat(Layer::blank($name, $width), $this->triangles)];
            $this->layers[$name][1] .= self::atCorners($name, $width, $values, $attribute[2] ?? $corners);
        }
        foreach ($tags as $t => $tag) {
            $marked[] = Mark::mark($this->triangles + $t, $tag);
        }
        $this->triangles += $count;
        foreach ($this->layers as $name => [$width, $bytes]) {
            $missing = $this->triangles - intdiv(strlen($bytes), 24 * $width);
            $this->layers[$name][1] .= $missing > 0 ? str_repeat(Layer::blank($name, $width), $missing) : '';
        }

        return $marked;
    }

    /** @param  list<string>  $leftOut */
    public function onto(ReadMesh $read, array $leftOut): ReadMesh
    {
        $layers = [];
        foreach ($this->layers as $name => [$width, $bytes]) {
            $layers[$name] = new Layer($width, $bytes);
        }
        $this->layers = [];
        [$looks, $materials] = $this->used();
        $all = new Skin($looks, $materials, $layers);
        $dress = static function (Mesh $mesh) use ($all): Mesh {
            [$tags, $sources] = Mark::apart($mesh->tags);

            return Mesh::of($mesh->xyz, $mesh->corners, $tags, $all->pick($sources));
        };

        return new ReadMesh($dress($read->mesh), $read->collapsed, $read->format, array_map($dress, $read->parts), $leftOut);
    }

    /**
     * A file may hold more materials and pictures than its faces have: those of an inside, say, or a whole library.
     *
     * @return array{Looks, string} what the triangles have, and their materials by its numbers
     */
    private function used(): array
    {
        ksort($this->seen);
        $used = array_values(array_filter(array_keys($this->seen)));
        if ($used === [] || $used === range(1, count($used))) {
            // Counted on from the first, they keep their numbers.
            return [$this->looks->only(array_map(static fn (int $material): int => $material - 1, $used)), $this->materials];
        }
        $numbers = Packing::ofLongs($this->materials);
        $place = array_flip($used);

        return [$this->looks->only(array_map(static fn (int $material): int => $material - 1, $used)), Packing::longs(array_map(static fn (int $material): int => $material === 0 ? 0 : $place[$material] + 1, $numbers))];
    }

    /**
     * @param  list<float>  $values  of the entries
     * @param  list<int>  $corners  the entry of each
     */
    private static function atCorners(string $name, int $width, array $values, array $corners): string
    {
        $entries = $values === [] ? [] : str_split(Packing::doubles($values), max(1, 8 * $width));
        // Vertices of later primitives may have none.
        $blank = substr(Layer::blank($name, $width), 0, 8 * $width);
        $bytes = '';
        foreach ($corners as $v) {
            $bytes .= $entries[$v] ?? $blank;
        }

        return $bytes;
    }

    /**
     * By the inverse transpose of the map, which keeps them across the surface however it is stretched.
     *
     * @param  list<float>  $normals
     * @param  list<float>  $m
     * @return list<float> of length 1, or 0
     */
    private static function normals(array $normals, array $m): array
    {
        $cofactors = [
            $m[4] * $m[8] - $m[5] * $m[7], $m[5] * $m[6] - $m[3] * $m[8], $m[3] * $m[7] - $m[4] * $m[6],
            $m[2] * $m[7] - $m[1] * $m[8], $m[0] * $m[8] - $m[2] * $m[6], $m[1] * $m[6] - $m[0] * $m[7],
            $m[1] * $m[5] - $m[2] * $m[4], $m[2] * $m[3] - $m[0] * $m[5], $m[0] * $m[4] - $m[1] * $m[3], 0.0, 0.0, 0.0,
        ];
        $sign = $m[0] * $cofactors[0] + $m[1] * $cofactors[1] + $m[2] * $cofactors[2] < 0.0 ? -1.0 : 1.0;
        $long = Affine::points($normals, $cofactors);
        $turned = [];
        for ($i = 0, $count = count($long); $i < $count; $i += 3) {
            $x = $long[$i];
            $y = $long[$i + 1];
            $z = $long[$i + 2];
            $length = sqrt($x * $x + $y * $y + $z * $z) * $sign;
            $turned[] = $length === 0.0 ? 0.0 : $x / $length;
            $turned[] = $length === 0.0 ? 0.0 : $y / $length;
            $turned[] = $length === 0.0 ? 0.0 : $z / $length;
        }

        return $turned;
    }
}
