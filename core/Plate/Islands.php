<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Generator;

/**
 * What begins in the air: the connected parts of a layer that have nothing of the layer below them.
 *
 * Guarantees: a part is an island only when no corner of either lies within the other and no edges cross; outlines that merely touch in a point do not hold each other. Most parts are told at once by a place well within
 * one of them, or of what is below.
 */
final class Islands
{
    /** Where lines are laid across an outline, to find places within it: shares of its height, none of them at a corner of what is regular. */
    private const LINES = [0.4873, 0.2411, 0.7639, 0.0817, 0.9193];

    /** Rows by which edges are sorted to find those that cross. */
    private const ROWS = 64;

    /** @return list<array{float, float, float}> a place within each island, x and y in mm, and its area with its holes left out, mm² */
    public static function of(Layer $layer, Layer $below): array
    {
        $islands = [];
        foreach (self::parts($layer) as $outer => $area) {
            if (! self::isHeld($layer, $below, $outer)) {
                $place = self::places($layer, $outer)->current() ?? [$layer->outlines[$outer][0], $layer->outlines[$outer][1]];
                $islands[] = [$place[0], $place[1], $area];
            }
        }

        return $islands;
    }

    /** @return array<int, float> by outer outline, the area of the part that it goes round: without its holes */
    private static function parts(Layer $layer): array
    {
        $parts = array_filter($layer->areas, static fn (float $area): bool => $area > 0.0);
        foreach ($layer->areas as $n => $area) {
            if ($area < 0.0 && count($parts) > 0) {
                $owner = self::owner($layer, $layer->outlines[$n][0], $layer->outlines[$n][1]);
                if (isset($parts[$owner])) {
                    $parts[$owner] += $area;
                }
            }
        }

        return $parts;
    }

    /** The smallest outer outline around a place; −1 for none. */
    public static function owner(Layer $layer, float $x, float $y): int
    {
        $owner = -1;
        foreach ($layer->areas as $n => $area) {
            if ($area > 0.0 && ($owner < 0 || $area < $layer->areas[$owner]) && $layer->turns($n, $x, $y) > 0) {
                $owner = $n;
            }
        }

        return $owner;
    }

    private static function isHeld(Layer $layer, Layer $below, int $outer): bool
    {
        foreach (self::places($layer, $outer) as [$x, $y]) {
            if ($below->winding($x, $y) > 0) {
                return true;
            }
        }
        $box = $layer->box($outer);
        $met = [];
        foreach ($below->outlines as $n => $outline) {
            $own = $below->box($n);
            if ($own[0] > $box[2] || $own[2] < $box[0] || $own[1] > $box[3] || $own[3] < $box[1]) {
                continue;
            }
            $met[] = $outline;
            foreach ($below->areas[$n] > 0.0 ? self::places($below, $n) : [] as [$x, $y]) {
                if ($layer->winding($x, $y) > 0 && self::owner($layer, $x, $y) === $outer) {
                    return true;
                }
            }
        }

        return $met !== [] && self::meet($layer, $below, $outer, $met);
    }

    /**
     * Corner by corner and edge by edge.
     *
     * @param  list<list<float>>  $met  outlines below that may meet it
     */
    private static function meet(Layer $layer, Layer $below, int $outer, array $met): bool
    {
        $outline = $layer->outlines[$outer];
        for ($k = 0, $n = count($outline); $k < $n; $k += 2) {
            if ($below->winding($outline[$k], $outline[$k + 1]) > 0) {
                return true;
            }
        }
        foreach ($met as $other) {
            for ($k = 0, $n = count($other); $k < $n; $k += 2) {
                if ($layer->turns($outer, $other[$k], $other[$k + 1]) > 0 && $layer->winding($other[$k], $other[$k + 1]) > 0 && self::owner($layer, $other[$k], $other[$k + 1]) === $outer) {
                    return true;
                }
            }
        }

        return self::cross($outline, $layer->box($outer), $met);
    }

    /**
     * Places well within the material of a part: in the middle of the widest stretch of lines across it.
     *
     * @return Generator<int, array{float, float}>
     */
    private static function places(Layer $layer, int $outer): Generator
    {
        [$x0, $y0, $x1, $y1] = $layer->box($outer);
        foreach (self::LINES as $share) {
            $y = $y0 + $share * ($y1 - $y0);
            $xs = [];
            $own = self::crossed($layer->outlines[$outer], $y);
            sort($own);
            foreach ($layer->outlines as $n => $outline) {
                $box = $layer->box($n);
                if ($n !== $outer && $box[0] <= $x1 && $box[2] >= $x0 && $box[1] <= $y && $box[3] >= $y) {
                    array_push($xs, ...self::crossed($outline, $y));
                }
            }
            $xs = [...$xs, ...$own];
            sort($xs);
            $stretches = [];
            for ($k = 0; $k + 1 < count($xs); $k++) {
                $stretches[] = [$xs[$k + 1] - $xs[$k], ($xs[$k] + $xs[$k + 1]) / 2];
            }
            rsort($stretches);
            foreach ($stretches as [$wide, $x]) {
                // Within this outline; not in a hole of it, nor in what stands in one.
                if ($wide > 0.0 && count(array_filter($own, static fn (float $at): bool => $at < $x)) % 2 === 1 && $layer->winding($x, $y) > 0 && self::owner($layer, $x, $y) === $outer) {
                    yield [$x, $y];
                    break;
                }
            }
        }
    }

    /**
     * @param  list<float>  $outline
     * @return list<float> where it crosses a line along x
     */
    private static function crossed(array $outline, float $y): array
    {
        $xs = [];
        $n = count($outline);
        $px = $outline[$n - 2];
        $py = $outline[$n - 1];
        for ($k = 0; $k < $n; $k += 2) {
            $qx = $outline[$k];
            $qy = $outline[$k + 1];
            if (($py > $y) !== ($qy > $y)) {
                $xs[] = $px + ($y - $py) / ($qy - $py) * ($qx - $px);
            }
            $px = $qx;
            $py = $qy;
        }

        return $xs;
    }

    /**
     * @param  list<float>  $outline
     * @param  array{float, float, float, float}  $box  around it
     * @param  list<list<float>>  $others
     */
    private static function cross(array $outline, array $box, array $others): bool
    {
        [, $y0, , $y1] = $box;
        $per = $y1 > $y0 ? self::ROWS / ($y1 - $y0) : 0.0;
        $row = static fn (float $y): int => (int) max(0.0, min(self::ROWS - 1, ($y - $y0) * $per));
        $rows = array_fill(0, self::ROWS, []);
        foreach (self::edges($outline) as $edge) {
            for ($r = $row(min($edge[1], $edge[3])), $last = $row(max($edge[1], $edge[3])); $r <= $last; $r++) {
                $rows[$r][] = $edge;
            }
        }
        foreach ($others as $other) {
            foreach (self::edges($other) as [$ax, $ay, $bx, $by]) {
                if (max($ay, $by) < $y0 || min($ay, $by) > $y1) {
                    continue;
                }
                for ($r = $row(min($ay, $by)), $last = $row(max($ay, $by)); $r <= $last; $r++) {
                    foreach ($rows[$r] as [$cx, $cy, $dx, $dy]) {
                        $one = ($bx - $ax) * ($cy - $ay) - ($by - $ay) * ($cx - $ax);
                        $two = ($bx - $ax) * ($dy - $ay) - ($by - $ay) * ($dx - $ax);
                        $three = ($dx - $cx) * ($ay - $cy) - ($dy - $cy) * ($ax - $cx);
                        $four = ($dx - $cx) * ($by - $cy) - ($dy - $cy) * ($bx - $cx);
                        if ((($one > 0.0 && $two < 0.0) || ($one < 0.0 && $two > 0.0)) && (($three > 0.0 && $four < 0.0) || ($three < 0.0 && $four > 0.0))) {
                            return true;
                        }
                    }
                }
            }
        }

        return false;
    }

    /**
     * @param  list<float>  $outline
     * @return list<array{float, float, float, float}>
     */
    private static function edges(array $outline): array
    {
        $edges = [];
        $n = count($outline);
        [$x, $y] = [$outline[$n - 2], $outline[$n - 1]];
        for ($k = 0; $k < $n; $k += 2) {
            $edges[] = [$x, $y, $outline[$k], $outline[$k + 1]];
            [$x, $y] = [$outline[$k], $outline[$k + 1]];
        }

        return $edges;
    }
}
