<?php

declare(strict_types=1);

namespace Isotome\Fit;

/** The working space of a printer, mm: does a piece of a given size go into it, and if not, by how much does it miss? */
final readonly class BuildSpace
{
    /** What a size may be beyond the space, mm: rounding, which a turn that just fits has. */
    private const ROUNDING = 1e-8;

    public function __construct(
        public float $x,
        public float $y,
        public float $z,
    ) {
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
