<?php

declare(strict_types=1);

namespace Isotome\Measure;

use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/**
 * Area and number of outlines of many parallel sections, in one sweep over the triangles.
 *
 * A vertex exactly at a position counts as ahead of it, as if the plane lay a hair behind: so every section is made of closed outlines. Each triangle
 * adds its segments to the positions that it spans; areas are sums of the trapezoids under them (G. Green), outlines
 * are the circles of the crossed edges. For an open mesh lines that do not come back count as outlines too.
 */
final readonly class Profile
{
    /**
     * @param  list<float>  $positions  distances from the origin along the facing, mm, ascending
     * @param  list<float>  $areas  mm²
     * @param  list<int>  $outlines
     */
    private function __construct(
        public array $positions,
        public array $areas,
        public array $outlines,
    ) {
    }

    /**
     * At the middles of so many equal parts of the mesh's extent.
     *
     * @param  array{float, float, float}  $facing
     */
    public static function sampled(Mesh $mesh, array $facing, int $samples): self
    {
        $plane = Plane::at(0.0, $facing);
        $distances = self::distances($mesh, $plane);
        $low = $distances === [] ? 0.0 : min($distances);
        $high = $distances === [] ? 0.0 : max($distances);
        $positions = [];
        for ($n = 0; $n < $samples; $n++) {
            $positions[] = $low + ($n + 0.5) / $samples * ($high - $low);
        }

        return self::swept($mesh, $plane, $distances, $positions);
    }

    /**
     * @param  array{float, float, float}  $facing
     * @param  list<float>  $positions  ascending
     */
    public static function at(Mesh $mesh, array $facing, array $positions): self
    {
        $plane = Plane::at(0.0, $facing);

        return self::swept($mesh, $plane, self::distances($mesh, $plane), $positions);
    }

    /** @return list<float> */
    private static function distances(Mesh $mesh, Plane $plane): array
    {
        $distances = [];
        [$nx, $ny, $nz] = $plane->facing();
        $xyz = $mesh->xyz;
        $count = count($xyz);
        if ($plane->axis !== null) {
            $sign = $plane->facing()[$plane->axis];
            for ($i = $plane->axis; $i < $count; $i += 3) {
                $distances[] = $sign * $xyz[$i];
            }

            return $distances;
        }
        for ($i = 0; $i < $count; $i += 3) {
            $distances[] = $nx * $xyz[$i] + $ny * $xyz[$i + 1] + $nz * $xyz[$i + 2];
        }

        return $distances;
    }

    /**
     * @param  list<float>  $distances
     * @param  list<float>  $positions
     */
    private static function swept(Mesh $mesh, Plane $plane, array $distances, array $positions): self
    {
        $count = count($positions);
        if ($count === 0) {
            return new self([], [], []);
        }
        // How many positions lie at or behind each vertex; neighbouring vertices are near each other.
        $bounds = [-INF, ...$positions, INF];
        $slots = [];
        $k = 0;
        foreach ($distances as $d) {
            while ($d >= $bounds[$k + 1]) {
                $k++;
            }
            while ($d < $bounds[$k]) {
                $k--;
            }
            $slots[] = $k;
        }
        [$u, $v] = $plane->pageAxes();
        // What the dropped axis shortens.
        $facing = $plane->facing();
        $stretch = 1 / abs($facing[3 - $u - $v]);
        $xyz = $mesh->xyz;
        $ou = $xyz[$u] ?? 0.0;
        $ov = $xyz[$v] ?? 0.0;
        $corners = $mesh->corners;
        $odd = count($distances) | 1;
        $twice = array_fill(0, $count, 0.0);
        $follow = array_fill(0, $count, []);
        $last = count($corners);
        for ($i = 0; $i < $last; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            $sa = $slots[$a];
            $sb = $slots[$b];
            $sc = $slots[$c];
            if ($sa === $sb && $sb === $sc) {
                continue;
            }
            $low = $sa < $sb ? ($sa < $sc ? $sa : $sc) : ($sb < $sc ? $sb : $sc);
            $high = $sa > $sb ? ($sa > $sc ? $sa : $sc) : ($sb > $sc ? $sb : $sc);
            for ($k = $low; $k < $high; $k++) {
                $position = $positions[$k];
                // p is alone on its side; the segment crosses p–q and p–r.
                $isA = $sa > $k;
                $isB = $sb > $k;
                $isC = $sc > $k;
                if ($isB === $isC) {
                    $p = $a;
                    $q = $b;
                    $r = $c;
                    $isAhead = $isA;
                } elseif ($isC === $isA) {
                    $p = $b;
                    $q = $c;
                    $r = $a;
                    $isAhead = $isB;
                } else {
                    $p = $c;
                    $q = $a;
                    $r = $b;
                    $isAhead = $isC;
                }
                $dp = $distances[$p] - $position;
                $pu = $xyz[3 * $p + $u] - $ou;
                $pv = $xyz[3 * $p + $v] - $ov;
                $t = $dp / ($dp - ($distances[$q] - $position));
                $qu = $pu + $t * ($xyz[3 * $q + $u] - $ou - $pu);
                $qv = $pv + $t * ($xyz[3 * $q + $v] - $ov - $pv);
                $t = $dp / ($dp - ($distances[$r] - $position));
                $ru = $pu + $t * ($xyz[3 * $r + $u] - $ou - $pu);
                $rv = $pv + $t * ($xyz[3 * $r + $v] - $ov - $pv);
                $one = $p < $q ? $p * $odd + $q : $q * $odd + $p;
                $other = $p < $r ? $p * $odd + $r : $r * $odd + $p;
                if ($isAhead) {
                    $twice[$k] += $qu * $rv - $qv * $ru;
                    $follow[$k][$one] = $other;
                } else {
                    $twice[$k] += $ru * $qv - $rv * $qu;
                    $follow[$k][$other] = $one;
                }
            }
        }
        $areas = $outlines = [];
        for ($k = 0; $k < $count; $k++) {
            $areas[] = $twice[$k] / 2 * $stretch;
            $outlines[] = self::circles($follow[$k]);
            $follow[$k] = [];
        }

        return new self($positions, $areas, $outlines);
    }

    /** @param  array<int, int>  $follow */
    private static function circles(array $follow): int
    {
        $circles = 0;
        while ($follow !== []) {
            $circles++;
            $at = array_key_first($follow);
            while (isset($follow[$at])) {
                $next = $follow[$at];
                unset($follow[$at]);
                $at = $next;
            }
        }

        return $circles;
    }
}
