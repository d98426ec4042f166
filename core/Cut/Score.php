<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Geometry\Plane;
use Isotome\Geometry\Sides;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Pinches;

/**
 * Lays the edges of a section into the mesh without separating anything, everywhere or only on picked triangles.
 *
 * Guarantees: the surface keeps its shape, and its triangles their tags; a watertight mesh stays watertight, because a triangle beside
 * a picked one takes over the new point on their common edge. `opened` gives the mesh slit open along those edges: the rims
 * lie on each other, and what the slit separates wholly hangs together no more.
 */
final readonly class Score
{
    /** @param  array<int, array<int, true>>  $edges  the section's edges in the mesh, by either end */
    private function __construct(
        public Mesh $mesh,
        public array $edges,
    ) {
    }

    /**
     * @param  array<int, true>|null  $picked  triangles to score; null for all
     * @return self|null null when the blade meets none of them
     */
    public static function of(Mesh $mesh, Plane $plane, ?array $picked = null): ?self
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $sides = Sides::of($xyz, $plane);
        $odd = count($sides) | 1;
        $points = self::points($mesh, $plane, $sides, $picked);
        $placed = [];
        $next = count($sides);
        foreach ($points as $key => [$first, $second]) {
            $placed[$key] = $next++;
            array_push($xyz, ...self::crossing($plane, array_slice($mesh->xyz, 3 * $first, 3), array_slice($mesh->xyz, 3 * $second, 3)));
        }
        $new = $tags = $lines = [];
        foreach ($mesh->tags as $t => $tag) {
            $three = [$corners[3 * $t], $corners[3 * $t + 1], $corners[3 * $t + 2]];
            $is = $picked === null || isset($picked[$t]);
            $found = [];
            foreach ([[0, 1], [1, 2], [2, 0]] as $k => [$i, $j]) {
                [$p, $q] = [$three[$i], $three[$j]];
                if ($sides[$p] !== $sides[$q] && ($point = $placed[$p < $q ? $p * $odd + $q : $q * $odd + $p] ?? -1) >= 0) {
                    $found[$k] = $point;
                }
            }
            foreach (self::divided($three, $found, $xyz) as $face) {
                array_push($new, ...$face);
                $tags[] = $tag;
            }
            if ($is) {
                $on = array_values([...$found, ...array_filter($three, static fn (int $v): bool => $sides[$v] === Sides::ON)]);
                // Inside the triangle, or along an edge of it, which its neighbour must agree to.
                for ($i = 0; $i < count($on) && count($on) < 3; $i++) {
                    for ($j = $i + 1; $j < count($on); $j++) {
                        $isOld = $on[$i] < count($sides) && $on[$j] < count($sides);
                        $lines[min($on[$i], $on[$j])][max($on[$i], $on[$j])] = ($lines[min($on[$i], $on[$j])][max($on[$i], $on[$j])] ?? 0) + ($isOld ? 1 : 2);
                    }
                }
            }
        }
        $edges = [];
        foreach ($lines as $p => $ends) {
            foreach ($ends as $q => $count) {
                if ($count >= 2) {
                    $edges[$p][$q] = true;
                    $edges[$q][$p] = true;
                }
            }
        }

        return $edges === [] ? null : new self(Mesh::of($xyz, $new, $tags), $edges);
    }

    /** The mesh slit open along the scored edges. */
    public function opened(): Mesh
    {
        $vertices = array_fill_keys(array_keys($this->edges), true);
        [$xyz, $corners] = Pinches::apart($this->mesh->xyz, $this->mesh->corners, $vertices, $this->edges);

        return Mesh::of($xyz, $corners, $this->mesh->tags);
    }

    /**
     * @param  list<int>  $sides
     * @param  array<int, true>|null  $picked
     * @return array<int, array{int, int}> crossed edges of the picked triangles, lower end first
     */
    private static function points(Mesh $mesh, Plane $plane, array $sides, ?array $picked): array
    {
        $corners = $mesh->corners;
        $odd = count($sides) | 1;
        $points = [];
        $count = count($corners);
        for ($i = 0, $t = 0; $i < $count; $i += 3, $t++) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            if (($sides[$a] | $sides[$b] | $sides[$c]) !== 3 || ($picked !== null && ! isset($picked[$t]))) {
                continue;
            }
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                if (($sides[$p] | $sides[$q]) === 3 && $sides[$p] !== 0 && $sides[$q] !== 0) {
                    $points[$p < $q ? $p * $odd + $q : $q * $odd + $p] = $p < $q ? [$p, $q] : [$q, $p];
                }
            }
        }

        return $points;
    }

    /**
     * @param  array<int, float>  $p
     * @param  array<int, float>  $q
     * @return array{float, float, float}
     */
    private static function crossing(Plane $plane, array $p, array $q): array
    {
        $d1 = $plane->nx * $p[0] + $plane->ny * $p[1] + $plane->nz * $p[2] - $plane->offset;
        $d2 = $plane->nx * $q[0] + $plane->ny * $q[1] + $plane->nz * $q[2] - $plane->offset;
        $t = $d1 / ($d1 - $d2);
        $place = [$p[0] + $t * ($q[0] - $p[0]), $p[1] + $t * ($q[1] - $p[1]), $p[2] + $t * ($q[2] - $p[2])];

        return $plane->laid($place);
    }

    /**
     * @param  array{int, int, int}  $three
     * @param  array<int, int>  $found  point on edge k, from corner k to the next
     * @param  list<float>  $xyz
     * @return list<array{int, int, int}>
     */
    private static function divided(array $three, array $found, array $xyz): array
    {
        if ($found === []) {
            return [$three];
        }
        $k = array_key_first($found);
        if (count($found) === 1) {
            [$p, $q, $r] = [$three[$k], $three[($k + 1) % 3], $three[($k + 2) % 3]];

            return [[$p, $found[$k], $r], [$found[$k], $q, $r]];
        }
        // Turned so that p lies between both divided edges.
        $k = isset($found[0], $found[2]) ? 0 : (isset($found[0], $found[1]) ? 1 : 2);
        [$p, $q, $r] = [$three[$k], $three[($k + 1) % 3], $three[($k + 2) % 3]];
        [$m, $n] = [$found[$k], $found[($k + 2) % 3]];
        $square = static fn (int $i, int $j): float => ($xyz[3 * $i] - $xyz[3 * $j]) ** 2 + ($xyz[3 * $i + 1] - $xyz[3 * $j + 1]) ** 2 + ($xyz[3 * $i + 2] - $xyz[3 * $j + 2]) ** 2;

        return $square($m, $r) <= $square($n, $q)
            ? [[$p, $m, $n], [$m, $q, $r], [$m, $r, $n]]
            : [[$p, $m, $n], [$m, $q, $n], [$q, $r, $n]];
    }
}
