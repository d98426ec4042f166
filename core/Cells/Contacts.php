<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Geometry\Zero;
use Isotome\Mesh\Compact;
use Isotome\Mesh\Mesh;

/** Where pieces touch: faces made by cutting that two of them have in common, corner for corner. */
final class Contacts
{
    /** Faces without a counterpart up to which their overlaps are measured. */
    private const MOST_LEFT = 40_000;

    /**
     * @param  array<int, Mesh>  $meshes
     * @param  int|null  $tag  faces of one step only; of all steps when null
     * @return array<int, array<int, list<array{int, int}>>> lower number → higher number → pairs of triangles, one of either
     */
    public static function of(array $meshes, ?int $tag = null): array
    {
        $waiting = $found = [];
        foreach ($meshes as $m => $mesh) {
            $xyz = $mesh->xyz;
            $corners = $mesh->corners;
            $keys = [];
            foreach ($mesh->tags as $t => $of) {
                if ($tag === null ? $of === 0 : $of !== $tag) {
                    continue;
                }
                $three = [];
                for ($k = 0; $k < 3; $k++) {
                    $v = $corners[3 * $t + $k];
                    $three[] = $keys[$v] ??= pack('e3', Zero::plain($xyz[3 * $v]), Zero::plain($xyz[3 * $v + 1]), Zero::plain($xyz[3 * $v + 2]));
                }
                [$a, $b, $c] = $three;
                // Turned to its lowest corner, so that the other side's triangle is this one backwards.
                if ($b <= $a && $b <= $c) {
                    [$a, $b, $c] = [$b, $c, $a];
                } elseif ($c <= $a && $c <= $b) {
                    [$a, $b, $c] = [$c, $a, $b];
                }
                $other = $waiting[$a.$c.$b] ?? null;
                if ($other !== null && $other[0] !== $m) {
                    unset($waiting[$a.$c.$b]);
                    $found[$other[0]][$m][] = [$other[1], $t];
                } else {
                    $waiting[$a.$b.$c] = [$m, $t];
                }
            }
        }

        return $found;
    }

    /**
     * Area of every contact, mm².
     *
     * @param  array<int, Mesh>  $meshes
     * @return array<int, array<int, float>> lower number → higher number → area
     */
    public static function areas(array $meshes, ?int $tag = null): array
    {
        $areas = [];
        foreach (self::of($meshes, $tag) as $one => $others) {
            foreach ($others as $other => $pairs) {
                $sum = 0.0;
                foreach ($pairs as [$t]) {
                    $sum += self::area($meshes[$one], $t);
                }
                $areas[$one][$other] = $sum;
            }
        }

        return $areas;
    }

    /**
     * Area of every contact between named meshes, mm², also where one side has been divided further than the other: faces that lie on each
     * other count with what they have in common.
     *
     * @param  iterable<string, Mesh>  $meshes
     * @return array<string, array<string, float>> name → name → area, both ways
     */
    public static function named(iterable $meshes): array
    {
        $names = $faces = [];
        foreach ($meshes as $name => $mesh) {
            $names[] = $name;
            $faces[] = self::insides($mesh);
        }
        $areas = $gone = [];
        $add = static function (int $one, int $other, float $area) use (&$areas, $names): void {
            $areas[$names[$one]][$names[$other]] = ($areas[$names[$one]][$names[$other]] ?? 0.0) + $area;
            $areas[$names[$other]][$names[$one]] = ($areas[$names[$other]][$names[$one]] ?? 0.0) + $area;
        };
        foreach (self::of($faces) as $one => $others) {
            foreach ($others as $other => $pairs) {
                $sum = 0.0;
                foreach ($pairs as [$t, $s]) {
                    $sum += self::area($faces[$one], $t);
                    $gone[$one][$t] = $gone[$other][$s] = true;
                }
                $add($one, $other, $sum);
            }
        }
        $rest = [];
        foreach ($faces as $m => $mesh) {
            foreach ($mesh->tags as $t => $_) {
                if (! isset($gone[$m][$t])) {
                    $rest[] = [$m, self::corners($mesh, $t)];
                }
            }
        }
        if (count($rest) <= self::MOST_LEFT) {
            CommonFaces::between($rest, $add);
        }

        return $areas;
    }

    /** The faces made by cutting, alone. */
    public static function insides(Mesh $mesh): Mesh
    {
        $corners = $tags = [];
        foreach ($mesh->tags as $t => $tag) {
            if ($tag !== 0) {
                array_push($corners, $mesh->corners[3 * $t], $mesh->corners[3 * $t + 1], $mesh->corners[3 * $t + 2]);
                $tags[] = $tag;
            }
        }
        [$xyz, $corners] = Compact::of($mesh->xyz, $corners);

        return Mesh::of($xyz, $corners, $tags);
    }

    /** @return list<array{float, float, float}> */
    public static function corners(Mesh $mesh, int $t): array
    {
        $three = [];
        for ($k = 0; $k < 3; $k++) {
            $v = 3 * $mesh->corners[3 * $t + $k];
            $three[] = [$mesh->xyz[$v], $mesh->xyz[$v + 1], $mesh->xyz[$v + 2]];
        }

        return $three;
    }

    private static function area(Mesh $mesh, int $t): float
    {
        $xyz = $mesh->xyz;
        [$a, $b, $c] = [3 * $mesh->corners[3 * $t], 3 * $mesh->corners[3 * $t + 1], 3 * $mesh->corners[3 * $t + 2]];
        [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
        [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];

        return sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2) / 2;
    }
}
