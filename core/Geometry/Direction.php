<?php

declare(strict_types=1);

namespace Isotome\Geometry;

/** Directions of any length. */
final class Direction
{
    /**
     * The unit vector along a direction. Scaled first, so that neither tiny nor huge directions lose their length to underflow or overflow.
     *
     * @param  array{float, float, float}  $of
     * @return array{float, float, float}|null null when it has no direction: 0, 0, 0, or a number that is not finite
     */
    public static function unit(array $of): ?array
    {
        $largest = max(abs($of[0]), abs($of[1]), abs($of[2]));
        if ($largest === 0.0 || ! is_finite($of[0]) || ! is_finite($of[1]) || ! is_finite($of[2])) {
            return null;
        }
        [$x, $y, $z] = [$of[0] / $largest, $of[1] / $largest, $of[2] / $largest];
        $length = sqrt($x * $x + $y * $y + $z * $z);

        return [$x / $length, $y / $length, $z / $length];
    }
}
