<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Geometry\Extent;
use Isotome\Mesh\Mesh;

/**
 * Vertices that lie beside an edge of the mesh, nearer than a file's numbers tell apart. Where two wedges of material meet along an edge, one of them has such a vertex of
 * its own, so that they do not touch (Solid\Wedges); rounded, it would come to lie on either side of the edge, and through the other wedge's faces. Without it both
 * wedges have the edge, and Disentangle can tell them apart in the file's numbers.
 */
final class BesideEdges
{
    /**
     * @param  array<int, true>  $moved  vertices that rounding moves; no others are looked at
     * @return array{list<int>, list<int>, list<int>}|null corners and tags without such vertices, and the ends of the edges; null when there is none
     */
    public static function takenBack(Mesh $mesh, array $moved, Precision $precision): ?array
    {
        $found = self::edges($mesh->corners, self::beside($mesh, $moved, $precision));
        if ($found === []) {
            return null;
        }
        /** @var array<int, array{int, int, int}|null> $instead of a face: one with the edge, or none */
        $instead = [];
        $ends = [];
        foreach ($found as [$ring, $faces]) {
            if (array_intersect_key($instead, array_flip($faces)) === []) {
                [$p, $a, $q, $b] = $ring;
                $instead += [$faces[0] => [$p, $a, $q], $faces[1] => null, $faces[2] => [$q, $b, $p], $faces[3] => null];
                array_push($ends, $p, $q);
            }
        }
        $corners = $tags = [];
        foreach ($mesh->tags as $t => $tag) {
            $face = array_key_exists($t, $instead) ? $instead[$t] : [$mesh->corners[3 * $t], $mesh->corners[3 * $t + 1], $mesh->corners[3 * $t + 2]];
            if ($face !== null) {
                $corners[] = $face[0];
                $corners[] = $face[1];
                $corners[] = $face[2];
                $tags[] = $tag;
            }
        }

        return [$corners, $tags, $ends];
    }

    /**
     * Vertices of four faces that lie beside the line between two opposite neighbours.
     *
     * @param  array<int, true>  $moved
     * @return list<array{list<int>, list<int>}> of each the neighbours in order, the first and the third being the two, and the face after each
     */
    private static function beside(Mesh $mesh, array $moved, Precision $precision): array
    {
        if ($moved === []) {
            return [];
        }
        $corners = $mesh->corners;
        $lowest = min(array_keys($moved));
        $around = [];
        foreach ($corners as $i => $v) {
            if ($v >= $lowest && isset($moved[$v])) {
                $around[$v][] = $i;
            }
        }
        $beside = [];
        foreach ($around as $v => $places) {
            if (count($places) !== 4) {
                continue;
            }
            $next = [];
            foreach ($places as $i) {
                $t = $i - $i % 3;
                $next[$corners[$t + ($i + 1) % 3]] = [$corners[$t + ($i + 2) % 3], intdiv($i, 3)];
            }
            $ring = $faces = [];
            for ($p = array_key_first($next); count($ring) < 4 && isset($next[$p]); $p = $next[$p][0]) {
                $ring[] = $p;
                $faces[] = $next[$p][1];
            }
            if (count(array_flip($ring)) < 4) {
                continue;
            }
            foreach ([0, 1] as $k) {
                if (self::isBeside($mesh->xyz, $v, $ring[$k], $ring[$k + 2], $precision)) {
                    $beside[] = [[...array_slice($ring, $k), ...array_slice($ring, 0, $k)], [...array_slice($faces, $k), ...array_slice($faces, 0, $k)]];
                    break;
                }
            }
        }

        return $beside;
    }

    /**
     * Is a vertex between two others, and nearer to their line than to the next of the file's numbers?
     *
     * @param  list<float>  $xyz
     */
    private static function isBeside(array $xyz, int $v, int $p, int $q, Precision $precision): bool
    {
        $from = array_slice($xyz, 3 * $p, 3);
        $to = array_slice($xyz, 3 * $q, 3);
        $along = $length = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $d = $to[$k] - $from[$k];
            $along += $d * ($xyz[3 * $v + $k] - $from[$k]);
            $length += $d * $d;
        }
        if ($along <= 0.0 || $along >= $length) {
            return false;
        }
        $away = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $away += ($xyz[3 * $v + $k] - $from[$k] - $along / $length * ($to[$k] - $from[$k])) ** 2;
        }

        return $away <= $precision->grain(max(Extent::of($from), Extent::of($to))) ** 2;
    }

    /**
     * Those whose two are the ends of an edge.
     *
     * @param  list<int>  $corners
     * @param  list<array{list<int>, list<int>}>  $beside
     * @return list<array{list<int>, list<int>}>
     */
    private static function edges(array $corners, array $beside): array
    {
        if ($beside === []) {
            return [];
        }
        $isEnd = $there = [];
        foreach ($beside as [$ring]) {
            $isEnd[$ring[0]][$ring[2]] = $isEnd[$ring[2]][$ring[0]] = true;
        }
        foreach ($corners as $i => $p) {
            if (isset($isEnd[$p])) {
                $q = $corners[$i % 3 === 2 ? $i - 2 : $i + 1];
                if (isset($isEnd[$p][$q])) {
                    $there[$p][$q] = $there[$q][$p] = true;
                }
            }
        }

        return array_values(array_filter($beside, static fn (array $one): bool => isset($there[$one[0][0]][$one[0][2]])));
    }
}
