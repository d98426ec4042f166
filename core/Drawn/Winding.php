<?php

declare(strict_types=1);

namespace Isotome\Drawn;

/** How loops of a page run round a place, counted along a ray to the right. For places that are not on them. */
final class Winding
{
    /**
     * How often they go round it: counter-clockwise counts 1, clockwise −1.
     *
     * @param  list<list<array{float, float}>>  $loops
     */
    public static function total(array $loops, float $u, float $v): int
    {
        return self::count($loops, $u, $v, true);
    }

    /**
     * How often the ray crosses them, whichever way.
     *
     * @param  list<list<array{float, float}>>  $loops
     */
    public static function crossings(array $loops, float $u, float $v): int
    {
        return self::count($loops, $u, $v, false);
    }

    /** @param  list<list<array{float, float}>>  $loops */
    private static function count(array $loops, float $u, float $v, bool $isSigned): int
    {
        $sum = 0;
        foreach ($loops as $loop) {
            [$x0, $y0] = $loop[count($loop) - 1];
            foreach ($loop as [$x1, $y1]) {
                if (($y0 <= $v) !== ($y1 <= $v) && $x0 + ($v - $y0) / ($y1 - $y0) * ($x1 - $x0) > $u) {
                    $sum += ! $isSigned || $y1 > $y0 ? 1 : -1;
                }
                [$x0, $y0] = [$x1, $y1];
            }
        }

        return $sum;
    }
}
