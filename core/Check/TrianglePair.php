<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Geometry\Orientation;
use Isotome\Geometry\Orientation3;

/**
 * Do two triangles of a mesh meet anywhere but in the corners and edges that they share? Decided exactly; touching counts.
 *
 * Source: the definition of a self-intersection in computational geometry (common practice); separating by the planes of both
 * first, then edges against triangles, as P. Guigue and O. Devillers, "Fast and robust triangle-triangle overlap test using
 * orientation predicates", Journal of Graphics Tools 8 (2003).
 */
final class TrianglePair
{
    /**
     * @param  list<float>  $xyz
     * @param  array{int, int, int}  $one  offsets into xyz
     * @param  array{int, int, int}  $other
     */
    public static function meets(array $xyz, array $one, array $other): bool
    {
        $shared = array_values(array_intersect($one, $other));
        if (count($shared) === 0) {
            return self::apart($xyz, $one, $other);
        }
        if (count($shared) === 1) {
            [$p] = $shared;
            [$a, $b] = self::others($one, $p);
            [$c, $d] = self::others($other, $p);

            return self::segment($xyz, $c, $d, $one) || self::segment($xyz, $a, $b, $other);
        }
        if (count($shared) === 2) {
            [$p, $q] = $shared;
            $r = array_sum($one) - $p - $q;
            $s = array_sum($other) - $p - $q;

            return self::isFolded($xyz, $p, $q, $r, $s);
        }

        // The same three corners: a doubled face, which is another fault.
        return false;
    }

    /**
     * Two triangles on one edge lie on each other when their other corners are on the same side of it, in one plane.
     *
     * @param  list<float>  $xyz
     */
    public static function isFolded(array $xyz, int $p, int $q, int $r, int $s): bool
    {
        if (Orientation3::of($xyz, $p, $q, $r, $s) !== 0) {
            return false;
        }
        foreach ([[0, 1], [1, 2], [2, 0]] as [$u, $v]) {
            $one = Orientation::of($xyz[$p + $u], $xyz[$p + $v], $xyz[$q + $u], $xyz[$q + $v], $xyz[$r + $u], $xyz[$r + $v]);
            if ($one !== 0) {
                return $one === Orientation::of($xyz[$p + $u], $xyz[$p + $v], $xyz[$q + $u], $xyz[$q + $v], $xyz[$s + $u], $xyz[$s + $v]);
            }
        }

        return false;
    }

    /**
     * @param  array{int, int, int}  $three
     * @return array{int, int}
     */
    private static function others(array $three, int $p): array
    {
        return $three[0] === $p ? [$three[1], $three[2]] : ($three[1] === $p ? [$three[2], $three[0]] : [$three[0], $three[1]]);
    }

    /**
     * @param  list<float>  $xyz
     * @param  array{int, int, int}  $one
     * @param  array{int, int, int}  $other
     */
    private static function apart(array $xyz, array $one, array $other): bool
    {
        foreach ([[$one, $other], [$other, $one]] as [[$a, $b, $c], [$p, $q, $r]]) {
            $side = Orientation3::of($xyz, $a, $b, $c, $p);
            if ($side !== 0 && $side === Orientation3::of($xyz, $a, $b, $c, $q) && $side === Orientation3::of($xyz, $a, $b, $c, $r)) {
                return false;
            }
        }
        foreach ([[$one, $other], [$other, $one]] as [$triangle, [$p, $q, $r]]) {
            if (self::segment($xyz, $p, $q, $triangle) || self::segment($xyz, $q, $r, $triangle) || self::segment($xyz, $r, $p, $triangle)) {
                return true;
            }
        }

        return false;
    }

    /**
     * Does the segment meet the triangle, both closed?
     *
     * @param  list<float>  $xyz
     * @param  array{int, int, int}  $triangle
     */
    private static function segment(array $xyz, int $p, int $q, array $triangle): bool
    {
        [$a, $b, $c] = $triangle;
        $sideP = Orientation3::of($xyz, $a, $b, $c, $p);
        $sideQ = Orientation3::of($xyz, $a, $b, $c, $q);
        if ($sideP * $sideQ > 0) {
            return false;
        }
        if ($sideP === 0 || $sideQ === 0) {
            if ($sideP === $sideQ) {
                return self::inPlane($xyz, $p, $q, $triangle);
            }
            $on = $sideP === 0 ? $p : $q;

            return self::inPlane($xyz, $on, $on, $triangle);
        }
        $one = Orientation3::of($xyz, $p, $q, $a, $b);
        $two = Orientation3::of($xyz, $p, $q, $b, $c);
        if ($one * $two < 0) {
            return false;
        }
        $three = Orientation3::of($xyz, $p, $q, $c, $a);

        return $two * $three >= 0 && $three * $one >= 0;
    }

    /**
     * Does a segment (or point, when p = q) in the triangle's plane meet it? On the page that shows the triangle largest.
     *
     * @param  list<float>  $xyz
     * @param  array{int, int, int}  $triangle
     */
    private static function inPlane(array $xyz, int $p, int $q, array $triangle): bool
    {
        [$a, $b, $c] = $triangle;
        [$u, $v, $way] = self::page($xyz, $triangle);
        $turn = static fn (int $i, int $j, int $k): int => Orientation::of($xyz[$i + $u], $xyz[$i + $v], $xyz[$j + $u], $xyz[$j + $v], $xyz[$k + $u], $xyz[$k + $v]);
        if ($way === 0) {
            // A triangle without area: its neighbours tell.
            return false;
        }
        // Apart when an edge of the triangle, or the segment's own line, separates them.
        foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$i, $j]) {
            if ($way * $turn($i, $j, $p) < 0 && $way * $turn($i, $j, $q) < 0) {
                return false;
            }
        }
        if ($p === $q) {
            return true;
        }
        $sides = [$turn($p, $q, $a), $turn($p, $q, $b), $turn($p, $q, $c)];

        return ! (min($sides) > 0 || max($sides) < 0);
    }

    /**
     * The page of the coordinate axes that shows a triangle largest, of those that show it at all.
     *
     * @param  list<float>  $xyz
     * @param  array{int, int, int}  $triangle
     * @return array{int, int, int} its axes, and which way the triangle turns on it; 0 when it has no area on any
     */
    private static function page(array $xyz, array $triangle): array
    {
        [$a, $b, $c] = $triangle;
        $best = -1.0;
        $page = [0, 1, 0];
        foreach ([[0, 1], [1, 2], [2, 0]] as [$u, $v]) {
            $area = abs(($xyz[$b + $u] - $xyz[$a + $u]) * ($xyz[$c + $v] - $xyz[$a + $v]) - ($xyz[$b + $v] - $xyz[$a + $v]) * ($xyz[$c + $u] - $xyz[$a + $u]));
            if ($area > $best) {
                // Of a needle the area may come out as nothing, or as something where there is nothing.
                $way = Orientation::of($xyz[$a + $u], $xyz[$a + $v], $xyz[$b + $u], $xyz[$b + $v], $xyz[$c + $u], $xyz[$c + $v]);
                if ($way !== 0) {
                    $best = $area;
                    $page = [$u, $v, $way];
                }
            }
        }

        return $page;
    }
}
