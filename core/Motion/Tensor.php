<?php

declare(strict_types=1);

namespace Isotome\Motion;

/** Three by three numbers, row by row: inertia and turns. */
final class Tensor
{
    /**
     * @param  list<float>  $m  nine numbers
     * @param  array{float, float, float}  $v
     * @return array{float, float, float}
     */
    public static function times(array $m, array $v): array
    {
        return [$m[0] * $v[0] + $m[1] * $v[1] + $m[2] * $v[2], $m[3] * $v[0] + $m[4] * $v[1] + $m[5] * $v[2], $m[6] * $v[0] + $m[7] * $v[1] + $m[8] * $v[2]];
    }

    /**
     * @param  list<float>  $m
     * @return list<float>
     */
    public static function inverted(array $m): array
    {
        [$a, $b, $c, $d, $e, $f, $g, $h, $i] = $m;
        $det = $a * ($e * $i - $f * $h) - $b * ($d * $i - $f * $g) + $c * ($d * $h - $e * $g);

        return $det === 0.0 ? array_fill(0, 9, 0.0) : [
            ($e * $i - $f * $h) / $det, ($c * $h - $b * $i) / $det, ($b * $f - $c * $e) / $det, ($f * $g - $d * $i) / $det, ($a * $i - $c * $g) / $det, ($c * $d - $a * $f) / $det,
            ($d * $h - $e * $g) / $det, ($b * $g - $a * $h) / $det, ($a * $e - $b * $d) / $det,
        ];
    }

    /**
     * @param  array{float, float, float, float}  $q
     * @return list<float>
     */
    public static function matrix(array $q): array
    {
        [$x, $y, $z, $w] = $q;

        return [1 - 2 * ($y * $y + $z * $z), 2 * ($x * $y - $w * $z), 2 * ($x * $z + $w * $y), 2 * ($x * $y + $w * $z), 1 - 2 * ($x * $x + $z * $z), 2 * ($y * $z - $w * $x), 2 * ($x * $z - $w * $y), 2 * ($y * $z + $w * $x), 1 - 2 * ($x * $x + $y * $y)];
    }

    /**
     * A tensor as it is turned: R m Rᵀ.
     *
     * @param  list<float>  $m
     * @param  list<float>  $r  the turn
     * @return list<float>
     */
    public static function rotated(array $m, array $r): array
    {
        $t = $out = [];
        for ($i = 0; $i < 3; $i++) {
            for ($j = 0; $j < 3; $j++) {
                $t[] = $r[3 * $i] * $m[$j] + $r[3 * $i + 1] * $m[3 + $j] + $r[3 * $i + 2] * $m[6 + $j];
            }
        }
        for ($i = 0; $i < 3; $i++) {
            for ($j = 0; $j < 3; $j++) {
                $out[] = $t[3 * $i] * $r[3 * $j] + $t[3 * $i + 1] * $r[3 * $j + 1] + $t[3 * $i + 2] * $r[3 * $j + 2];
            }
        }

        return $out;
    }
}
