<?php

declare(strict_types=1);

namespace Isotome\Measure;

/**
 * Places of a profile that are good for a cut: local minima of the section's area that stand out, so that the cut face is small and lies in
 * a waist. A minimum stands out when the area rises on both sides, before the next lower place or the end, by the given share of
 * itself (topographic prominence).
 */
final class GoodPlaces
{
    private const PROMINENCE = 0.08;

    /**
     * @param  list<float>  $positions
     * @param  list<float>  $areas
     * @return list<float> positions, ascending
     */
    public static function of(array $positions, array $areas): array
    {
        $good = [];
        $count = count($areas);
        for ($n = 1; $n < $count - 1; $n++) {
            $area = $areas[$n];
            if ($area <= 0.0 || $areas[$n - 1] < $area || $areas[$n + 1] <= $area && $areas[$n + 1] !== $area) {
                continue;
            }
            // Of a flat valley its middle is meant.
            $end = $n;
            while ($end + 1 < $count && $areas[$end + 1] === $area) {
                $end++;
            }
            if (self::rises($areas, $n, -1) && self::rises($areas, $end, 1)) {
                $good[] = ($positions[$n] + $positions[$end]) / 2;
            }
            $n = $end;
        }

        return $good;
    }

    /** @param  list<float>  $areas */
    private static function rises(array $areas, int $from, int $by): bool
    {
        $area = $areas[$from];
        for ($n = $from + $by; isset($areas[$n]); $n += $by) {
            if ($areas[$n] < $area) {
                return false;
            }
            if ($areas[$n] > $area * (1 + self::PROMINENCE)) {
                return true;
            }
        }

        return false;
    }
}
