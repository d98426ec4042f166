<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Mesh\Mesh;
use Isotome\Mesh\Tree;

/**
 * Faces with material on both sides: inner walls, and parts of a body that lie inside another.
 *
 * Faces that hang together across ordinary edges, without crossing faces, lie inside or outside as a whole: one place of each such
 * patch is asked. Rays in several odd directions count what they cross; the majority decides. A closed patch inside another body is
 * inner unless it is a cavity; a patch that is bounded by crossing faces is inner when it lies in another shell; an
 * open patch, such as a wall, when the rest encloses it (even-odd rule). Crossing faces themselves are not counted.
 */
final class InnerFaces
{
    /** Share of area^1.5 that a patch with a border must enclose to count as closed; a ball has 0.094. */
    private const HOLLOW = 0.02;

    private const RAYS = [[0.57163, 0.31847, 0.75619], [-0.84571, 0.21493, 0.48848], [0.12917, -0.90234, 0.41123], [-0.33811, -0.46327, -0.81917], [0.71329, 0.62741, -0.31207]];

    /**
     * @param  array<int, true>  $crossing  triangles that cross others
     * @param  bool  $cut  count patches bounded by crossing faces as well
     * @return list<int> triangles
     */
    public static function of(Mesh $mesh, Shells $shells, EdgePlaces $edges, array $crossing = [], ?Tree $tree = null, bool $cut = true): array
    {
        if ($mesh->isEmpty() || ($shells->count === 1 && $edges->nonmanifold === [] && $crossing === [])) {
            return [];
        }
        $patchOf = self::patches($mesh, $edges, $crossing, $shells);
        $patches = self::described($mesh, $patchOf, $edges, $crossing);
        $tree ??= Tree::of($mesh);
        $isInner = [];
        foreach ($patches as $p => $patch) {
            $votes = 0;
            if ($patch['cut'] && ! $cut) {
                $isInner[$p] = false;

                continue;
            }
            foreach (self::RAYS as $n => $ray) {
                $votes += self::isInside($mesh, $tree, $patchOf, $shells, $p, $patch, $ray) ? 1 : 0;
                // What the others would say does not matter any more.
                if (2 * $votes > count(self::RAYS) || 2 * ($n + 1 - $votes) > count(self::RAYS)) {
                    break;
                }
            }
            $isInner[$p] = 2 * $votes > count(self::RAYS);
        }
        $inner = [];
        foreach ($patchOf as $t => $p) {
            if ($p >= 0 && $isInner[$p]) {
                $inner[] = $t;
            }
        }

        return $inner;
    }

    /**
     * @param  array<int, true>  $crossing
     * @return list<int> patch of each triangle, −1 for crossing ones
     */
    private static function patches(Mesh $mesh, EdgePlaces $edges, array $crossing, Shells $shells): array
    {
        $corners = $mesh->corners;
        if ($edges->nonmanifold === [] && $crossing === []) {
            $patchOf = [];
            for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
                $patchOf[] = $shells->of[$corners[$i]];
            }

            return $patchOf;
        }
        $odd = $mesh->vertexCount() | 1;
        $borders = [];
        foreach ($edges->nonmanifold as [$a, $b]) {
            $borders[$a * $odd + $b] = true;
        }
        $parent = range(0, $mesh->triangleCount() - 1);
        $first = [];
        foreach ($corners as $h => $a) {
            $t = intdiv($h, 3);
            if (isset($crossing[$t])) {
                continue;
            }
            $b = $corners[$h % 3 === 2 ? $h - 2 : $h + 1];
            $key = $a < $b ? $a * $odd + $b : $b * $odd + $a;
            if (isset($borders[$key])) {
                continue;
            }
            if (! isset($first[$key])) {
                $first[$key] = $t;

                continue;
            }
            $s = $first[$key];
            while ($parent[$s] !== $s) {
                $s = $parent[$s] = $parent[$parent[$s]];
            }
            while ($parent[$t] !== $t) {
                $t = $parent[$t] = $parent[$parent[$t]];
            }
            if ($s < $t) {
                $parent[$t] = $s;
            } else {
                $parent[$s] = $t;
            }
        }
        $patchOf = [];
        $number = [];
        foreach ($parent as $t => $p) {
            if (isset($crossing[$t])) {
                $patchOf[] = -1;

                continue;
            }
            while ($parent[$p] !== $p) {
                $p = $parent[$p];
            }
            $patchOf[] = $number[$p] ??= count($number);
        }

        return $patchOf;
    }

    /**
     * @param  list<int>  $patchOf
     * @param  array<int, true>  $crossing
     * @return array<int, array{face: int, area: float, total: float, volume: float, open: bool, cut: bool, from: int}> sample face; whether the patch has a border, and one at crossing faces
     */
    private static function described(Mesh $mesh, array $patchOf, EdgePlaces $edges, array $crossing): array
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $patches = [];
        $nearCrossing = [];
        foreach ($crossing as $t => $_) {
            for ($h = 3 * $t; $h < 3 * $t + 3; $h++) {
                $nearCrossing[$corners[$h]] = true;
            }
        }
        $border = [];
        foreach ([...$edges->open, ...$edges->nonmanifold] as [$a, $b]) {
            $border[$a] = true;
            $border[$b] = true;
        }
        foreach ($patchOf as $t => $p) {
            if ($p < 0) {
                continue;
            }
            $a = 3 * $corners[3 * $t];
            $b = 3 * $corners[3 * $t + 1];
            $c = 3 * $corners[3 * $t + 2];
            [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
            [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $area = $nx * $nx + $ny * $ny + $nz * $nz;
            $patches[$p] ??= ['face' => $t, 'area' => -1.0, 'total' => 0.0, 'volume' => 0.0, 'open' => false, 'cut' => false, 'from' => $a];
            if ($area > $patches[$p]['area']) {
                $patches[$p]['area'] = $area;
                $patches[$p]['face'] = $t;
            }
            $o = $patches[$p]['from'];
            $patches[$p]['total'] += sqrt($area) / 2;
            $patches[$p]['volume'] += ($nx * ($xyz[$a] - $xyz[$o]) + $ny * ($xyz[$a + 1] - $xyz[$o + 1]) + $nz * ($xyz[$a + 2] - $xyz[$o + 2])) / 6;
            for ($h = 3 * $t; $h < 3 * $t + 3; $h++) {
                if (isset($nearCrossing[$corners[$h]])) {
                    $patches[$p]['cut'] = true;
                }
                if (isset($border[$corners[$h]])) {
                    $patches[$p]['open'] = true;
                }
            }
        }

        return $patches;
    }

    /**
     * @param  list<int>  $patchOf
     * @param  array{face: int, area: float, total: float, volume: float, open: bool, cut: bool, from: int}  $patch
     * @param  array{float, float, float}  $ray
     */
    private static function isInside(Mesh $mesh, Tree $tree, array $patchOf, Shells $shells, int $p, array $patch, array $ray): bool
    {
        $corners = $mesh->corners;
        $xyz = $mesh->xyz;
        $from = [0.0, 0.0, 0.0];
        for ($h = 3 * $patch['face']; $h < 3 * $patch['face'] + 3; $h++) {
            for ($k = 0; $k < 3; $k++) {
                $from[$k] += $xyz[3 * $corners[$h] + $k] / 3;
            }
        }
        $shell = $shells->of[$corners[3 * $patch['face']]];
        $winding = $crossed = $others = 0;
        foreach (Rays::hits($mesh, $tree, $from, $ray) as $t => $way) {
            if ($shells->of[$corners[3 * $t]] !== $shell) {
                $others += $way;
            }
            if ($patchOf[$t] !== $p) {
                $winding += $way;
                $crossed++;
            }
        }
        if ($patch['cut']) {
            return $others >= 1;
        }
        // A cavity with a hole in it still holds something; a wall does not.
        if ($patch['open'] && abs($patch['volume']) < self::HOLLOW * $patch['total'] ** 1.5) {
            return $crossed % 2 === 1;
        }

        return $winding - ($patch['volume'] < 0 ? 1 : 0) >= 1;
    }
}
