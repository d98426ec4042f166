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
        $count = count($tree->order);
        $hits = [];
        $open = [0];
        while ($open !== []) {
            $n = array_pop($open);
            $i = 6 * $n;
            $near = 0.0;
            $far = INF;
            foreach ([[$ix, $ox, $i], [$iy, $oy, $i + 2], [$iz, $oz, $i + 4]] as [$inverse, $o, $at]) {
                $one = ($boxes[$at] - $o) * $inverse;
                $two = ($boxes[$at + 1] - $o) * $inverse;
                $near = max($near, min($one, $two));
                $far = min($far, max($one, $two));
            }
            if ($near > $far * (1 + 1e-12)) {
                continue;
            }
            if ($n < $tree->firstLeaf) {
                $open[] = 2 * $n + 1;
                $open[] = 2 * $n + 2;

                continue;
            }
            $start = ($n - $tree->firstLeaf) * Tree::LEAF;
            for ($m = $start; $m < $start + Tree::LEAF && $m < $count; $m++) {
                $t = $tree->order[$m];
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
