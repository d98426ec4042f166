<?php

declare(strict_types=1);

namespace Isotome\Plan;

/** A piece that a plan leaves, and the turn in which it fits, or in which it misses least. */
final readonly class Fitting
{
    /**
     * @param  list<int>  $path  see Made
     * @param  array{float, float, float}  $vector  the turn: its axis, as long as its angle in radians
     * @param  float  $over  mm that it is too large by, then; 0 when it fits
     * @param  array{float, float, float}  $size  of the box around it as it stands, mm
     */
    public function __construct(
        public array $path,
        public array $vector,
        public float $over,
        public array $size,
        public float $volume,
    ) {
    }
}
