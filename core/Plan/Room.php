<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Isotome\Fit\BuildSpace;

/** How many times a box is as large as a printer's space, whichever of its sides stands up; a round space counts as the largest square one within it. */
final class Room
{
    private const ORDERS = [[0, 1, 2], [0, 2, 1], [1, 0, 2], [1, 2, 0], [2, 0, 1], [2, 1, 0]];

    /** Share of a side that is rounding. */
    private const ROUNDING = 1e-10;

    /**
     * @param  array{float, float, float}  $size
     * @return array{int, float} slices along its sides, multiplied, where that is least; and between that and the same without rounding up
     */
    public static function taken(array $size, BuildSpace $space): array
    {
        $bed = array_slice($space->inner()->sides(), 0, 3);
        $fewest = PHP_INT_MAX;
        $least = INF;
        foreach (self::ORDERS as $order) {
            $count = 1;
            $share = 1.0;
            foreach ($order as $k => $of) {
                $times = $size[$of] / $bed[$k];
                $count *= max(1, (int) ceil($times - self::ROUNDING));
                $share *= $times > 1.0 ? $times : 1.0;
            }
            if ($count < $fewest || ($count === $fewest && $share < $least)) {
                [$fewest, $least] = [$count, $share];
            }
        }

        return [$fewest, $least];
    }

    /**
     * @param  array{float, float, float}  $size
     * @return list<array{array{int, int, int}, array{float, float, float}}> slices along its sides, and how wide each may be, each way that the box may stand, the fewest first
     */
    public static function ways(array $size, BuildSpace $space): array
    {
        $bed = array_slice($space->inner()->sides(), 0, 3);
        $ways = [];
        foreach (self::ORDERS as $order) {
            $counts = [1, 1, 1];
            $sides = [0.0, 0.0, 0.0];
            foreach ($order as $k => $of) {
                $counts[$of] = max(1, (int) ceil($size[$of] / $bed[$k] - self::ROUNDING));
                $sides[$of] = $bed[$k];
            }
            $ways[implode('×', $sides)] = [$counts, $sides];
        }
        uasort($ways, static fn (array $a, array $b): int => array_product($a[0]) <=> array_product($b[0]));

        return array_values($ways);
    }
}
