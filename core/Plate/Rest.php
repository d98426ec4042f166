<?php

declare(strict_types=1);

namespace Isotome\Plate;

/** How a body stands on one of the faces of its hull. */
final readonly class Rest
{
    /**
     * @param  array{float, float, float}  $facing  unit: what is to lie below
     * @param  float  $footprint  mm²: the area that its supports span
     * @param  float  $margin  degrees by which it can be tilted before it falls over; less than 0 when it falls as it stands
     * @param  float  $height  mm
     * @param  float  $overhang  mm² of its skin that looks down more steeply than the limit and does not lie on the bed
     */
    public function __construct(
        public array $facing,
        public float $footprint,
        public float $margin,
        public float $height,
        public float $overhang,
    ) {
    }

    public function isStable(): bool
    {
        return $this->margin > 0.0;
    }
}
