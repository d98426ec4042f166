<?php

declare(strict_types=1);

namespace Isotome\Geometry;

use Random\Engine\Mt19937;

/** Numbers by chance from a seed, the same on every machine: the Mersenne Twister (M. Matsumoto, T. Nishimura 1998). */
final class Chance
{
    private readonly Mt19937 $engine;

    public function __construct(int $seed)
    {
        $this->engine = new Mt19937($seed & 0x7FFFFFFF);
    }

    /** 0 to below 1. */
    public function uniform(): float
    {
        /** @var array{1: int} $four */
        $four = unpack('V', $this->engine->generate());

        return $four[1] / 4294967296.0;
    }

    /**
     * A direction, all alike. Source: G. Marsaglia, "Choosing a point from the surface of a sphere" (1972), in its form by height and angle.
     *
     * @return array{float, float, float}
     */
    public function direction(): array
    {
        $z = 2 * $this->uniform() - 1;
        $angle = 2 * M_PI * $this->uniform();
        $r = sqrt(1 - $z * $z);

        return [$r * cos($angle), $r * sin($angle), $z];
    }

    /** Normally distributed, of mean 0 and deviation 1. Source: G. E. P. Box, M. E. Muller (1958). */
    public function normal(): float
    {
        return sqrt(-2 * log(1 - $this->uniform())) * cos(2 * M_PI * $this->uniform());
    }
}
