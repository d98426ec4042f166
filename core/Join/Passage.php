<?php

declare(strict_types=1);

namespace Isotome\Join;

use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\LinesThrough;
use Isotome\Mesh\Mesh;

/**
 * Which bodies are in the way when one is drawn out straight along a direction.
 *
 * A body is in the way when on some line along the direction it has material ahead of the other's. That is looked at on lines a hundred-and-sixtieth of the whole apart, exactly on each; so what is thinner than that may be missed, and
 * nothing is said to be in the way that is not, but for rounding.
 *
 * Source: blocking by translation to infinity, R. H. Wilson, J.-C. Latombe, "Geometric reasoning about mechanical assembly", Artificial Intelligence 71 (1994), decided on depth images as in height-map machining.
 */
final class Passage
{
    private const LINES = 160;

    /** Depths that differ by less, as a share of the whole, are rounding: faces that lie on each other. */
    private const ROUNDING = 1e-6;

    /**
     * @param  list<Mesh>  $bodies  closed; none reaches into another
     * @param  array{float, float, float}  $along  of length 1
     * @return array{list<array<int, true>>, list<array<int, true>>} for each body, the numbers of those that are in its way along the direction, and against it
     */
    public static function blockers(array $bodies, array $along): array
    {
        [$right, $up] = Plane::through([0.0, 0.0, 0.0], $along)->directions();
        $flat = array_map(static fn (Mesh $mesh): array => self::turned($mesh->xyz, $right, $up, $along), $bodies);
        $boxes = array_map(static fn (array $xyz): Box => Box::of($xyz), $flat);
        $ahead = $behind = array_fill(0, count($bodies), []);
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        foreach ($boxes as $box) {
            foreach ([0, 1, 2] as $k) {
                $low[$k] = min($low[$k], $box->min[$k]);
                $high[$k] = max($high[$k], $box->max[$k]);
            }
        }
        $wide = max($high[0] - $low[0], $high[1] - $low[1]);
        if ($wide <= 0.0 || is_infinite($wide)) {
            return [array_values($ahead), array_values($behind)];
        }
        // Lines that are not where corners and edges of what is regular are.
        $cell = $wide / (self::LINES - 0.377);
        $rounding = self::ROUNDING * max($wide, $high[2] - $low[2]);
        $depths = [];
        foreach ($bodies as $n => $mesh) {
            $depths[] = self::depths($flat[$n], $mesh->corners, $low[0] - 0.271 * $cell, $low[1] - 0.313 * $cell, $cell);
        }
        foreach ($boxes as $n => $one) {
            for ($m = $n + 1, $count = count($boxes); $m < $count; $m++) {
                $other = $boxes[$m];
                if ($one->min[0] > $other->max[0] || $other->min[0] > $one->max[0] || $one->min[1] > $other->max[1] || $other->min[1] > $one->max[1]) {
                    continue;
                }
                [$isFirst, $isSecond] = self::meet($depths[$n], $depths[$m], $rounding);
                if ($isSecond) {
                    $ahead[$n][$m] = $behind[$m][$n] = true;
                }
                if ($isFirst) {
                    $ahead[$m][$n] = $behind[$n][$m] = true;
                }
            }
        }

        return [array_values($ahead), array_values($behind)];
    }

    /**
     * @param  array{array<int, float>, array<int, float>}  $one
     * @param  array{array<int, float>, array<int, float>}  $other
     * @return array{bool, bool} whether the first has material ahead of some of the second's, and the second of the first's
     */
    private static function meet(array $one, array $other, float $rounding): array
    {
        [$from, $to] = $one;
        [$begin, $end] = $other;
        $isFirst = $isSecond = false;
        foreach ($from as $line => $z) {
            if (isset($begin[$line])) {
                $isSecond = $isSecond || $end[$line] > $z + $rounding;
                $isFirst = $isFirst || $to[$line] > $begin[$line] + $rounding;
                if ($isFirst && $isSecond) {
                    break;
                }
            }
        }

        return [$isFirst, $isSecond];
    }

    /**
     * @param  list<float>  $xyz
     * @param  array{float, float, float}  $right
     * @param  array{float, float, float}  $up
     * @param  array{float, float, float}  $along
     * @return list<float>
     */
    private static function turned(array $xyz, array $right, array $up, array $along): array
    {
        $flat = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            [$x, $y, $z] = [$xyz[$i], $xyz[$i + 1], $xyz[$i + 2]];
            $flat[] = $x * $right[0] + $y * $right[1] + $z * $right[2];
            $flat[] = $x * $up[0] + $y * $up[1] + $z * $up[2];
            $flat[] = $x * $along[0] + $y * $along[1] + $z * $along[2];
        }

        return $flat;
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @return array{array<int, float>, array<int, float>} by line, where the body begins on it, and where it ends
     */
    private static function depths(array $xyz, array $corners, float $x0, float $y0, float $cell): array
    {
        [$lines, $heights] = LinesThrough::of($xyz, $corners, $x0, $y0, $cell, self::LINES + 4);
        $from = $to = [];
        foreach ($lines as $n => $k) {
            $at = $heights[$n];
            if (! isset($from[$k])) {
                $from[$k] = $to[$k] = $at;
            } elseif ($at < $from[$k]) {
                $from[$k] = $at;
            } elseif ($at > $to[$k]) {
                $to[$k] = $at;
            }
        }

        return [$from, $to];
    }
}
