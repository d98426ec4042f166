<?php

declare(strict_types=1);

namespace Isotome\Fit;

/** The working space of a printer, mm, over a bed of four corners or a round one: does a piece of a given size go into it, and if not, by how much does it miss? */
final readonly class BuildSpace
{
    /** What a size may be beyond the space, mm: rounding, which a turn that just fits has. */
    private const ROUNDING = 1e-8;

    public function __construct(
        public float $x,
        public float $y,
        public float $z,
        public bool $isRound = false,
    ) {
    }

    /** The space over a round bed of a diameter. */
    public static function round(float $diameter, float $z): self
    {
        return new self($diameter, $diameter, $z, true);
    }

    /**
     * The sides of the space, and of a round one the diameter as a fourth number.
     *
     * @return list<float>
     */
    public function sides(): array
    {
        return $this->isRound ? [$this->x, $this->y, $this->z, $this->x] : [$this->x, $this->y, $this->z];
    }

    /** @param  array<int, float>  $sides  as sides() gives them */
    public static function of(array $sides): self
    {
        return new self($sides[0], $sides[1], $sides[2], isset($sides[3]));
    }

    /** The largest space of four square sides within it: the same, but for a round one. */
    public function inner(): self
    {
        return $this->isRound ? new self($this->x / M_SQRT2, $this->x / M_SQRT2, $this->z) : $this;
    }

    /** mm³ */
    public function volume(): float
    {
        return ($this->isRound ? M_PI_4 : 1.0) * $this->x * $this->y * $this->z;
    }

    /** Without a margin at all sides of the bed; not above. */
    public function within(float $margin): self
    {
        return new self($this->x - 2 * $margin, $this->y - 2 * $margin, $this->z, $this->isRound);
    }

    /**
     * How a box fits: as it stands; turned about the upright; laid on another side; or not, and then by how much the side that misses
     * most is too long when the box stands as well as it can.
     *
     * @param  array{float, float, float}  $size
     * @return array{fits: bool, how: string, over_mm: float} how is "stands", "turned", "laid down" or "too large"
     */
    public function holds(array $size): array
    {
        [$x, $y, $z] = array_map(static fn (float $side): float => max(0.0, $side - self::ROUNDING), $size);
        if ($this->isRound) {
            return $this->inRound($size, [$x, $y, $z]);
        }
        if ($x <= $this->x && $y <= $this->y && $z <= $this->z) {
            return ['fits' => true, 'how' => 'stands', 'over_mm' => 0.0];
        }
        if ($z <= $this->z && self::rectangle($x, $y, $this->x, $this->y)) {
            return ['fits' => true, 'how' => 'turned', 'over_mm' => 0.0];
        }
        foreach ([[$y, $z, $x], [$z, $x, $y]] as [$a, $b, $up]) {
            if ($up <= $this->z && self::rectangle($a, $b, $this->x, $this->y)) {
                return ['fits' => true, 'how' => 'laid down', 'over_mm' => 0.0];
            }
        }
        $sides = $size;
        $space = [$this->x, $this->y, $this->z];
        sort($sides);
        sort($space);

        return ['fits' => false, 'how' => 'too large', 'over_mm' => max($sides[0] - $space[0], $sides[1] - $space[1], $sides[2] - $space[2])];
    }

    /**
     * Of the box: what is in it may fit where the box does not.
     *
     * @param  array{float, float, float}  $size
     * @param  array{float, float, float}  $rounded
     * @return array{fits: bool, how: string, over_mm: float}
     */
    private function inRound(array $size, array $rounded): array
    {
        $over = INF;
        foreach ([[0, 1, 2], [1, 2, 0], [2, 0, 1]] as $n => [$a, $b, $up]) {
            if ($rounded[$up] <= $this->z && hypot($rounded[$a], $rounded[$b]) <= $this->x) {
                return ['fits' => true, 'how' => $n === 0 ? 'stands' : 'laid down', 'over_mm' => 0.0];
            }
            $over = min($over, max($size[$up] - $this->z, hypot($size[$a], $size[$b]) - $this->x));
        }

        return ['fits' => false, 'how' => 'too large', 'over_mm' => $over];
    }

    /**
     * Does a rectangle go into another, turned by any angle? J. E. Wetzel, "Rectangles in Rectangles", Mathematics Magazine 73 (2000), after
     * W. B. Carver (1957).
     */
    private static function rectangle(float $p, float $q, float $a, float $b): bool
    {
        [$p, $q] = [max($p, $q), min($p, $q)];
        [$a, $b] = [max($a, $b), min($a, $b)];
        if ($p <= $a) {
            return $q <= $b;
        }
        $square = $p * $p + $q * $q;
        // Longer than the diagonal of the space.
        if ($square - $a * $a < 0.0 || $q > $b) {
            return false;
        }

        return $b * $square >= 2 * $p * $q * $a + ($p * $p - $q * $q) * sqrt($square - $a * $a);
    }
}
