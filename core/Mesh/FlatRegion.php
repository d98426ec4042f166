<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * The flat part of a surface around a face: faces that hang together across edges and whose normals lean at most the angle from the
 * first one's, so that a region does not creep around a curve.
 */
final class FlatRegion
{
    /** @return list<int> triangle numbers, ascending, with the face itself; at most the given number */
    public static function of(Mesh $mesh, int $face, float $degrees = 1.0, int $most = 100_000): array
    {
        $corners = $mesh->corners;
        $around = [];
        foreach ($mesh->tags as $t => $_) {
            for ($k = 0; $k < 3; $k++) {
                $a = $corners[3 * $t + $k];
                $b = $corners[3 * $t + ($k + 1) % 3];
                $around[$a < $b ? $a << 31 | $b : $b << 31 | $a][] = $t;
            }
        }
        $first = self::normal($mesh, $face);
        $least = cos(deg2rad($degrees));
        $seen = [$face => true];
        $next = [$face];
        for ($n = 0; $n < count($next) && count($seen) < $most; $n++) {
            $t = $next[$n];
            for ($k = 0; $k < 3; $k++) {
                $a = $corners[3 * $t + $k];
                $b = $corners[3 * $t + ($k + 1) % 3];
                foreach ($around[$a < $b ? $a << 31 | $b : $b << 31 | $a] as $other) {
                    if (isset($seen[$other])) {
                        continue;
                    }
                    $normal = self::normal($mesh, $other);
                    if ($least <= $normal[0] * $first[0] + $normal[1] * $first[1] + $normal[2] * $first[2]) {
                        $seen[$other] = true;
                        $next[] = $other;
                    }
                }
            }
        }
        sort($next);

        return $next;
    }

    /** @return array{float, float, float} unit length; zero for a face without area */
    public static function normal(Mesh $mesh, int $face): array
    {
        [$a, $b, $c] = [3 * $mesh->corners[3 * $face], 3 * $mesh->corners[3 * $face + 1], 3 * $mesh->corners[3 * $face + 2]];
        $xyz = $mesh->xyz;
        [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
        [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];
        $normal = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
        $length = sqrt($normal[0] ** 2 + $normal[1] ** 2 + $normal[2] ** 2);

        return $length > 0 ? [$normal[0] / $length, $normal[1] / $length, $normal[2] / $length] : [0.0, 0.0, 0.0];
    }
}
