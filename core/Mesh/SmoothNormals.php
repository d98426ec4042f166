<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * Normals for shading, at every corner: smooth where faces meet softly, sharp over a crease and between skin and inside.
 *
 * Around a vertex, faces belong together that follow each other over soft edges; each counts by its angle there (G. Thürmer, C. A. Wüthrich,
 * "Computing Vertex Normals from Polygonal Facets", 1998), so it does not matter how a flat face is divided.
 */
final class SmoothNormals
{
    /** Degrees between two faces from which on their edge is sharp (common practice). */
    public const CREASE = 30.0;

    /**
     * @param  list<int>|null  $groups  when given, smoothing groups (as OBJ files have them) decide instead of the crease: the same number above 0 is smooth
     * @return string for each corner three 64-bit floats, of length 1; 0 where all faces are without area
     */
    public static function of(Mesh $mesh, float $crease = self::CREASE, ?array $groups = null): string
    {
        return self::shared($mesh, $crease, $groups)[1];
    }

    /**
     * @param  list<int>|null  $groups
     * @return array{list<int>, string} for each corner the first one of those that share its vertex and its normal; and the normals
     */
    public static function shared(Mesh $mesh, float $crease = self::CREASE, ?array $groups = null): array
    {
        $corners = $mesh->corners;
        [$flat, $angles] = self::faces($mesh);
        $cosine = cos(deg2rad($crease));
        $odd = $mesh->vertexCount() | 1;
        $parent = $corners === [] ? [] : range(0, count($corners) - 1);
        /** @var array<int, int> $waiting half-edges whose twin has not come yet */
        $waiting = [];
        $count = count($corners);
        for ($i = 0; $i < $count; $i++) {
            $next = $i % 3 === 2 ? $i - 2 : $i + 1;
            $a = $corners[$i];
            $b = $corners[$next];
            $twin = $waiting[$b * $odd + $a] ?? -1;
            if ($twin < 0) {
                $waiting[$a * $odd + $b] = $i;

                continue;
            }
            unset($waiting[$b * $odd + $a]);
            $t = intdiv($i, 3);
            $s = intdiv($twin, 3);
            if (($mesh->tags[$t] > 0) !== ($mesh->tags[$s] > 0)) {
                continue;
            }
            if ($groups !== null) {
                $isSoft = $groups[$t] > 0 && $groups[$t] === $groups[$s];
            } else {
                $dot = $flat[3 * $t] * $flat[3 * $s] + $flat[3 * $t + 1] * $flat[3 * $s + 1] + $flat[3 * $t + 2] * $flat[3 * $s + 2];
                // A face without area has no direction: its edges are soft.
                $isSoft = $dot >= $cosine || ($angles[3 * $t] == 0.0 && $angles[3 * $t + 1] == 0.0) || ($angles[3 * $s] == 0.0 && $angles[3 * $s + 1] == 0.0);
            }
            if (! $isSoft) {
                continue;
            }
            // At both ends of the edge.
            $one = $i;
            $other = $twin % 3 === 2 ? $twin - 2 : $twin + 1;
            for ($end = 0; $end < 2; $end++) {
                while ($parent[$one] !== $one) {
                    $one = $parent[$one] = $parent[$parent[$one]];
                }
                while ($parent[$other] !== $other) {
                    $other = $parent[$other] = $parent[$parent[$other]];
                }
                if ($one < $other) {
                    $parent[$other] = $one;
                } else {
                    $parent[$one] = $other;
                }
                $one = $next;
                $other = $twin;
            }
        }
        unset($waiting);

        return self::packed($parent, $flat, $angles);
    }

    /** @return array{list<float>, list<float>} of each face its direction, of length 1; of each corner its angle. 0 without area. */
    private static function faces(Mesh $mesh): array
    {
        $xyz = $mesh->xyz;
        $flat = $angles = [];
        $count = count($mesh->corners);
        for ($i = 0; $i < $count; $i += 3) {
            $a = 3 * $mesh->corners[$i];
            $b = 3 * $mesh->corners[$i + 1];
            $c = 3 * $mesh->corners[$i + 2];
            $ux = $xyz[$b] - $xyz[$a];
            $uy = $xyz[$b + 1] - $xyz[$a + 1];
            $uz = $xyz[$b + 2] - $xyz[$a + 2];
            $vx = $xyz[$c] - $xyz[$a];
            $vy = $xyz[$c + 1] - $xyz[$a + 1];
            $vz = $xyz[$c + 2] - $xyz[$a + 2];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            if ($length <= 0.0) {
                $flat[] = $flat[] = $flat[] = 0.0;
                $angles[] = $angles[] = $angles[] = 0.0;

                continue;
            }
            $flat[] = $nx / $length;
            $flat[] = $ny / $length;
            $flat[] = $nz / $length;
            $atA = atan2($length, $ux * $vx + $uy * $vy + $uz * $vz);
            $atB = atan2($length, -($ux * ($vx - $ux) + $uy * ($vy - $uy) + $uz * ($vz - $uz)));
            $angles[] = $atA;
            $angles[] = $atB;
            $angles[] = M_PI - $atA - $atB;
        }

        return [$flat, $angles];
    }

    /**
     * @param  array<int, int>  $parent  of the corners, the lowest of those that belong together on top
     * @param  list<float>  $flat
     * @param  list<float>  $angles
     * @return array{list<int>, string}
     */
    private static function packed(array $parent, array $flat, array $angles): array
    {
        $x = $y = $z = [];
        /** @var list<int> $tops */
        $tops = [];
        $count = count($parent);
        for ($i = 0; $i < $count; $i++) {
            // What stands above has a lower number, so its top is known.
            $top = $tops[] = $parent[$i] === $i ? $i : $tops[$parent[$i]];
            $n = 3 * intdiv($i, 3);
            $angle = $angles[$i];
            $x[$top] = ($x[$top] ?? 0.0) + $angle * $flat[$n];
            $y[$top] = ($y[$top] ?? 0.0) + $angle * $flat[$n + 1];
            $z[$top] = ($z[$top] ?? 0.0) + $angle * $flat[$n + 2];
        }
        $bytes = '';
        $some = [];
        for ($i = 0; $i < $count; $i++) {
            $top = $tops[$i];
            $length = sqrt($x[$top] * $x[$top] + $y[$top] * $y[$top] + $z[$top] * $z[$top]);
            $scale = $length > 0.0 ? 1 / $length : 0.0;
            $some[] = $x[$top] * $scale;
            $some[] = $y[$top] * $scale;
            $some[] = $z[$top] * $scale;
            if (count($some) >= 3072) {
                $bytes .= pack('e*', ...$some);
                $some = [];
            }
        }

        return [$tops, $bytes.pack('e*', ...$some)];
    }
}
