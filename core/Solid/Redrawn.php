<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Isotome\Geometry\Orientation;
use Isotome\Seal\PlanarMesh;

/**
 * The triangles of a solid where it was divided, drawn anew. Rounding of derived corners can turn thin ones over: what hangs together in one plane and has such triangles is divided once more, by the
 * rounded corners. Then edges are flipped, so that none is thinner than it must be.
 *
 * Guarantees: the outline of each part of a plane, the corners within it and the number of triangles stay, so nothing else changes. Where even the outline crosses itself on the page, the part stays as it was.
 *
 * Sources: triangulations of the same corners and outline have the same number of triangles (L. Euler); Page; flips by C. L. Lawson 1977, see PlanarMesh.
 */
final class Redrawn
{
    /**
     * @param  list<int>  $triangles  of the arrangement, that each face is
     * @param  list<int>  $corners  points of the arrangement, three a face, whichever way it looks
     * @param  list<int>  $numbers  vertices, three a face that was made of these
     * @param  list<int>  $faces  which of these it is, see Wedges
     * @return list<int> the vertices, some of them exchanged
     */
    public static function of(Arrangement $all, array $triangles, array $corners, array $numbers, array $faces): array
    {
        $anew = self::regions($all, array_values(array_unique($triangles)));
        if ($anew === []) {
            return $numbers;
        }
        $often = array_count_values($faces);
        $members = $kept = [];
        foreach ($faces as $n => $face) {
            $region = $anew[$triangles[$face]][0] ?? -1;
            if ($region < 0) {
                continue;
            }
            if ($often[$face] > 1) {
                $kept[$region] = true;
            }
            // The two sides of a wall have vertices of their own.
            $isTurned = self::isTurned($all, $triangles[$face], [$corners[3 * $face], $corners[3 * $face + 1], $corners[3 * $face + 2]]);
            $members[$region][$isTurned ? 1 : 0][] = $n;
        }
        foreach ($members as $region => $sides) {
            $changed = [];
            foreach ($sides as $side => $some) {
                $vertices = isset($kept[$region]) ? null : self::vertices($corners, $numbers, $faces, $some);
                // Both sides change, or none.
                if ($vertices === null) {
                    continue 2;
                }
                foreach ($some as $n) {
                    [$a, $b, $c] = $anew[$triangles[$faces[$n]]][1];
                    $changed[$n] = $side === 1 ? [$vertices[$a], $vertices[$c], $vertices[$b]] : [$vertices[$a], $vertices[$b], $vertices[$c]];
                }
            }
            foreach ($changed as $n => $three) {
                [$numbers[3 * $n], $numbers[3 * $n + 1], $numbers[3 * $n + 2]] = $three;
            }
        }

        return array_values($numbers);
    }

    /**
     * @param  list<int>  $corners
     * @param  array<int, int>  $numbers
     * @param  list<int>  $faces
     * @param  non-empty-list<int>  $some  faces of one region and side
     * @return array<int, int>|null by point; null where the region comes to a place twice, from both sides of something
     */
    private static function vertices(array $corners, array $numbers, array $faces, array $some): ?array
    {
        $vertices = [];
        foreach ($some as $n) {
            for ($k = 0; $k < 3; $k++) {
                $point = $corners[3 * $faces[$n] + $k];
                if (($vertices[$point] ??= $numbers[3 * $n + $k]) !== $numbers[3 * $n + $k]) {
                    return null;
                }
            }
        }

        return $vertices;
    }

    /** @param  array{int, int, int}  $three */
    private static function isTurned(Arrangement $all, int $t, array $three): bool
    {
        $k = (int) array_search($all->corners[3 * $t], $three, true);

        return $three[($k + 1) % 3] !== $all->corners[3 * $t + 1];
    }

    /**
     * @param  list<int>  $triangles
     * @return array<int, array{int, array{int, int, int}}> by triangle of a region that was divided anew: the region's number, and a new triangle of it in its stead
     */
    private static function regions(Arrangement $all, array $triangles): array
    {
        $pages = $edges = [];
        foreach ($triangles as $t) {
            if ($t < $all->whole) {
                continue;
            }
            $plane = abs($all->part[$t]) - 1;
            $pages[$t] = $plane;
            for ($k = 0; $k < 3; $k++) {
                $p = $all->corners[3 * $t + $k];
                $q = $all->corners[3 * $t + ($k + 1) % 3];
                $edges[$p < $q ? $p << 32 | $q : $q << 32 | $p][] = $t;
            }
        }
        $axes = $isBad = [];
        foreach ($pages as $t => $plane) {
            $axes[$plane] ??= self::axes($all, $plane);
            if (! self::turnsLeft($all, $t, ...$axes[$plane])) {
                $isBad[$t] = true;
            }
        }
        $anew = $seen = [];
        foreach ($pages as $t => $plane) {
            if (isset($seen[$t])) {
                continue;
            }
            [$region, $outline] = self::region($all, $t, $edges, $seen);
            $hasBad = array_intersect_key($isBad, array_flip($region)) !== [];
            if (count($region) === 1) {
                continue;
            }
            $made = $hasBad ? self::divided($all, $region, $outline, ...$axes[$plane]) : self::asTheyAre($all, $region);
            foreach (self::relaxed($all, $made, $all->part[$t] > 0, $plane, ...$axes[$plane]) as $n => $three) {
                $anew[$region[$n]] = [$t, $three];
            }
        }

        return $anew;
    }

    /**
     * @param  list<int>  $region
     * @return list<array{int, int, int}>
     */
    private static function asTheyAre(Arrangement $all, array $region): array
    {
        return array_map(static fn (int $t): array => [$all->corners[3 * $t], $all->corners[3 * $t + ($all->part[$t] > 0 ? 1 : 2)], $all->corners[3 * $t + ($all->part[$t] > 0 ? 2 : 1)]], $region);
    }

    /**
     * @param  list<array{int, int, int}>  $made  turning left on the page
     * @param  bool  $isLeft  whether those of the arrangement do
     * @return list<array{int, int, int}> points, running as in the arrangement
     */
    private static function relaxed(Arrangement $all, array $made, bool $isLeft, int $plane, int $u, int $v): array
    {
        if ($made === []) {
            return [];
        }
        $xyz = $all->points->xyz;
        [$right, $up] = self::square($all, $plane);
        $x = $y = $across = $along = $corners = [];
        foreach ($made as $three) {
            foreach ($three as $p) {
                $corners[] = $p;
                $x[$p] = $xyz[3 * $p + $u];
                $y[$p] = $xyz[3 * $p + $v];
                $across[$p] = $right[0] * $xyz[3 * $p] + $right[1] * $xyz[3 * $p + 1] + $right[2] * $xyz[3 * $p + 2];
                $along[$p] = $up[0] * $xyz[3 * $p] + $up[1] * $xyz[3 * $p + 1] + $up[2] * $xyz[3 * $p + 2];
            }
        }
        $mesh = new PlanarMesh($corners, $x, $y, $across, $along);
        $mesh->relax(range(0, count($corners) - 1));
        $relaxed = [];
        foreach ($made as $n => $_) {
            $relaxed[] = [$mesh->corner[3 * $n], $mesh->corner[3 * $n + ($isLeft ? 1 : 2)], $mesh->corner[3 * $n + ($isLeft ? 2 : 1)]];
        }

        return $relaxed;
    }

    /** @return array{list<float>, list<float>} two directions in a plane, square to each other and of the same length */
    private static function square(Arrangement $all, int $plane): array
    {
        $at = static fn (int $k): array => array_slice($all->points->xyz, 3 * $all->given[3 * $plane + $k], 3);
        [$a, $b, $c] = [$at(0), $at(1), $at(2)];
        $e = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
        $f = [$c[0] - $a[0], $c[1] - $a[1], $c[2] - $a[2]];
        $n = [$e[1] * $f[2] - $e[2] * $f[1], $e[2] * $f[0] - $e[0] * $f[2], $e[0] * $f[1] - $e[1] * $f[0]];
        $up = [$n[1] * $e[2] - $n[2] * $e[1], $n[2] * $e[0] - $n[0] * $e[2], $n[0] * $e[1] - $n[1] * $e[0]];
        $length = sqrt($up[0] * $up[0] + $up[1] * $up[1] + $up[2] * $up[2]);
        $scale = $length > 0.0 ? sqrt($e[0] * $e[0] + $e[1] * $e[1] + $e[2] * $e[2]) / $length : 0.0;

        return [$e, [$up[0] * $scale, $up[1] * $scale, $up[2] * $scale]];
    }

    /** @return array{int, int} axes of a page on which the triangles of a plane turn left */
    private static function axes(Arrangement $all, int $plane): array
    {
        return Contact::page($all->points, [$all->given[3 * $plane], $all->given[3 * $plane + 1], $all->given[3 * $plane + 2]]);
    }

    /** With its corners as they are rounded, as it does exactly? */
    private static function turnsLeft(Arrangement $all, int $t, int $u, int $v): bool
    {
        $xyz = $all->points->xyz;
        [$a, $b, $c] = [3 * $all->corners[3 * $t], 3 * $all->corners[3 * $t + 1], 3 * $all->corners[3 * $t + 2]];
        $way = Orientation::of($xyz[$a + $u], $xyz[$a + $v], $xyz[$b + $u], $xyz[$b + $v], $xyz[$c + $u], $xyz[$c + $v]);

        return $all->part[$t] > 0 ? $way > 0 : $way < 0;
    }

    /**
     * What hangs together in the plane of a triangle, by edges with no third face.
     *
     * @param  array<int, non-empty-list<int>>  $edges
     * @param  array<int, true>  $seen
     * @return array{list<int>, list<array{int, int}>} triangles, and the edges around them as they run along these
     */
    private static function region(Arrangement $all, int $t, array $edges, array &$seen): array
    {
        $parts = $all->parts($t);
        $seen[$t] = true;
        $region = [];
        $outline = [];
        $queue = [$t];
        while ($queue !== []) {
            $region[] = $t = array_pop($queue);
            for ($k = 0; $k < 3; $k++) {
                $p = $all->corners[3 * $t + $k];
                $q = $all->corners[3 * $t + ($k + 1) % 3];
                $around = $edges[$p < $q ? $p << 32 | $q : $q << 32 | $p];
                $other = count($around) === 2 ? $around[0] + $around[1] - $t : -1;
                if ($other < 0 || $all->parts($other) !== $parts) {
                    $outline[] = [$p, $q];
                } elseif (! isset($seen[$other])) {
                    $seen[$other] = true;
                    $queue[] = $other;
                }
            }
        }

        return [$region, $outline];
    }

    /**
     * @param  list<int>  $region
     * @param  list<array{int, int}>  $outline
     * @return list<array{int, int, int}> points of as many triangles; none when it cannot be done
     */
    private static function divided(Arrangement $all, array $region, array $outline, int $u, int $v): array
    {
        $isLeft = $all->part[$region[0]] > 0;
        $xyz = $number = $places = [];
        [$u0, $u1, $v0, $v1] = [INF, -INF, INF, -INF];
        foreach ($region as $t) {
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $point = $all->corners[$k];
                if (isset($number[$point])) {
                    continue;
                }
                $number[$point] = count($number);
                [$x, $y] = [$all->points->xyz[3 * $point + $u], $all->points->xyz[3 * $point + $v]];
                $place = pack('d2', $x + 0.0, $y + 0.0);
                if (isset($places[$place])) {
                    return [];
                }
                $places[$place] = true;
                array_push($xyz, $x, $y, 0.0);
                [$u0, $u1, $v0, $v1] = [min($u0, $x), max($u1, $x), min($v0, $y), max($v1, $y)];
            }
        }
        $count = count($number);
        // Far enough for doubles as well.
        $far = 64.0 * ($u1 - $u0 + $v1 - $v0) + abs($u0) + abs($u1) + abs($v0) + abs($v1);
        [$midU, $midV] = [($u0 + $u1) / 2, ($v0 + $v1) / 2];
        array_push($xyz, $midU - $far, $midV - $far, 0.0, $midU + $far, $midV - $far, 0.0, $midU, $midV + $far, 0.0);
        $points = new Points($xyz);
        $page = new Page($points, 0, 1, $count, $count + 1, $count + 2);
        for ($p = 0; $p < $count; $p++) {
            $page->insert($p);
        }
        foreach ($outline as [$p, $q]) {
            $page->connect($number[$p], $number[$q]);
            if ($points->count() > $count + 3) {
                return [];
            }
        }

        return self::within($page, array_keys($number), array_map(static fn (array $edge): array => [$number[$edge[0]], $number[$edge[1]]], $outline), $isLeft, count($region));
    }

    /**
     * The triangles of a page that lie beside edges of the outline, and what hangs together with them.
     *
     * @param  list<int>  $point  of the arrangement, by number on the page
     * @param  list<array{int, int}>  $outline
     * @param  bool  $isLeft  the region lies to the left of its outline; else to the right
     * @return list<array{int, int, int}> none when they are not as many as they should be
     */
    private static function within(Page $page, array $point, array $outline, bool $isLeft, int $many): array
    {
        $corners = $page->triangles();
        $half = $isRim = [];
        foreach ($corners as $i => $p) {
            $half[$p << 32 | $corners[$i % 3 === 2 ? $i - 2 : $i + 1]] = intdiv($i, 3);
        }
        $queue = $seen = [];
        foreach ($outline as [$p, $q]) {
            [$from, $to] = $isLeft ? [$p, $q] : [$q, $p];
            $isRim[$from << 32 | $to] = true;
            $t = $half[$from << 32 | $to] ?? null;
            // It went through another corner.
            if ($t === null) {
                return [];
            }
            if (! isset($seen[$t])) {
                $seen[$t] = true;
                $queue[] = $t;
            }
        }
        $made = [];
        while ($queue !== [] && count($made) <= $many) {
            $t = array_pop($queue);
            $three = [$corners[3 * $t], $corners[3 * $t + 1], $corners[3 * $t + 2]];
            if (max($three) >= count($point)) {
                return [];
            }
            $made[] = [$point[$three[0]], $point[$three[1]], $point[$three[2]]];
            for ($k = 0; $k < 3; $k++) {
                [$p, $q] = [$three[$k], $three[($k + 1) % 3]];
                $other = isset($isRim[$p << 32 | $q]) ? null : ($half[$q << 32 | $p] ?? null);
                if ($other !== null && ! isset($seen[$other])) {
                    $seen[$other] = true;
                    $queue[] = $other;
                }
            }
        }

        return count($made) === $many ? $made : [];
    }
}
