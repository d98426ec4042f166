<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Isotome\Exception\BadBlade;
use Isotome\Geometry\Plane;

/** A flat cut of a plan. */
final readonly class Cut
{
    /**
     * @param  array{float, float, float}  $facing  a unit vector
     * @param  float  $offset  from the origin along it, mm
     */
    public function __construct(
        public array $facing,
        public float $offset,
    ) {
    }

    /**
     * @param  array{float, float, float}  $place
     * @param  array{float, float, float}  $facing  of any length
     *
     * @throws BadBlade when it has none
     */
    public static function at(array $place, array $facing): self
    {
        $plane = Plane::through($place, $facing);

        return new self($plane->facing(), $plane->offset);
    }

    /** @return array{float, float, float} a place on it, mm */
    public function through(): array
    {
        return [$this->offset * $this->facing[0], $this->offset * $this->facing[1], $this->offset * $this->facing[2]];
    }

    /** The plane that a recipe with this place and facing means, to the last digit. */
    public function plane(): Plane
    {
        return Plane::through($this->through(), $this->facing);
    }

    /** Is it square to a coordinate axis? */
    public function isStraight(): bool
    {
        return count(array_filter($this->facing, static fn (float $part): bool => $part != 0.0)) === 1;
    }
}
