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

    /** Triangles up to which they are worked out for files: faces of larger meshes are too small to be told apart. */
    public const MOST = 2_000_000;

    /**
     * @param  list<int>|null  $groups  when given, smoothing groups (as OBJ files have them) decide instead of the crease: the same number above 0 is smooth
     * @return string for each corner three 64-bit floats, of length 1; 0 where all faces are without area
     */
    public static function of(Mesh $mesh, float $crease = self::CREASE, ?array $groups = null): string
    {
        [$tops, $x, $y, $z] = self::shared($mesh, $crease, $groups);
        $bytes = '';
        $some = [];
        foreach ($tops as $top) {
            $some[] = $x[$top];
            $some[] = $y[$top];
            $some[] = $z[$top];
            if (count($some) >= 3072) {
                $bytes .= pack('e*', ...$some);
                $some = [];
            }
        }

        return $bytes.pack('e*', ...$some);
    }

    /**
     * The same, each normal once.
     *
     * @param  list<int>|null  $groups
     * @return array{list<int>, array<int, float>, array<int, float>, array<int, float>} for each corner the first one of those that share its vertex and its normal; the
     *     normals by these
     */
    public static function shared(Mesh $mesh, float $crease = self::CREASE, ?array $groups = null): array
    {
        $corners = $mesh->corners;
        $tags = $mesh->tags;
        [$flat, $angles] = self::faces($mesh);
        $cosine = cos(deg2rad($crease));
        $odd = $mesh->vertexCount() | 1;
        $parent = $corners === [] ? [] : range(0, count($corners) - 1);
        /** @var array<int, int> $waiting half-edges whose twin has not come yet */
        $waiting = [];
        foreach ($tags as $t => $tag) {
            $first = 3 * $t;
            for ($i = $first; $i < $first + 3; $i++) {
                $next = $i === $first + 2 ? $first : $i + 1;
                $a = $corners[$i];
                $b = $corners[$next];
                $key = $b * $odd + $a;
                if (! isset($waiting[$key])) {
                    $waiting[$a * $odd + $b] = $i;

                    continue;
                }
                $twin = $waiting[$key];
                unset($waiting[$key]);
                $s = intdiv($twin, 3);
                if (($tag > 0) !== ($tags[$s] > 0)) {
                    continue;
                }
                $other = 3 * $s;
                if ($groups !== null) {
                    $isSoft = $groups[$t] > 0 && $groups[$t] === $groups[$s];
                } else {
                    // A face without area has no direction: its edges are soft.
                    $isSoft = $cosine <= $flat[$first] * $flat[$other] + $flat[$first + 1] * $flat[$other + 1] + $flat[$first + 2] * $flat[$other + 2]
                        || ($angles[$first] == 0.0 && $angles[$first + 1] == 0.0) || ($angles[$other] == 0.0 && $angles[$other + 1] == 0.0);
                }
                if (! $isSoft) {
                    continue;
                }
                // At both ends of the edge.
                $one = $i;
                $other = $twin === $other + 2 ? $other : $twin + 1;
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
        }
        unset($waiting);

        return self::summed($parent, $flat, $angles);
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
     * @return array{list<int>, array<int, float>, array<int, float>, array<int, float>}
     */
    private static function summed(array $parent, array $flat, array $angles): array
    {
        $x = $y = $z = [];
        /** @var list<int> $tops */
        $tops = [];
        $n = 0;
        foreach ($parent as $i => $above) {
            $angle = $angles[$i];
            if ($above === $i) {
                $tops[] = $i;
                $x[$i] = $angle * $flat[$n];
                $y[$i] = $angle * $flat[$n + 1];
                $z[$i] = $angle * $flat[$n + 2];
            } else {
                // What stands above has a lower number, so its top is known.
                $top = $tops[$above];
                $tops[] = $top;
                $x[$top] += $angle * $flat[$n];
                $y[$top] += $angle * $flat[$n + 1];
                $z[$top] += $angle * $flat[$n + 2];
            }
            $n += $i % 3 === 2 ? 3 : 0;
        }
        foreach ($x as $top => $part) {
            $length = sqrt($part * $part + $y[$top] * $y[$top] + $z[$top] * $z[$top]);
            $scale = $length > 0.0 ? 1 / $length : 0.0;
            $x[$top] = $part * $scale;
            $y[$top] *= $scale;
            $z[$top] *= $scale;
        }

        return [$tops, $x, $y, $z];
    }
}
