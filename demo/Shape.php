<?php

declare(strict_types=1);

namespace Demo;

/** A solid told by its distance: negative inside, and never more than the true distance to the surface, mm. */
interface Shape
{
    public function distance(float $x, float $y, float $z): float;

    /** @return array{array{float, float, float}, array{float, float, float}} lower and upper corner of a box around it */
    public function box(): array;
}
