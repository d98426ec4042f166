<?php

declare(strict_types=1);

namespace Isotome\Cells;

/** Between two parallel planes: where all facets of a complex that cut lie. What is beyond it on either side is in one shard. */
final readonly class Slab
{
    /**
     * @param  array{float, float, float}  $facing  unit
     * @param  float  $low  distances from the origin along the facing, mm
     * @param  int  $behind  the shard below it
     * @param  int  $ahead  the shard above it
     */
    public function __construct(
        public array $facing,
        public float $low,
        public float $high,
        public int $behind,
        public int $ahead,
    ) {
    }

    /**
     * @param  list<float>  $xyz
     * @param  float  $margin  mm
     * @return list<int> of each vertex: 1 ahead of the slab, −1 behind it, 0 in it or nearer than the margin
     */
    public function beyond(array $xyz, float $margin): array
    {
        [$x, $y, $z] = $this->facing;
        $low = $this->low - $margin;
        $high = $this->high + $margin;
        $beyond = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $d = $x * $xyz[$i] + $y * $xyz[$i + 1] + $z * $xyz[$i + 2];
            $beyond[] = $d > $high ? 1 : ($d < $low ? -1 : 0);
        }

        return $beyond;
    }
}
