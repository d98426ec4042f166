<?php

declare(strict_types=1);

namespace Isotome\Measure;

/**
 * An outline with fewer points: no point of it lies farther from the new outline than the tolerance. Points are left out, none moves.
 *
 * U. Ramer, "An iterative procedure for the polygonal approximation of plane curves" (1972); D. Douglas, T. Peucker (1973). A closed outline is
 * divided first at the point farthest from its first one.
 */
final class Simplified
{
    /**
     * @param  list<array{float, float}>  $points
     * @return list<array{float, float}>
     */
    public static function of(array $points, float $tolerance, bool $isClosed): array
    {
        $count = count($points);
        if ($count < ($isClosed ? 5 : 3) || $tolerance <= 0.0) {
            return $points;
        }
        $x = $y = [];
        foreach ($points as [$px, $py]) {
            $x[] = $px;
            $y[] = $py;
        }
        if ($isClosed) {
            $x[] = $x[0];
            $y[] = $y[0];
        }
        $last = count($x) - 1;
        $far = $last;
        if ($isClosed) {
            $most = -1.0;
            for ($i = 1; $i < $last; $i++) {
                $d = ($x[$i] - $x[0]) ** 2 + ($y[$i] - $y[0]) ** 2;
                if ($d > $most) {
                    $most = $d;
                    $far = $i;
                }
            }
        }
        $kept = [0 => true, $far => true];
        $stack = $far < $last ? [[0, $far], [$far, $last]] : [[0, $last]];
        $square = $tolerance * $tolerance;
        while ($stack !== []) {
            [$a, $b] = array_pop($stack);
            $ax = $x[$a];
            $ay = $y[$a];
            $ux = $x[$b] - $ax;
            $uy = $y[$b] - $ay;
            $length = $ux * $ux + $uy * $uy;
            $most = $square;
            $at = -1;
            for ($i = $a + 1; $i < $b; $i++) {
                $vx = $x[$i] - $ax;
                $vy = $y[$i] - $ay;
                $t = $length > 0.0 ? ($vx * $ux + $vy * $uy) / $length : 0.0;
                $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);
                $vx -= $t * $ux;
                $vy -= $t * $uy;
                $d = $vx * $vx + $vy * $vy;
                if ($d > $most) {
                    $most = $d;
                    $at = $i;
                }
            }
            if ($at >= 0) {
                $kept[$at] = true;
                $stack[] = [$a, $at];
                $stack[] = [$at, $b];
            }
        }
        unset($kept[$isClosed ? $last : -1]);
        ksort($kept);
        $some = [];
        foreach ($kept as $i => $_) {
            $some[] = $points[$i];
        }
        if (! $isClosed) {
            $some[] = $points[$count - 1];
            if ($some[count($some) - 2] === $some[count($some) - 1]) {
                array_pop($some);
            }
        }

        return $isClosed && count($some) < 3 ? $points : $some;
    }

    /**
     * Outlines with a tolerance that is a share of their common extent, so that a drawing of any size looks the same.
     *
     * @param  list<list<array{float, float}>>  $outlines
     * @return list<list<array{float, float}>>
     */
    public static function all(array $outlines, float $share, bool $isClosed = true): array
    {
        $x0 = $y0 = INF;
        $x1 = $y1 = -INF;
        foreach ($outlines as $outline) {
            foreach ($outline as [$x, $y]) {
                $x0 = $x < $x0 ? $x : $x0;
                $x1 = $x > $x1 ? $x : $x1;
                $y0 = $y < $y0 ? $y : $y0;
                $y1 = $y > $y1 ? $y : $y1;
            }
        }
        $tolerance = $share * max($x1 - $x0, $y1 - $y0, 0.0);
        $simple = [];
        foreach ($outlines as $outline) {
            $simple[] = self::of($outline, $tolerance, $isClosed);
        }

        return $simple;
    }
}
