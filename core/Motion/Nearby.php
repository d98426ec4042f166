<?php

declare(strict_types=1);

namespace Isotome\Motion;

/** What may come near what within a step, by the boxes around bodies: from x, y, z, to x, y, z. A pair is one number: that of the body that comes first, times 2²⁰, plus the other one's. */
final class Nearby
{
    /** mm/s, and radians a second: what moves alike within this falls as one. */
    private const ALIKE = 1e-3;

    public static function pair(int $a, int $b): int
    {
        return $a < $b ? $a << 20 | $b : $b << 20 | $a;
    }

    /**
     * Pairs whose boxes come near each other: sorted along X and swept (D. Baraff 1992).
     *
     * @param  array<int, array{float, float, float, float, float, float}>  $boxes
     * @param  array<int, float>  $margins
     * @param  array<int, bool>  $moves  two that do not move are no pair
     * @return list<int> in ascending order
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
            [, $y0, $z0, $x1, $y1, $z1] = $boxes[$n];
            $wide = $margins[$n];
            $y0 -= $wide;
            $z0 -= $wide;
            $y1 += $wide;
            $z1 += $wide;
            $itMoves = $moves[$n];
            // Those that end before this one begins end before all that follow, too.
            foreach ($open as $m => [$u, $v, $w, $p, $q]) {
                if ($from > $u) {
                    unset($open[$m]);
                } elseif ($y0 <= $p && $y1 >= $v && $z0 <= $q && $z1 >= $w && ($itMoves || $moves[$m])) {
                    $pairs[] = $n < $m ? $n << 20 | $m : $m << 20 | $n;
                }
            }
            $open[$n] = [$x1 + $wide, $y0, $z0, $y1, $z1];
        }
        sort($pairs);

        return $pairs;
    }

    /**
     * Bodies that may come against the floor or something that stands within the step, and what may come against those.
     *
     * @param  list<int>  $pairs
     * @param  array<int, array{float, float, float, float, float, float}>  $boxes
     * @param  array<int, float>  $margins
     * @param  array<int, bool>  $moves
     * @param  float|null  $floor  its height
     * @return array<int, true>
     */
    public static function mayBeStopped(array $pairs, array $boxes, array $margins, array $moves, ?float $floor): array
    {
        $beside = $stopped = $open = [];
        foreach ($pairs as $pair) {
            $beside[$pair >> 20][] = $pair & 0xFFFFF;
            $beside[$pair & 0xFFFFF][] = $pair >> 20;
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
     * Bodies that fall freely, all of them alike with what is near them, and do not spin: nothing presses there.
     *
     * @param  list<int>  $pairs  what is near, or holds together
     * @param  array<int, true>  $stopped  what may be stopped within the step
     * @param  list<array{float, float, float}>  $speeds
     * @param  list<array{float, float, float}>  $spins
     * @return array<int, true>
     */
    public static function calm(array $pairs, array $stopped, array $speeds, array $spins): array
    {
        $root = array_keys($speeds);
        $find = static function (int $n) use (&$root): int {
            while ($root[$n] !== $n) {
                $n = $root[$n] = $root[$root[$n]];
            }

            return $n;
        };
        $isOther = [];
        foreach ($pairs as $pair) {
            $a = $pair >> 20;
            $b = $pair & 0xFFFFF;
            $root[$find($a)] = $find($b);
            $by = $spins[$a][0] ** 2 + $spins[$a][1] ** 2 + $spins[$a][2] ** 2 + $spins[$b][0] ** 2 + $spins[$b][1] ** 2 + $spins[$b][2] ** 2
                + ($speeds[$a][0] - $speeds[$b][0]) ** 2 + ($speeds[$a][1] - $speeds[$b][1]) ** 2 + ($speeds[$a][2] - $speeds[$b][2]) ** 2;
            if ($by > self::ALIKE ** 2 || isset($stopped[$a]) || isset($stopped[$b])) {
                $isOther[$a] = true;
            }
        }
        $roots = [];
        foreach ($isOther as $n => $_) {
            $roots[$find($n)] = true;
        }
        $calm = [];
        foreach ($root as $n => $_) {
            if (! isset($roots[$find($n)])) {
                $calm[$n] = true;
            }
        }

        return $calm;
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
