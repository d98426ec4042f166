<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Geometry\Plane;
use Isotome\Seal\PlanarMesh;
use Isotome\Seal\RimTriangulation;

/**
 * Triangles of about one size in a flat convex facet whose rim has its points already: squares of a grid inside, halved, and between these and the rim what fits, its edges turned where that makes
 * better triangles (C. L. Lawson 1977).
 */
final class EvenFacet
{
    /** How far from the rim the grid stays, in lengths of an edge. */
    private const AWAY = 0.5;

    /**
     * @param  list<float>  $xyz  new vertices are added, mm
     * @param  list<int>  $loop  corners of the facet, counter-clockwise seen from ahead; convex
     * @param  list<int>  $rim  the same with the points between
     * @param  array{float, float, float, float}  $plane  unit normal towards ahead, and distance from the origin
     * @param  array{float, float, float, float, float, float}  $box  least x, y, z, greatest x, y, z: the grid is not needed beyond
     * @return list<int> triangles, counter-clockwise seen from ahead
     */
    public static function of(array &$xyz, array $loop, array $rim, array $plane, float $edge, array $box): array
    {
        $n = count($rim);
        if ($n === 3) {
            return $rim;
        }
        // Both sides of a kerf have the same grid: it is counted from the foot of the origin, and for a facing and its opposite the same way.
        $isTurned = $plane[2] < 0.0 || ($plane[2] == 0.0 && ($plane[1] < 0.0 || ($plane[1] == 0.0 && $plane[0] < 0.0)));
        $sign = $isTurned ? -1.0 : 1.0;
        [$right, $up] = Plane::at($sign * $plane[3], [$sign * $plane[0], $sign * $plane[1], $sign * $plane[2]])->directions();
        $origin = [$plane[3] * $plane[0], $plane[3] * $plane[1], $plane[3] * $plane[2]];
        if ($isTurned) {
            $loop = array_reverse($loop);
            $rim = array_reverse($rim);
        }
        $u = $v = $from = $to = [];
        foreach ($rim as $k => $p) {
            [$u[$p], $v[$p]] = self::flat($xyz, $p, $origin, $right, $up);
            $from[] = $p;
            $to[] = $rim[$k + 1 < $n ? $k + 1 : 0];
        }
        $squares = self::squares(self::sides($loop, $u, $v, $edge), self::slabs($box, $origin, $right, $up), $edge, $v);
        $flat = null;
        $inner = [];
        if ($squares !== []) {
            $before = count($xyz);
            [$inner, $innerFrom, $innerTo] = self::grid($squares, $edge, $xyz, $u, $v, $origin, $right, $up);
            $flat = RimTriangulation::of($u, $v, [...$from, ...$innerFrom], [...$to, ...$innerTo]);
            if (! $flat->sound || $flat->unclosed !== []) {
                array_splice($xyz, $before);
                $inner = [];
                $flat = null;
            }
        }
        $flat ??= RimTriangulation::of($u, $v, $from, $to);
        $between = new PlanarMesh($flat->triangles, $u, $v, $u, $v);
        $between->relax(array_keys($between->corner));

        $triangles = [...$inner, ...array_values($between->corner)];

        return $isTurned ? array_reverse($triangles) : $triangles;
    }

    /**
     * @param  list<float>  $xyz
     * @param  array{float, float, float}  $origin
     * @param  array{float, float, float}  $right
     * @param  array{float, float, float}  $up
     * @return array{float, float}
     */
    private static function flat(array $xyz, int $p, array $origin, array $right, array $up): array
    {
        $x = $xyz[3 * $p] - $origin[0];
        $y = $xyz[3 * $p + 1] - $origin[1];
        $z = $xyz[3 * $p + 2] - $origin[2];

        return [$x * $right[0] + $y * $right[1] + $z * $right[2], $x * $up[0] + $y * $up[1] + $z * $up[2]];
    }

    /**
     * The area where grid points may be: at least so far from each side.
     *
     * @param  list<int>  $loop
     * @param  array<int, float>  $u
     * @param  array<int, float>  $v
     * @return list<array{float, float, float}> a, b, c: where a u + b v is at most c
     */
    private static function sides(array $loop, array $u, array $v, float $edge): array
    {
        $sides = [];
        $p = $loop[count($loop) - 1];
        foreach ($loop as $q) {
            $du = $u[$q] - $u[$p];
            $dv = $v[$q] - $v[$p];
            $length = sqrt($du * $du + $dv * $dv);
            if ($length > 0.0) {
                $sides[] = [$dv / $length, -$du / $length, ($dv * $u[$p] - $du * $v[$p]) / $length - self::AWAY * $edge];
            }
            $p = $q;
        }

        return $sides;
    }

    /**
     * What lies within the box.
     *
     * @param  array{float, float, float, float, float, float}  $box
     * @param  array{float, float, float}  $origin
     * @param  array{float, float, float}  $right
     * @param  array{float, float, float}  $up
     * @return list<array{float, float, float}> as the sides
     */
    private static function slabs(array $box, array $origin, array $right, array $up): array
    {
        $slabs = [];
        for ($k = 0; $k < 3; $k++) {
            $slabs[] = [$right[$k], $up[$k], $box[$k + 3] - $origin[$k]];
            $slabs[] = [-$right[$k], -$up[$k], $origin[$k] - $box[$k]];
        }

        return $slabs;
    }

    /**
     * The squares all of whose corners may be there, row by row.
     *
     * @param  list<array{float, float, float}>  $sides
     * @param  list<array{float, float, float}>  $slabs
     * @param  array<int, float>  $v
     * @return array<int, array{int, int}> row → first and last square
     */
    private static function squares(array $sides, array $slabs, float $edge, array $v): array
    {
        if ($v === []) {
            return [];
        }
        $rows = $squares = [];
        $last = (int) floor(max($v) / $edge);
        for ($j = (int) ceil(min($v) / $edge); $j <= $last; $j++) {
            [$low, $high] = [-INF, INF];
            foreach ([$sides, $slabs] as $some) {
                foreach ($some as [$a, $b, $c]) {
                    $room = $c - $b * $j * $edge;
                    if ($a > 1e-12) {
                        $high = min($high, $room / $a);
                    } elseif ($a < -1e-12) {
                        $low = max($low, $room / $a);
                    } elseif ($room < 0.0) {
                        $high = -INF;
                    }
                }
            }
            if ($low <= $high) {
                $rows[$j] = [(int) ceil($low / $edge), (int) floor($high / $edge)];
            }
        }
        foreach ($rows as $j => [$first, $end]) {
            if (isset($rows[$j + 1])) {
                $first = max($first, $rows[$j + 1][0]);
                $end = min($end, $rows[$j + 1][1]) - 1;
                if ($first <= $end) {
                    $squares[$j] = [$first, $end];
                }
            }
        }

        return $squares;
    }

    /**
     * @param  array<int, array{int, int}>  $squares
     * @param  list<float>  $xyz
     * @param  array<int, float>  $u
     * @param  array<int, float>  $v
     * @param  array{float, float, float}  $origin
     * @param  array{float, float, float}  $right
     * @param  array{float, float, float}  $up
     * @return array{list<int>, list<int>, list<int>} triangles, and the edges around them, what is left between them and the rim to their left
     */
    private static function grid(array $squares, float $edge, array &$xyz, array &$u, array &$v, array $origin, array $right, array $up): array
    {
        $number = $triangles = $from = $to = [];
        $at = static function (int $i, int $j) use (&$number, &$xyz, &$u, &$v, $edge, $origin, $right, $up): int {
            if (isset($number[$j][$i])) {
                return $number[$j][$i];
            }
            $p = intdiv(count($xyz), 3);
            $number[$j][$i] = $p;
            $u[$p] = $a = $i * $edge;
            $v[$p] = $b = $j * $edge;
            for ($k = 0; $k < 3; $k++) {
                $xyz[] = $origin[$k] + $a * $right[$k] + $b * $up[$k];
            }

            return $p;
        };
        $has = static fn (int $i, int $j): bool => isset($squares[$j]) && $squares[$j][0] <= $i && $i <= $squares[$j][1];
        foreach ($squares as $j => [$first, $last]) {
            for ($i = $first; $i <= $last; $i++) {
                [$a, $b, $c, $d] = [$at($i, $j), $at($i + 1, $j), $at($i + 1, $j + 1), $at($i, $j + 1)];
                // Diagonals in turn, so that no direction is preferred.
                array_push($triangles, ...(($i + $j) % 2 === 0 ? [$a, $b, $c, $a, $c, $d] : [$a, $b, $d, $b, $c, $d]));
                foreach ([[$i, $j - 1, $b, $a], [$i + 1, $j, $c, $b], [$i, $j + 1, $d, $c], [$i - 1, $j, $a, $d]] as [$k, $l, $p, $q]) {
                    if (! $has($k, $l)) {
                        $from[] = $p;
                        $to[] = $q;
                    }
                }
            }
        }

        return [$triangles, $from, $to];
    }
}
