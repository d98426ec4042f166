<?php

declare(strict_types=1);

namespace Isotome\Cells;

/** Areas in which triangles of different pieces lie on each other, back to back in one plane. */
final class CommonFaces
{
    /** Share of the size within which two triangles lie in one plane. */
    private const FLAT = 1e-9;

    /**
     * @param  list<array{int, list<array{float, float, float}>}>  $triangles  piece and corners
     * @param  callable(int, int, float): void  $found
     */
    public static function between(array $triangles, callable $found): void
    {
        $size = 0.0;
        $sorted = [];
        foreach ($triangles as [$piece, $c]) {
            $u = [$c[1][0] - $c[0][0], $c[1][1] - $c[0][1], $c[1][2] - $c[0][2]];
            $v = [$c[2][0] - $c[0][0], $c[2][1] - $c[0][1], $c[2][2] - $c[0][2]];
            $n = [$u[1] * $v[2] - $u[2] * $v[1], $u[2] * $v[0] - $u[0] * $v[2], $u[0] * $v[1] - $u[1] * $v[0]];
            $length = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);
            if ($length <= 0.0) {
                continue;
            }
            $n = [$n[0] / $length, $n[1] / $length, $n[2] / $length];
            $sorted[] = [
                min($c[0][0], $c[1][0], $c[2][0]), max($c[0][0], $c[1][0], $c[2][0]), min($c[0][1], $c[1][1], $c[2][1]), max($c[0][1], $c[1][1], $c[2][1]),
                min($c[0][2], $c[1][2], $c[2][2]), max($c[0][2], $c[1][2], $c[2][2]), $piece, $c, $n, $n[0] * $c[0][0] + $n[1] * $c[0][1] + $n[2] * $c[0][2],
            ];
            foreach ($c as $p) {
                $size = max($size, abs($p[0]), abs($p[1]), abs($p[2]));
            }
        }
        $hair = max(1e-300, self::FLAT * $size);
        usort($sorted, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
        $open = [];
        foreach ($sorted as $i => $one) {
            foreach ($open as $j => $other) {
                if ($other[1] < $one[0] - $hair) {
                    unset($open[$j]);

                    continue;
                }
                if ($other[6] === $one[6] || $other[3] < $one[2] || $one[3] < $other[2] || $other[5] < $one[4] || $one[5] < $other[4]) {
                    continue;
                }
                if (abs($one[9] + $other[9]) > $hair || $one[8][0] * $other[8][0] + $one[8][1] * $other[8][1] + $one[8][2] * $other[8][2] > -1 + 1e-9) {
                    continue;
                }
                $area = self::common($one[7], $other[7], $one[8]);
                if ($area > $hair * $hair) {
                    $found($other[6], $one[6], $area);
                }
            }
            $open[$i] = $one;
        }
    }

    /**
     * One clipped by the other's edges (I. E. Sutherland, G. W. Hodgman 1974), seen along the normal.
     *
     * @param  list<array{float, float, float}>  $one
     * @param  list<array{float, float, float}>  $other  running the other way round
     * @param  array{float, float, float}  $n
     */
    private static function common(array $one, array $other, array $n): float
    {
        $polygon = $one;
        for ($e = 0; $e < 3 && $polygon !== []; $e++) {
            $p = $other[(3 - $e) % 3];
            $q = $other[2 - $e];
            $d = [$q[0] - $p[0], $q[1] - $p[1], $q[2] - $p[2]];
            // Left of the edge, seen against the normal.
            $in = [$n[1] * $d[2] - $n[2] * $d[1], $n[2] * $d[0] - $n[0] * $d[2], $n[0] * $d[1] - $n[1] * $d[0]];
            $left = [];
            $last = $polygon[count($polygon) - 1];
            $lastSide = $in[0] * ($last[0] - $p[0]) + $in[1] * ($last[1] - $p[1]) + $in[2] * ($last[2] - $p[2]);
            foreach ($polygon as $at) {
                $side = $in[0] * ($at[0] - $p[0]) + $in[1] * ($at[1] - $p[1]) + $in[2] * ($at[2] - $p[2]);
                if (($side > 0 && $lastSide < 0) || ($side < 0 && $lastSide > 0)) {
                    $t = $lastSide / ($lastSide - $side);
                    $left[] = [$last[0] + $t * ($at[0] - $last[0]), $last[1] + $t * ($at[1] - $last[1]), $last[2] + $t * ($at[2] - $last[2])];
                }
                if ($side >= 0) {
                    $left[] = $at;
                }
                [$last, $lastSide] = [$at, $side];
            }
            $polygon = $left;
        }
        $area = 0.0;
        for ($i = 1; $i + 1 < count($polygon); $i++) {
            $u = [$polygon[$i][0] - $polygon[0][0], $polygon[$i][1] - $polygon[0][1], $polygon[$i][2] - $polygon[0][2]];
            $v = [$polygon[$i + 1][0] - $polygon[0][0], $polygon[$i + 1][1] - $polygon[0][1], $polygon[$i + 1][2] - $polygon[0][2]];
            $area += ($n[0] * ($u[1] * $v[2] - $u[2] * $v[1]) + $n[1] * ($u[2] * $v[0] - $u[0] * $v[2]) + $n[2] * ($u[0] * $v[1] - $u[1] * $v[0])) / 2;
        }

        return $area;
    }
}
