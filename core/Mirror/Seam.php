<?php

declare(strict_types=1);

namespace Isotome\Mirror;

use Isotome\Check\EdgePlaces;
use Isotome\Check\Rims;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/** The kink along a seam, its smoothing, and what it could not join. A face that leans by an angle out of square to the plane meets its reflection at twice the angle. */
final class Seam
{
    private const ROUNDS = 40;

    private const RINGS = 3;

    /**
     * @param  list<array{int, int, int}>  $seam
     * @return array{float, float, array<int, float>} largest and mean kink in degrees, and the kink of each edge of the seam
     */
    public static function kinks(Mesh $kept, array $seam, Plane $plane): array
    {
        $xyz = $kept->xyz;
        $largest = $sum = $length = 0.0;
        $each = [];
        foreach ($seam as $e => [$p, $q, $t]) {
            [$a, $b, $c] = [3 * $kept->corners[3 * $t], 3 * $kept->corners[3 * $t + 1], 3 * $kept->corners[3 * $t + 2]];
            [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
            [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];
            [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
            $size = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $kink = $size > 0.0 ? rad2deg(2 * asin(min(1.0, abs($nx * $plane->nx + $ny * $plane->ny + $nz * $plane->nz) / $size))) : 0.0;
            $long = sqrt(($xyz[3 * $p] - $xyz[3 * $q]) ** 2 + ($xyz[3 * $p + 1] - $xyz[3 * $q + 1]) ** 2 + ($xyz[3 * $p + 2] - $xyz[3 * $q + 2]) ** 2);
            $each[$e] = $kink;
            $largest = max($largest, $kink);
            $sum += $kink * $long;
            $length += $long;
        }

        return [$largest, $length > 0.0 ? $sum / $length : 0.0, $each];
    }

    /**
     * Relaxes the vertices near the edges of the seam whose kink is below an angle: each moves towards the mean of its neighbours, those
     * beyond the plane being reflections; vertices of the seam stay on the plane. Edges of the seam that are meant as edges, above the
     * angle, hold their vertices. Source: Laplacian smoothing, as in G. Taubin, "A signal processing approach to fair surface design" (1995).
     *
     * @param  list<array{int, int, int}>  $seam
     */
    public static function smoothed(Mesh $kept, array $seam, Plane $plane, float $below): Mesh
    {
        [, , $kinks] = self::kinks($kept, $seam, $plane);
        $ring = $held = [];
        foreach ($seam as $e => [$p, $q]) {
            if ($kinks[$e] < $below) {
                $ring[$p] = $ring[$q] = 0;
            } else {
                $held[$p] = $held[$q] = true;
            }
        }
        $onSeam = $ring + $held;
        $beside = [];
        $next = $ring;
        for ($depth = 1; $depth <= self::RINGS && $next !== []; $depth++) {
            $found = [];
            for ($i = 0, $count = count($kept->corners); $i < $count; $i += 3) {
                $three = [$kept->corners[$i], $kept->corners[$i + 1], $kept->corners[$i + 2]];
                foreach ($three as $k => $v) {
                    if (isset($next[$v])) {
                        $beside[$v][$three[($k + 1) % 3]] = $beside[$v][$three[($k + 2) % 3]] = true;
                        $found[$three[($k + 1) % 3]] = $found[$three[($k + 2) % 3]] = $depth;
                    }
                }
            }
            $next = array_diff_key($found, $ring, $held);
            $ring += $next;
        }
        $xyz = $kept->xyz;
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $moved = $xyz;
            foreach ($beside as $v => $neighbours) {
                if (isset($held[$v])) {
                    continue;
                }
                $x = $y = $z = 0.0;
                $many = 0;
                foreach ($neighbours as $w => $_) {
                    // Along the seam a vertex has its neighbours once, across it twice: here and as reflections.
                    $weight = isset($onSeam[$v]) && ! isset($onSeam[$w]) ? 2 : 1;
                    $x += $weight * $xyz[3 * $w];
                    $y += $weight * $xyz[3 * $w + 1];
                    $z += $weight * $xyz[3 * $w + 2];
                    $many += $weight;
                }
                $share = 0.5 * (1 - $ring[$v] / (self::RINGS + 1)) / $many;
                $dx = $share * ($x - $many * $xyz[3 * $v]);
                $dy = $share * ($y - $many * $xyz[3 * $v + 1]);
                $dz = $share * ($z - $many * $xyz[3 * $v + 2]);
                if (isset($onSeam[$v])) {
                    $d = $dx * $plane->nx + $dy * $plane->ny + $dz * $plane->nz;
                    [$dx, $dy, $dz] = [$dx - $d * $plane->nx, $dy - $d * $plane->ny, $dz - $d * $plane->nz];
                }
                $moved[3 * $v] += $dx;
                $moved[3 * $v + 1] += $dy;
                $moved[3 * $v + 2] += $dz;
            }
            $xyz = $moved;
        }

        return Mesh::of(array_values($xyz), $kept->corners, $kept->tags);
    }

    /**
     * Rims near the plane that are not on it.
     *
     * @param  list<array{int, int, int}>  $seam
     * @return list<list<array{float, float, float}>>
     */
    public static function unjoined(Mesh $half, array $seam, Plane $plane): array
    {
        $onSeam = [];
        foreach ($seam as [$p, $q]) {
            $onSeam[$p][$q] = true;
        }
        $size = Box::of($half->xyz)->size();
        $near = SeamGap::NEAR * sqrt($size[0] ** 2 + $size[1] ** 2 + $size[2] ** 2);
        // Every triangle at an edge of which both ends are near, has a corner that is near.
        $isNear = [];
        [$nx, $ny, $nz, $offset] = [$plane->nx, $plane->ny, $plane->nz, $plane->offset];
        $xyz = $half->xyz;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $d = $nx * $xyz[$i] + $ny * $xyz[$i + 1] + $nz * $xyz[$i + 2] - $offset;
            $isNear[] = $d <= $near && $d >= -$near;
        }
        $corners = [];
        $all = $half->corners;
        for ($i = 0, $count = count($all); $i < $count; $i += 3) {
            $a = $all[$i];
            $b = $all[$i + 1];
            $c = $all[$i + 2];
            if ($isNear[$a] || $isNear[$b] || $isNear[$c]) {
                $corners[] = $a;
                $corners[] = $b;
                $corners[] = $c;
            }
        }
        $open = [];
        foreach (EdgePlaces::of(Mesh::of($xyz, $corners))->open as [$a, $b, $t]) {
            if ($isNear[$a] && $isNear[$b] && ! isset($onSeam[$a][$b])) {
                $open[] = [$a, $b, $t];
            }
        }
        if ($open === []) {
            return [];
        }
        $paths = [];
        foreach (Rims::of($half, $open)->list as $rim) {
            $points = [];
            foreach ($rim['vertices'] as $v) {
                $points[] = [$xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]];
            }
            $paths[] = $points;
        }

        return $paths;
    }
}
