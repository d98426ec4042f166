<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Mesh\Mesh;

/**
 * The surface of a shape as a watertight mesh.
 *
 * Marching tetrahedra on a cubic grid, six to a cube around its long diagonal (A. Doi, A. Koide, "An efficient method of
 * triangulating equi-valued surfaces by using tetrahedral cells", IEICE Transactions E74, 1991): every edge of the result
 * has exactly two faces. Then vertices are drawn to the middle of their neighbours and back onto the surface a few times,
 * which takes the slivers out.
 */
final class ImplicitSurface
{
    /** The tetrahedra of a cube; corner c of the cube lies at (c & 1, c >> 1 & 1, c >> 2 & 1). */
    private const TETRAHEDRA = [[0, 1, 3, 7], [0, 3, 2, 7], [0, 2, 6, 7], [0, 6, 4, 7], [0, 4, 5, 7], [0, 5, 1, 7]];

    private const BLOCK = 8;

    /** @param  float  $step edge of the grid's cubes, mm */
    public static function of(Shape $shape, float $step, int $rounds = 3): Mesh
    {
        [$low, $high] = $shape->box();
        $cubes = [];
        $counts = [];
        for ($k = 0; $k < 3; $k++) {
            $counts[$k] = (int) ceil(($high[$k] - $low[$k]) / ($step * self::BLOCK)) * self::BLOCK;
        }
        [$nx, $ny, $nz] = $counts;
        $row = $nx + 1;
        $layer = $row * ($ny + 1);
        $value = [];
        $half = $step * self::BLOCK / 2;
        $reach = $half * sqrt(3.0) + $step;
        for ($bz = 0; $bz < $nz; $bz += self::BLOCK) {
            for ($by = 0; $by < $ny; $by += self::BLOCK) {
                for ($bx = 0; $bx < $nx; $bx += self::BLOCK) {
                    $d = $shape->distance($low[0] + $bx * $step + $half, $low[1] + $by * $step + $half, $low[2] + $bz * $step + $half);
                    if (abs($d) > $reach) {
                        continue;
                    }
                    for ($z = $bz; $z <= $bz + self::BLOCK; $z++) {
                        for ($y = $by; $y <= $by + self::BLOCK; $y++) {
                            for ($x = $bx; $x <= $bx + self::BLOCK; $x++) {
                                $n = $x + $row * $y + $layer * $z;
                                $value[$n] ??= $shape->distance($low[0] + $x * $step, $low[1] + $y * $step, $low[2] + $z * $step);
                            }
                        }
                    }
                    for ($z = $bz; $z < $bz + self::BLOCK; $z++) {
                        for ($y = $by; $y < $by + self::BLOCK; $y++) {
                            for ($x = $bx; $x < $bx + self::BLOCK; $x++) {
                                $cubes[] = $x + $row * $y + $layer * $z;
                            }
                        }
                    }
                }
            }
        }
        [$xyz, $corners] = self::march($cubes, $value, $row, $layer, $low, $step);
        $xyz = self::relax($shape, $xyz, $corners, $step, $rounds);

        return Mesh::of($xyz, $corners);
    }

    /**
     * @param  list<int>  $cubes
     * @param  array<int, float>  $value
     * @param  array{float, float, float}  $low
     * @return array{list<float>, list<int>}
     */
    private static function march(array $cubes, array $value, int $row, int $layer, array $low, float $step): array
    {
        $offset = [];
        for ($c = 0; $c < 8; $c++) {
            $offset[] = ($c & 1) + $row * ($c >> 1 & 1) + $layer * ($c >> 2 & 1);
        }
        $xyz = [];
        $corners = [];
        $onEdge = [];
        $point = static function (int $a, int $b) use (&$xyz, &$onEdge, $value, $row, $layer, $low, $step): int {
            [$a, $b] = $a < $b ? [$a, $b] : [$b, $a];
            $known = $onEdge["$a $b"] ?? null;
            if ($known !== null) {
                return $known;
            }
            $t = max(0.02, min(0.98, $value[$a] / ($value[$a] - $value[$b])));
            foreach ([[1, $row], [$row, $layer], [$layer, PHP_INT_MAX]] as $k => [$unit, $next]) {
                $ca = intdiv($a % $next, $unit);
                $cb = intdiv($b % $next, $unit);
                $xyz[] = $low[$k] + $step * ($ca + $t * ($cb - $ca));
            }

            return $onEdge["$a $b"] = intdiv(count($xyz), 3) - 1;
        };
        foreach ($cubes as $cube) {
            $inside = 0;
            foreach ($offset as $c => $o) {
                if ($value[$cube + $o] < 0) {
                    $inside |= 1 << $c;
                }
            }
            if ($inside === 0 || $inside === 255) {
                continue;
            }
            foreach (self::TETRAHEDRA as $tetrahedron) {
                $in = [];
                $out = [];
                foreach ($tetrahedron as $c) {
                    if ($inside >> $c & 1) {
                        $in[] = $c;
                    } else {
                        $out[] = $c;
                    }
                }
                if ($in === [] || $out === []) {
                    continue;
                }
                // The order of the four corners is right-handed when it can be sorted by an even number of swaps.
                $even = self::even([...$in, ...$out], $tetrahedron);
                $p = static fn (int $a, int $b): int => $point($cube + $offset[$a], $cube + $offset[$b]);
                $made = match (count($in)) {
                    1 => [[$p($in[0], $out[0]), $p($in[0], $out[1]), $p($in[0], $out[2])]],
                    3 => [[$p($in[0], $out[0]), $p($in[1], $out[0]), $p($in[2], $out[0])]],
                    default => [
                        [$p($in[0], $out[0]), $p($in[0], $out[1]), $p($in[1], $out[1])],
                        [$p($in[0], $out[0]), $p($in[1], $out[1]), $p($in[1], $out[0])],
                    ],
                };
                foreach ($made as [$a, $b, $c]) {
                    array_push($corners, ...($even ? [$a, $b, $c] : [$a, $c, $b]));
                }
            }
        }

        return [$xyz, $corners];
    }

    /**
     * @param  list<int>  $order
     * @param  list<int>  $of
     */
    private static function even(array $order, array $of): bool
    {
        $even = true;
        for ($i = 0; $i < 4; $i++) {
            for ($j = $i + 1; $j < 4; $j++) {
                if (array_search($order[$i], $of, true) > array_search($order[$j], $of, true)) {
                    $even = ! $even;
                }
            }
        }

        return $even;
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @return list<float>
     */
    private static function relax(Shape $shape, array $xyz, array $corners, float $step, int $rounds): array
    {
        $vertices = intdiv(count($xyz), 3);
        $h = 0.25 * $step;
        for ($round = 0; $round < $rounds; $round++) {
            $sum = array_fill(0, 3 * $vertices, 0.0);
            $degree = array_fill(0, $vertices, 0);
            for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
                for ($k = 0; $k < 3; $k++) {
                    $a = $corners[$i + $k];
                    $b = 3 * $corners[$i + ($k + 1) % 3];
                    $degree[$a]++;
                    $sum[3 * $a] += $xyz[$b];
                    $sum[3 * $a + 1] += $xyz[$b + 1];
                    $sum[3 * $a + 2] += $xyz[$b + 2];
                }
            }
            for ($v = 0; $v < $vertices; $v++) {
                $i = 3 * $v;
                $x = 0.4 * $xyz[$i] + 0.6 * $sum[$i] / $degree[$v];
                $y = 0.4 * $xyz[$i + 1] + 0.6 * $sum[$i + 1] / $degree[$v];
                $z = 0.4 * $xyz[$i + 2] + 0.6 * $sum[$i + 2] / $degree[$v];
                $d = $shape->distance($x, $y, $z);
                $gx = $shape->distance($x + $h, $y, $z) - $d;
                $gy = $shape->distance($x, $y + $h, $z) - $d;
                $gz = $shape->distance($x, $y, $z + $h) - $d;
                $square = $gx * $gx + $gy * $gy + $gz * $gz;
                $move = $square > 0 ? -$d * $h / $square : 0.0;
                $limit = 0.5 * $step / max(sqrt($square), 1e-9);
                $move = max(-$limit, min($limit, $move));
                $xyz[$i] = $x + $move * $gx;
                $xyz[$i + 1] = $y + $move * $gy;
                $xyz[$i + 2] = $z + $move * $gz;
            }
        }

        return array_values($xyz);
    }
}
