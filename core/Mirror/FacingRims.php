<?php

declare(strict_types=1);

namespace Isotome\Mirror;

use Isotome\Check\Rims;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/** Joins a mesh that stands apart from its reflection to it, by bands between the rims that face the plane. */
final class FacingRims
{
    /** Faces across a smoothed band. */
    private const ACROSS = 8;

    /**
     * @param  Mesh  $both  a mesh and its reflection: vertex v and vertex v + half, half being half the number of vertices
     * @param  int  $tag  of the band's faces
     * @return array{Mesh, int} the mesh with bands, and how many
     */
    public static function joined(Mesh $both, Mesh $kept, Plane $plane, Band $band, int $tag): array
    {
        $half = $kept->vertexCount();
        $away = static fn (int $v): float => abs($plane->nx * $kept->xyz[3 * $v] + $plane->ny * $kept->xyz[3 * $v + 1] + $plane->nz * $kept->xyz[3 * $v + 2] - $plane->offset);
        $middle = 0.0;
        for ($v = 0; $v < $half; $v++) {
            $middle += $away($v) / $half;
        }
        $xyz = $both->xyz;
        $corners = $both->corners;
        $tags = $both->tags;
        $extension = $band === Band::Smoothed ? self::extensions($kept) : [];
        $banded = 0;
        foreach (Rims::of($kept)->list as $rim) {
            $mean = array_sum(array_map($away, $rim['vertices'])) / count($rim['vertices']);
            if (! $rim['closed'] || $mean > $middle) {
                continue;
            }
            $banded++;
            $across = $band === Band::Smoothed ? self::ACROSS : 1;
            $rows = [];
            foreach ($rim['vertices'] as $v) {
                $row = [$v];
                for ($k = 1; $k < $across; $k++) {
                    $row[] = intdiv(count($xyz), 3);
                    array_push($xyz, ...self::between($both->xyz, $v, $v + $half, $extension[$v] ?? [0.0, 0.0, 0.0], $plane, $k / $across));
                }
                $row[] = $v + $half;
                $rows[] = $row;
            }
            $n = count($rows);
            for ($i = 0; $i < $n; $i++) {
                $one = $rows[$i];
                $other = $rows[($i + 1) % $n];
                for ($k = 0; $k < $across; $k++) {
                    // Rims run as triangles that close them do.
                    array_push($corners, $one[$k], $other[$k], $other[$k + 1], $one[$k], $other[$k + 1], $one[$k + 1]);
                    $tags[] = $tag;
                    $tags[] = $tag;
                }
            }
        }

        return [Mesh::of($xyz, $corners, $tags), $banded];
    }

    /**
     * On a cubic (C. Hermite) that leaves either rim in the direction of its faces.
     *
     * @param  list<float>  $xyz
     * @param  array{float, float, float}  $out
     * @return array{float, float, float}
     */
    private static function between(array $xyz, int $v, int $w, array $out, Plane $plane, float $t): array
    {
        $length = sqrt(($xyz[3 * $v] - $xyz[3 * $w]) ** 2 + ($xyz[3 * $v + 1] - $xyz[3 * $w + 1]) ** 2 + ($xyz[3 * $v + 2] - $xyz[3 * $w + 2]) ** 2);
        $d = 2 * ($out[0] * $plane->nx + $out[1] * $plane->ny + $out[2] * $plane->nz);
        // The reflection is reached against its own outward direction.
        $in = [$d * $plane->nx - $out[0], $d * $plane->ny - $out[1], $d * $plane->nz - $out[2]];
        $place = [];
        for ($k = 0; $k < 3; $k++) {
            $place[] = (2 * $t ** 3 - 3 * $t ** 2 + 1) * $xyz[3 * $v + $k] + ($t ** 3 - 2 * $t ** 2 + $t) * $length * $out[$k]
                + (3 * $t ** 2 - 2 * $t ** 3) * $xyz[3 * $w + $k] + ($t ** 3 - $t ** 2) * $length * $in[$k];
        }

        /** @var array{float, float, float} */
        return $place;
    }

    /**
     * At each rim vertex, the direction in which its faces would go on.
     *
     * @return array<int, array{float, float, float}>
     */
    private static function extensions(Mesh $mesh): array
    {
        $xyz = $mesh->xyz;
        $sum = [];
        foreach (\Isotome\Check\EdgePlaces::of($mesh)->open as [$a, $b, $t]) {
            $c = $mesh->corners[3 * $t] + $mesh->corners[3 * $t + 1] + $mesh->corners[3 * $t + 2] - $a - $b;
            $e = $f = [];
            $dot = $size = 0.0;
            for ($k = 0; $k < 3; $k++) {
                $e[$k] = $xyz[3 * $b + $k] - $xyz[3 * $a + $k];
                $f[$k] = $xyz[3 * $a + $k] - $xyz[3 * $c + $k];
                $dot += $e[$k] * $f[$k];
                $size += $e[$k] * $e[$k];
            }
            // From the opposite corner to the edge, square to it.
            $length = 0.0;
            for ($k = 0; $k < 3; $k++) {
                $f[$k] -= $size > 0.0 ? $dot / $size * $e[$k] : 0.0;
                $length += $f[$k] ** 2;
            }
            $length = sqrt($length);
            foreach ([$a, $b] as $v) {
                $sum[$v] ??= [0.0, 0.0, 0.0];
                for ($k = 0; $k < 3; $k++) {
                    $sum[$v][$k] += $length > 0.0 ? $f[$k] / $length : 0.0;
                }
            }
        }

        return array_map(static function (array $s): array {
            $length = sqrt($s[0] ** 2 + $s[1] ** 2 + $s[2] ** 2);

            return $length > 0.0 ? [$s[0] / $length, $s[1] / $length, $s[2] / $length] : [0.0, 0.0, 0.0];
        }, $sum);
    }
}
