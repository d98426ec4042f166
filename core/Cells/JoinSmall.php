<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/**
 * Joins pieces that are too small to the neighbour with the largest common face: see Merging.
 *
 * What two pieces have in common is taken out and the rest sewn together there: watertight pieces give watertight ones, and nothing is lost.
 */
final class JoinSmall
{
    /**
     * @param  list<Mesh>  $meshes
     * @param  float  $least  mm³
     * @param  int  $tag  the step whose faces part them
     * @return list<Mesh>
     */
    public static function of(array $meshes, float $least, int $tag): array
    {
        $volumes = array_map(static fn (Mesh $mesh): float => Volume::of($mesh), $meshes);
        if ($volumes === [] || min($volumes) >= $least) {
            return $meshes;
        }
        $areas = [];
        foreach (Contacts::areas($meshes, $tag) as $one => $others) {
            foreach ($others as $other => $area) {
                $areas[$one][$other] = $areas[$other][$one] = $area;
            }
        }
        $members = Merging::of($volumes, $areas, $least);
        $joined = [];
        foreach ($members as $list) {
            $joined[] = count($list) === 1 ? $meshes[$list[0]] : Shards::untangled(self::sewn(array_map(static fn (int $m): Mesh => $meshes[$m], $list), $tag));
        }

        return $joined;
    }

    /** @param  list<Mesh>  $meshes */
    private static function sewn(array $meshes, int $tag): Mesh
    {
        $meshes = Conform::of($meshes, $tag);
        $base = [];
        $vertices = 0;
        foreach ($meshes as $m => $mesh) {
            $base[$m] = $vertices;
            $vertices += $mesh->vertexCount();
        }
        $same = range(0, $vertices - 1);
        $root = static function (int $v) use (&$same): int {
            while ($same[$v] !== $v) {
                $v = $same[$v] = $same[$same[$v]];
            }

            return $v;
        };
        $gone = [];
        foreach (Contacts::of($meshes, $tag) as $one => $others) {
            foreach ($others as $other => $pairs) {
                foreach ($pairs as [$t, $s]) {
                    $gone[$one][$t] = $gone[$other][$s] = true;
                    for ($k = 0; $k < 3; $k++) {
                        $v = $meshes[$one]->corners[3 * $t + $k];
                        for ($l = 0; $l < 3; $l++) {
                            $w = $meshes[$other]->corners[3 * $s + $l];
                            if ($meshes[$one]->xyz[3 * $v] === $meshes[$other]->xyz[3 * $w] && $meshes[$one]->xyz[3 * $v + 1] === $meshes[$other]->xyz[3 * $w + 1] && $meshes[$one]->xyz[3 * $v + 2] === $meshes[$other]->xyz[3 * $w + 2]) {
                                $p = $root($base[$one] + $v);
                                $q = $root($base[$other] + $w);
                                $same[max($p, $q)] = min($p, $q);
                            }
                        }
                    }
                }
            }
        }
        $number = $xyz = $corners = $tags = [];
        foreach ($meshes as $m => $mesh) {
            foreach ($mesh->tags as $t => $of) {
                if (isset($gone[$m][$t])) {
                    continue;
                }
                for ($k = 0; $k < 3; $k++) {
                    $v = $mesh->corners[3 * $t + $k];
                    $p = $root($base[$m] + $v);
                    if (! isset($number[$p])) {
                        $number[$p] = count($number);
                        array_push($xyz, $mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]);
                    }
                    $corners[] = $number[$p];
                }
                $tags[] = $of;
            }
        }

        return Mesh::of($xyz, $corners, $tags);
    }
}
