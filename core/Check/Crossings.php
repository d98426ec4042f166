<?php

declare(strict_types=1);

namespace Isotome\Check;

use Closure;
use Isotome\Geometry\ErrorBound;
use Isotome\Geometry\Orientation;
use Isotome\Mesh\LeafPairs;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Tree;

/**
 * All pairs of triangles that meet anywhere but in what they share. A tree of boxes finds the candidates; what remains after a
 * floating-point filter is decided exactly (TrianglePair).
 */
final readonly class Crossings
{
    private const FILTER = ErrorBound::TRIANGLE_TO_PLANE;

    /**
     * @param  list<array{int, int}>  $pairs  triangle numbers, lower first; at most so many as were asked for
     * @param  array<int, true>  $faces  every triangle that crosses another
     */
    private function __construct(
        public array $pairs,
        public array $faces,
    ) {
    }

    private const MOST_PAIRS = 100_000;

    /** Pairs of leaves that are looked at between two reports of progress. */
    private const AT_A_TIME = 16_384;

    /** @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel */
    public static function of(Mesh $mesh, ?Tree $tree = null, ?Closure $progress = null, int $most = self::MOST_PAIRS): self
    {
        if ($mesh->isEmpty()) {
            return new self([], []);
        }
        $tree ??= Tree::of($mesh);
        [$planes, $reach] = self::planes($mesh);
        $leaves = new LeafPairs($tree);
        $pairs = [];
        $faces = [];
        while (($some = $leaves->next(self::AT_A_TIME)) !== []) {
            foreach (self::meeting($mesh, $tree->order, $planes, $reach, $some) as [$t, $s]) {
                $faces[$t] = true;
                $faces[$s] = true;
                if (count($pairs) < $most) {
                    $pairs[] = $t < $s ? [$t, $s] : [$s, $t];
                }
            }
            $progress !== null && $progress(min(1.0, $leaves->leaves * Tree::LEAF / $mesh->triangleCount()));
        }
        sort($pairs);
        ksort($faces);

        return new self($pairs, $faces);
    }

    /**
     * @param  list<int>  $order  see Tree
     * @param  list<float>  $planes
     * @param  list<float>  $reach
     * @param  list<int>  $leaves  two a pair
     * @return list<array{int, int}> pairs of triangles of these leaves that meet
     */
    private static function meeting(Mesh $mesh, array $order, array $planes, array $reach, array $leaves): array
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $count = count($order);
        $met = [];
        for ($at = 0, $end = count($leaves); $at < $end; $at += 2) {
            $i = $leaves[$at];
            $j = $leaves[$at + 1];
            $startI = $i * Tree::LEAF;
            $endI = $startI + Tree::LEAF < $count ? $startI + Tree::LEAF : $count;
            $startJ = $j * Tree::LEAF;
            $endJ = $startJ + Tree::LEAF < $count ? $startJ + Tree::LEAF : $count;
            for ($m = $startI; $m < $endI; $m++) {
                $t = $order[$m];
                $a = 3 * $corners[3 * $t];
                $b = 3 * $corners[3 * $t + 1];
                $c = 3 * $corners[3 * $t + 2];
                $nx = $planes[4 * $t];
                $ny = $planes[4 * $t + 1];
                $nz = $planes[4 * $t + 2];
                $offset = $planes[4 * $t + 3];
                $e = $reach[$t];
                for ($n = $i === $j ? $m + 1 : $startJ; $n < $endJ; $n++) {
                    $s = $order[$n];
                    $p = 3 * $corners[3 * $s];
                    $q = 3 * $corners[3 * $s + 1];
                    $r = 3 * $corners[3 * $s + 2];
                    // Surely on one side of the other's plane?
                    $dp = $nx * $xyz[$p] + $ny * $xyz[$p + 1] + $nz * $xyz[$p + 2] - $offset;
                    $dq = $nx * $xyz[$q] + $ny * $xyz[$q + 1] + $nz * $xyz[$q + 2] - $offset;
                    $dr = $nx * $xyz[$r] + $ny * $xyz[$r + 1] + $nz * $xyz[$r + 2] - $offset;
                    if (($dp > $e && $dq > $e && $dr > $e) || ($dp < -$e && $dq < -$e && $dr < -$e)) {
                        continue;
                    }
                    $mx = $planes[4 * $s];
                    $my = $planes[4 * $s + 1];
                    $mz = $planes[4 * $s + 2];
                    $other = $planes[4 * $s + 3];
                    $f = $reach[$s];
                    $da = $mx * $xyz[$a] + $my * $xyz[$a + 1] + $mz * $xyz[$a + 2] - $other;
                    $db = $mx * $xyz[$b] + $my * $xyz[$b + 1] + $mz * $xyz[$b + 2] - $other;
                    $dc = $mx * $xyz[$c] + $my * $xyz[$c + 1] + $mz * $xyz[$c + 2] - $other;
                    if (($da > $f && $db > $f && $dc > $f) || ($da < -$f && $db < -$f && $dc < -$f)) {
                        continue;
                    }
                    // Shared corners lie on both planes, whatever the rounding says.
                    $sp = $p === $a || $p === $b || $p === $c;
                    $sq = $q === $a || $q === $b || $q === $c;
                    $sr = $r === $a || $r === $b || $r === $c;
                    $isShared = ($sp ? 1 : 0) + ($sq ? 1 : 0) + ($sr ? 1 : 0);
                    if ($isShared > 2) {
                        continue;
                    }
                    if ($isShared > 0) {
                        if ((($sp || $dp > $e) && ($sq || $dq > $e) && ($sr || $dr > $e)) || (($sp || $dp < -$e) && ($sq || $dq < -$e) && ($sr || $dr < -$e))) {
                            continue;
                        }
                        $sa = $a === $p || $a === $q || $a === $r;
                        $sb = $b === $p || $b === $q || $b === $r;
                        $sc = $c === $p || $c === $q || $c === $r;
                        if ((($sa || $da > $f) && ($sb || $db > $f) && ($sc || $dc > $f)) || (($sa || $da < -$f) && ($sb || $db < -$f) && ($sc || $dc < -$f))) {
                            continue;
                        }
                    }
                    if ($isShared === 2 && $nx * $mx + $ny * $my + $nz * $mz > 0.0) {
                        // Along a shared edge, faces that look the same way lie side by side, unless they disagree in direction.
                        if (! self::disagree($a, $b, $c, $p, $q, $r)) {
                            continue;
                        }
                    }
                    if ($isShared < 2 && (($isShared === 0 && self::boxesApart($xyz, $a, $b, $c, $p, $q, $r))
                        || self::isSeparated($xyz, $a, $b, $c, $p, $q, $r, $nx, $ny, $nz) || self::isSeparated($xyz, $p, $q, $r, $a, $b, $c, $mx, $my, $mz))) {
                        continue;
                    }
                    if (TrianglePair::meets($xyz, [$a, $b, $c], [$p, $q, $r])) {
                        $met[] = [$t, $s];
                    }
                }
            }
        }

        return $met;
    }

    private static function disagree(int $a, int $b, int $c, int $p, int $q, int $r): bool
    {
        foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$i, $j]) {
            if (($i === $p && $j === $q) || ($i === $q && $j === $r) || ($i === $r && $j === $p)) {
                return true;
            }
        }

        return false;
    }

    /**
     * Seen along the axis nearest to the first triangle's normal: does the line along one of its edges part the two, but for a shared corner on it?
     *
     * @param  list<float>  $xyz
     */
    private static function isSeparated(array $xyz, int $a, int $b, int $c, int $p, int $q, int $r, float $nx, float $ny, float $nz): bool
    {
        $nx = $nx < 0 ? -$nx : $nx;
        $ny = $ny < 0 ? -$ny : $ny;
        $mz = $nz < 0 ? -$nz : $nz;
        if ($mz >= $nx && $mz >= $ny) {
            $u = 0;
            $v = 1;
        } elseif ($nx >= $ny) {
            $u = 1;
            $v = 2;
        } else {
            $u = 2;
            $v = 0;
        }
        $au = $xyz[$a + $u];
        $av = $xyz[$a + $v];
        $bu = $xyz[$b + $u];
        $bv = $xyz[$b + $v];
        $cu = $xyz[$c + $u];
        $cv = $xyz[$c + $v];
        $way = Orientation::of($au, $av, $bu, $bv, $cu, $cv);
        if ($way === 0) {
            return false;
        }
        $pu = $xyz[$p + $u];
        $pv = $xyz[$p + $v];
        $qu = $xyz[$q + $u];
        $qv = $xyz[$q + $v];
        $ru = $xyz[$r + $u];
        $rv = $xyz[$r + $v];
        for ($k = 0; $k < 3; $k++) {
            if (($p === $a || $p === $b || $way * Orientation::of($au, $av, $bu, $bv, $pu, $pv) < 0)
                && ($q === $a || $q === $b || $way * Orientation::of($au, $av, $bu, $bv, $qu, $qv) < 0)
                && ($r === $a || $r === $b || $way * Orientation::of($au, $av, $bu, $bv, $ru, $rv) < 0)) {
                return true;
            }
            [$a, $b, $c] = [$b, $c, $a];
            [$au, $av, $bu, $bv, $cu, $cv] = [$bu, $bv, $cu, $cv, $au, $av];
        }

        return false;
    }

    /** @param  list<float>  $xyz */
    private static function boxesApart(array $xyz, int $a, int $b, int $c, int $p, int $q, int $r): bool
    {
        for ($k = 0; $k < 3; $k++) {
            if (max($xyz[$a + $k], $xyz[$b + $k], $xyz[$c + $k]) < min($xyz[$p + $k], $xyz[$q + $k], $xyz[$r + $k])
                || min($xyz[$a + $k], $xyz[$b + $k], $xyz[$c + $k]) > max($xyz[$p + $k], $xyz[$q + $k], $xyz[$r + $k])) {
                return true;
            }
        }

        return false;
    }

    /** @return array{list<float>, list<float>} normal and offset of each triangle, 4 numbers; and how far rounding may reach */
    private static function planes(Mesh $mesh): array
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $planes = [];
        $reach = [];
        $extent = $xyz === [] ? 0.0 : max(max($xyz), -min($xyz));
        $count = count($corners);
        for ($i = 0; $i < $count; $i += 3) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $ax = $xyz[$a];
            $ay = $xyz[$a + 1];
            $az = $xyz[$a + 2];
            $ux = $xyz[$b] - $ax;
            $uy = $xyz[$b + 1] - $ay;
            $uz = $xyz[$b + 2] - $az;
            $vx = $xyz[$c] - $ax;
            $vy = $xyz[$c + 1] - $ay;
            $vz = $xyz[$c + 2] - $az;
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $planes[] = $nx;
            $planes[] = $ny;
            $planes[] = $nz;
            $planes[] = $nx * $ax + $ny * $ay + $nz * $az;
            // Far above the rounding of the normal (of differences up to twice the extent) and of the dot product.
            $edge = ($ux < 0 ? -$ux : $ux) + ($uy < 0 ? -$uy : $uy) + ($uz < 0 ? -$uz : $uz) + ($vx < 0 ? -$vx : $vx) + ($vy < 0 ? -$vy : $vy) + ($vz < 0 ? -$vz : $vz);
            $reach[] = self::FILTER * $extent * $edge * $edge;
        }

        return [$planes, $reach];
    }
}
