<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Geometry\Box;
use Isotome\Geometry\Direction;

/** The cells of a blade by rings: rings, sectors and layers about an axis, out to the farthest corner of a piece. */
final class RingCells
{
    public static function of(CellsBlade $blade, Box $box, int $attempt): Complex
    {
        Rings::refuse($blade->rings, $blade->sectors, $blade->layers);
        $through = $blade->through ?? [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
        $frame = self::frame($blade->axis);
        $low = INF;
        $high = -INF;
        $farthest = 0.0;
        for ($c = 0; $c < 8; $c++) {
            $p = [($c & 1 ? $box->max : $box->min)[0] - $through[0], ($c & 2 ? $box->max : $box->min)[1] - $through[1], ($c & 4 ? $box->max : $box->min)[2] - $through[2]];
            $z = $p[0] * $frame[0][2] + $p[1] * $frame[1][2] + $p[2] * $frame[2][2];
            $low = min($low, $z);
            $high = max($high, $z);
            $farthest = max($farthest, sqrt(max(0.0, $p[0] ** 2 + $p[1] ** 2 + $p[2] ** 2 - $z * $z)));
        }
        // The walls' corners lie on the radius; the outermost ring reaches the farthest corner of the box.
        $radii = $heights = [];
        for ($r = 1; $r < $blade->rings; $r++) {
            $radii[] = $farthest * $r / $blade->rings;
        }
        for ($l = 1; $l < $blade->layers; $l++) {
            $heights[] = $low + ($high - $low) * $l / $blade->layers;
        }
        $reach = CellsBlade::BEYOND * $box->diagonal();
        $shift = $attempt * CellsBlade::ATTEMPT * $reach;

        return Rings::of($radii, $blade->sectors, $heights, $farthest + $reach, $low - $reach, $high + $reach, $blade->wander, $blade->seed)
            ->mapped($frame, [0.0, 0.0, 0.0])->moved([$through[0] + $shift, $through[1] + $shift, $through[2] + $shift]);
    }

    /**
     * Columns: across, across, and the axis itself.
     *
     * @param  array{float, float, float}  $axis
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}}
     */
    private static function frame(array $axis): array
    {
        [$x, $y, $z] = Direction::unit($axis) ?? [0.0, 0.0, 1.0];
        if ($x == 0.0 && $y == 0.0) {
            return $z > 0 ? [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]] : [[1.0, 0.0, 0.0], [0.0, -1.0, 0.0], [0.0, 0.0, -1.0]];
        }
        $level = hypot($x, $y);
        $u = [-$y / $level, $x / $level, 0.0];
        $v = [$y * $u[2] - $z * $u[1], $z * $u[0] - $x * $u[2], $x * $u[1] - $y * $u[0]];

        return [[$u[0], $v[0], $x], [$u[1], $v[1], $y], [$u[2], $v[2], $z]];
    }
}
