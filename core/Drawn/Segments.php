<?php

declare(strict_types=1);

namespace Isotome\Drawn;

/** Segments that divide a page, and what lies on either side of each: 1 ahead, −1 behind, 0 for no word about it. */
final class Segments
{
    /** @var list<array{array{float, float}, array{float, float}}> */
    public array $segments = [];

    /** @var list<int> */
    public array $left = [];

    /** @var list<int> */
    public array $right = [];

    /**
     * @param  list<array{float, float}>  $line
     * @param  bool  $isClosed  the last point is followed by the first
     */
    public function add(array $line, bool $isClosed = false, int $left = 0, int $right = 0): void
    {
        $n = count($line);
        for ($k = 0; $k < ($isClosed ? $n : $n - 1); $k++) {
            $this->segments[] = [$line[$k], $line[($k + 1) % $n]];
            $this->left[] = $left;
            $this->right[] = $right;
        }
    }

    /**
     * @param  array{float, float, float, float}  $with  a rectangle
     * @return array{float, float, float, float} around it and all segments
     */
    public function around(array $with, float $margin): array
    {
        [$u0, $u1, $v0, $v1] = $with;
        foreach ($this->segments as [$p, $q]) {
            $u0 = min($u0, $p[0], $q[0]);
            $u1 = max($u1, $p[0], $q[0]);
            $v0 = min($v0, $p[1], $q[1]);
            $v1 = max($v1, $p[1], $q[1]);
        }

        return [$u0 - $margin, $u1 + $margin, $v0 - $margin, $v1 + $margin];
    }

    /**
     * Ahead of the segments or behind them: on which side they run along each region the longer.
     *
     * @return list<int> 1 or −1
     */
    public function beside(Division $division): array
    {
        $sides = array_fill(0, max(1, $division->regions()), 0);
        foreach ($division->sides as [$n, $onLeft, $onRight]) {
            $sides[$onLeft] += $this->left[$n];
            $sides[$onRight] += $this->right[$n];
        }

        return array_map(static fn (int $side): int => $side < 0 ? -1 : 1, array_values($sides));
    }
}
