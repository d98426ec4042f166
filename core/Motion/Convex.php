<?php

declare(strict_types=1);

namespace Isotome\Motion;

/**
 * How near two convex bodies are, or how deep one is in the other, and along which direction.
 *
 * Guarantees: the distance is that of the hulls of the points but for some 1e-10 of their size; of bodies that overlap, the depth is the least distance by which one must be moved for them to be apart.
 *
 * Sources: E. G. Gilbert, D. W. Johnson, S. S. Keerthi, "A fast procedure for computing the distance between complex objects in three-dimensional space", 1988, with the closest point of a simplex by the regions of its corners, edges and
 * faces (C. Ericson, "Real-Time Collision Detection", 2005, chapter 9.5); depths by growing a polytope, G. van den Bergen, "Proximity queries and penetration depth computation on 3D game objects", 2001.
 */
final class Convex
{
    private const ROUNDS = 64;

    /** Share of the square of the distance within which it is the least. */
    private const NEAR = 1e-12;

    /** Share of the size that is nothing. */
    private const NOTHING = 1e-10;

    /**
     * @param  list<float>  $a  corners, three numbers each
     * @param  list<float>  $b
     * @param  array{float, float, float}  $guess  a direction to begin with, from the second body to the first; not 0
     * @return array{float, array{float, float, float}, array{float, float, float}, array{float, float, float}} the distance, less than 0 when they overlap; the direction from the first to the second, of length 1; and the places of both that are nearest, or deepest in the other
     */
    public static function between(array $a, array $b, array $guess = [1.0, 0.0, 0.0]): array
    {
        $size = 0.0;
        foreach ([$a, $b] as $points) {
            foreach ($points as $c) {
                $size = $c > $size ? $c : (-$c > $size ? -$c : $size);
            }
        }
        $nothing = (self::NOTHING * $size) ** 2;
        $simplex = [self::support($a, $b, -$guess[0], -$guess[1], -$guess[2])];
        [$x, $y, $z] = $simplex[0];
        $weights = [1.0];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $square = $x * $x + $y * $y + $z * $z;
            if ($square <= $nothing) {
                return self::depth($a, $b, $simplex, $size);
            }
            $w = self::support($a, $b, -$x, -$y, -$z);
            if ($square - ($x * $w[0] + $y * $w[1] + $z * $w[2]) <= self::NEAR * $square || self::has($simplex, $w)) {
                break;
            }
            $simplex[] = $w;
            [$simplex, $weights] = self::closest($simplex);
            if (count($simplex) === 4) {
                return self::depth($a, $b, $simplex, $size);
            }
            $x = $y = $z = 0.0;
            foreach ($simplex as $k => $point) {
                $x += $weights[$k] * $point[0];
                $y += $weights[$k] * $point[1];
                $z += $weights[$k] * $point[2];
            }
        }
        $far = sqrt($x * $x + $y * $y + $z * $z);
        $on = [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0]];
        foreach ($simplex as $k => $point) {
            for ($c = 0; $c < 3; $c++) {
                $on[0][$c] += $weights[$k] * $point[3 + $c];
                $on[1][$c] += $weights[$k] * $point[6 + $c];
            }
        }

        return [$far, [-$x / $far, -$y / $far, -$z / $far], $on[0], $on[1]];
    }

    /**
     * How far apart two bodies are along a direction of length 1, from the first to the second: they are at least so far apart.
     *
     * @param  list<float>  $a
     * @param  list<float>  $b
     */
    public static function gap(array $a, array $b, float $x, float $y, float $z): float
    {
        $most = -INF;
        for ($i = 0, $n = count($a); $i < $n; $i += 3) {
            $d = $a[$i] * $x + $a[$i + 1] * $y + $a[$i + 2] * $z;
            $most = $d > $most ? $d : $most;
        }
        $least = INF;
        for ($i = 0, $n = count($b); $i < $n; $i += 3) {
            $d = $b[$i] * $x + $b[$i + 1] * $y + $b[$i + 2] * $z;
            $least = $d < $least ? $d : $least;
        }

        return $least - $most;
    }

    /**
     * The corner of all differences that is farthest along a direction: of the first body along it, less that of the second against it.
     *
     * @param  list<float>  $a
     * @param  list<float>  $b
     * @return array{float, float, float, float, float, float, float, float, float} the difference, and the two places
     */
    private static function support(array $a, array $b, float $x, float $y, float $z): array
    {
        $most = -INF;
        $p = 0;
        for ($i = 0, $n = count($a); $i < $n; $i += 3) {
            $d = $a[$i] * $x + $a[$i + 1] * $y + $a[$i + 2] * $z;
            if ($d > $most) {
                $most = $d;
                $p = $i;
            }
        }
        $least = INF;
        $q = 0;
        for ($i = 0, $n = count($b); $i < $n; $i += 3) {
            $d = $b[$i] * $x + $b[$i + 1] * $y + $b[$i + 2] * $z;
            if ($d < $least) {
                $least = $d;
                $q = $i;
            }
        }

        return [$a[$p] - $b[$q], $a[$p + 1] - $b[$q + 1], $a[$p + 2] - $b[$q + 2], $a[$p], $a[$p + 1], $a[$p + 2], $b[$q], $b[$q + 1], $b[$q + 2]];
    }

    /**
     * @param  list<list<float>>  $simplex
     * @param  list<float>  $point
     */
    private static function has(array $simplex, array $point): bool
    {
        foreach ($simplex as $one) {
            if ($one[0] === $point[0] && $one[1] === $point[1] && $one[2] === $point[2]) {
                return true;
            }
        }

        return false;
    }

    /**
     * The part of a simplex on which its place nearest to the origin lies, and the shares of its corners in that place; all four corners when the origin is within.
     *
     * @param  list<array{float, float, float, float, float, float, float, float, float}>  $s
     * @return array{list<array{float, float, float, float, float, float, float, float, float}>, list<float>}
     */
    private static function closest(array $s): array
    {
        if (count($s) === 2) {
            $t = self::onSegment($s[0], $s[1]);

            return $t <= 0.0 ? [[$s[0]], [1.0]] : ($t >= 1.0 ? [[$s[1]], [1.0]] : [[$s[0], $s[1]], [1.0 - $t, $t]]);
        }
        if (count($s) === 3) {
            return self::onTriangle($s[0], $s[1], $s[2]);
        }
        $best = null;
        $least = INF;
        $isWithin = true;
        foreach ([[0, 1, 2, 3], [0, 2, 3, 1], [0, 3, 1, 2], [1, 3, 2, 0]] as [$i, $j, $k, $opposite]) {
            [$nx, $ny, $nz] = self::normal($s[$i], $s[$j], $s[$k]);
            $origin = -($nx * $s[$i][0] + $ny * $s[$i][1] + $nz * $s[$i][2]);
            $other = $nx * ($s[$opposite][0] - $s[$i][0]) + $ny * ($s[$opposite][1] - $s[$i][1]) + $nz * ($s[$opposite][2] - $s[$i][2]);
            // Is the origin beyond this face? Of a flat simplex, beyond all of them.
            if ($origin * $other > 0.0) {
                continue;
            }
            $isWithin = false;
            [$part, $weights] = self::onTriangle($s[$i], $s[$j], $s[$k]);
            $square = 0.0;
            for ($c = 0; $c < 3; $c++) {
                $sum = 0.0;
                foreach ($part as $m => $point) {
                    $sum += $weights[$m] * $point[$c];
                }
                $square += $sum * $sum;
            }
            if ($square < $least) {
                $least = $square;
                $best = [$part, $weights];
            }
        }

        return $isWithin || $best === null ? [$s, [0.25, 0.25, 0.25, 0.25]] : $best;
    }

    /**
     * @param  array<int, float>  $a
     * @param  array<int, float>  $b
     */
    private static function onSegment(array $a, array $b): float
    {
        $x = $b[0] - $a[0];
        $y = $b[1] - $a[1];
        $z = $b[2] - $a[2];
        $square = $x * $x + $y * $y + $z * $z;

        return $square > 0.0 ? -($a[0] * $x + $a[1] * $y + $a[2] * $z) / $square : 0.0;
    }

    /**
     * @param  array{float, float, float, float, float, float, float, float, float}  $a
     * @param  array{float, float, float, float, float, float, float, float, float}  $b
     * @param  array{float, float, float, float, float, float, float, float, float}  $c
     * @return array{list<array{float, float, float, float, float, float, float, float, float}>, list<float>}
     */
    private static function onTriangle(array $a, array $b, array $c): array
    {
        $ab = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
        $ac = [$c[0] - $a[0], $c[1] - $a[1], $c[2] - $a[2]];
        $d1 = -($ab[0] * $a[0] + $ab[1] * $a[1] + $ab[2] * $a[2]);
        $d2 = -($ac[0] * $a[0] + $ac[1] * $a[1] + $ac[2] * $a[2]);
        if ($d1 <= 0.0 && $d2 <= 0.0) {
            return [[$a], [1.0]];
        }
        $d3 = -($ab[0] * $b[0] + $ab[1] * $b[1] + $ab[2] * $b[2]);
        $d4 = -($ac[0] * $b[0] + $ac[1] * $b[1] + $ac[2] * $b[2]);
        if ($d3 >= 0.0 && $d4 <= $d3) {
            return [[$b], [1.0]];
        }
        $vc = $d1 * $d4 - $d3 * $d2;
        if ($vc <= 0.0 && $d1 >= 0.0 && $d3 <= 0.0) {
            $t = $d1 / ($d1 - $d3);

            return [[$a, $b], [1.0 - $t, $t]];
        }
        $d5 = -($ab[0] * $c[0] + $ab[1] * $c[1] + $ab[2] * $c[2]);
        $d6 = -($ac[0] * $c[0] + $ac[1] * $c[1] + $ac[2] * $c[2]);
        if ($d6 >= 0.0 && $d5 <= $d6) {
            return [[$c], [1.0]];
        }
        $vb = $d5 * $d2 - $d1 * $d6;
        if ($vb <= 0.0 && $d2 >= 0.0 && $d6 <= 0.0) {
            $t = $d2 / ($d2 - $d6);

            return [[$a, $c], [1.0 - $t, $t]];
        }
        $va = $d3 * $d6 - $d5 * $d4;
        if ($va <= 0.0 && $d4 - $d3 >= 0.0 && $d5 - $d6 >= 0.0) {
            $t = ($d4 - $d3) / (($d4 - $d3) + ($d5 - $d6));

            return [[$b, $c], [1.0 - $t, $t]];
        }
        $sum = $va + $vb + $vc;

        return [[$a, $b, $c], [$va / $sum, $vb / $sum, $vc / $sum]];
    }

    /**
     * @param  array<int, float>  $a
     * @param  array<int, float>  $b
     * @param  array<int, float>  $c
     * @return array{float, float, float} not of length 1
     */
    private static function normal(array $a, array $b, array $c): array
    {
        [$ux, $uy, $uz] = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
        [$vx, $vy, $vz] = [$c[0] - $a[0], $c[1] - $a[1], $c[2] - $a[2]];

        return [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
    }

    /**
     * The least way out of bodies that overlap.
     *
     * @param  list<float>  $a
     * @param  list<float>  $b
     * @param  list<array{float, float, float, float, float, float, float, float, float}>  $simplex
     * @return array{float, array{float, float, float}, array{float, float, float}, array{float, float, float}}
     */
    private static function depth(array $a, array $b, array $simplex, float $size): array
    {
        $points = self::solid($a, $b, $simplex, $size);
        /** @var list<array{int, int, int, float, float, float, float}> $faces corners, normal of length 1, distance from the origin */
        $faces = [];
        foreach ([[0, 1, 2, 3], [0, 3, 1, 2], [0, 2, 3, 1], [1, 3, 2, 0]] as [$i, $j, $k, $opposite]) {
            $face = self::face($points, $i, $j, $k);
            $isOutward = $face[3] * ($points[$opposite][0] - $points[$i][0]) + $face[4] * ($points[$opposite][1] - $points[$i][1]) + $face[5] * ($points[$opposite][2] - $points[$i][2]) <= 0.0;
            $faces[] = $isOutward ? $face : self::face($points, $i, $k, $j);
        }
        $best = $faces[0];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $best = $faces[0];
            foreach ($faces as $face) {
                $best = $face[6] < $best[6] ? $face : $best;
            }
            $w = self::support($a, $b, $best[3], $best[4], $best[5]);
            if (self::NOTHING * $size >= $best[3] * $w[0] + $best[4] * $w[1] + $best[5] * $w[2] - $best[6] || self::has($points, $w)) {
                break;
            }
            $points[] = $w;
            $new = count($points) - 1;
            $rim = $kept = [];
            foreach ($faces as $face) {
                if ($face[3] * ($w[0] - $points[$face[0]][0]) + $face[4] * ($w[1] - $points[$face[0]][1]) + $face[5] * ($w[2] - $points[$face[0]][2]) <= 0.0) {
                    $kept[] = $face;

                    continue;
                }
                // Edges that go with the face on both sides are none of the rim.
                foreach ([[$face[0], $face[1]], [$face[1], $face[2]], [$face[2], $face[0]]] as [$from, $to]) {
                    if (isset($rim[$to << 16 | $from])) {
                        unset($rim[$to << 16 | $from]);
                    } else {
                        $rim[$from << 16 | $to] = true;
                    }
                }
            }
            foreach ($rim as $edge => $_) {
                $kept[] = self::face($points, $edge >> 16, $edge & 0xFFFF, $new);
            }
            $faces = $kept;
        }
        [$i, $j, $k, $x, $y, $z, $deep] = $best;
        $at = [$x * $deep, $y * $deep, $z * $deep];
        $shifted = static fn (int $n): array => [$points[$n][0] - $at[0], $points[$n][1] - $at[1], $points[$n][2] - $at[2], (float) $n, 0.0, 0.0, 0.0, 0.0, 0.0];
        [$part, $weights] = self::onTriangle($shifted($i), $shifted($j), $shifted($k));
        $on = [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0]];
        foreach ($part as $m => $point) {
            for ($c = 0; $c < 3; $c++) {
                $on[0][$c] += $weights[$m] * $points[(int) $point[3]][3 + $c];
                $on[1][$c] += $weights[$m] * $points[(int) $point[3]][6 + $c];
            }
        }

        return [0.0 - max(0.0, $deep), [$x, $y, $z], $on[0], $on[1]];
    }

    /**
     * A simplex of four corners that are on no plane, from one around which the origin is.
     *
     * @param  list<float>  $a
     * @param  list<float>  $b
     * @param  list<array{float, float, float, float, float, float, float, float, float}>  $simplex
     * @return non-empty-list<array{float, float, float, float, float, float, float, float, float}>
     */
    private static function solid(array $a, array $b, array $simplex, float $size): array
    {
        $points = array_slice($simplex, 0, 4);
        if (count($points) === 4 && self::volume($points) > (self::NOTHING * $size) ** 3) {
            return $points;
        }
        // The origin is on what is there: so it stays within when more corners are added.
        $points = array_slice($points, 0, 3);
        if (count($points) === 3 && array_sum(array_map(abs(...), self::normal($points[0], $points[1], $points[2]))) <= (1e-7 * $size) ** 2) {
            $points = array_slice($points, 0, 2);
        }
        for ($round = count($points); $round < 4; $round++) {
            $ways = self::ways($points);
            foreach ($ways as [$x, $y, $z]) {
                $w = self::support($a, $b, $x, $y, $z);
                $more = [...$points, $w];
                $isNew = match (count($points)) {
                    1 => abs($w[0] - $points[0][0]) + abs($w[1] - $points[0][1]) + abs($w[2] - $points[0][2]) > 1e-7 * $size,
                    2 => array_sum(array_map(abs(...), self::normal($points[0], $points[1], $w))) > (1e-7 * $size) ** 2,
                    default => self::volume($more) > (1e-7 * $size) ** 3,
                };
                if ($isNew) {
                    $points = $more;
                    break;
                }
            }
        }
        while (count($points) < 4) {
            $points[] = $points[0];
        }

        return $points;
    }

    /**
     * Directions away from what some corners span.
     *
     * @param  list<array<int, float>>  $p
     * @return list<array{float, float, float}>
     */
    private static function ways(array $p): array
    {
        if (count($p) === 3) {
            [$x, $y, $z] = self::normal($p[0], $p[1], $p[2]);

            return [[$x, $y, $z], [-$x, -$y, -$z]];
        }
        $all = [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]];
        if (count($p) === 2) {
            $along = [$p[1][0] - $p[0][0], $p[1][1] - $p[0][1], $p[1][2] - $p[0][2]];
            $all = array_map(static fn (array $axis): array => [$along[1] * $axis[2] - $along[2] * $axis[1], $along[2] * $axis[0] - $along[0] * $axis[2], $along[0] * $axis[1] - $along[1] * $axis[0]], $all);
        }
        $ways = [];
        foreach ($all as [$x, $y, $z]) {
            array_push($ways, [$x, $y, $z], [-$x, -$y, -$z]);
        }

        return $ways;
    }

    /** @param  list<array<int, float>>  $p */
    private static function volume(array $p): float
    {
        [$x, $y, $z] = self::normal($p[0], $p[1], $p[2]);

        return abs($x * ($p[3][0] - $p[0][0]) + $y * ($p[3][1] - $p[0][1]) + $z * ($p[3][2] - $p[0][2]));
    }

    /**
     * @param  list<array<int, float>>  $points
     * @return array{int, int, int, float, float, float, float}
     */
    private static function face(array $points, int $i, int $j, int $k): array
    {
        [$x, $y, $z] = self::normal($points[$i], $points[$j], $points[$k]);
        $long = sqrt($x * $x + $y * $y + $z * $z);
        if ($long <= 0.0) {
            return [$i, $j, $k, 0.0, 0.0, 0.0, INF];
        }

        return [$i, $j, $k, $x / $long, $y / $long, $z / $long, ($x * $points[$i][0] + $y * $points[$i][1] + $z * $points[$i][2]) / $long];
    }
}
