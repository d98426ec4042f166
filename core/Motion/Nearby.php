<?php

declare(strict_types=1);

namespace Isotome\Motion;

/** What may come near what within a step, by the boxes around bodies: from x, y, z, to x, y, z. */
final class Nearby
{
    /**
     * Pairs whose boxes come near each other: sorted along X and swept (D. Baraff 1992).
     *
     * @param  array<int, array{float, float, float, float, float, float}>  $boxes
     * @param  array<int, float>  $margins
     * @param  array<int, bool>  $moves  two that do not move are no pair
     * @return list<array{int, int}>
     */
    public static function pairs(array $boxes, array $margins, array $moves): array
    {
        $begins = [];
        foreach ($boxes as $n => $box) {
            $begins[$n] = $box[0] - $margins[$n];
        }
        asort($begins);
        $pairs = $open = [];
        foreach ($begins as $n => $from) {
            $box = $boxes[$n];
            $wide = $margins[$n];
            foreach ($open as $m => $_) {
                $other = $boxes[$m];
                $both = $wide + $margins[$m];
                if ($from > $other[3] + $margins[$m]) {
                    unset($open[$m]);
                } elseif (($moves[$n] || $moves[$m]) && $other[4] >= $box[1] - $both && $box[4] >= $other[1] - $both && $other[5] >= $box[2] - $both && $box[5] >= $other[2] - $both) {
                    $pairs[] = $n < $m ? [$n, $m] : [$m, $n];
                }
            }
            $open[$n] = true;
        }
        sort($pairs);

        return $pairs;
    }

    /**
     * Bodies that may come against the floor or something that stands within the step, and what may come against those.
     *
     * @param  list<array{int, int}>  $pairs
     * @param  array<int, array{float, float, float, float, float, float}>  $boxes
     * @param  array<int, float>  $margins
     * @param  array<int, bool>  $moves
     * @param  float|null  $floor  its height
     * @return array<int, true>
     */
    public static function mayBeStopped(array $pairs, array $boxes, array $margins, array $moves, ?float $floor): array
    {
        $beside = $stopped = $open = [];
        foreach ($pairs as [$a, $b]) {
            $beside[$a][] = $b;
            $beside[$b][] = $a;
        }
        foreach ($boxes as $n => $box) {
            if (! $moves[$n] || ($floor !== null && $margins[$n] >= $box[2] - $floor)) {
                $stopped[$n] = true;
                $open[] = $n;
            }
        }
        while ($open !== []) {
            foreach ($beside[array_pop($open)] ?? [] as $other) {
                if (! isset($stopped[$other])) {
                    $stopped[$other] = true;
                    $open[] = $other;
                }
            }
        }

        return $stopped;
    }

    /**
     * @param  array{float, float, float, float, float, float}  $a
     * @param  array{float, float, float, float, float, float}  $b
     */
    public static function areNear(array $a, array $b, float $by): bool
    {
        return $a[0] <= $b[3] + $by && $b[0] <= $a[3] + $by && $a[1] <= $b[4] + $by && $b[1] <= $a[4] + $by && $a[2] <= $b[5] + $by && $b[2] <= $a[5] + $by;
    }
}
