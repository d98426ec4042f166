<?php

declare(strict_types=1);

namespace Isotome\Drawn;

/**
 * The two sides of a line of a given width, as segments: what they wind around, however often, is the line's width. Round at corners.
 *
 * Source: the convolution of a line with a disc winds around each place as often as the line enters the disc around it; L. Guibas, L. Ramshaw, J. Stolfi, "A kinetic framework for computational geometry" (1983).
 */
final class Widened
{
    /** Round corners stay this near to the circle, as a share of its radius. */
    private const NEAR = 0.01;

    /**
     * @param  list<array{float, float}>  $line  no two neighbours at one place
     * @param  bool  $isClosed  the last one is followed by the first
     * @return list<array{list<array{float, float}>, int}> loops of points, and on which side of the line each lies: 1 to its left, −1 to its right; an open line has one loop, of which the first half lies left
     */
    public static function of(array $line, bool $isClosed, float $half): array
    {
        $left = self::side($line, $isClosed, $half);
        $right = array_reverse(self::side($line, $isClosed, -$half));

        return [[$left, 1], [$right, -1]];
    }

    /**
     * @param  list<array{float, float}>  $line
     * @return list<array{float, float}> at a distance to the left
     */
    private static function side(array $line, bool $isClosed, float $away): array
    {
        $n = count($line);
        $normals = [];
        for ($i = 0, $segments = $isClosed ? $n : $n - 1; $i < $segments; $i++) {
            $x = $line[($i + 1) % $n][0] - $line[$i][0];
            $y = $line[($i + 1) % $n][1] - $line[$i][1];
            $length = hypot($x, $y);
            $normals[] = [-$y / $length, $x / $length];
        }
        $side = [];
        for ($i = 0; $i < $n; $i++) {
            $before = $isClosed || $i > 0 ? $normals[($i + count($normals) - 1) % count($normals)] : $normals[0];
            $after = $isClosed || $i < $n - 1 ? $normals[$i % count($normals)] : $before;
            $angle = atan2($before[0] * $after[1] - $before[1] * $after[0], $before[0] * $after[0] + $before[1] * $after[1]);
            $steps = max(1, (int) ceil(abs($angle) / (2 * acos(1 - self::NEAR))));
            for ($k = $angle === 0.0 ? $steps : 0; $k <= $steps; $k++) {
                [$s, $c] = [sin($angle * $k / $steps), cos($angle * $k / $steps)];
                $side[] = [$line[$i][0] + $away * ($c * $before[0] - $s * $before[1]), $line[$i][1] + $away * ($s * $before[0] + $c * $before[1])];
            }
        }

        return $side;
    }
}
