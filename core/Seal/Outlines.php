<?php

declare(strict_types=1);

namespace Isotome\Seal;

/**
 * Directed rim edges ordered into outlines.
 *
 * closed  loops that visit no point twice; where outlines touch in a point they are told apart there.
 * open    paths that do not come back, as an open mesh leaves them; as few and as long as possible.
 */
final readonly class Outlines
{
    /**
     * @param  list<list<int>>  $closed
     * @param  list<list<int>>  $open  first to last point
     */
    private function __construct(
        public array $closed,
        public array $open,
    ) {
    }

    /**
     * @param  list<int>  $from
     * @param  list<int>  $to
     */
    public static function of(array $from, array $to): self
    {
        $out = [];
        $surplus = [];
        foreach ($from as $e => $p) {
            $q = $to[$e];
            $out[$p][] = $q;
            $surplus[$p] = ($surplus[$p] ?? 0) + 1;
            $surplus[$q] = ($surplus[$q] ?? 0) - 1;
        }
        $closed = [];
        $open = [];
        // Paths first: what is left then comes back everywhere.
        foreach ($surplus as $start => $count) {
            for (; $count > 0; $count--) {
                $open[] = self::walk($start, $out, $closed);
            }
        }
        foreach (array_keys($out) as $start) {
            while (($out[$start] ?? []) !== []) {
                self::walk($start, $out, $closed);
            }
        }

        return new self($closed, $open);
    }

    /**
     * Follows edges until none goes on, laying aside each loop as it closes.
     *
     * @param  array<int, list<int>>  $out
     * @param  list<list<int>>  $closed
     * @return list<int> what is left of the way
     */
    private static function walk(int $start, array &$out, array &$closed): array
    {
        $way = [$start];
        $place = [$start => 0];
        $p = $start;
        while (($out[$p] ?? []) !== []) {
            $q = array_pop($out[$p]);
            if (isset($place[$q])) {
                $loop = array_splice($way, $place[$q] + 1);
                foreach ($loop as $left) {
                    unset($place[$left]);
                }
                $closed[] = [$q, ...$loop];
            } else {
                $place[$q] = count($way);
                $way[] = $q;
            }
            $p = $q;
        }

        return $way;
    }
}
