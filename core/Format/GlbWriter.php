<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Geometry\Zero;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Mesh\Volume;

/**
 * Writes glTF 2.0 binary: each piece a named node with its pivot at its centroid; its own materials or one for its skin, and one for its inside; metres, Y up.
 *
 * Places are multiples of one step, a power of two, and so are pivots: places counted from a pivot are exact in 32-bit floats, and two
 * pieces that share a face have it at exactly the same place although their pivots differ. Source: Khronos Group, glTF 2.0 Specification.
 */
final class GlbWriter
{
    /** Places, counted from a pivot, that a 32-bit float holds exactly: 2^24 steps. */
    private const STEPS = 16777216;

    /** A remark in files whose normals no piece carried: read again, they are none of the mesh's own. */
    public const NORMALS = 'normals';

    public const WORKED_OUT = 'worked out';

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
     * @param  array<string, array{shift: array{list<float>, list<float>}, turn: array{list<float>, list<float>}, scale: array{list<float>, list<float>}}>  $moves  by name, the keys of its movement: seconds, and shifts in mm from where it stands,
     *                                                                                                                                                            turns about its pivot as quaternions, and scales; Z up
     * @return iterable<string>
     */
    public static function chunks(array $pieces, float $step, ?InsideLook $inside = null, array $moves = []): iterable
    {
        $inside ??= InsideLook::plain();
        $areWorkedOut = true;
        foreach ($pieces as ['mesh' => $mesh]) {
            $areWorkedOut = $areWorkedOut && ! isset($mesh->skin->layers[Skin::NORMAL]);
        }
        $json = [
            'asset' => ['version' => '2.0', 'generator' => 'Isotome', ...($areWorkedOut ? ['extras' => [self::NORMALS => self::WORKED_OUT]] : [])],
            'scene' => 0, 'scenes' => [['nodes' => array_keys(array_values($pieces))]],
            'nodes' => [], 'meshes' => [], 'materials' => [], 'accessors' => [], 'bufferViews' => [], 'buffers' => [],
        ];
        $parts = new GlbParts($json);
        $looks = [];
        foreach ($pieces as ['mesh' => $mesh]) {
            $looks[] = $mesh->skin->looks ?? new Looks;
        }
        [$all, $numbers] = Looks::together([...$looks, $inside->looks()]);
        $painted = $numbers[count($looks)][0] ?? null;
        $parts->looks($all);
        $n = 0;
        $channels = [];
        foreach ($pieces as $name => ['mesh' => $mesh, 'colour' => $colour]) {
            $pivot = array_map(static fn (float $c): float => Zero::plain(round($c / $step) * $step), Volume::measure($mesh)->centroid);
            $primitives = [];
            foreach (GlbSkin::primitives($mesh, $pivot, $inside) as [$material, $attributes, $indices]) {
                $primitives[] = $parts->primitive($attributes, $indices, match ($material) {
                    GlbSkin::INSIDE => $painted ?? $parts->material('inside', self::factor($inside->colour ?? Materials::inside($colour))),
                    -1 => $parts->material('skin', self::factor($colour)),
                    default => $numbers[$n][$material] ?? $parts->material('skin', self::factor($colour)),
                });
            }
            $parts->json['meshes'][] = ['name' => (string) $name, 'primitives' => $primitives];
            $parts->json['nodes'][] = ['name' => (string) $name, 'mesh' => $n, 'translation' => $pivot];
            array_push($channels, ...self::channels($n, $pivot, $moves[$name] ?? null));
            $n++;
        }
        if ($channels !== []) {
            $parts->animation('movement', $channels);
        }
        yield from $parts->file();
    }

    /**
     * @param  array<int, float>  $pivot
     * @param  array{shift: array{list<float>, list<float>}, turn: array{list<float>, list<float>}, scale: array{list<float>, list<float>}}|null  $moves
     * @return list<array{int, string, list<float>, list<float>}>
     */
    private static function channels(int $node, array $pivot, ?array $moves): array
    {
        $channels = [];
        if ($moves !== null && $moves['shift'][0] !== []) {
            $places = [];
            foreach (array_chunk($moves['shift'][1], 3) as [$x, $y, $z]) {
                array_push($places, $pivot[0] + $x / 1000, $pivot[1] + $z / 1000, $pivot[2] - $y / 1000);
            }
            $channels[] = [$node, 'translation', $moves['shift'][0], $places];
        }
        if ($moves !== null && $moves['turn'][0] !== []) {
            $turns = [];
            foreach (array_chunk($moves['turn'][1], 4) as [$x, $y, $z, $w]) {
                array_push($turns, $x, $z, Zero::plain(-$y), $w);
            }
            $channels[] = [$node, 'rotation', $moves['turn'][0], $turns];
        }
        if ($moves !== null && $moves['scale'][0] !== []) {
            $scales = [];
            foreach ($moves['scale'][1] as $scale) {
                array_push($scales, $scale, $scale, $scale);
            }
            $channels[] = [$node, 'scale', $moves['scale'][0], $scales];
        }

        return $channels;
    }

    /** @return list<float> linear colour */
    private static function factor(string $colour): array
    {
        $factor = [];
        foreach ([1, 3, 5] as $at) {
            $factor[] = round(Colours::linear((int) hexdec(substr($colour, $at, 2)) / 255), 4);
        }

        return [...$factor, 1.0];
    }
}
