<?php

declare(strict_types=1);

namespace Isotome\Solid;

/** Triangles of an arrangement that hang together over edges of just two: on either side of all of them every mesh winds equally often. */
final readonly class Patches
{
    /** At an edge with more than two triangles. */
    private const CROWDED = -1;

    /**
     * @param  list<non-empty-list<int>>  $patches
     * @param  array<int, true>  $crowded  points on edges of more than two triangles
     */
    private function __construct(
        public array $patches,
        public array $crowded,
    ) {
    }

    public static function of(Arrangement $all, Windings $windings): self
    {
        $corners = $all->corners;
        $count = count($all->part);
        $root = $count === 0 ? [] : range(0, $count - 1);
        $crowded = [];
        foreach (self::edges($corners) as $key => $two) {
            if ($two === self::CROWDED) {
                $crowded[$key >> 32] = true;
                $crowded[$key & 0xFFFFFFFF] = true;

                continue;
            }
            // Only two that run through it one each way hang together.
            $one = $two & 0xFFFFFFFF;
            $two >>= 32;
            if ($two === 0 || (($one ^ $two) & 1) === 0) {
                continue;
            }
            $t = ($one >> 1) - 1;
            $s = ($two >> 1) - 1;
            if (self::isAlike($all, $windings, $t, $s)) {
                while (($up = $root[$t]) !== $t) {
                    $t = $root[$t] = $root[$up];
                }
                while (($up = $root[$s]) !== $s) {
                    $s = $root[$s] = $root[$up];
                }
                if ($t < $s) {
                    $root[$s] = $t;
                } else {
                    $root[$t] = $s;
                }
            }
        }
        $patches = [];
        for ($t = 0; $t < $count; $t++) {
            $r = $t;
            while (($up = $root[$r]) !== $r) {
                $r = $root[$r] = $root[$up];
            }
            $patches[$r][] = $t;
        }

        return new self(array_values($patches), $crowded);
    }

    /**
     * @param  list<int>  $corners
     * @return array<int, int> of each edge, by its lower and its higher point: both triangles, counted from 1, in 32 bits each, of which the lowest tells which way they run through it
     */
    private static function edges(array $corners): array
    {
        $edges = [];
        for ($i = 0, $count = count($corners); $i < $count; $i++) {
            $p = $corners[$i];
            $q = $corners[$i % 3 === 2 ? $i - 2 : $i + 1];
            $one = (intdiv($i, 3) + 1) << 1;
            if ($p < $q) {
                $key = $p << 32 | $q;
                $one |= 1;
            } else {
                $key = $q << 32 | $p;
            }
            $known = $edges[$key] ?? 0;
            $edges[$key] = $known === 0 ? $one : ($known === self::CROWDED || $known >> 32 !== 0 ? self::CROWDED : $one << 32 | $known);
        }

        return $edges;
    }

    private static function isAlike(Arrangement $all, Windings $windings, int $t, int $s): bool
    {
        if (! isset($all->more[$t]) && ! isset($all->more[$s])) {
            $one = $all->part[$t];
            $two = $all->part[$s];

            return ($one > 0) === ($two > 0) && $all->mesh[abs($one) - 1] === $all->mesh[abs($two) - 1];
        }

        return $windings->between($t) === $windings->between($s);
    }
}
