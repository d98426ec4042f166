<?php

declare(strict_types=1);

namespace Isotome\Solid;

/** Triangles of an arrangement that hang together over edges of just two: on either side of all of them every mesh winds equally often. */
final class Patches
{
    /** @return list<non-empty-list<int>> */
    public static function of(Arrangement $all, Windings $windings): array
    {
        $corners = $all->corners;
        $count = count($all->parts);
        $edges = [];
        for ($t = 0; $t < $count; $t++) {
            for ($k = 0; $k < 3; $k++) {
                $p = $corners[3 * $t + $k];
                $q = $corners[3 * $t + ($k + 1) % 3];
                // Which way it is run through is told by the sign.
                $edges[$p < $q ? $p << 32 | $q : $q << 32 | $p][] = $p < $q ? $t + 1 : -$t - 1;
            }
        }
        $root = $count === 0 ? [] : range(0, $count - 1);
        $find = static function (int $t) use (&$root): int {
            while ($root[$t] !== $t) {
                $root[$t] = $root[$root[$t]];
                $t = $root[$t];
            }

            return $t;
        };
        foreach ($edges as $faces) {
            if (count($faces) === 2 && $faces[0] * $faces[1] < 0) {
                $t = abs($faces[0]) - 1;
                $s = abs($faces[1]) - 1;
                if (self::isAlike($all, $windings, $t, $s)) {
                    $a = $find($t);
                    $b = $find($s);
                    $root[max($a, $b)] = min($a, $b);
                }
            }
        }
        $patches = [];
        for ($t = 0; $t < $count; $t++) {
            $patches[$find($t)][] = $t;
        }

        return array_values($patches);
    }

    private static function isAlike(Arrangement $all, Windings $windings, int $t, int $s): bool
    {
        $one = $all->parts[$t];
        $two = $all->parts[$s];
        if (count($one) === 1 && count($two) === 1) {
            return ($one[0] > 0) === ($two[0] > 0) && $all->mesh[abs($one[0]) - 1] === $all->mesh[abs($two[0]) - 1];
        }

        return $windings->between($t) === $windings->between($s);
    }
}
