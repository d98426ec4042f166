<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Seal\RimTriangulation;

/**
 * Triangles between the edges of a flat outline, using its own points only: one on every edge, n − 2 for an outline of n points.
 *
 * Convex outlines, by far the most, are cut ear by ear along the shortest diagonal; all others are swept.
 */
final class Fill
{
    private const FEW = 12;

    /**
     * @param  list<float>  $xyz
     * @param  list<array{int, int}>  $edges  the area to their left
     * @param  int  $u  the coordinates that show the plane, left turns being left turns: see Plane::pageAxes
     * @return array{list<int>, bool} triangles, and whether the outlines were sound
     */
    public static function of(array $xyz, array $edges, int $u, int $v): array
    {
        $n = count($edges);
        if ($n === 3 && $edges[0][1] === $edges[1][0] && $edges[1][1] === $edges[2][0] && $edges[2][1] === $edges[0][0]) {
            return [[$edges[0][0], $edges[1][0], $edges[2][0]], true];
        }
        $loop = $n <= self::FEW ? self::loop($edges) : null;
        if ($loop !== null) {
            if ($n === 3) {
                return [$loop, true];
            }
            $triangles = self::convex($xyz, $loop, $u, $v);
            if ($triangles !== null) {
                return [$triangles, true];
            }
        }
        $x = $y = $from = $to = [];
        foreach ($edges as [$p, $q]) {
            $x[$p] = $xyz[3 * $p + $u];
            $y[$p] = $xyz[3 * $p + $v];
            $from[] = $p;
            $to[] = $q;
        }
        $flat = RimTriangulation::of($x, $y, $from, $to);

        return [$flat->triangles, $flat->sound && $flat->unclosed === []];
    }

    /**
     * @param  list<array{int, int}>  $edges
     * @return list<int>|null null when they are not one loop that meets no point twice
     */
    private static function loop(array $edges): ?array
    {
        $next = [];
        foreach ($edges as [$p, $q]) {
            if (isset($next[$p])) {
                return null;
            }
            $next[$p] = $q;
        }
        $loop = [];
        $p = $start = $edges[0][0];
        do {
            $loop[] = $p;
            $p = $next[$p] ?? null;
        } while ($p !== null && $p !== $start && count($loop) <= count($edges));

        return $p === $start && count($loop) === count($edges) ? $loop : null;
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $loop
     * @return list<int>|null null when it is not convex, or a corner is nearly straight
     */
    private static function convex(array $xyz, array $loop, int $u, int $v): ?array
    {
        $x = $y = [];
        foreach ($loop as $p) {
            $x[] = $xyz[3 * $p + $u];
            $y[] = $xyz[3 * $p + $v];
        }
        $n = count($loop);
        $turned = 0.0;
        for ($i = 0; $i < $n; $i++) {
            $h = $i === 0 ? $n - 1 : $i - 1;
            $j = $i + 1 === $n ? 0 : $i + 1;
            $ax = $x[$i] - $x[$h];
            $ay = $y[$i] - $y[$h];
            $bx = $x[$j] - $x[$i];
            $by = $y[$j] - $y[$i];
            $cross = $ax * $by - $ay * $bx;
            if ($cross <= 1e-7 * (abs($ax) + abs($ay)) * (abs($bx) + abs($by))) {
                return null;
            }
            $turned += atan2($cross, $ax * $bx + $ay * $by);
        }
        if ($turned > 6.3) {
            return null;
        }
        $triangles = [];
        while ($n > 3) {
            $best = 0;
            $least = INF;
            for ($i = 0; $i < $n; $i++) {
                $h = $i === 0 ? $n - 1 : $i - 1;
                $j = $i + 1 === $n ? 0 : $i + 1;
                $dx = $x[$j] - $x[$h];
                $dy = $y[$j] - $y[$h];
                $d = $dx * $dx + $dy * $dy;
                if ($d < $least) {
                    $least = $d;
                    $best = $i;
                }
            }
            $triangles[] = $loop[$best === 0 ? $n - 1 : $best - 1];
            $triangles[] = $loop[$best];
            $triangles[] = $loop[$best + 1 === $n ? 0 : $best + 1];
            array_splice($loop, $best, 1);
            array_splice($x, $best, 1);
            array_splice($y, $best, 1);
            $n--;
        }
        $triangles[] = $loop[0];
        $triangles[] = $loop[1];
        $triangles[] = $loop[2];

        return $triangles;
    }
}
