<?php

declare(strict_types=1);

namespace Isotome\Geometry;

/**
 * On which side of the plane through a, b, c does d lie? Exact for every input whose products neither over- nor underflow.
 *
 * Source: J. R. Shewchuk (1997), as in Orientation: error bound (7 + 56ε)ε of the determinant of differences.
 */
final class Orientation3
{
    private const FILTER = ErrorBound::ORIENT_3D;

    /**
     * Points as offsets into a list of coordinates, three a point.
     *
     * @param  list<float>  $xyz
     * @return int 1 when a, b, c run counter-clockwise seen from d; −1 on the other side; 0 when all lie on one plane
     */
    public static function of(array $xyz, int $a, int $b, int $c, int $d): int
    {
        $dx = $xyz[$d];
        $dy = $xyz[$d + 1];
        $dz = $xyz[$d + 2];
        $ax = $xyz[$a] - $dx;
        $ay = $xyz[$a + 1] - $dy;
        $az = $xyz[$a + 2] - $dz;
        $bx = $xyz[$b] - $dx;
        $by = $xyz[$b + 1] - $dy;
        $bz = $xyz[$b + 2] - $dz;
        $cx = $xyz[$c] - $dx;
        $cy = $xyz[$c + 1] - $dy;
        $cz = $xyz[$c + 2] - $dz;
        $p1 = $bx * $cy;
        $p2 = $cx * $by;
        $q1 = $cx * $ay;
        $q2 = $ax * $cy;
        $r1 = $ax * $by;
        $r2 = $bx * $ay;
        $det = $az * ($p1 - $p2) + $bz * ($q1 - $q2) + $cz * ($r1 - $r2);
        $bound = self::FILTER * (
            (($p1 < 0 ? -$p1 : $p1) + ($p2 < 0 ? -$p2 : $p2)) * ($az < 0 ? -$az : $az)
            + (($q1 < 0 ? -$q1 : $q1) + ($q2 < 0 ? -$q2 : $q2)) * ($bz < 0 ? -$bz : $bz)
            + (($r1 < 0 ? -$r1 : $r1) + ($r2 < 0 ? -$r2 : $r2)) * ($cz < 0 ? -$cz : $cz)
        );
        // Counter-clockwise seen from d is a negative determinant of the differences.
        if ($det > $bound) {
            return -1;
        }
        if (-$det > $bound) {
            return 1;
        }

        // In a plane square to an axis there is nothing to compute.
        if (($az == 0.0 && $bz == 0.0 && $cz == 0.0) || ($ay == 0.0 && $by == 0.0 && $cy == 0.0) || ($ax == 0.0 && $bx == 0.0 && $cx == 0.0)) {
            return 0;
        }

        return -self::exact($xyz, $a, $b, $c, $d);
    }

    /** @param  list<float>  $xyz */
    private static function exact(array $xyz, int $a, int $b, int $c, int $d): int
    {
        $rows = [];
        foreach ([$a, $b, $c] as $p) {
            $rows[] = [
                Expansion::difference($xyz[$p], $xyz[$d]),
                Expansion::difference($xyz[$p + 1], $xyz[$d + 1]),
                Expansion::difference($xyz[$p + 2], $xyz[$d + 2]),
            ];
        }
        $det = [];
        foreach ([[0, 1, 2], [1, 2, 0], [2, 0, 1]] as [$i, $j, $k]) {
            $minor = Expansion::sum(
                Expansion::product($rows[$j][0], $rows[$k][1]),
                Expansion::negative(Expansion::product($rows[$k][0], $rows[$j][1])),
            );
            $det = Expansion::sum($det, Expansion::product($rows[$i][2], $minor));
        }

        return Expansion::sign($det);
    }
}
