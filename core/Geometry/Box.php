<?php

declare(strict_types=1);

namespace Isotome\Geometry;

/** The axis-aligned box around points, millimetres; all zero when there are none. */
final readonly class Box
{
    /**
     * @param  array{float, float, float}  $min
     * @param  array{float, float, float}  $max
     */
    private function __construct(
        public array $min,
        public array $max,
    ) {
    }

    /** @param  list<float>  $xyz  3 a point, mm */
    public static function of(array $xyz): self
    {
        if ($xyz === []) {
            return new self([0.0, 0.0, 0.0], [0.0, 0.0, 0.0]);
        }
        $x0 = $x1 = $xyz[0];
        $y0 = $y1 = $xyz[1];
        $z0 = $z1 = $xyz[2];
        $count = count($xyz);
        for ($i = 3; $i < $count; $i += 3) {
            $x = $xyz[$i];
            $y = $xyz[$i + 1];
            $z = $xyz[$i + 2];
            if ($x < $x0) {
                $x0 = $x;
            } elseif ($x > $x1) {
                $x1 = $x;
            }
            if ($y < $y0) {
                $y0 = $y;
            } elseif ($y > $y1) {
                $y1 = $y;
            }
            if ($z < $z0) {
                $z0 = $z;
            } elseif ($z > $z1) {
                $z1 = $z;
            }
        }

        return new self([$x0, $y0, $z0], [$x1, $y1, $z1]);
    }

    /** @return array{float, float, float} */
    public function size(): array
    {
        return [$this->max[0] - $this->min[0], $this->max[1] - $this->min[1], $this->max[2] - $this->min[2]];
    }

    /** Length from corner to corner, mm. */
    public function diagonal(): float
    {
        [$x, $y, $z] = $this->size();

        return sqrt($x ** 2 + $y ** 2 + $z ** 2);
    }

    public function holds(self $other): bool
    {
        for ($k = 0; $k < 3; $k++) {
            if ($other->min[$k] < $this->min[$k] || $other->max[$k] > $this->max[$k]) {
                return false;
            }
        }

        return true;
    }
}
