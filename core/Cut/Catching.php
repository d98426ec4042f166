<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Geometry\Plane;
use Isotome\Geometry\Sides;
use Isotome\Mesh\Mark;
use Isotome\Mesh\Mesh;

/**
 * Takes the vertices near a blade onto it, so that the cut leaves no slivers beside it.
 *
 * Guarantees: no triangle turns by more than 60° or shrinks to a sliver, so the mesh does not fold over; where it would, the
 * vertices stay. Triangles are laid flat onto the blade only from one of its sides in all, so nothing is pressed flat between.
 * Vertices of an earlier cut face stay too: its neighbour has them at the same places. The number of vertices, the triangles
 * and their order do not change.
 */
final readonly class Catching
{
    private const SLIVER = 1e-6;

    /** @param  int  $caught  vertices that were moved */
    private function __construct(
        public Mesh $mesh,
        public int $caught,
    ) {
    }

    /** @param  float  $distance mm, more than 0 */
    public static function of(Mesh $mesh, Plane $plane, float $distance): self
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $sides = Sides::of($xyz, $plane);
        $near = [];
        [$nx, $ny, $nz, $offset] = [$plane->nx, $plane->ny, $plane->nz, $plane->offset];
        foreach ($sides as $v => $side) {
            if ($side !== Sides::ON) {
                $d = $nx * $xyz[3 * $v] + $ny * $xyz[3 * $v + 1] + $nz * $xyz[3 * $v + 2] - $offset;
                if ($d <= $distance && $d >= -$distance) {
                    $near[$v] = $d;
                }
            }
        }
        if ($near === []) {
            return new self($mesh, 0);
        }
        $touched = [];
        $t = 0;
        foreach ($mesh->tags as $tag) {
            $i = 3 * $t;
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            if (isset($near[$a]) || isset($near[$b]) || isset($near[$c])) {
                if (Mark::isInside($tag)) {
                    unset($near[$a], $near[$b], $near[$c]);
                } else {
                    $touched[] = $t;
                }
            }
            $t++;
        }
        $moved = self::moved($xyz, $near, $plane);
        do {
            [$folded, $laid] = self::faults($xyz, $moved, $corners, $touched, $sides, $plane);
            // A patch laid onto the blade is fine unless another is laid onto its other side.
            if ($folded === [] && $laid[0] !== [] && $laid[1] !== []) {
                $folded = [...$laid[0], ...$laid[1]];
            }
            $back = 0;
            foreach ($folded as $t) {
                for ($i = 3 * $t; $i < 3 * $t + 3; $i++) {
                    $v = $corners[$i];
                    if (isset($moved[$v])) {
                        unset($moved[$v]);
                        $back++;
                    }
                }
            }
        } while ($back > 0);
        if ($moved === []) {
            return new self($mesh, 0);
        }
        foreach ($moved as $v => $place) {
            [$xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]] = $place;
        }

        return new self(Mesh::of(array_values($xyz), $corners, $mesh->tags), count($moved));
    }

    /**
     * @param  list<float>  $xyz
     * @param  array<int, float>  $near
     * @return array<int, array{float, float, float}>
     */
    private static function moved(array $xyz, array $near, Plane $plane): array
    {
        $moved = [];
        foreach ($near as $v => $d) {
            $place = [$xyz[3 * $v] - $d * $plane->nx, $xyz[3 * $v + 1] - $d * $plane->ny, $xyz[3 * $v + 2] - $d * $plane->nz];
            $moved[$v] = $plane->laid($place);
        }

        return $moved;
    }

    /**
     * @param  list<float>  $xyz
     * @param  array<int, array{float, float, float}>  $moved
     * @param  list<int>  $corners
     * @param  list<int>  $touched
     * @param  list<int>  $sides
     * @return array{list<int>, array{list<int>, list<int>}} folded triangles; triangles newly on the blade that face behind, ahead
     */
    private static function faults(array $xyz, array $moved, array $corners, array $touched, array $sides, Plane $plane): array
    {
        $folded = [];
        $laid = [[], []];
        foreach ($touched as $t) {
            $before = $after = [];
            $on = 0;
            $any = false;
            for ($i = 3 * $t; $i < 3 * $t + 3; $i++) {
                $v = $corners[$i];
                $place = [$xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]];
                $before[] = $place;
                $after[] = $moved[$v] ?? $place;
                $on += isset($moved[$v]) || $sides[$v] === Sides::ON ? 1 : 0;
                $any = $any || isset($moved[$v]);
            }
            if (! $any) {
                continue;
            }
            $old = self::normal(...$before);
            $new = self::normal(...$after);
            $oldLength = sqrt($old[0] ** 2 + $old[1] ** 2 + $old[2] ** 2);
            $newLength = sqrt($new[0] ** 2 + $new[1] ** 2 + $new[2] ** 2);
            $dot = $old[0] * $new[0] + $old[1] * $new[1] + $old[2] * $new[2];
            $longest = 0.0;
            foreach ([[0, 1], [1, 2], [2, 0]] as [$p, $q]) {
                $longest = max($longest, ($after[$p][0] - $after[$q][0]) ** 2 + ($after[$p][1] - $after[$q][1]) ** 2 + ($after[$p][2] - $after[$q][2]) ** 2);
            }
            if ($newLength <= self::SLIVER * $longest || $dot < 0.5 * $oldLength * $newLength) {
                $folded[] = $t;
            } elseif ($on === 3) {
                $laid[$new[0] * $plane->nx + $new[1] * $plane->ny + $new[2] * $plane->nz > 0 ? 1 : 0][] = $t;
            }
        }

        return [$folded, $laid];
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @param  array{float, float, float}  $c
     * @return array{float, float, float}
     */
    private static function normal(array $a, array $b, array $c): array
    {
        [$ux, $uy, $uz] = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
        [$vx, $vy, $vz] = [$c[0] - $a[0], $c[1] - $a[1], $c[2] - $a[2]];

        return [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
    }
}
