<?php

declare(strict_types=1);

namespace Isotome\Motion;

/**
 * Where two convex bodies touch, or will soon: up to four places, with how far apart the bodies are there, along one direction.
 *
 * Where a face meets a face, the one is clipped by the sides of the other (I. E. Sutherland, G. W. Hodgman, "Reentrant polygon clipping", 1974), as contacts are found in games since D. Gregorius, "Robust contact creation for physics simulations", 2015; else
 * the places that are nearest to each other are one contact.
 */
final class Manifold
{
    /** A face is met when its normal is as near to the direction: cosine of the angle. */
    private const FACE = 0.97;

    /** mm: where a face meets the other, they are no farther apart than anywhere else by more than this. */
    private const BESIDE = 0.1;

    /**
     * @param  list<float>  $a  corners where they are now
     * @param  list<float>  $turnA  how it is turned, nine numbers
     * @param  list<float>  $b
     * @param  list<float>  $turnB
     * @param  float  $within  mm, from which on it counts
     * @param  array{float, float, float}  $guess  from the second to the first
     * @return array{array{float, float, float}, list<array{float, float, float, float}>} direction from the first to the second; places in the middle between them, with how far apart they are there: none when they are farther apart
     */
    public static function of(array $a, Shape $shapeA, array $turnA, array $b, Shape $shapeB, array $turnB, float $within, array $guess): array
    {
        [$distance, $way, $on, $other] = Convex::between($a, $b, $guess);
        if ($distance > $within) {
            return [$way, []];
        }

        return self::acrossFaces($a, $shapeA, $turnA, $b, $shapeB, $turnB, $within, $way, $distance)
            ?? [$way, [[($on[0] + $other[0]) / 2, ($on[1] + $other[1]) / 2, ($on[2] + $other[2]) / 2, $distance]]];
    }

    /**
     * Where a face of one meets the other, for bodies that are least apart about along a direction.
     *
     * @param  list<float>  $a
     * @param  list<float>  $turnA
     * @param  list<float>  $b
     * @param  list<float>  $turnB
     * @param  array{float, float, float}  $way  from the first to the second
     * @param  float  $distance  along it
     * @return array{array{float, float, float}, list<array{float, float, float, float}>}|null as of(), along the face's normal; null when no face looks that way, none is opposite, or they are nearer to each other beside it
     */
    public static function acrossFaces(array $a, Shape $shapeA, array $turnA, array $b, Shape $shapeB, array $turnB, float $within, array $way, float $distance): ?array
    {
        [$p, $alignedA] = self::facing($shapeA->normals, $turnA, $way[0], $way[1], $way[2]);
        [$q, $alignedB] = self::facing($shapeB->normals, $turnB, -$way[0], -$way[1], -$way[2]);
        if (max($alignedA, $alignedB) < self::FACE) {
            return null;
        }
        $isFirst = $alignedA >= $alignedB - 1e-4;
        [$normal, $corners] = $isFirst ? $shapeA->faces[$p] : $shapeB->faces[$q];
        $normal = Tensor::times($isFirst ? $turnA : $turnB, $normal);
        $points = $isFirst ? $a : $b;
        $incident = [];
        foreach ($isFirst ? $shapeB->faces[$q][1] : $shapeA->faces[$p][1] as $v) {
            $incident[] = $isFirst ? [$b[3 * $v], $b[3 * $v + 1], $b[3 * $v + 2]] : [$a[3 * $v], $a[3 * $v + 1], $a[3 * $v + 2]];
        }
        $count = count($corners);
        foreach ($corners as $k => $v) {
            $next = 3 * $corners[($k + 1) % $count];
            $v *= 3;
            [$ex, $ey, $ez] = [$points[$next] - $points[$v], $points[$next + 1] - $points[$v + 1], $points[$next + 2] - $points[$v + 2]];
            // Outward of the face's side.
            $side = [$ey * $normal[2] - $ez * $normal[1], $ez * $normal[0] - $ex * $normal[2], $ex * $normal[1] - $ey * $normal[0]];
            $incident = self::clipped($incident, $side, $side[0] * $points[$v] + $side[1] * $points[$v + 1] + $side[2] * $points[$v + 2]);
        }
        $v = 3 * $corners[0];
        $offset = $normal[0] * $points[$v] + $normal[1] * $points[$v + 1] + $normal[2] * $points[$v + 2];
        $places = [];
        $least = INF;
        foreach ($incident as [$x, $y, $z]) {
            $far = $normal[0] * $x + $normal[1] * $y + $normal[2] * $z - $offset;
            $least = $far < $least ? $far : $least;
            if ($far <= $within) {
                $places[] = [$x - $normal[0] * $far / 2, $y - $normal[1] * $far / 2, $z - $normal[2] * $far / 2, $far];
            }
        }

        return $places === [] || $least > $distance + self::BESIDE ? null : [$isFirst ? $normal : [-$normal[0], -$normal[1], -$normal[2]], self::four($places, $normal, INF)];
    }

    /**
     * Of many places the deepest and those farthest apart.
     *
     * @param  float  $tolerance  mm: what is so much less deep does not count
     * @param  list<array{float, float, float, float}>  $places
     * @param  array{float, float, float}  $normal
     * @return list<array{float, float, float, float}>
     */
    public static function four(array $places, array $normal, float $tolerance): array
    {
        $deepest = 0;
        foreach ($places as $n => $place) {
            $deepest = $place[3] < $places[$deepest][3] ? $n : $deepest;
        }
        $most = $places[$deepest][3] + $tolerance;
        $places = array_filter($places, static fn (array $place): bool => $place[3] <= $most);
        if (count($places) <= 4) {
            return array_values($places);
        }
        $right = abs($normal[0]) < 0.7 ? [0.0, -$normal[2], $normal[1]] : [$normal[2], 0.0, -$normal[0]];
        $up = [$normal[1] * $right[2] - $normal[2] * $right[1], $normal[2] * $right[0] - $normal[0] * $right[2], $normal[0] * $right[1] - $normal[1] * $right[0]];
        $kept = [$deepest => $places[$deepest]];
        foreach ([[1, 1], [1, -1], [-1, 1], [-1, -1]] as [$s, $t]) {
            $most = -INF;
            $best = $deepest;
            foreach ($places as $n => [$x, $y, $z]) {
                $d = $s * ($x * $right[0] + $y * $right[1] + $z * $right[2]) + 1.0001 * $t * ($x * $up[0] + $y * $up[1] + $z * $up[2]);
                if ($d > $most) {
                    $most = $d;
                    $best = $n;
                }
            }
            $kept[$best] = $places[$best];
        }
        ksort($kept);

        return array_values($kept);
    }

    /**
     * @param  list<float>  $normals  as the piece stood
     * @param  list<float>  $m  how it is turned
     * @return array{int, float} the face that looks along a direction most, and how much
     */
    private static function facing(array $normals, array $m, float $x, float $y, float $z): array
    {
        $u = $m[0] * $x + $m[3] * $y + $m[6] * $z;
        $v = $m[1] * $x + $m[4] * $y + $m[7] * $z;
        $w = $m[2] * $x + $m[5] * $y + $m[8] * $z;
        $most = -INF;
        $best = 0;
        for ($i = 0, $count = count($normals); $i < $count; $i += 3) {
            $d = $normals[$i] * $u + $normals[$i + 1] * $v + $normals[$i + 2] * $w;
            if ($d > $most) {
                $most = $d;
                $best = $i;
            }
        }

        return [intdiv($best, 3), $most];
    }

    /**
     * @param  list<array{float, float, float}>  $polygon
     * @param  array{float, float, float}  $side
     * @return list<array{float, float, float}> what of it is behind a plane
     */
    private static function clipped(array $polygon, array $side, float $offset): array
    {
        $kept = [];
        $count = count($polygon);
        foreach ($polygon as $n => $to) {
            $from = $polygon[($n + $count - 1) % $count];
            $before = $side[0] * $from[0] + $side[1] * $from[1] + $side[2] * $from[2] - $offset;
            $now = $side[0] * $to[0] + $side[1] * $to[1] + $side[2] * $to[2] - $offset;
            if (($before <= 0.0) !== ($now <= 0.0)) {
                $t = $before / ($before - $now);
                $kept[] = [$from[0] + $t * ($to[0] - $from[0]), $from[1] + $t * ($to[1] - $from[1]), $from[2] + $t * ($to[2] - $from[2])];
            }
            if ($now <= 0.0) {
                $kept[] = $to;
            }
        }

        return $kept;
    }
}
