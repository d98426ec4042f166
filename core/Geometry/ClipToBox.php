<?php

declare(strict_types=1);

namespace Isotome\Geometry;

/** The part of a polygon that lies within a box or a rectangle (I. E. Sutherland, G. W. Hodgman, "Reentrant polygon clipping", 1974): exact for convex ones, but for rounding. */
final class ClipToBox
{
    /**
     * @param  list<list<float>>  $polygon  corners of as many coordinates as the box has
     * @param  list<float>  $low  least coordinates of the box
     * @param  list<float>  $high  greatest ones
     * @return list<list<float>> none when nothing lies within
     */
    public static function of(array $polygon, array $low, array $high): array
    {
        $left = $polygon;
        foreach ([-1 => $low, 1 => $high] as $sign => $limits) {
            foreach ($limits as $k => $limit) {
                $all = $left;
                $left = [];
                $p = $all[count($all) - 1] ?? [];
                foreach ($all as $q) {
                    $from = $sign * ($p[$k] - $limit);
                    $to = $sign * ($q[$k] - $limit);
                    if (($from < 0.0) !== ($to < 0.0)) {
                        $s = $from / ($from - $to);
                        $left[] = array_map(static fn (float $a, float $b): float => $a + $s * ($b - $a), $p, $q);
                    }
                    if ($to < 0.0) {
                        $left[] = $q;
                    }
                    $p = $q;
                }
            }
        }

        return $left;
    }
}
