<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/**
 * Random shift and tilt of every blade of a series, from a seed: the same seed gives the same blades on every machine.
 *
 * The n-th blade is shifted by at most the share of the piece's extent along the facing, and leans by at most the tilt towards
 * any side, about the middle of the piece's box. Numbers are uniform, from the Mersenne Twister (M. Matsumoto, T. Nishimura 1998).
 */
final readonly class Wander
{
    /** @throws BadBlade */
    public function __construct(
        public float $shift,
        public float $tilt,
        public int $seed,
    ) {
        if ($shift < 0.0 || $shift > 0.5 || $tilt < 0.0 || $tilt > 45.0) {
            throw new BadBlade("The wander shifts by $shift of the extent and tilts by {$tilt}°; give a shift of 0 to 0.5 and a tilt of 0 to 45.");
        }
    }

    /**
     * @param  list<Plane>  $planes  parallel
     * @return list<Plane> ascending at the middle of the piece
     */
    public function over(array $planes, Mesh $piece): array
    {
        $box = Box::of($piece->xyz);

        return $this->overBox($planes, $box->min, $box->max);
    }

    /**
     * @param  list<Plane>  $planes
     * @param  array{float, float, float}  $min
     * @param  array{float, float, float}  $max
     * @return list<Plane>
     */
    public function overBox(array $planes, array $min, array $max): array
    {
        $moved = [];
        foreach ($planes as $n => $plane) {
            // Chances of its own for each blade: a stop more or less does not change the others.
            $chance = new Chance(($this->seed & 0x7FFFFFFF) * 1_000_003 + $n * 7919);
            $facing = $plane->facing();
            $reach = $at = 0.0;
            $middle = [0.0, 0.0, 0.0];
            foreach ($facing as $k => $part) {
                $reach += abs($part) * ($max[$k] - $min[$k]);
                $middle[$k] = ($min[$k] + $max[$k]) / 2;
                $at += $part * $middle[$k];
            }
            $stop = $plane->offset + (2 * $chance->uniform() - 1) * $this->shift * $reach;
            $angle = deg2rad($this->tilt * $chance->uniform());
            $around = 2 * M_PI * $chance->uniform();
            [$right, $up] = $plane->directions();
            $through = $tilted = [];
            foreach ($facing as $k => $part) {
                $through[] = $middle[$k] + ($stop - $at) * $part;
                $tilted[] = cos($angle) * $part + sin($angle) * (cos($around) * $right[$k] + sin($around) * $up[$k]);
            }
            /** @var array{float, float, float} $through */
            /** @var array{float, float, float} $tilted */
            $moved[] = [$stop, Plane::through($through, $this->tilt > 0.0 ? $tilted : $facing)];
        }
        usort($moved, static fn (array $a, array $b): int => $a[0] <=> $b[0]);

        return array_column($moved, 1);
    }
}
