<?php

declare(strict_types=1);

namespace Isotome\Check;

use Closure;
use Isotome\Geometry\ErrorBound;
use Isotome\Geometry\Extent;
use Isotome\Geometry\Orientation;
use Isotome\Mesh\LeafPairs;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Tree;
use Isotome\Process\SideBySide;

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
     * @param  list<array{int, int}>  $doubled  triangles with the same three corners, which are not in the pairs
     */
    private function __construct(
        public array $pairs,
        public array $faces,
        public array $doubled,
    ) {
    }

    private const MOST_PAIRS = 100_000;

    /** Of directions that agree beyond doubt: the square of the cosine between them. */
    private const CLEARLY = 1e-6;

    /** Width of a triangle by its length, below which its normal is not trusted. */
    private const NEEDLE = 1e-9;

    /** Pairs of leaves that are looked at between two reports of progress. */
    private const AT_A_TIME = 16_384;

    /** @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel */
    public static function of(Mesh $mesh, ?Tree $tree = null, ?Closure $progress = null, int $most = self::MOST_PAIRS): self
    {
        if ($mesh->isEmpty()) {
            return new self([], [], []);
        }
        $tree ??= Tree::of($mesh);
        [$planes, $reach, $needle] = self::planes($mesh);
        $plain = PlainFans::of($mesh, $planes);
        $boxes = self::boxes($mesh, $tree);
        $parts = LeafPairs::parts($tree);
        $triangles = array_fill(0, count($parts), intdiv($mesh->triangleCount(), count($parts)));
        // With two processes, the progress of this one stands for both; a single process reports one part after the other.
        $length = SideBySide::isWorthTwo($triangles) ? 1.0 : 1.0 / count($parts);
        $works = [];
        foreach ($parts as $n => $leaves) {
            $works[] = static function () use ($mesh, $tree, $boxes, $planes, $reach, $needle, $plain, $leaves, $most, $progress, $length, $n, $parts): array {
                $pairs = $faces = $doubled = [];
                while (($some = $leaves->next(self::AT_A_TIME)) !== []) {
                    foreach (self::meeting($mesh, $tree, $boxes, $planes, $reach, $needle, $plain, $some, $doubled) as [$t, $s]) {
                        $faces[$t] = true;
                        $faces[$s] = true;
                        if (count($pairs) < 2 * $most) {
                            $pairs[] = $t < $s ? $t : $s;
                            $pairs[] = $t < $s ? $s : $t;
                        }
                    }
                    if (! SideBySide::isSecond() && $progress !== null) {
                        $progress(($length < 1.0 ? $n * $length : 0.0) + $length * min(1.0, count($parts) * $leaves->leaves * Tree::LEAF / $mesh->triangleCount()));
                    }
                }

                return [$pairs, $faces, $doubled];
            };
        }
        $pairs = $faces = $doubled = [];
        foreach (SideBySide::all($works, $triangles) as [$ofPart, $facesOfPart, $doubledOfPart]) {
            for ($i = 0, $count = count($ofPart); $i < $count && count($pairs) < $most; $i += 2) {
                $pairs[] = [$ofPart[$i], $ofPart[$i + 1]];
            }
            $faces += $facesOfPart;
            $doubled = array_merge($doubled, $doubledOfPart);
        }
        $progress !== null && $progress(1.0);
        sort($pairs);
        ksort($faces);

        return new self($pairs, $faces, $doubled);
    }

    /**
     * @param  list<float>  $boxes  around each triangle, in the order of the tree: 6 numbers as there
     * @param  list<float>  $planes
     * @param  list<float>  $reach
     * @param  float  $needle  see planes()
     * @param  string  $plain  see PlainFans
     * @param  list<int>  $leaves  two a pair
     * @param  list<array{int, int}>  $doubled  those found are added
     * @return list<array{int, int}> pairs of triangles of these leaves that meet
     */
    private static function meeting(Mesh $mesh, Tree $tree, array $boxes, array $planes, array $reach, float $needle, string $plain, array $leaves, array &$doubled): array
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $order = $tree->order;
        $around = $tree->boxes;
        $count = count($order);
        $met = [];
        for ($at = 0, $end = count($leaves); $at < $end; $at += 2) {
            $i = $leaves[$at];
            $j = $leaves[$at + 1];
            $startI = $i * Tree::LEAF;
            $endI = $startI + Tree::LEAF < $count ? $startI + Tree::LEAF : $count;
            $startJ = $j * Tree::LEAF;
            $endJ = $startJ + Tree::LEAF < $count ? $startJ + Tree::LEAF : $count;
            // What meets does so where the boxes of both leaves are.
            $f = 6 * ($tree->firstLeaf + $i);
            $g = 6 * ($tree->firstLeaf + $j);
            $x0 = $around[$f] > $around[$g] ? $around[$f] : $around[$g];
            $x1 = $around[$f + 1] < $around[$g + 1] ? $around[$f + 1] : $around[$g + 1];
            $y0 = $around[$f + 2] > $around[$g + 2] ? $around[$f + 2] : $around[$g + 2];
            $y1 = $around[$f + 3] < $around[$g + 3] ? $around[$f + 3] : $around[$g + 3];
            $z0 = $around[$f + 4] > $around[$g + 4] ? $around[$f + 4] : $around[$g + 4];
            $z1 = $around[$f + 5] < $around[$g + 5] ? $around[$f + 5] : $around[$g + 5];
            for ($m = $startI; $m < $endI; $m++) {
                $f = 6 * $m;
                $tx0 = $boxes[$f];
                $tx1 = $boxes[$f + 1];
                if ($tx0 > $x1 || $tx1 < $x0) {
                    continue;
                }
                $ty0 = $boxes[$f + 2];
                $ty1 = $boxes[$f + 3];
                if ($ty0 > $y1 || $ty1 < $y0) {
                    continue;
                }
                $tz0 = $boxes[$f + 4];
                $tz1 = $boxes[$f + 5];
                if ($tz0 > $z1 || $tz1 < $z0) {
                    continue;
                }
                $t = $order[$m];
                for ($n = $i === $j ? $m + 1 : $startJ; $n < $endJ; $n++) {
                    $g = 6 * $n;
                    if ($boxes[$g] > $tx1 || $boxes[$g + 1] < $tx0 || $boxes[$g + 2] > $ty1 || $boxes[$g + 3] < $ty0 || $boxes[$g + 4] > $tz1 || $boxes[$g + 5] < $tz0) {
                        continue;
                    }
                    $s = $order[$n];
                    $p = $corners[3 * $s];
                    $q = $corners[3 * $s + 1];
                    $r = $corners[3 * $s + 2];
                    $a = $corners[3 * $t];
                    $b = $corners[3 * $t + 1];
                    $c = $corners[3 * $t + 2];
                    $isA = $a === $p || $a === $q || $a === $r;
                    $isB = $b === $p || $b === $q || $b === $r;
                    $isC = $c === $p || $c === $q || $c === $r;
                    if (($isA && $plain[$a] === "\1") || ($isB && $plain[$b] === "\1") || ($isC && $plain[$c] === "\1")) {
                        continue;
                    }
                    $a *= 3;
                    $b *= 3;
                    $c *= 3;
                    $p *= 3;
                    $q *= 3;
                    $r *= 3;
                    $nx = $planes[4 * $t];
                    $ny = $planes[4 * $t + 1];
                    $nz = $planes[4 * $t + 2];
                    $offset = $planes[4 * $t + 3];
                    $e = $reach[$t];
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
                        $doubled[] = [$t, $s];

                        continue;
                    }
                    if ($isShared > 0) {
                        if ((($sp || $dp > $e) && ($sq || $dq > $e) && ($sr || $dr > $e)) || (($sp || $dp < -$e) && ($sq || $dq < -$e) && ($sr || $dr < -$e))) {
                            continue;
                        }
                        if ((($isA || $da > $f) && ($isB || $db > $f) && ($isC || $dc > $f)) || (($isA || $da < -$f) && ($isB || $db < -$f) && ($isC || $dc < -$f))) {
                            continue;
                        }
                    }
                    $dot = $isShared === 2 ? $nx * $mx + $ny * $my + $nz * $mz : 0.0;
                    if ($dot > 0.0) {
                        // Along a shared edge, faces that look the same way lie side by side, unless they disagree in direction. Normals of needles may be wrong.
                        $nn = $nx * $nx + $ny * $ny + $nz * $nz;
                        $mm = $mx * $mx + $my * $my + $mz * $mz;
                        $isSure = $dot * $dot > self::CLEARLY * $nn * $mm && $nn > $e * $e * $needle && $mm > $f * $f * $needle;
                        if ($isSure && ! self::disagree($a, $b, $c, $p, $q, $r)) {
                            continue;
                        }
                    }
                    if ($isShared < 2 && (self::isSeparated($xyz, $a, $b, $c, $p, $q, $r, $nx, $ny, $nz) || self::isSeparated($xyz, $p, $q, $r, $a, $b, $c, $mx, $my, $mz))) {
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

    /** @return list<float> around each triangle, in the order of the tree: 6 numbers as there */
    private static function boxes(Mesh $mesh, Tree $tree): array
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $boxes = [];
        foreach ($tree->order as $t) {
            $a = 3 * $corners[3 * $t];
            $b = 3 * $corners[3 * $t + 1];
            $c = 3 * $corners[3 * $t + 2];
            for ($k = 0; $k < 3; $k++) {
                $low = $high = $xyz[$a + $k];
                $one = $xyz[$b + $k];
                if ($one < $low) {
                    $low = $one;
                } elseif ($one > $high) {
                    $high = $one;
                }
                $one = $xyz[$c + $k];
                if ($one < $low) {
                    $low = $one;
                } elseif ($one > $high) {
                    $high = $one;
                }
                $boxes[] = $low;
                $boxes[] = $high;
            }
        }

        return $boxes;
    }

    /**
     * @return array{list<float>, list<float>, float} normal and offset of each triangle, 4 numbers; how far rounding may reach; and how much more than the square of
     *                                                that the square of a normal is when the triangle is wider than a billionth of its length
     */
    private static function planes(Mesh $mesh): array
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $planes = [];
        $reach = [];
        $extent = Extent::of($xyz);
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

        return [$planes, $reach, (self::NEEDLE / (self::FILTER * max($extent, 1e-300))) ** 2];
    }
}
