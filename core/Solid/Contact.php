<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Isotome\Geometry\Orientation3;

/**
 * What two triangles have in common, both closed: nothing, a point, a piece of a line, or that they lie in one plane.
 *
 * Decided exactly by the signs of determinants of given points; where an edge passes through an edge or a corner, that is found as such.
 * Source: P. Guigue, O. Devillers, "Fast and robust triangle-triangle overlap test using orientation predicates", Journal of Graphics Tools 8 (2003), extended by the points.
 */
final class Contact
{
    /**
     * @param  array{int, int, int}  $one  given points, not on one line
     * @param  array{int, int, int}  $other
     * @return list<int>|null the ends of what they share, none, one or two; null when they lie in one plane
     */
    public static function of(Points $points, array $one, array $other): ?array
    {
        $sides = [self::sides($points, $one, $other), self::sides($points, $other, $one)];
        if ($sides[0] === [0, 0, 0]) {
            return null;
        }
        $found = [];
        foreach ([[$one, $other, $sides[0]], [$other, $one, $sides[1]]] as [$triangle, $crossing, $of]) {
            if (min($of) > 0 || max($of) < 0) {
                return [];
            }
            [$u, $v] = self::page($points, $triangle);
            for ($k = 0; $k < 3; $k++) {
                $l = ($k + 1) % 3;
                if ($of[$k] === 0 && self::isWithin($points, $crossing[$k], $triangle, $u, $v)) {
                    $found[$crossing[$k]] = true;
                }
                if ($of[$k] * $of[$l] < 0) {
                    $point = self::pierced($points, $crossing[$k], $crossing[$l], $triangle);
                    $point === null ?: $found[$point] = true;
                } elseif ($of[$k] === 0 && $of[$l] === 0) {
                    $found += self::along($points, $crossing[$k], $crossing[$l], $triangle, $u, $v);
                }
            }
        }

        return self::ends($points, array_keys($found));
    }

    /**
     * @param  array{int, int, int}  $triangle
     * @param  array{int, int, int}  $other
     * @return array{int, int, int} on which side of the triangle's plane each corner of the other is
     */
    private static function sides(Points $points, array $triangle, array $other): array
    {
        [$a, $b, $c] = $triangle;
        $sides = [];
        foreach ($other as $o) {
            $sides[] = $o === $a || $o === $b || $o === $c ? 0 : Orientation3::of($points->xyz, 3 * $a, 3 * $b, 3 * $c, 3 * $o);
        }

        return $sides;
    }

    /**
     * Where an edge whose ends are on either side of a triangle's plane goes through the triangle.
     *
     * @param  array{int, int, int}  $triangle
     */
    private static function pierced(Points $points, int $p, int $q, array $triangle): ?int
    {
        $ways = [];
        for ($k = 0; $k < 3; $k++) {
            $ways[] = Orientation3::of($points->xyz, 3 * $p, 3 * $q, 3 * $triangle[$k], 3 * $triangle[($k + 1) % 3]);
        }
        if (min($ways) < 0 && max($ways) > 0) {
            return null;
        }
        // Beside two edges at once: through the corner between them.
        for ($k = 0; $k < 3; $k++) {
            if ($ways[$k] === 0 && $ways[($k + 2) % 3] === 0) {
                return $triangle[$k];
            }
        }

        return $points->onPlane($p, $q, ...$triangle);
    }

    /**
     * Where an edge in a triangle's plane meets its border: corners on the edge, and crossings.
     *
     * @param  array{int, int, int}  $triangle
     * @return array<int, true>
     */
    private static function along(Points $points, int $p, int $q, array $triangle, int $u, int $v): array
    {
        $found = [];
        for ($k = 0; $k < 3; $k++) {
            $a = $triangle[$k];
            $b = $triangle[($k + 1) % 3];
            $ofA = $points->turn($p, $q, $a, $u, $v);
            if ($ofA === 0 && self::isBetween($points, $a, $p, $q)) {
                $found[$a] = true;
            }
            if ($ofA * $points->turn($p, $q, $b, $u, $v) < 0 && $points->turn($a, $b, $p, $u, $v) * $points->turn($a, $b, $q, $u, $v) < 0) {
                $found[$points->crossing($p, $q, $a, $b, $u, $v)] = true;
            }
        }

        return $found;
    }

    /** Is a point of their line between two others, or at one of them? */
    public static function isBetween(Points $points, int $o, int $p, int $q): bool
    {
        for ($axis = 0; $axis < 3; $axis++) {
            $way = $points->compare($p, $q, $axis);
            if ($way !== 0) {
                return $points->compare($p, $o, $axis) * $way >= 0 && $points->compare($o, $q, $axis) * $way >= 0;
            }
        }

        return $o === $p;
    }

    /**
     * Is a point of a triangle's plane in it or on its border?
     *
     * @param  array{int, int, int}  $triangle
     */
    public static function isWithin(Points $points, int $o, array $triangle, int $u, int $v): bool
    {
        [$a, $b, $c] = $triangle;
        if ($o === $a || $o === $b || $o === $c) {
            return true;
        }
        $ways = [$points->turn($a, $b, $o, $u, $v), $points->turn($b, $c, $o, $u, $v), $points->turn($c, $a, $o, $u, $v)];

        return min($ways) >= 0 || max($ways) <= 0;
    }

    /**
     * The axes of a page on which a triangle is not a line: the one that shows it largest, or what decides exactly.
     *
     * @param  array{int, int, int}  $triangle
     * @return array{int, int} so that the triangle turns left on it
     */
    public static function page(Points $points, array $triangle): array
    {
        $xyz = $points->xyz;
        [$a, $b, $c] = [3 * $triangle[0], 3 * $triangle[1], 3 * $triangle[2]];
        $sizes = [];
        foreach ([[0, 1], [1, 2], [2, 0]] as $n => [$u, $v]) {
            $sizes[$n] = abs(($xyz[$b + $u] - $xyz[$a + $u]) * ($xyz[$c + $v] - $xyz[$a + $v]) - ($xyz[$b + $v] - $xyz[$a + $v]) * ($xyz[$c + $u] - $xyz[$a + $u]));
        }
        arsort($sizes);
        foreach (array_keys($sizes) as $n) {
            [$u, $v] = [[0, 1], [1, 2], [2, 0]][$n];
            $way = $points->turn($triangle[0], $triangle[1], $triangle[2], $u, $v);
            if ($way !== 0) {
                return $way > 0 ? [$u, $v] : [$v, $u];
            }
        }

        return [0, 0];
    }

    /**
     * @param  list<int>  $found  points of one line
     * @return list<int> those at its ends
     */
    private static function ends(Points $points, array $found): array
    {
        if (count($found) <= 2) {
            return $found;
        }
        for ($axis = 0; $axis < 3; $axis++) {
            usort($found, static fn (int $i, int $j): int => $points->compare($i, $j, $axis));
            if ($points->compare($found[0], $found[count($found) - 1], $axis) !== 0) {
                break;
            }
        }

        return [$found[0], $found[count($found) - 1]];
    }
}
