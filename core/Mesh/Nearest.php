<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/** The place on a mesh that is nearest to a point. Source: C. Ericson, "Real-Time Collision Detection" (2005), closest point on a triangle by regions; the tree is searched nearest box first. */
final class Nearest
{
    private readonly Tree $tree;

    public function __construct(private readonly Mesh $mesh)
    {
        $this->tree = Tree::of($mesh);
    }

    /**
     * @param  array<int, true>  $but  triangles that do not count
     * @return array{float, float, float, float, int} distance, mm, the place, and its triangle; −1 when there is none so near
     */
    public function to(float $px, float $py, float $pz, float $within = INF, array $but = []): array
    {
        $boxes = $this->tree->boxes;
        $order = $this->tree->order;
        $firstLeaf = $this->tree->firstLeaf;
        $xyz = $this->mesh->xyz;
        $corners = $this->mesh->corners;
        $best = $within * $within;
        $place = [$px, $py, $pz];
        $face = -1;
        $stack = [0];
        $far = [0.0];
        $count = count($order);
        while ($stack !== []) {
            $node = array_pop($stack);
            if (array_pop($far) >= $best) {
                continue;
            }
            if ($node < $firstLeaf) {
                $kids = [];
                for ($kid = 2 * $node + 1; $kid <= 2 * $node + 2; $kid++) {
                    $i = 6 * $kid;
                    $dx = $px < $boxes[$i] ? $boxes[$i] - $px : ($px > $boxes[$i + 1] ? $px - $boxes[$i + 1] : 0.0);
                    $dy = $py < $boxes[$i + 2] ? $boxes[$i + 2] - $py : ($py > $boxes[$i + 3] ? $py - $boxes[$i + 3] : 0.0);
                    $dz = $pz < $boxes[$i + 4] ? $boxes[$i + 4] - $pz : ($pz > $boxes[$i + 5] ? $pz - $boxes[$i + 5] : 0.0);
                    $kids[] = $dx * $dx + $dy * $dy + $dz * $dz;
                }
                $first = $kids[0] <= $kids[1] ? 1 : 0;
                // The nearer one last: it is taken first.
                for ($n = 0; $n < 2; $n++, $first = 1 - $first) {
                    if ($kids[$first] < $best) {
                        $stack[] = 2 * $node + 1 + $first;
                        $far[] = $kids[$first];
                    }
                }

                continue;
            }
            $start = ($node - $firstLeaf) * Tree::LEAF;
            for ($n = $start; $n < $start + Tree::LEAF && $n < $count; $n++) {
                $t = 3 * $order[$n];
                $a = 3 * $corners[$t];
                $b = 3 * $corners[$t + 1];
                $c = 3 * $corners[$t + 2];
                $ax = $xyz[$a];
                $ay = $xyz[$a + 1];
                $az = $xyz[$a + 2];
                $ux = $xyz[$b] - $ax;
                $uy = $xyz[$b + 1] - $ay;
                $uz = $xyz[$b + 2] - $az;
                $vx = $xyz[$c] - $ax;
                $vy = $xyz[$c + 1] - $ay;
                $vz = $xyz[$c + 2] - $az;
                $wx = $px - $ax;
                $wy = $py - $ay;
                $wz = $pz - $az;
                $d1 = $ux * $wx + $uy * $wy + $uz * $wz;
                $d2 = $vx * $wx + $vy * $wy + $vz * $wz;
                $uu = $ux * $ux + $uy * $uy + $uz * $uz;
                $uv = $ux * $vx + $uy * $vy + $uz * $vz;
                $vv = $vx * $vx + $vy * $vy + $vz * $vz;
                $d3 = $d1 - $uu;
                $d4 = $d2 - $uv;
                $d5 = $d1 - $uv;
                $d6 = $d2 - $vv;
                if ($d1 <= 0 && $d2 <= 0) {
                    $s = $r = 0.0;
                } elseif ($d3 >= 0 && $d4 <= $d3) {
                    [$s, $r] = [1.0, 0.0];
                } elseif ($d6 >= 0 && $d5 <= $d6) {
                    [$s, $r] = [0.0, 1.0];
                } else {
                    $vc = $d1 * $d4 - $d3 * $d2;
                    $vb = $d5 * $d2 - $d1 * $d6;
                    $va = $d3 * $d6 - $d5 * $d4;
                    if ($vc <= 0 && $d1 >= 0 && $d3 <= 0) {
                        [$s, $r] = [$d1 / ($d1 - $d3), 0.0];
                    } elseif ($vb <= 0 && $d2 >= 0 && $d6 <= 0) {
                        [$s, $r] = [0.0, $d2 / ($d2 - $d6)];
                    } elseif ($va <= 0 && $d4 >= $d3 && $d5 >= $d6) {
                        $r = ($d4 - $d3) / (($d4 - $d3) + ($d5 - $d6));
                        $s = 1 - $r;
                    } else {
                        $sum = $va + $vb + $vc;
                        [$s, $r] = $sum > 0.0 ? [$vb / $sum, $vc / $sum] : [0.0, 0.0];
                    }
                }
                $qx = $ax + $s * $ux + $r * $vx;
                $qy = $ay + $s * $uy + $r * $vy;
                $qz = $az + $s * $uz + $r * $vz;
                $d = ($px - $qx) * ($px - $qx) + ($py - $qy) * ($py - $qy) + ($pz - $qz) * ($pz - $qz);
                if ($d < $best && ! isset($but[$order[$n]])) {
                    $best = $d;
                    $place = [$qx, $qy, $qz];
                    $face = $order[$n];
                }
            }
        }

        return [sqrt($best), $place[0], $place[1], $place[2], $face];
    }
}
