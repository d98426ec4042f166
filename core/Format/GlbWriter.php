<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Geometry\Zero;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/**
 * Writes glTF 2.0 binary: each piece a named node with its pivot at its centroid, skin and inside as two materials; metres, Y up.
 *
 * Places are multiples of one step, a power of two, and so are pivots: places counted from a pivot are exact in 32-bit floats, and two
 * pieces that share a face have it at exactly the same place although their pivots differ. Source: Khronos Group, glTF 2.0 Specification.
 */
final class GlbWriter
{
    /** Places, counted from a pivot, that a 32-bit float holds exactly: 2^24 steps. */
    private const STEPS = 16777216;

    /**
     * The step, metres, with which all these pieces can be written.
     *
     * @param  iterable<Mesh>  $meshes  in millimetres
     */
    public static function step(iterable $meshes): float
    {
        $largest = 1e-9;
        foreach ($meshes as $mesh) {
            for ($k = 0; $k < 3; $k++) {
                $low = INF;
                $high = -INF;
                for ($i = $k, $count = count($mesh->xyz); $i < $count; $i += 3) {
                    $low = min($low, $mesh->xyz[$i]);
                    $high = max($high, $mesh->xyz[$i]);
                }
                $largest = max($largest, ($high - $low) / 1000);
            }
        }

        // Twice the extent leaves room for a centroid outside the box of a hollow piece.
        return 2.0 ** ceil(log(2 * $largest / self::STEPS, 2));
    }

    /** The mesh in metres and Y up, as multiples of the step; parts that fall together are resolved. */
    public static function rounded(Mesh $mesh, float $step): Mesh
    {
        $xyz = [];
        for ($i = 0, $count = count($mesh->xyz); $i < $count; $i += 3) {
            $xyz[] = $mesh->xyz[$i] / 1000;
            $xyz[] = $mesh->xyz[$i + 2] / 1000;
            $xyz[] = -$mesh->xyz[$i + 1] / 1000;
        }

        return Rounded::of(Mesh::of($xyz, $mesh->corners, $mesh->tags, $mesh->skin), Precision::steps($step));
    }

    /** A rounded mesh in millimetres and Z up again, as reading the file gives it. */
    public static function inMillimetres(Mesh $rounded): Mesh
    {
        $xyz = [];
        for ($i = 0, $count = count($rounded->xyz); $i < $count; $i += 3) {
            $xyz[] = $rounded->xyz[$i] * 1000.0;
            $xyz[] = Zero::plain($rounded->xyz[$i + 2] * -1000.0);
            $xyz[] = $rounded->xyz[$i + 1] * 1000.0;
        }

        return Mesh::of($xyz, $rounded->corners, $rounded->tags, $rounded->skin);
    }

    /**
     * @param  array<string, array{mesh: Mesh, colour: string}>  $pieces  by name; meshes from rounded()
     * @return iterable<string>
     */
    public static function chunks(array $pieces, float $step): iterable
    {
        $json = [
            'asset' => ['version' => '2.0', 'generator' => 'Isotome'],
            'scene' => 0, 'scenes' => [['nodes' => array_keys(array_values($pieces))]],
            'nodes' => [], 'meshes' => [], 'materials' => [], 'accessors' => [], 'bufferViews' => [], 'buffers' => [],
        ];
        $parts = new GlbParts($json);
        $looks = [];
        foreach ($pieces as ['mesh' => $mesh]) {
            $looks[] = $mesh->skin->looks ?? new Looks;
        }
        [$all, $numbers] = $looks === [] ? [new Looks, []] : Looks::together($looks);
        $parts->looks($all);
        $n = 0;
        foreach ($pieces as $name => ['mesh' => $mesh, 'colour' => $colour]) {
            $pivot = array_map(static fn (float $c): float => Zero::plain(round($c / $step) * $step), Volume::measure($mesh)->centroid);
            $primitives = [];
            foreach ($mesh->skin === null ? [] : GlbSkin::primitives($mesh, $pivot) as [$material, $attributes, $indices]) {
                $primitives[] = $parts->dressed($attributes, $indices, $material < 0 ? $parts->material('skin', self::factor($colour)) : $numbers[$n][$material]);
            }
            foreach ($mesh->skin === null ? ['skin', 'inside'] : ['inside'] as $side) {
                [$places, $indices, $min, $max] = self::side($mesh, $side === 'inside', $pivot);
                if ($indices !== '') {
                    $material = $parts->material($side, self::factor($side === 'inside' ? Materials::inside($colour) : $colour));
                    $primitives[] = $parts->primitive($places, $indices, $min, $max, $material);
                }
            }
            $parts->json['meshes'][] = ['name' => (string) $name, 'primitives' => $primitives];
            $parts->json['nodes'][] = ['name' => (string) $name, 'mesh' => $n, 'translation' => $pivot];
            $n++;
        }
        yield from $parts->file();
    }

    /**
     * @param  array<int, float>  $pivot
     * @return array{string, string, list<float>, list<float>} places, indices, lowest and highest place
     */
    private static function side(Mesh $mesh, bool $isInside, array $pivot): array
    {
        $number = [];
        $numbers = $floats = [];
        $places = $indices = '';
        $min = [INF, INF, INF];
        $max = [-INF, -INF, -INF];
        foreach ($mesh->tags as $t => $tag) {
            if (($tag > 0) !== $isInside) {
                continue;
            }
            for ($h = 3 * $t; $h < 3 * $t + 3; $h++) {
                $v = $mesh->corners[$h];
                if (! isset($number[$v])) {
                    $number[$v] = count($number);
                    for ($k = 0; $k < 3; $k++) {
                        $c = Zero::plain($mesh->xyz[3 * $v + $k] - $pivot[$k]);
                        $floats[] = $c;
                        $min[$k] = min($min[$k], $c);
                        $max[$k] = max($max[$k], $c);
                    }
                }
                $numbers[] = $number[$v];
            }
            if (count($numbers) > 3000) {
                $indices .= pack('V*', ...$numbers);
                $places .= pack('g*', ...$floats);
                $numbers = $floats = [];
            }
        }

        return [$places.pack('g*', ...$floats), $indices.pack('V*', ...$numbers), $min, $max];
    }

    /** @return list<float> linear colour */
    private static function factor(string $colour): array
    {
        $factor = [];
        foreach ([1, 3, 5] as $at) {
            $value = (int) hexdec(substr($colour, $at, 2)) / 255;
            $factor[] = round($value <= 0.04045 ? $value / 12.92 : (($value + 0.055) / 1.055) ** 2.4, 4);
        }

        return [...$factor, 1.0];
    }
}
