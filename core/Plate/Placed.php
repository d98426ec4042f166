<?php

declare(strict_types=1);

namespace Isotome\Plate;

/** Where a piece lies: on which plate, turned about the upright through its origin, then moved. */
final readonly class Placed
{
    /**
     * @param  int  $piece  its number
     * @param  int  $plate  from 0
     * @param  float  $x  that it is moved by after the turn, mm; the bed's corner is the origin
     */
    public function __construct(
        public int $piece,
        public int $plate,
        public float $degrees,
        public float $x,
        public float $y,
    ) {
    }
}
