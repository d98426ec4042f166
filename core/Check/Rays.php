<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Mesh\Mesh;
use Isotome\Mesh\Tree;

/** What a ray crosses. Source: T. Möller, B. Trumbore, "Fast, minimum storage ray-triangle intersection", Journal of Graphics Tools 2 (1997). */
final class Rays
{
    /**
     * In floating point: a ray through an edge may count one triangle, both or none, so ask several.
     *
     * @param  array{float, float, float}  $from
     * @param  array{float, float, float}  $ray  no component may be 0
     * @return array<int, int> triangle → 1 where the ray leaves material, −1 where it enters it
     */
    public static function hits(Mesh $mesh, Tree $tree, array $from, array $ray): array
    {
        $boxes = $tree->boxes;
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        [$ox, $oy, $oz] = $from;
        [$dx, $dy, $dz] = $ray;
        [$ix, $iy, $iz] = [1 / $dx, 1 / $dy, 1 / $dz];
        [$nearX, $farX] = $dx > 0 ? [0, 1] : [1, 0];
        [$nearY, $farY] = $dy > 0 ? [2, 3] : [3, 2];
        [$nearZ, $farZ] = $dz > 0 ? [4, 5] : [5, 4];
        $order = $tree->order;
        $firstLeaf = $tree->firstLeaf;
        $count = count($order);
        $hits = [];
        $open = [0];
        $top = 0;
        while ($top >= 0) {
            $n = $open[$top--];
            $i = 6 * $n;
            // Where the ray is between each pair of sides; what it has behind it ends before it begins.
            $far = ($boxes[$i + $farX] - $ox) * $ix;
            $near = ($boxes[$i + $nearX] - $ox) * $ix;
            if ($far < 0.0) {
                continue;
            }
            $one = ($boxes[$i + $nearY] - $oy) * $iy;
            $two = ($boxes[$i + $farY] - $oy) * $iy;
            $near = $one > $near ? $one : $near;
            $far = $two < $far ? $two : $far;
            if ($far < 0.0 || $near > $far * (1 + 1e-12)) {
                continue;
            }
            $one = ($boxes[$i + $nearZ] - $oz) * $iz;
            $two = ($boxes[$i + $farZ] - $oz) * $iz;
            $near = $one > $near ? $one : $near;
            $far = $two < $far ? $two : $far;
            if ($far < 0.0 || $near > $far * (1 + 1e-12)) {
                continue;
            }
            if ($n < $firstLeaf) {
                $open[++$top] = 2 * $n + 1;
                $open[++$top] = 2 * $n + 2;

                continue;
            }
            $start = ($n - $firstLeaf) * Tree::LEAF;
            for ($m = $start; $m < $start + Tree::LEAF && $m < $count; $m++) {
                $t = $order[$m];
                $a = 3 * $corners[3 * $t];
                $b = 3 * $corners[3 * $t + 1];
                $c = 3 * $corners[3 * $t + 2];
                $ux = $xyz[$b] - $xyz[$a];
                $uy = $xyz[$b + 1] - $xyz[$a + 1];
                $uz = $xyz[$b + 2] - $xyz[$a + 2];
                $vx = $xyz[$c] - $xyz[$a];
                $vy = $xyz[$c + 1] - $xyz[$a + 1];
                $vz = $xyz[$c + 2] - $xyz[$a + 2];
                $px = $dy * $vz - $dz * $vy;
                $py = $dz * $vx - $dx * $vz;
                $pz = $dx * $vy - $dy * $vx;
                $det = $ux * $px + $uy * $py + $uz * $pz;
                if ($det == 0.0) {
                    continue;
                }
                $sx = $ox - $xyz[$a];
                $sy = $oy - $xyz[$a + 1];
                $sz = $oz - $xyz[$a + 2];
                $u = ($sx * $px + $sy * $py + $sz * $pz) / $det;
                if ($u < 0 || $u > 1) {
                    continue;
                }
                $qx = $sy * $uz - $sz * $uy;
                $qy = $sz * $ux - $sx * $uz;
                $qz = $sx * $uy - $sy * $ux;
                $v = ($dx * $qx + $dy * $qy + $dz * $qz) / $det;
                if ($v < 0 || $u + $v > 1) {
                    continue;
                }
                if (($vx * $qx + $vy * $qy + $vz * $qz) / $det > 0) {
                    $hits[$t] = $det > 0 ? -1 : 1;
                }
            }
        }

        return $hits;
    }
}
