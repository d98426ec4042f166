<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Closure;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use Isotome\Solid\Combined;

/**
 * A solid widened all round by a gap.
 *
 * Every corner moves by the shortest way that brings it out of the planes of all its faces by the gap: a box stays a box, exactly. Where a face would turn over on its
 * way, in holes, hollows and folds narrower than twice the gap, its corners stop before. What the moved faces wind around is widened, and what stopped faces still bound is
 * filled.
 *
 * Guarantees: closed like every solid of the kernel; a face whose corners all went their way moved out by the gap at least; no corner moves by more than FARTHEST gaps.
 * In narrow folds it may fall short of the gap: the faces that stopped there are counted.
 *
 * Sources: the shortest way, by few deciding constraints as J. Matoušek, M. Sharir, E. Welzl, "A subexponential bound for linear programming" (1996); moving corners and keeping what is wound around, W. Jung, H. Shin, B. K. Choi,
 * "Self-intersection removal in triangular mesh offsetting" (2004).
 */
final class Widened
{
    /** Gaps by which the tip of a spike moves at most. */
    private const FARTHEST = 4.0;

    /** Of the way to where its corners meet, that a face goes which would turn over. */
    private const NEARLY = 0.999;

    /** So often ways are shortened, and groups of planes changed, at most; nearly always a few times do. */
    private const ROUNDS = 400;

    /** Of the gap: what is nearer is there. Of directions: what is smaller is nothing. */
    private const CLOSE = 1e-12;

    /** Tag of faces that stopped on their way. */
    private const STOPPED = 1;

    /**
     * @param  Mesh  $solid  watertight
     * @param  float  $gap  mm, above 0
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @return array{mesh: Mesh, stopped: int} and how many of its faces stopped on their way
     */
    public static function of(Mesh $solid, float $gap, ?Closure $progress = null): array
    {
        $joined = Places::joined($solid);
        $isStopped = [];
        $xyz = self::moved($joined, $gap, $isStopped);
        $tags = array_map(static fn (int $t): int => isset($isStopped[$t]) ? self::STOPPED : 0, array_keys($joined->tags));
        $rule = static fn (array $windings): bool => $windings[0] > 0;
        $wide = Combined::solid([Mesh::of($xyz, $joined->corners, $tags)], $rule, $progress);
        $left = array_keys($wide->tags, self::STOPPED, true);
        if ($left === []) {
            return ['mesh' => $wide, 'stopped' => count($isStopped)];
        }
        // What they still bound is left of a hole or a fold: it is filled.
        $closed = CloseChain::of(RemoveFaces::of($wide, array_fill_keys($left, true)))['mesh'];

        return ['mesh' => Combined::solid([$closed], $rule, $progress), 'stopped' => count($isStopped)];
    }

    /**
     * Where all corners come to.
     *
     * @param  array<int, true>  $isStopped  faces that would turn over are added
     * @return list<float>
     */
    private static function moved(Mesh $mesh, float $gap, array &$isStopped): array
    {
        $xyz = $mesh->xyz;
        $normals = self::normals($mesh);
        $ways = self::ways($mesh, $normals, $gap);
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $times = [];
            foreach ($normals as $t => $normal) {
                $three = [$mesh->corners[3 * $t], $mesh->corners[3 * $t + 1], $mesh->corners[3 * $t + 2]];
                if ($normal === null || self::across($xyz, $ways, 1.0, $three, $normal) > 0.0) {
                    continue;
                }
                $isStopped[$t] = true;
                $low = 0.0;
                $high = 1.0;
                for ($n = 0; $n < 30; $n++) {
                    $middle = ($low + $high) / 2;
                    if (self::across($xyz, $ways, $middle, $three, $normal) > 0.0) {
                        $low = $middle;
                    } else {
                        $high = $middle;
                    }
                }
                foreach ($three as $v) {
                    $times[$v] = min($times[$v] ?? 1.0, self::NEARLY * $low);
                }
            }
            foreach ($times as $v => $share) {
                for ($k = 3 * $v; $k < 3 * $v + 3; $k++) {
                    $ways[$k] *= $share;
                }
            }
            $ways = array_values($ways);
            if ($times === []) {
                break;
            }
        }

        return array_map(static fn (float $at, float $way): float => $at + $way, $xyz, $ways);
    }

    /** @return array<int, array{float, float, float}|null> of length 1; null of what has no area */
    private static function normals(Mesh $mesh): array
    {
        $xyz = $mesh->xyz;
        $normals = [];
        foreach ($mesh->tags as $t => $_) {
            $a = 3 * $mesh->corners[3 * $t];
            $b = 3 * $mesh->corners[3 * $t + 1];
            $c = 3 * $mesh->corners[3 * $t + 2];
            [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
            [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];
            [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
            $size = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $normals[$t] = $size > 0.0 ? [$nx / $size, $ny / $size, $nz / $size] : null;
        }

        return $normals;
    }

    /**
     * @param  array<int, array{float, float, float}|null>  $normals
     * @return list<float> by how much each coordinate of each vertex moves
     */
    private static function ways(Mesh $mesh, array $normals, float $gap): array
    {
        $around = array_fill(0, $mesh->vertexCount(), []);
        foreach ($normals as $t => $normal) {
            for ($k = 3 * $t; $normal !== null && $k < 3 * $t + 3; $k++) {
                // Faces in one plane say the same.
                $key = sprintf('%.9f %.9f %.9f', $normal[0], $normal[1], $normal[2]);
                $around[$mesh->corners[$k]][$key] ??= $normal;
            }
        }
        $ways = [];
        foreach ($around as $some) {
            array_push($ways, ...self::way(array_values($some), $gap));
        }

        return $ways;
    }

    /**
     * The shortest way that leads out of all planes by the gap. At most three of the planes decide it: the one that is least left behind joins those that decided
     * so far, and of their groups the one with the shortest way that suits all four decides from then on.
     *
     * @param  list<array{float, float, float}>  $normals
     * @return array{float, float, float}
     */
    private static function way(array $normals, float $gap): array
    {
        $way = [0.0, 0.0, 0.0];
        $deciding = [];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $least = $gap * (1.0 - self::CLOSE);
            $next = null;
            foreach ($normals as $normal) {
                $out = $normal[0] * $way[0] + $normal[1] * $way[1] + $normal[2] * $way[2];
                if ($out < $least) {
                    $least = $out;
                    $next = $normal;
                }
            }
            if ($next === null) {
                break;
            }
            $found = self::shortest($deciding, $next, $gap);
            if ($found === null) {
                // Planes that face each other: there is no way out of both.
                break;
            }
            [$way, $deciding] = $found;
        }
        $size = sqrt($way[0] * $way[0] + $way[1] * $way[1] + $way[2] * $way[2]);
        $times = $size > self::FARTHEST * $gap ? self::FARTHEST * $gap / $size : 1.0;

        return [$times * $way[0], $times * $way[1], $times * $way[2]];
    }

    /**
     * @param  list<array{float, float, float}>  $deciding  at most three
     * @param  array{float, float, float}  $next
     * @return array{array{float, float, float}, list<array{float, float, float}>}|null the way, and the normals that decide it: $next and at most two of the others
     */
    private static function shortest(array $deciding, array $next, float $gap): ?array
    {
        $groups = [[]];
        foreach ($deciding as $k => $one) {
            $groups[] = [$one];
            foreach (array_slice($deciding, $k + 1) as $other) {
                $groups[] = [$one, $other];
            }
        }
        $best = null;
        $shortest = INF;
        foreach ($groups as $group) {
            $way = self::outOf([$next, ...$group], $gap);
            $square = $way === null ? INF : $way[0] * $way[0] + $way[1] * $way[1] + $way[2] * $way[2];
            if ($way === null || $square >= $shortest) {
                continue;
            }
            foreach ($deciding as $normal) {
                if ($gap * (1.0 - self::CLOSE) > $normal[0] * $way[0] + $normal[1] * $way[1] + $normal[2] * $way[2]) {
                    continue 2;
                }
            }
            $best = [$way, [$next, ...$group]];
            $shortest = $square;
        }

        return $best;
    }

    /**
     * The shortest way that leads out of one to three planes by exactly the gap.
     *
     * @param  non-empty-list<array{float, float, float}>  $normals
     * @return array{float, float, float}|null null when they face each other, or meet in no point
     */
    private static function outOf(array $normals, float $gap): ?array
    {
        [$ax, $ay, $az] = $normals[0];
        if (! isset($normals[1])) {
            return [$gap * $ax, $gap * $ay, $gap * $az];
        }
        [$bx, $by, $bz] = $normals[1];
        if (! isset($normals[2])) {
            $sum = 1.0 + $ax * $bx + $ay * $by + $az * $bz;

            return $sum < self::CLOSE ? null : [$gap * ($ax + $bx) / $sum, $gap * ($ay + $by) / $sum, $gap * ($az + $bz) / $sum];
        }
        [$cx, $cy, $cz] = $normals[2];
        [$px, $py, $pz] = [$by * $cz - $bz * $cy, $bz * $cx - $bx * $cz, $bx * $cy - $by * $cx];
        $det = $ax * $px + $ay * $py + $az * $pz;
        if (abs($det) < self::CLOSE) {
            return null;
        }
        $times = $gap / $det;

        return [
            $times * ($px + ($cy - $by) * $az - ($cz - $bz) * $ay),
            $times * ($py + ($cz - $bz) * $ax - ($cx - $bx) * $az),
            $times * ($pz + ($cx - $bx) * $ay - ($cy - $by) * $ax),
        ];
    }

    /**
     * How large a face is, seen along its normal, when its corners have gone a part of their ways; below 0 when it has turned over.
     *
     * @param  list<float>  $xyz
     * @param  list<float>  $ways
     * @param  array{int, int, int}  $corners
     * @param  array{float, float, float}  $normal
     */
    private static function across(array $xyz, array $ways, float $part, array $corners, array $normal): float
    {
        [$a, $b, $c] = [3 * $corners[0], 3 * $corners[1], 3 * $corners[2]];
        $ux = $xyz[$b] - $xyz[$a] + $part * ($ways[$b] - $ways[$a]);
        $uy = $xyz[$b + 1] - $xyz[$a + 1] + $part * ($ways[$b + 1] - $ways[$a + 1]);
        $uz = $xyz[$b + 2] - $xyz[$a + 2] + $part * ($ways[$b + 2] - $ways[$a + 2]);
        $vx = $xyz[$c] - $xyz[$a] + $part * ($ways[$c] - $ways[$a]);
        $vy = $xyz[$c + 1] - $xyz[$a + 1] + $part * ($ways[$c + 1] - $ways[$a + 1]);
        $vz = $xyz[$c + 2] - $xyz[$a + 2] + $part * ($ways[$c + 2] - $ways[$a + 2]);

        return ($uy * $vz - $uz * $vy) * $normal[0] + ($uz * $vx - $ux * $vz) * $normal[1] + ($ux * $vy - $uy * $vx) * $normal[2];
    }
}
