<?php

declare(strict_types=1);

namespace Tests\Support;

use Isotome\Mesh\Mesh;

/** Questions about the faces that a step made. */
final class Faces
{
    /** @return list<float> degrees, one for each face of the tag */
    public static function smallestAngles(Mesh $mesh, int $tag): array
    {
        $angles = [];
        foreach ($mesh->tags as $t => $of) {
            if ($of !== $tag) {
                continue;
            }
            $p = self::places($mesh, $t);
            $least = 180.0;
            for ($k = 0; $k < 3; $k++) {
                [$a, $b, $c] = [$p[$k], $p[($k + 1) % 3], $p[($k + 2) % 3]];
                [$ux, $uy, $uz] = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
                [$vx, $vy, $vz] = [$c[0] - $a[0], $c[1] - $a[1], $c[2] - $a[2]];
                $cross = sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2);
                $least = min($least, rad2deg(atan2($cross, $ux * $vx + $uy * $vy + $uz * $vz)));
            }
            $angles[] = $least;
        }

        return $angles;
    }

    public static function longestEdge(Mesh $mesh, int $tag): float
    {
        $longest = 0.0;
        foreach ($mesh->tags as $t => $of) {
            if ($of === $tag) {
                $p = self::places($mesh, $t);
                foreach ([[0, 1], [1, 2], [2, 0]] as [$i, $j]) {
                    $longest = max($longest, sqrt(($p[$i][0] - $p[$j][0]) ** 2 + ($p[$i][1] - $p[$j][1]) ** 2 + ($p[$i][2] - $p[$j][2]) ** 2));
                }
            }
        }

        return $longest;
    }

    /**
     * Faces of the tag that are not there once more, turned over, at exactly the same places.
     *
     * @param  list<Mesh>  $bodies
     */
    public static function withoutTwin(array $bodies, int $tag): int
    {
        $faces = [];
        foreach ($bodies as $body) {
            foreach ($body->tags as $t => $of) {
                if ($of !== $tag) {
                    continue;
                }
                $points = array_map(static fn (array $p): string => implode(' ', $p), self::places($body, $t));
                $first = (int) array_search(min($points), $points, true);
                $points = [...array_slice($points, $first), ...array_slice($points, 0, $first)];
                $twin = implode('|', [$points[0], $points[2], $points[1]]);
                if (($faces[$twin] ?? 0) > 0) {
                    $faces[$twin]--;
                } else {
                    $faces[implode('|', $points)] = ($faces[implode('|', $points)] ?? 0) + 1;
                }
            }
        }

        return array_sum($faces);
    }

    /** @return list<array{float, float, float}> */
    private static function places(Mesh $mesh, int $t): array
    {
        $places = [];
        for ($h = 3 * $t; $h < 3 * $t + 3; $h++) {
            $v = 3 * $mesh->corners[$h];
            $places[] = [$mesh->xyz[$v], $mesh->xyz[$v + 1], $mesh->xyz[$v + 2]];
        }

        return $places;
    }
}
