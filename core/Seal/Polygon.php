<?php

declare(strict_types=1);

namespace Isotome\Seal;

use Isotome\Geometry\Orientation;

/** Questions about one closed outline on the page. */
final class Polygon
{
    /**
     * Signed area by the trapezoid sum, taken from the first point so that places far from the origin lose no digits.
     *
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $loop
     */
    public static function area(array $x, array $y, array $loop): float
    {
        $x0 = $x[$loop[0]];
        $y0 = $y[$loop[0]];
        $last = $loop[count($loop) - 1];
        $px = $x[$last] - $x0;
        $py = $y[$last] - $y0;
        $sum = 0.0;
        foreach ($loop as $p) {
            $qx = $x[$p] - $x0;
            $qy = $y[$p] - $y0;
            $sum += $px * $qy - $py * $qx;
            $px = $qx;
            $py = $qy;
        }

        return $sum / 2;
    }

    /**
     * Does the outline enclose the point? Even-odd rule, decided exactly; a point on the outline may go either way.
     *
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $loop
     */
    public static function encloses(array $x, array $y, array $loop, float $px, float $py): bool
    {
        $inside = false;
        $p = $loop[count($loop) - 1];
        foreach ($loop as $q) {
            $up = $y[$p] <= $py && $y[$q] > $py;
            if ($up || ($y[$q] <= $py && $y[$p] > $py)) {
                $turn = Orientation::of($x[$p], $y[$p], $x[$q], $y[$q], $px, $py);
                if ($up ? $turn > 0 : $turn < 0) {
                    $inside = ! $inside;
                }
            }
            $p = $q;
        }

        return $inside;
    }
}
