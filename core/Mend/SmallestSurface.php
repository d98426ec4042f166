<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Closure;

/**
 * The triangulation of a closed line in space that has the smallest area.
 *
 * Source: G. Barequet, M. Sharir, "Filling gaps in the boundary of a polyhedron", Computer Aided Geometric Design 12 (1995), as taken up by
 * P. Liepa, "Filling holes in meshes", Symposium on Geometry Processing (2003): dynamic programming, O(n³). A line of more than
 * LONGEST points is divided by its best short cut first. Chords that are edges of the mesh already are avoided.
 */
final class SmallestSurface
{
    private const LONGEST = 220;

    /**
     * @param  list<float>  $xyz  all vertices
     * @param  list<int>  $loop
     * @param  array<int, array<int, true>>  $edges  existing edges at the loop's vertices, by either end
     * @param  Closure(float): mixed|null  $progress  called again and again; it may throw to cancel
     * @return list<int>|null corners of triangles that run along the loop; null when existing edges forbid every one
     */
    public static function of(array $xyz, array $loop, array $edges, ?Closure $progress = null): ?array
    {
        $count = count($loop);
        if ($count < 3) {
            return null;
        }
        $progress === null || $progress(0.0);
        if ($count > self::LONGEST) {
            [$i, $j] = self::shortCut($xyz, $loop, $edges);
            if ($j < 0) {
                return null;
            }
            $edges[$loop[$i]][$loop[$j]] = true;
            $edges[$loop[$j]][$loop[$i]] = true;
            $one = self::of($xyz, array_slice($loop, $i, $j - $i + 1), $edges, $progress);
            $other = self::of($xyz, [...array_slice($loop, $j), ...array_slice($loop, 0, $i + 1)], $edges, $progress);

            return $one === null || $other === null ? null : [...$one, ...$other];
        }
        $px = $py = $pz = [];
        foreach ($loop as $v) {
            $px[] = $xyz[3 * $v];
            $py[] = $xyz[3 * $v + 1];
            $pz[] = $xyz[3 * $v + 2];
        }
        // cost[i * n + j]: smallest area of the part between chord i–j and the line from i to j.
        $cost = array_fill(0, $count * $count, 0.0);
        $choice = array_fill(0, $count * $count, -1);
        for ($span = 2; $span < $count; $span++) {
            for ($i = 0, $j = $span; $j < $count; $i++, $j++) {
                if ($span < $count - 1 && isset($edges[$loop[$i]][$loop[$j]])) {
                    $cost[$i * $count + $j] = INF;

                    continue;
                }
                $best = INF;
                $at = -1;
                $ix = $px[$i];
                $iy = $py[$i];
                $iz = $pz[$i];
                $ux = $px[$j] - $ix;
                $uy = $py[$j] - $iy;
                $uz = $pz[$j] - $iz;
                for ($k = $i + 1; $k < $j; $k++) {
                    $sum = $cost[$i * $count + $k] + $cost[$k * $count + $j];
                    if ($sum >= $best) {
                        continue;
                    }
                    $vx = $px[$k] - $ix;
                    $vy = $py[$k] - $iy;
                    $vz = $pz[$k] - $iz;
                    $nx = $uy * $vz - $uz * $vy;
                    $ny = $uz * $vx - $ux * $vz;
                    $nz = $ux * $vy - $uy * $vx;
                    $sum += sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                    if ($sum < $best) {
                        $best = $sum;
                        $at = $k;
                    }
                }
                $cost[$i * $count + $j] = $best;
                $choice[$i * $count + $j] = $at;
            }
        }
        if ($choice[$count - 1] < 0) {
            return null;
        }
        $triangles = [];
        $open = [[0, $count - 1]];
        while ($open !== []) {
            [$i, $j] = array_pop($open);
            if ($j - $i < 2) {
                continue;
            }
            $k = $choice[$i * $count + $j];
            array_push($triangles, $loop[$i], $loop[$k], $loop[$j]);
            array_push($open, [$i, $k], [$k, $j]);
        }

        return $triangles;
    }

    /**
     * The chord that is short beside the way round, both ways being long.
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $loop
     * @param  array<int, array<int, true>>  $edges
     * @return array{int, int} places in the loop, the second −1 when there is none
     */
    private static function shortCut(array $xyz, array $loop, array $edges): array
    {
        $count = count($loop);
        $least = intdiv($count, 4);
        // At most about a million chords are looked at.
        $stride = max(1, intdiv($count, 1000));
        $best = INF;
        $found = [0, -1];
        for ($i = 0; $i < $count; $i += $stride) {
            $v = 3 * $loop[$i];
            for ($j = $i + $least; $j < $count && $j - $i <= $count - $least; $j += $stride) {
                $w = 3 * $loop[$j];
                $square = ($xyz[$v] - $xyz[$w]) ** 2 + ($xyz[$v + 1] - $xyz[$w + 1]) ** 2 + ($xyz[$v + 2] - $xyz[$w + 2]) ** 2;
                if ($square < $best && $loop[$i] !== $loop[$j] && ! isset($edges[$loop[$i]][$loop[$j]])) {
                    $best = $square;
                    $found = [$i, $j];
                }
            }
        }

        return $found;
    }
}
