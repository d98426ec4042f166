<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Isotome\Geometry\Direction;
use Isotome\Geometry\Turn;
use Isotome\Measure\Inertia;
use Isotome\Mesh\Mesh;
use Isotome\Mirror\Jacobi;

/**
 * Directions in which a body is measured and cut: upright frames of three directions each, the world's and the body's own principal axes (L. Euler 1765) first.
 * In how few pieces a body can be is judged by the boxes in these frames; which turns are exact is decided elsewhere (Isotome\Fit\Turned).
 */
final readonly class Frames
{
    /** Directions nearer to each other than this are one, degrees. */
    private const ALIKE = 4.0;

    /**
     * @param  list<array{float, float, float}>  $directions  three a frame
     * @param  list<int>  $cutting  those of them that differ
     * @param  list<array{float, float, float}>  $more  further ones to cut along
     */
    private function __construct(
        public array $directions,
        public array $cutting,
        public array $more,
    ) {
    }

    /** @param  list<array{float, float, float}>  $more  to cut along as well: the normal of a plane of symmetry, say */
    public static function of(Mesh $mesh, array $more = []): self
    {
        $axes = [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]];
        $directions = $axes;
        $own = Jacobi::vectors(Inertia::of($mesh)->tensor);
        foreach ($own as $axis) {
            $directions[] = Direction::unit($axis) ?? [0.0, 0.0, 1.0];
        }
        foreach ([...array_map(static fn (array $axis): Turn => Turn::about($axis, 45.0), $axes), Turn::between([1.0, 1.0, 1.0], [0.0, 0.0, 1.0])] as $turn) {
            array_push($directions, ...$turn->rows());
        }
        $cutting = [];
        foreach ($directions as $n => $direction) {
            if (! self::isAmong($direction, array_map(static fn (int $of): array => $directions[$of], $cutting))) {
                $cutting[] = $n;
            }
        }
        $others = [];
        foreach ($more as $direction) {
            if (! self::isAmong($direction, [...array_map(static fn (int $of): array => $directions[$of], $cutting), ...$others], 0.05)) {
                $others[] = $direction;
            }
        }

        return new self($directions, $cutting, $others);
    }

    /** @return list<array{float, float, float}> unit directions to cut along */
    public function facings(bool $straight): array
    {
        $facings = array_map(fn (int $n): array => $this->directions[$n], $this->cutting);

        return $straight ? array_slice($facings, 0, 3) : [...$facings, ...$this->more];
    }

    /**
     * @param  array{float, float, float}  $direction
     * @param  list<array{float, float, float}>  $others
     */
    private static function isAmong(array $direction, array $others, float $alike = self::ALIKE): bool
    {
        $near = cos(deg2rad($alike));
        foreach ($others as $other) {
            if (abs($direction[0] * $other[0] + $direction[1] * $other[1] + $direction[2] * $other[2]) > $near) {
                return true;
            }
        }

        return false;
    }
}
