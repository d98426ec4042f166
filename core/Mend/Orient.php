<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Isotome\Check\Shells;
use Isotome\Geometry\Box;
use Isotome\Mesh\Compact;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/**
 * Makes neighbouring faces agree in direction and closed parts face outward.
 *
 * Faces that hang together across edges of two faces are turned alike, the smaller area following the larger. A part that encloses
 * a volume and is turned inside out is turned as a whole, unless it is the cavity of another part. Where no turning can make
 * all agree (a one-sided surface), edges stay in disagreement and the check says so.
 */
final class Orient
{
    /** A part counts as enclosing something when its volume is more than this share of area^1.5; a ball has 0.094. */
    private const HOLLOW = 0.005;

    /** @return array{mesh: Mesh, turned: int} the number of triangles turned over */
    public static function of(Mesh $mesh): array
    {
        [$corners, $turned] = self::agreeing($mesh);
        $mesh = $turned === [] ? $mesh : Mesh::of($mesh->xyz, $corners, $mesh->tags);
        $inverted = self::inverted($mesh);
        foreach ($inverted as $t => $_) {
            if (isset($turned[$t])) {
                unset($turned[$t]);
            } else {
                $turned[$t] = true;
            }
        }
        if ($inverted !== []) {
            $corners = $mesh->corners;
            foreach ($inverted as $t => $_) {
                [$corners[3 * $t + 1], $corners[3 * $t + 2]] = [$corners[3 * $t + 2], $corners[3 * $t + 1]];
            }
            $mesh = Mesh::of($mesh->xyz, array_values($corners), $mesh->tags);
        }

        return ['mesh' => $mesh, 'turned' => count($turned)];
    }

    /** @return array{list<int>, array<int, true>} corners, and the triangles that were turned over */
    private static function agreeing(Mesh $mesh): array
    {
        $corners = $mesh->corners;
        $odd = $mesh->vertexCount() | 1;
        $at = [];
        foreach ($corners as $h => $a) {
            $b = $corners[$h % 3 === 2 ? $h - 2 : $h + 1];
            $key = $a < $b ? $a * $odd + $b : $b * $odd + $a;
            $at[$key] = isset($at[$key]) ? ($at[$key] >= 0 && intdiv($at[$key], 1 << 40) === 0 ? ($at[$key] + 1) + (($h + 1) << 40) : -1) : $h;
        }
        // Across each edge of exactly two faces: the half-edge on the other side.
        $twin = array_fill(0, count($corners), -1);
        foreach ($at as $both) {
            if ($both >= 1 << 40) {
                $one = ($both & ((1 << 40) - 1)) - 1;
                $other = ($both >> 40) - 1;
                $twin[$one] = $other;
                $twin[$other] = $one;
            }
        }
        unset($at);
        $flip = array_fill(0, $mesh->triangleCount(), -1);
        $turned = [];
        foreach ($mesh->tags as $start => $_) {
            if ($flip[$start] >= 0) {
                continue;
            }
            $flip[$start] = 0;
            $open = [$start];
            $members = [];
            $kept = $turnedOver = 0.0;
            while ($open !== []) {
                $t = array_pop($open);
                $members[] = $t;
                if ($flip[$t] === 0) {
                    $kept += self::area($mesh, $t);
                } else {
                    $turnedOver += self::area($mesh, $t);
                }
                for ($h = 3 * $t; $h < 3 * $t + 3; $h++) {
                    $g = $twin[$h];
                    if ($g >= 0 && $flip[$s = intdiv($g, 3)] < 0) {
                        // Two half-edges of one direction disagree.
                        $flip[$s] = $flip[$t] ^ ($corners[$h] === $corners[$g] ? 1 : 0);
                        $open[] = $s;
                    }
                }
            }
            $wrong = $turnedOver > $kept ? 0 : 1;
            foreach ($members as $t) {
                if ($flip[$t] === $wrong) {
                    $turned[$t] = true;
                }
            }
        }
        foreach ($turned as $t => $_) {
            [$corners[3 * $t + 1], $corners[3 * $t + 2]] = [$corners[3 * $t + 2], $corners[3 * $t + 1]];
        }

        return [array_values($corners), $turned];
    }

    /** @return array<int, true> triangles of parts that are turned inside out */
    private static function inverted(Mesh $mesh): array
    {
        $shells = Shells::of($mesh);
        $members = array_fill(0, $shells->count, []);
        foreach ($mesh->tags as $t => $_) {
            $members[$shells->of[$mesh->corners[3 * $t]]][] = $t;
        }
        $parts = $boxes = [];
        foreach ($members as $s => $triangles) {
            $corners = [];
            foreach ($triangles as $t) {
                array_push($corners, $mesh->corners[3 * $t], $mesh->corners[3 * $t + 1], $mesh->corners[3 * $t + 2]);
            }
            [$xyz, $corners] = Compact::of($mesh->xyz, $corners);
            $parts[$s] = Volume::measure(Mesh::of($xyz, $corners));
            $boxes[$s] = Box::of($xyz);
        }
        $wrong = [];
        foreach ($members as $s => $triangles) {
            if (! in_array($s, $shells->inverted, true)) {
                if (in_array($s, $shells->cavities, true) || $parts[$s]->volume >= -self::HOLLOW * $parts[$s]->area ** 1.5) {
                    continue;
                }
                // An open part inside another may well be a cavity.
                foreach ($boxes as $other => $box) {
                    if ($other !== $s && $box->holds($boxes[$s])) {
                        continue 2;
                    }
                }
            }
            foreach ($triangles as $t) {
                $wrong[$t] = true;
            }
        }

        return $wrong;
    }

    private static function area(Mesh $mesh, int $t): float
    {
        $xyz = $mesh->xyz;
        $a = 3 * $mesh->corners[3 * $t];
        $b = 3 * $mesh->corners[3 * $t + 1];
        $c = 3 * $mesh->corners[3 * $t + 2];
        [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
        [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];

        return sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2);
    }
}
