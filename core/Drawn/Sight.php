<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Geometry\Direction;

/**
 * How one looks at a body while drawing: along a direction, or from an eye. Maps places to a page square to the line of sight and back.
 *
 * On the page u runs to the right and v up, seen by who looks; the third number is the distance along the sight: from the plane through the origin, or from the eye. From an eye, u and v are
 * counted at distance 1.
 */
final readonly class Sight
{
    /** An eye must be this far before what it looks at, as a share of the farthest. */
    private const NEAREST = 1e-4;

    /**
     * @param  array{float, float, float}|null  $eye
     * @param  array{float, float, float}  $along  unit
     * @param  array{float, float, float}  $right  unit
     * @param  array{float, float, float}  $up  unit
     */
    private function __construct(public ?array $eye, public array $along, public array $right, public array $up)
    {
    }

    /**
     * @param  array{float, float, float}  $direction  of any length
     *
     * @throws BadBlade
     */
    public static function along(array $direction): self
    {
        $along = Direction::unit($direction) ?? throw new BadBlade('The line of sight has no direction (0, 0, 0); give one with a number that is not zero.');

        return self::facing(null, $along);
    }

    /**
     * @param  array{float, float, float}  $eye
     * @param  array{float, float, float}  $towards  a place that it looks at
     *
     * @throws BadBlade
     */
    public static function from(array $eye, array $towards): self
    {
        $along = Direction::unit([$towards[0] - $eye[0], $towards[1] - $eye[1], $towards[2] - $eye[2]]) ?? throw new BadBlade('The eye lies in the middle of what is drawn; move it away from there.');

        return self::facing($eye, $along);
    }

    /**
     * @param  array{float, float, float}|null  $eye
     * @param  array{float, float, float}  $a  unit
     */
    private static function facing(?array $eye, array $a): self
    {
        // Up as far as may be, and exact where the sight runs along an axis; y is up where one looks along z.
        $isUpright = abs($a[2]) < 0.999;
        $up = $isUpright ? [0.0, 0.0, 1.0] : [0.0, 1.0, 0.0];
        $right = Direction::unit([$a[1] * $up[2] - $a[2] * $up[1], $a[2] * $up[0] - $a[0] * $up[2], $a[0] * $up[1] - $a[1] * $up[0]]) ?? [1.0, 0.0, 0.0];
        $up = Direction::unit([$right[1] * $a[2] - $right[2] * $a[1], $right[2] * $a[0] - $right[0] * $a[2], $right[0] * $a[1] - $right[1] * $a[0]]) ?? $up;

        return new self($eye, $a, $right, $up);
    }

    /**
     * @param  array{float, float, float}  $place
     * @return array{float, float, float} on the page, and the distance
     *
     * @throws BadBlade for a place that is not before the eye
     */
    public function page(array $place): array
    {
        [$x, $y, $z] = $this->eye === null ? $place : [$place[0] - $this->eye[0], $place[1] - $this->eye[1], $place[2] - $this->eye[2]];
        $u = $this->right[0] * $x + $this->right[1] * $y + $this->right[2] * $z;
        $v = $this->up[0] * $x + $this->up[1] * $y + $this->up[2] * $z;
        $w = $this->along[0] * $x + $this->along[1] * $y + $this->along[2] * $z;
        if ($this->eye === null) {
            return [$u, $v, $w];
        }
        if ($w <= self::NEAREST * (abs($u) + abs($v))) {
            throw new BadBlade('The eye is not before all of what is cut; move it back, or give a line of sight.');
        }

        return [$u / $w, $v / $w, $w];
    }

    /**
     * A box on the page, and along the sight: least and greatest u, v and distance.
     *
     * @return array{array{float, float, float}, array{float, float, float}}
     *
     * @throws BadBlade when a part of it is not before the eye
     */
    public function box(Box $box): array
    {
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        for ($n = 0; $n < 8; $n++) {
            $at = $this->page([$n & 1 ? $box->max[0] : $box->min[0], $n & 2 ? $box->max[1] : $box->min[1], $n & 4 ? $box->max[2] : $box->min[2]]);
            $low = [min($low[0], $at[0]), min($low[1], $at[1]), min($low[2], $at[2])];
            $high = [max($high[0], $at[0]), max($high[1], $at[1]), max($high[2], $at[2])];
        }

        return [$low, $high];
    }

    /** @return array{float, float, float} */
    public function place(float $u, float $v, float $w): array
    {
        $s = $this->eye === null ? 1.0 : $w;
        $at = fn (int $k): float => ($this->eye[$k] ?? 0.0) + $s * ($u * $this->right[$k] + $v * $this->up[$k]) + $w * $this->along[$k];

        return [$at(0), $at(1), $at(2)];
    }

    /** @param  array{float, float, float}  $by  mm */
    public function moved(array $by): self
    {
        return $this->eye === null ? $this : new self([$this->eye[0] + $by[0], $this->eye[1] + $by[1], $this->eye[2] + $by[2]], $this->along, $this->right, $this->up);
    }
}
