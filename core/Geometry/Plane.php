<?php

declare(strict_types=1);

namespace Isotome\Geometry;

use Isotome\Exception\BadBlade;

/** An oriented plane: all points p with normal · p = offset. Ahead is where the normal points. Millimetres. */
final readonly class Plane
{
    /**
     * @param  int|null  $axis  0, 1, 2 when the normal is exactly along that axis: then sides are told without rounding
     */
    private function __construct(
        public float $nx,
        public float $ny,
        public float $nz,
        public float $offset,
        public ?int $axis,
    ) {
    }

    /**
     * @param  array{float, float, float}  $point  any point of the plane, mm
     * @param  array{float, float, float}  $facing  direction of any length but zero
     *
     * @throws BadBlade when the direction is zero or a number is not finite
     */
    public static function through(array $point, array $facing): self
    {
        foreach ([...$point, ...$facing] as $number) {
            if (! is_finite($number)) {
                throw new BadBlade('The blade has a coordinate that is not a finite number; give three ordinary numbers for its place and three for its facing.');
            }
        }
        [$x, $y, $z] = Direction::unit($facing)
            ?? throw new BadBlade('The blade has no direction (its facing is 0, 0, 0); give a facing with at least one number that is not zero.');
        $axis = match (true) {
            $y == 0.0 && $z == 0.0 => 0,
            $x == 0.0 && $z == 0.0 => 1,
            $x == 0.0 && $y == 0.0 => 2,
            default => null,
        };
        $offset = match ($axis) {
            0 => $x * $point[0],
            1 => $y * $point[1],
            2 => $z * $point[2],
            null => $x * $point[0] + $y * $point[1] + $z * $point[2],
        };

        return new self($x, $y, $z, $offset, $axis);
    }

    /**
     * The plane that lies the distance (mm) from the origin along its facing.
     *
     * @param  array{float, float, float}  $facing  direction of any length but zero
     *
     * @throws BadBlade when the direction is zero or a number is not finite
     */
    public static function at(float $distance, array $facing): self
    {
        $plane = self::through([0.0, 0.0, 0.0], $facing);
        if (! is_finite($distance)) {
            throw new BadBlade('The blade has a position that is not a finite number; give its distance from the origin along its facing.');
        }

        return $plane->shifted($distance);
    }

    /** The parallel plane that lies the distance (mm) further ahead. */
    public function shifted(float $distance): self
    {
        return new self($this->nx, $this->ny, $this->nz, $this->offset + $distance, $this->axis);
    }

    /**
     * A place that is on the plane but for rounding: exactly on it when the plane is square to an axis.
     *
     * @param  array{float, float, float}  $place
     * @return array{float, float, float}
     */
    public function laid(array $place): array
    {
        return match ($this->axis) {
            0 => [$this->offset * $this->nx, $place[1], $place[2]],
            1 => [$place[0], $this->offset * $this->ny, $place[2]],
            2 => [$place[0], $place[1], $this->offset * $this->nz],
            default => $place,
        };
    }

    /** @return array{float, float, float} */
    public function facing(): array
    {
        return [$this->nx, $this->ny, $this->nz];
    }

    /**
     * The two coordinates that show the plane undistorted enough to decide everything in: the axis along which the
     * normal is longest is dropped, so that a point's place on the plane is told by two of its own coordinates, unrounded.
     *
     * @return array{int, int} ordered so that left turns seen from ahead are left turns on the page
     */
    public function pageAxes(): array
    {
        return self::axesOf($this->nx, $this->ny, $this->nz);
    }

    /** @return array{int, int} the same for a direction of any length */
    public static function axesOf(float $nx, float $ny, float $nz): array
    {
        [$x, $y, $z] = [abs($nx), abs($ny), abs($nz)];
        if ($z >= $x && $z >= $y) {
            return $nz > 0 ? [0, 1] : [1, 0];
        }
        if ($x >= $y) {
            return $nx > 0 ? [1, 2] : [2, 1];
        }

        return $ny > 0 ? [2, 0] : [0, 2];
    }

    /**
     * Right and up on the page, so that right × up is the facing: up is as near to the world's up as the plane allows, and
     * for a level plane it is the world's y.
     *
     * @return array{array{float, float, float}, array{float, float, float}}
     */
    public function directions(): array
    {
        [$nx, $ny, $nz] = $this->facing();
        $level = hypot($nx, $ny);
        if ($level < 1e-9) {
            return $nz > 0 ? [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0]] : [[-1.0, 0.0, 0.0], [0.0, 1.0, 0.0]];
        }
        $right = [-$ny / $level, $nx / $level, 0.0];

        return [$right, [-$nz * $right[1], $nz * $right[0], $nx * $right[1] - $ny * $right[0]]];
    }

    /** @return list<float> the reflection over it as 12 numbers: where the three axes come to, then the origin */
    public function reflection(): array
    {
        $n = [$this->nx, $this->ny, $this->nz];
        $map = [];
        for ($axis = 0; $axis < 3; $axis++) {
            for ($k = 0; $k < 3; $k++) {
                $map[] = ($axis === $k ? 1.0 : 0.0) - 2 * $n[$axis] * $n[$k];
            }
        }
        foreach ($n as $part) {
            $map[] = 2 * $this->offset * $part;
        }

        return $map;
    }
}
