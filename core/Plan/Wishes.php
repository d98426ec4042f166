<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Isotome\Exception\BadBed;
use Isotome\Fit\BuildSpace;

/** What a plan is made for: the space that a piece may take up, and what is preferred. Lengths in mm. */
final readonly class Wishes
{
    /** A bed is at least this wide, mm. */
    private const SMALLEST = 1.0;

    private const LARGEST = 100_000.0;

    public const MOST_ALTERNATIVES = 8;

    private const HOPE = 0.5;

    private const HOPE_OF_MANY = 0.15;

    /**
     * @param  BuildSpace  $space  without the margin
     * @param  float  $gap  that every cut removes
     * @param  float  $peg  diameter of a peg that should find room in every cut face
     * @param  list<array{float, float, float, float}>  $whole  balls, centre and radius, that no cut may go through
     * @param  float  $hope  how near the pieces of a part come to what its shape allows at best, instead of slices along a box: 0 to 1
     */
    private function __construct(
        public BuildSpace $space,
        public float $gap,
        public float $peg,
        public array $whole,
        public int $alternatives,
        public float $hope,
    ) {
    }

    /**
     * @param  array<int, float>  $bed  as wide, deep and high as the printer's space, and of a round one the diameter; see BuildSpace::sides()
     * @param  float  $margin  that stays free at every side of the bed; not above
     * @param  list<array{float, float, float, float}>  $whole
     *
     * @throws BadBed
     */
    public static function of(array $bed, float $margin = 0.0, float $gap = 0.0, int $alternatives = 4, float $peg = 6.0, array $whole = []): self
    {
        foreach (array_slice($bed, 0, 3) as $k => $side) {
            if (! is_finite($side) || $side < self::SMALLEST || $side > self::LARGEST) {
                throw new BadBed("The bed's ".['width', 'depth', 'height'][$k].' is '.self::told($side).'; give one from 1 mm to 100 m.');
            }
        }
        if (! is_finite($margin) || $margin < 0.0) {
            throw new BadBed('The margin is '.self::told($margin).'; give 0 mm or more.');
        }
        $space = BuildSpace::of($bed)->within($margin);
        if (min($space->x, $space->y) < self::SMALLEST) {
            throw new BadBed('A margin of '.self::told($margin).' leaves nothing of the bed; give less than half its width.');
        }
        $narrowest = min($space->x, $space->y, $space->z);
        if (! is_finite($gap) || $gap < 0.0 || $gap > $narrowest / 4) {
            throw new BadBed('The gap is '.self::told($gap).'; give one from 0 mm to a quarter of the bed, '.self::told($narrowest / 4).'.');
        }
        if ($alternatives < 1 || $alternatives > self::MOST_ALTERNATIVES) {
            throw new BadBed("$alternatives alternatives cannot be made; ask for 1 to ".self::MOST_ALTERNATIVES.'.');
        }
        if (! is_finite($peg) || $peg < 0.0) {
            throw new BadBed('The pegs are '.self::told($peg).' wide; give 0 mm or more.');
        }

        return new self($space, $gap, $peg, $whole, $alternatives, self::HOPE);
    }

    /** Does a cut go through a place that must stay whole? */
    public function forbids(Cut $cut): bool
    {
        foreach ($this->whole as [$x, $y, $z, $radius]) {
            if (abs($cut->facing[0] * $x + $cut->facing[1] * $y + $cut->facing[2] * $z - $cut->offset) < $radius + $this->gap / 2) {
                return true;
            }
        }

        return false;
    }

    /** The same with less room, for what is known only roughly. */
    public function reserving(float $room): self
    {
        $less = static fn (float $side): float => max($side / 2, $side - $room);

        return new self(new BuildSpace($less($this->space->x), $less($this->space->y), $less($this->space->z), $this->space->isRound), $this->gap, $this->peg, $this->whole, $this->alternatives, $this->hope);
    }

    /** The same for a body of many pieces: what is hoped for adds up, and hope that is too high has them cut off in slivers. */
    public function forMany(): self
    {
        return $this->hoping(self::HOPE_OF_MANY);
    }

    public function forFew(): self
    {
        return $this->hoping(self::HOPE);
    }

    private function hoping(float $hope): self
    {
        return new self($this->space, $this->gap, $this->peg, $this->whole, $this->alternatives, $hope);
    }

    /** What one piece can hold at most, mm³. */
    public function volume(): float
    {
        return $this->space->volume();
    }

    private static function told(float $length): string
    {
        return is_finite($length) ? round($length, 3).' mm' : 'no number';
    }
}
