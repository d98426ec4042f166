<?php

declare(strict_types=1);

namespace Isotome\Cells;

/** Planes with all facets of a complex that cut on one side of them. What is beyond a plane is in one shard: most of a body need not be looked at any further. */
final readonly class Bounds
{
    /**
     * @param  list<array{float, float, float, float}>  $planes  unit normal, away from the facets, and distance from the origin, mm
     * @param  list<int>  $shards  beyond each plane
     */
    public function __construct(public array $planes, public array $shards)
    {
    }

    /**
     * @param  list<float>  $xyz
     * @param  float  $margin  mm
     * @return list<int> of each vertex, the number of a plane that it is beyond by more than the margin, or −1
     */
    public function beyond(array $xyz, float $margin): array
    {
        $beyond = array_fill(0, max(1, intdiv(count($xyz), 3)), -1);
        foreach ($this->planes as $n => [$x, $y, $z, $offset]) {
            $offset += $margin;
            $i = 0;
            foreach ($beyond as $v => $_) {
                if ($x * $xyz[$i] + $y * $xyz[$i + 1] + $z * $xyz[$i + 2] > $offset) {
                    $beyond[$v] = $n;
                }
                $i += 3;
            }
        }

        return $beyond;
    }
}
