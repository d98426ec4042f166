<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Closure;
use Isotome\Cells\Fill;
use Isotome\Cells\Overlay;
use Isotome\Exception\BrokenPromise;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Compact;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\NearOrigin;

/**
 * Lays the edges of a drawn line into the skin of a body and separates nothing: all round, or only where the line is seen.
 *
 * Guarantees: the body keeps its shape and stays closed where it was; every triangle of the result is a part of the one whose tag it has. Seen is where a face looks towards who draws and no other
 * part of the body lies before the middle of the line on it.
 */
final class DrawnScore
{
    private const ATTEMPTS = 4;

    /** Bins in which faces are looked for that may lie before a place. */
    private const BINS = 256;

    /** Share of its distance from the eye by which a face must be nearer to hide another. */
    private const NEARER = 1e-9;

    /**
     * @param  bool  $seen  only what is seen; else all round
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @return Mesh|null null when the line meets nothing of it
     */
    public static function of(Mesh $mesh, DrawnBlade $blade, bool $seen, ?Closure $progress = null): ?Mesh
    {
        $near = NearOrigin::of($mesh);
        if ($near !== null) {
            $scored = self::of($near->there($mesh), $blade->movedBy([-$near->by[0], -$near->by[1], -$near->by[2]]), $seen, $progress);

            return $scored === null ? null : $near->back($scored);
        }
        for ($attempt = 0; ; $attempt++) {
            try {
                $progress === null ?: $progress(0.1);
                $overlay = Overlay::of($mesh, $blade->space($mesh, $attempt)->complex, isSkinOnly: true);

                return self::laid($mesh, $overlay, $seen ? self::seen($mesh, $overlay, $blade->sight) : null);
            } catch (BrokenPromise $broken) {
                if ($attempt + 1 >= self::ATTEMPTS) {
                    throw $broken;
                }
            }
        }
    }

    /**
     * @param  array<int, true>|null  $seen  the triangles that are divided; null for all
     */
    private static function laid(Mesh $mesh, Overlay $overlay, ?array $seen): ?Mesh
    {
        $first = $mesh->vertexCount();
        /** @var array<int, true> $used new points that a divided triangle has */
        $used = [];
        $isLaid = false;
        foreach ($overlay->parts as $t => $parts) {
            if ($seen === null || isset($seen[$t])) {
                $isLaid = $isLaid || count($parts) > 1;
                foreach ($parts as $edges) {
                    foreach ($edges as [$p]) {
                        $p < $first ?: $used[$p] = true;
                    }
                }
            }
        }
        if (! $isLaid) {
            return null;
        }
        $corners = $tags = [];
        foreach ($mesh->tags as $t => $tag) {
            [$a, $b, $c] = [$mesh->corners[3 * $t], $mesh->corners[3 * $t + 1], $mesh->corners[3 * $t + 2]];
            $parts = $overlay->parts[$t] ?? null;
            if ($parts === null) {
                array_push($corners, $a, $b, $c);
                $tags[] = $tag;

                continue;
            }
            $lists = $seen === null || isset($seen[$t]) ? $parts : [self::border($parts, $first, $used)];
            [$u, $v] = self::page($mesh, $t);
            foreach ($lists as $edges) {
                [$triangles] = Fill::of($overlay->xyz, $edges, $u, $v);
                foreach ($triangles as $k => $p) {
                    $corners[] = $p;
                    if ($k % 3 === 0) {
                        $tags[] = $tag;
                    }
                }
            }
        }
        [$xyz, $corners] = Compact::of($overlay->xyz, $corners);

        return Mesh::of($xyz, $corners, $tags);
    }

    /**
     * Around all parts of a triangle, with those new points only that a neighbour has.
     *
     * @param  array<int, list<array{int, int}>>  $parts
     * @param  array<int, true>  $used
     * @return list<array{int, int}>
     */
    private static function border(array $parts, int $first, array $used): array
    {
        // What runs both ways is within.
        $next = [];
        foreach (array_merge(...$parts) as [$p, $q]) {
            $next[$p][$q] = true;
        }
        $border = [];
        foreach ($next as $p => $ends) {
            foreach ($ends as $q => $_) {
                if (! isset($next[$q][$p])) {
                    $border[$p] = $q;
                }
            }
        }
        $edges = [];
        foreach ($border as $p => $q) {
            if ($p >= $first && ! isset($used[$p])) {
                continue;
            }
            for ($steps = 0; $q >= $first && ! isset($used[$q]) && isset($border[$q]) && $steps < count($border); $steps++) {
                $q = $border[$q];
            }
            $edges[] = [$p, $q];
        }

        return $edges;
    }

    /**
     * Triangles with a chord that face who looks, no other of them lying before it: whatever lies before a place of the line is crossed by the line as well.
     *
     * @return array<int, true>
     */
    private static function seen(Mesh $mesh, Overlay $overlay, Sight $sight): array
    {
        $pages = [];
        $page = static function (int $v) use ($overlay, $sight, &$pages): array {
            if (! isset($pages[$v])) {
                [$u, $up, $w] = $sight->page([$overlay->xyz[3 * $v], $overlay->xyz[3 * $v + 1], $overlay->xyz[3 * $v + 2]]);
                // From an eye it is the reciprocal of the distance that is linear on the page.
                $pages[$v] = [$u, $up, $sight->eye === null ? $w : -1.0 / $w];
            }

            return $pages[$v];
        };
        $faces = $bins = [];
        [$low, $high] = [INF, -INF];
        foreach ($overlay->crossings->chords as $t => $chords) {
            $three = [$page($mesh->corners[3 * $t]), $page($mesh->corners[3 * $t + 1]), $page($mesh->corners[3 * $t + 2])];
            $turn = ($three[1][0] - $three[0][0]) * ($three[2][1] - $three[0][1]) - ($three[1][1] - $three[0][1]) * ($three[2][0] - $three[0][0]);
            $faces[$t] = [$three, $turn, $chords];
            $low = min($low, $three[0][0], $three[1][0], $three[2][0]);
            $high = max($high, $three[0][0], $three[1][0], $three[2][0]);
        }
        $bin = static fn (float $u): int => $high > $low ? (int) (self::BINS * ($u - $low) / ($high - $low)) : 0;
        foreach ($faces as $t => [$three]) {
            $us = [$three[0][0], $three[1][0], $three[2][0]];
            for ($b = $bin(min($us)), $last = $bin(max($us)); $b <= $last; $b++) {
                $bins[$b][] = $t;
            }
        }
        $seen = [];
        foreach ($faces as $t => [, $turn, $chords]) {
            // Seen turning left on the page: it looks at who draws.
            if ($turn <= 0.0) {
                continue;
            }
            foreach ($chords as [$from, $to]) {
                [$a, $b] = [$page($from), $page($to)];
                $at = [($a[0] + $b[0]) / 2, ($a[1] + $b[1]) / 2, ($a[2] + $b[2]) / 2];
                $isHidden = false;
                foreach ($bins[$bin($at[0])] ?? [] as $s) {
                    if ($s !== $t && self::isBefore($faces[$s][0], $faces[$s][1], $at)) {
                        $isHidden = true;
                        break;
                    }
                }
                if (! $isHidden) {
                    $seen[$t] = true;
                    break;
                }
            }
        }

        return $seen;
    }

    /**
     * Does a triangle cover a place of the page, nearer to who looks?
     *
     * @param  array{array{float, float, float}, array{float, float, float}, array{float, float, float}}  $three  on the page
     * @param  array{float, float, float}  $at
     */
    private static function isBefore(array $three, float $turn, array $at): bool
    {
        if ($turn == 0.0) {
            return false;
        }
        [$u, $v, $w] = $at;
        $share = static fn (int $i, int $j): float => (($three[$j][0] - $three[$i][0]) * ($v - $three[$i][1]) - ($three[$j][1] - $three[$i][1]) * ($u - $three[$i][0])) / $turn;
        [$a, $b, $c] = [$share(1, 2), $share(2, 0), $share(0, 1)];
        if ($a < 0.0 || $b < 0.0 || $c < 0.0) {
            return false;
        }

        return $a * $three[0][2] + $b * $three[1][2] + $c * $three[2][2] < $w - self::NEARER * abs($w) - 1e-9 * abs($three[0][2] - $three[1][2]);
    }

    /** @return array{int, int} as Plane::pageAxes */
    private static function page(Mesh $mesh, int $t): array
    {
        $xyz = $mesh->xyz;
        [$a, $b, $c] = [3 * $mesh->corners[3 * $t], 3 * $mesh->corners[3 * $t + 1], 3 * $mesh->corners[3 * $t + 2]];
        [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
        [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];

        return Plane::axesOf($uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx);
    }
}
