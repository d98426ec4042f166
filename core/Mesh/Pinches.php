<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * Parts that touch only in a point are not joined: each fan of triangles around a pinched vertex gets a vertex of its own, at
 * the same place. Triangles belong to one fan when they share an edge at the vertex.
 */
final class Pinches
{
    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @param  array<int, true>  $vertices  the vertices to look at
     * @param  array<int, array<int, true>>  $slits  edges that do not join the triangles at them, by either end
     * @return array{list<float>, list<int>} coordinates and corners
     */
    public static function apart(array $xyz, array $corners, array $vertices, array $slits = []): array
    {
        if ($vertices === []) {
            return [$xyz, $corners];
        }
        $lowest = min(array_keys($vertices));
        $around = [];
        foreach ($corners as $i => $v) {
            if ($v >= $lowest && isset($vertices[$v])) {
                $around[$v][] = $i;
            }
        }
        $next = intdiv(count($xyz), 3);
        foreach ($around as $v => $places) {
            $fans = self::fans($corners, $places, $slits[$v] ?? []);
            foreach (array_slice($fans, 1) as $fan) {
                foreach ($fan as $i) {
                    $corners[$i] = $next;
                }
                array_push($xyz, $xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]);
                $next++;
            }
        }

        return [$xyz, array_values($corners)];
    }

    /**
     * @param  array<int, int>  $corners
     * @param  list<int>  $places  indices into corners, all of one vertex
     * @param  array<int, true>  $apart  neighbours across whose edge nothing is joined
     * @return list<list<int>>
     */
    private static function fans(array $corners, array $places, array $apart): array
    {
        $fanOf = [];
        $members = [];
        $byNeighbour = [];
        foreach ($places as $n => $i) {
            $fanOf[$n] = $n;
            $members[$n] = [$n];
            $t = $i - $i % 3;
            $k = $i - $t;
            foreach ([$corners[$t + ($k + 1) % 3], $corners[$t + ($k + 2) % 3]] as $neighbour) {
                if (isset($apart[$neighbour])) {
                    continue;
                }
                if (isset($byNeighbour[$neighbour])) {
                    $one = $fanOf[$byNeighbour[$neighbour]];
                    $other = $fanOf[$n];
                    if ($one !== $other) {
                        foreach ($members[$other] as $m) {
                            $fanOf[$m] = $one;
                            $members[$one][] = $m;
                        }
                        unset($members[$other]);
                    }
                } else {
                    $byNeighbour[$neighbour] = $n;
                }
            }
        }
        ksort($members);

        return array_values(array_map(
            static fn (array $fan): array => array_map(static fn (int $n): int => $places[$n], $fan),
            $members,
        ));
    }
}
