<?php

declare(strict_types=1);

namespace Isotome\Plate;

/** Strips across the page, and what is covered of them. */
final class Strip
{
    /**
     * How far a convex polygon reaches along x within a strip.
     *
     * @param  list<array{float, float}>  $polygon
     * @return array{float, float} from, to; from more than to when it does not reach into the strip
     */
    public static function reach(array $polygon, float $bottom, float $top): array
    {
        $low = INF;
        $high = -INF;
        [$px, $py] = $polygon[count($polygon) - 1];
        foreach ($polygon as [$qx, $qy]) {
            [$ax, $ay, $bx, $by] = $py > $qy ? [$qx, $qy, $px, $py] : [$px, $py, $qx, $qy];
            [$px, $py] = [$qx, $qy];
            if ($by < $bottom || $ay > $top) {
                continue;
            }
            $slope = $by > $ay ? ($bx - $ax) / ($by - $ay) : 0.0;
            $one = $by > $ay ? $ax + $slope * (($ay > $bottom ? $ay : $bottom) - $ay) : $ax;
            $other = $by > $ay ? $ax + $slope * (($by < $top ? $by : $top) - $ay) : $bx;
            $low = min($low, $one, $other);
            $high = max($high, $one, $other);
        }

        return [$low, $high];
    }

    /**
     * Stretches that meet or overlap become one.
     *
     * @param  array<int, int>  $stretches  ends by beginnings
     * @return list<array{int, int}> beginnings and ends, in their order
     */
    public static function joined(array $stretches): array
    {
        ksort($stretches);
        $joined = [];
        $begin = $end = null;
        foreach ($stretches as $from => $to) {
            if ($end !== null && $from <= $end) {
                $end = max($end, $to);

                continue;
            }
            if ($begin !== null && $end !== null) {
                $joined[] = [$begin, $end];
            }
            [$begin, $end] = [$from, $to];
        }
        if ($begin !== null && $end !== null) {
            $joined[] = [$begin, $end];
        }

        return $joined;
    }
}
