<?php

declare(strict_types=1);

namespace Isotome\Join;

use Closure;
use Isotome\Geometry\ClipToBox;
use Isotome\Measure\Depth;
use Isotome\Mesh\Mesh;

/**
 * A face that two pieces share, as a page: seen from the second piece, its axis points from the first into the second. It may be bent or rough, as long as it is a height over the page.
 */
final readonly class CommonFace
{
    /** Rims are known to this, mm: a hundredth of what a nozzle can make. */
    public const COARSE = 0.005;

    /**
     * @param  array{float, float, float}  $axis  unit length
     * @param  array{float, float, float}  $right
     * @param  array{float, float, float}  $up
     * @param  array{list<int>, list<int>}  $faces  triangles of the first piece and of the second
     * @param  array{list<array{float, float, float, float}>, list<array{float, float, float, float}>}  $rims  of both: from x, y to x, y on the page, mm
     * @param  float  $area  mm²
     * @param  float  $low  heights between which the first piece's face is, mm
     * @param  array{float, float, float, float}  $box  x and y from, x and y to
     */
    public function __construct(
        public array $axis,
        public array $right,
        public array $up,
        public array $faces,
        public array $rims,
        public float $area,
        public array $box,
        public float $low,
        public float $high,
    ) {
    }

    /** The same face as the second piece has it: its axis points into the first. */
    public function fromBehind(): self
    {
        return new self(
            [-$this->axis[0], -$this->axis[1], -$this->axis[2]], [-$this->right[0], -$this->right[1], -$this->right[2]], $this->up,
            [$this->faces[1], $this->faces[0]], [self::mirrored($this->rims[1]), self::mirrored($this->rims[0])], $this->area,
            [-$this->box[2], $this->box[1], -$this->box[0], $this->box[3]], -$this->high, -$this->low,
        );
    }

    /**
     * @param  list<array{float, float, float, float}>  $rim
     * @return list<array{float, float, float, float}>
     */
    private static function mirrored(array $rim): array
    {
        return array_map(static fn (array $edge): array => [-$edge[0], $edge[1], -$edge[2], $edge[3]], $rim);
    }

    /** @return array{float, float, float} where a place of space is on the page, and its height over it, mm */
    public function onPage(float $x, float $y, float $z): array
    {
        return [
            $x * $this->right[0] + $y * $this->right[1] + $z * $this->right[2],
            $x * $this->up[0] + $y * $this->up[1] + $z * $this->up[2],
            $x * $this->axis[0] + $y * $this->axis[1] + $z * $this->axis[2],
        ];
    }

    /** @return array{float, float, float} mm */
    public function inSpace(float $x, float $y, float $height): array
    {
        return [
            $x * $this->right[0] + $y * $this->up[0] + $height * $this->axis[0],
            $x * $this->right[1] + $y * $this->up[1] + $height * $this->axis[1],
            $x * $this->right[2] + $y * $this->up[2] + $height * $this->axis[2],
        ];
    }

    /** @return Closure(float, float): float how far a place is from the rims of both faces, mm; negative beside one of them */
    public function clear(): Closure
    {
        [$first, $second] = array_map(static fn (array $rim): Depth => new Depth(array_column($rim, 0), array_column($rim, 1), array_column($rim, 2), array_column($rim, 3)), $this->rims);

        return static fn (float $x, float $y): float => min($first->at($x, $y), $second->at($x, $y));
    }

    /**
     * Between which heights a face is, within a square of the page.
     *
     * @param  int  $side  0 for the first piece, 1 for the second
     * @return array{float, float}|null null where it is not
     */
    public function heights(Mesh $mesh, int $side, float $x, float $y, float $reach): ?array
    {
        $low = INF;
        $high = -INF;
        foreach ($this->faces[$side] as $t) {
            $corners = [];
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $i = 3 * $mesh->corners[$k];
                $corners[] = $this->onPage($mesh->xyz[$i], $mesh->xyz[$i + 1], $mesh->xyz[$i + 2]);
            }
            [[$ax, $ay], [$bx, $by], [$cx, $cy]] = $corners;
            if (max($ax, $bx, $cx) < $x - $reach || min($ax, $bx, $cx) > $x + $reach || max($ay, $by, $cy) < $y - $reach || min($ay, $by, $cy) > $y + $reach) {
                continue;
            }
            foreach (ClipToBox::of($corners, [$x - $reach, $y - $reach], [$x + $reach, $y + $reach]) as $corner) {
                $low = min($low, $corner[2]);
                $high = max($high, $corner[2]);
            }
        }

        return $low <= $high ? [$low, $high] : null;
    }
}
