<?php

declare(strict_types=1);

namespace Isotome\Cells;

/**
 * Cells with half a kerf taken off each wall: what lies between them belongs to none.
 *
 * Each cell is cut by its own walls, moved inwards (I. E. Sutherland, G. W. Hodgman, "Reentrant polygon clipping", 1974, on the faces of a convex
 * body), and by those of the other cells of its shard that it lies behind. Facets between cells of one shard stay; vertices that two of
 * those have in common are one vertex again. So the shards of several cells must be such that walls meet on those facets, as rings' do.
 */
final class Kerf
{
    /** Share of the size within which a vertex is on a wall. */
    private const BAND = 1e-11;

    public static function of(Complex $complex, float $kerf): Complex
    {
        $size = 0.0;
        foreach ($complex->xyz as $c) {
            $size = max($size, abs($c));
        }
        $xyz = $loops = $behind = $ahead = [];
        /** @var array<string, int> $shared */
        $shared = [];
        $walls = self::walls($complex);
        foreach ($complex->facetsOf as $c => $facets) {
            [$own, $faces] = self::cell($complex, $c, $facets);
            foreach ($walls[$complex->label[$c]] ?? [] as [$f, $of, $nx, $ny, $nz, $d]) {
                if ($of === $c || self::isBehind($own, $nx, $ny, $nz, $d + self::BAND * $size)) {
                    [$own, $faces] = self::clipped($own, $faces, $nx, $ny, $nz, $d - $kerf / 2, $f, self::BAND * $size);
                }
            }
            // Vertices of walls within a shard are found again by their place.
            $isShared = [];
            foreach ($faces as [$f, $loop]) {
                if (! $complex->cuts($f) && $complex->ahead[$f] >= 0) {
                    foreach ($loop as $v) {
                        $isShared[$v] = true;
                    }
                }
            }
            $map = [];
            foreach ($faces as [$f, $loop]) {
                foreach ($loop as $v) {
                    if (isset($map[$v])) {
                        continue;
                    }
                    [$x, $y, $z] = array_slice($own, 3 * $v, 3);
                    $map[$v] = isset($isShared[$v]) ? self::shared($shared, $x, $y, $z, 1e-9 * $size, intdiv(count($xyz), 3)) : intdiv(count($xyz), 3);
                    if ($map[$v] === intdiv(count($xyz), 3)) {
                        array_push($xyz, $x, $y, $z);
                    }
                }
            }
            foreach ($faces as [$f, $loop]) {
                $isInner = ! $complex->cuts($f) && $complex->ahead[$f] >= 0;
                if ($isInner && $complex->ahead[$f] === $c) {
                    continue;
                }
                $loops[] = array_map(static fn (int $v): int => $map[$v], $loop);
                $behind[] = $c;
                $ahead[] = $isInner ? $complex->ahead[$f] : -1;
            }
        }

        return new Complex($xyz, $loops, $behind, $ahead, $complex->label);
    }

    /** @return array<int, list<array{int, int, float, float, float, float}>> shard → its walls: facet, cell, and the plane facing outwards */
    private static function walls(Complex $complex): array
    {
        $walls = [];
        foreach ($complex->facetsOf as $c => $facets) {
            foreach ($facets as $f) {
                if ($complex->cuts($f) && $complex->ahead[$f] >= 0) {
                    $sign = $complex->behind[$f] === $c ? 1.0 : -1.0;
                    [$nx, $ny, $nz, $d] = array_slice($complex->planes, 4 * $f, 4);
                    $walls[$complex->label[$c]][] = [$f, $c, $sign * $nx, $sign * $ny, $sign * $nz, $sign * $d];
                }
            }
        }

        return $walls;
    }

    /** @param  list<float>  $xyz */
    private static function isBehind(array $xyz, float $nx, float $ny, float $nz, float $d): bool
    {
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            if ($nx * $xyz[$i] + $ny * $xyz[$i + 1] + $nz * $xyz[$i + 2] > $d) {
                return false;
            }
        }

        return true;
    }

    /** @param  array<string, int>  $shared */
    private static function shared(array &$shared, float $x, float $y, float $z, float $near, int $next): int
    {
        $cell = 4 * $near;
        $at = [$x / $cell, $y / $cell, $z / $cell];
        $low = array_map(static fn (float $c): int => (int) floor($c), $at);
        for ($n = 0; $n < 27; $n++) {
            $found = $shared[($low[0] + $n % 3 - 1).' '.($low[1] + intdiv($n, 3) % 3 - 1).' '.($low[2] + intdiv($n, 9) - 1)] ?? null;
            if ($found !== null) {
                return $found;
            }
        }

        return $shared["$low[0] $low[1] $low[2]"] = $next;
    }

    /**
     * @param  list<int>  $facets
     * @return array{list<float>, list<array{int, list<int>}>} vertices, and faces seen from outside with the facet each lies on
     */
    private static function cell(Complex $complex, int $c, array $facets): array
    {
        $number = $xyz = $faces = [];
        foreach ($facets as $f) {
            $loop = [];
            foreach ($complex->behind[$f] === $c ? $complex->loops[$f] : array_reverse($complex->loops[$f]) as $v) {
                if (! isset($number[$v])) {
                    $number[$v] = count($number);
                    array_push($xyz, $complex->xyz[3 * $v], $complex->xyz[3 * $v + 1], $complex->xyz[3 * $v + 2]);
                }
                $loop[] = $number[$v];
            }
            $faces[] = [$f, $loop];
        }

        return [$xyz, $faces];
    }

    /**
     * What lies behind a plane, closed again.
     *
     * @param  list<float>  $xyz
     * @param  list<array{int, list<int>}>  $faces
     * @return array{list<float>, list<array{int, list<int>}>}
     */
    private static function clipped(array $xyz, array $faces, float $nx, float $ny, float $nz, float $d, int $on, float $band): array
    {
        $side = $away = [];
        $isCut = false;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $away[] = $e = $nx * $xyz[$i] + $ny * $xyz[$i + 1] + $nz * $xyz[$i + 2] - $d;
            $side[] = $s = $e > $band ? 1 : ($e < -$band ? -1 : 0);
            $isCut = $isCut || $s > 0;
        }
        if (! $isCut) {
            return [$xyz, $faces];
        }
        $made = $kept = $rim = [];
        foreach ($faces as [$f, $loop]) {
            $left = [];
            $isLeft = false;
            $p = $loop[count($loop) - 1];
            foreach ($loop as $q) {
                if ($side[$p] * $side[$q] < 0) {
                    [$low, $high] = $p < $q ? [$p, $q] : [$q, $p];
                    if (! isset($made["$low $high"])) {
                        $share = $away[$low] / ($away[$low] - $away[$high]);
                        $made["$low $high"] = count($side);
                        $side[] = 0;
                        $away[] = 0.0;
                        for ($k = 0; $k < 3; $k++) {
                            $xyz[] = $xyz[3 * $low + $k] + $share * ($xyz[3 * $high + $k] - $xyz[3 * $low + $k]);
                        }
                    }
                    $left[] = $made["$low $high"];
                }
                if ($side[$q] <= 0) {
                    $left[] = $q;
                    $isLeft = $isLeft || $side[$q] < 0;
                }
                $p = $q;
            }
            if (! $isLeft) {
                continue;
            }
            $kept[] = [$f, $left];
            $n = count($left);
            foreach ($left as $i => $q) {
                $r = $left[$i + 1 < $n ? $i + 1 : 0];
                if ($side[$q] === 0 && $side[$r] === 0) {
                    $rim[$r] = $q;
                }
            }
        }
        $loop = [];
        $p = $start = array_key_first($rim);
        while ($p !== null && count($loop) <= count($rim)) {
            $loop[] = $p;
            $p = $rim[$p] ?? null;
            $p = $p === $start ? null : $p;
        }
        if (count($loop) >= 3) {
            $kept[] = [$on, $loop];
        }

        return [$xyz, count($kept) < 4 ? [] : $kept];
    }
}
