<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Exception\BadBlade;

/**
 * The cell of every vertex of a mesh, found by walking from cell to cell through the facet that is passed by the most.
 *
 * Neighbouring vertices lie in neighbouring cells, so the walk is short (the walk of P. J. Green and R. Sibson, 1978).
 */
final class Locate
{
    /**
     * @param  list<float>  $xyz
     * @param  float  $slack  mm that a place may lie beyond a facet of its cell; no more than rounding: at a sharp corner it reaches far
     * @param  float  $near  mm
     * @return array{list<int>, list<bool>} cell, and whether the plane of a facet of it is within that distance
     */
    public static function of(array $xyz, Complex $complex, float $slack, float $near = 0.0): array
    {
        $near = max($near, $slack);
        [$planes, $others] = self::outward($complex);
        $cells = [];
        $close = [];
        $cell = 0;
        $most = 4 * $complex->cells() + 64;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $x = $xyz[$i];
            $y = $xyz[$i + 1];
            $z = $xyz[$i + 2];
            for ($steps = 0; ; $steps++) {
                $highest = -INF;
                $through = -1;
                $k = 0;
                $flat = $planes[$cell];
                foreach ($others[$cell] as $other) {
                    $d = $flat[$k] * $x + $flat[$k + 1] * $y + $flat[$k + 2] * $z - $flat[$k + 3];
                    $k += 4;
                    if ($d > $highest) {
                        $highest = $d;
                        $through = $other;
                    }
                }
                if ($highest <= $slack) {
                    break;
                }
                if ($steps > $most) {
                    throw new BadBlade(sprintf('The body lies so far from the origin for its size that rounding hides which cell the place %.3f, %.3f, %.3f is in; move it nearer to the origin, or give fewer cells.', $x, $y, $z));
                }
                if ($through < 0) {
                    throw new BadBlade(sprintf('The cells do not reach the place %.3f, %.3f, %.3f of the body; make them larger.', $x, $y, $z));
                }
                $cell = $through;
            }
            $cells[] = $cell;
            $close[] = $highest >= -$near;
        }

        return [$cells, $close];
    }

    /** @return array{list<list<float>>, list<list<int>>} for each cell its planes, facing outward, and the cells beyond them */
    private static function outward(Complex $complex): array
    {
        $planes = $others = [];
        foreach ($complex->facetsOf as $c => $facets) {
            $flat = $beyond = [];
            foreach ($facets as $f) {
                $isBehind = $complex->behind[$f] === $c;
                $sign = $isBehind ? 1.0 : -1.0;
                $beyond[] = $isBehind ? $complex->ahead[$f] : $complex->behind[$f];
                for ($k = 0; $k < 4; $k++) {
                    $flat[] = $sign * $complex->planes[4 * $f + $k];
                }
            }
            $planes[] = $flat;
            $others[] = $beyond;
        }

        return [$planes, $others];
    }
}
