<?php

declare(strict_types=1);

namespace Isotome\Geometry;

/** Affine maps as 12 numbers: the images of the three axes, then of the origin (a 4 × 3 matrix row by row, as 3MF writes it). */
final class Affine
{
    public const IDENTITY = [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0];

    /**
     * First a, then b.
     *
     * @param  list<float>  $a
     * @param  list<float>  $b
     * @return list<float>
     */
    public static function then(array $a, array $b): array
    {
        $product = [];
        for ($row = 0; $row < 4; $row++) {
            for ($column = 0; $column < 3; $column++) {
                $product[] = $a[3 * $row] * $b[$column] + $a[3 * $row + 1] * $b[3 + $column] + $a[3 * $row + 2] * $b[6 + $column]
                    + ($row === 3 ? $b[9 + $column] : 0.0);
            }
        }

        return $product;
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<float>  $m
     * @return list<float>
     */
    public static function points(array $xyz, array $m): array
    {
        if ($m === self::IDENTITY) {
            return $xyz;
        }
        [$xx, $xy, $xz, $yx, $yy, $yz, $zx, $zy, $zz, $dx, $dy, $dz] = $m;
        $moved = [];
        $count = count($xyz);
        for ($i = 0; $i < $count; $i += 3) {
            $x = $xyz[$i];
            $y = $xyz[$i + 1];
            $z = $xyz[$i + 2];
            $moved[] = $x * $xx + $y * $yx + $z * $zx + $dx;
            $moved[] = $x * $xy + $y * $yy + $z * $zy + $dy;
            $moved[] = $x * $xz + $y * $yz + $z * $zz + $dz;
        }

        return $moved;
    }

    /**
     * Corners after the map: turned over when it mirrors.
     *
     * @param  list<int>  $corners
     * @param  list<float>  $m
     * @return list<int>
     */
    public static function corners(array $corners, array $m): array
    {
        $det = $m[0] * ($m[4] * $m[8] - $m[5] * $m[7]) - $m[1] * ($m[3] * $m[8] - $m[5] * $m[6]) + $m[2] * ($m[3] * $m[7] - $m[4] * $m[6]);
        if ($det >= 0) {
            return $corners;
        }
        $turned = [];
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            array_push($turned, $corners[$i], $corners[$i + 2], $corners[$i + 1]);
        }

        return $turned;
    }

    /**
     * Directions after the map: as points, without what it moves.
     *
     * @param  list<float>  $m
     * @param  list<float>  $xyz
     * @return list<float>
     */
    public static function directions(array $xyz, array $m): array
    {
        return self::points($xyz, [...array_slice($m, 0, 9), 0.0, 0.0, 0.0]);
    }

    /**
     * Normals after the map: by the transposed inverse, of no certain length; where the map mirrors, outward stays outward.
     *
     * @param  list<float>  $m
     * @param  list<float>  $xyz
     * @return list<float>
     */
    public static function normals(array $xyz, array $m): array
    {
        $back = self::back($m);

        return self::directions($xyz, [$back[0], $back[3], $back[6], $back[1], $back[4], $back[7], $back[2], $back[5], $back[8]]);
    }

    /**
     * The inverse: of an isometry its transpose, which is not computed with.
     *
     * @param  list<float>  $m  that brings no volume to nothing
     * @return list<float>
     */
    public static function back(array $m): array
    {
        $turned = [$m[0], $m[3], $m[6], $m[1], $m[4], $m[7], $m[2], $m[5], $m[8]];
        $error = 0.0;
        for ($row = 0; $row < 9; $row += 3) {
            for ($other = 0; $other < 9; $other += 3) {
                $error = max($error, abs($m[$row] * $m[$other] + $m[$row + 1] * $m[$other + 1] + $m[$row + 2] * $m[$other + 2] - ($row === $other ? 1.0 : 0.0)));
            }
        }
        if ($error > 1e-9) {
            $turned = self::inverse($m);
        }
        foreach (self::directions([$m[9], $m[10], $m[11]], $turned) as $c) {
            $turned[] = -$c;
        }

        return $turned;
    }

    /**
     * By cofactors.
     *
     * @param  list<float>  $m
     * @return list<float> 9 numbers
     */
    private static function inverse(array $m): array
    {
        $det = $m[0] * ($m[4] * $m[8] - $m[5] * $m[7]) - $m[1] * ($m[3] * $m[8] - $m[5] * $m[6]) + $m[2] * ($m[3] * $m[7] - $m[4] * $m[6]);

        return array_map(static fn (float $cofactor): float => $cofactor / $det, [
            $m[4] * $m[8] - $m[5] * $m[7], $m[2] * $m[7] - $m[1] * $m[8], $m[1] * $m[5] - $m[2] * $m[4],
            $m[5] * $m[6] - $m[3] * $m[8], $m[0] * $m[8] - $m[2] * $m[6], $m[2] * $m[3] - $m[0] * $m[5],
            $m[3] * $m[7] - $m[4] * $m[6], $m[1] * $m[6] - $m[0] * $m[7], $m[0] * $m[4] - $m[1] * $m[3],
        ]);
    }
}
