<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Isotome\Geometry\Extent;
use Isotome\Geometry\Zero;
use Isotome\Mesh\Mesh;

/**
 * Meshes whose vertices were moved to a fine grid where they meet each other: what lies apart by less than the grid comes to one place, so that nothing arises that
 * doubles cannot tell apart. The other vertices stay.
 *
 * Source: snap rounding, J. D. Hobby, "Practical segment intersection with finite precision output", Computational Geometry 13 (1999), for the given points only.
 */
final class Snapped
{
    /**
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Arrangement  $all  of these meshes
     * @param  float  $lines  of the grid within the largest coordinate
     * @return non-empty-list<Mesh> with the same triangles
     */
    public static function of(array $meshes, Arrangement $all, float $lines): array
    {
        $met = [];
        for ($t = $all->whole, $count = count($all->part); $t < $count; $t++) {
            foreach ($all->parts($t) as $part) {
                for ($k = 3 * abs($part) - 3; $k < 3 * abs($part); $k++) {
                    $p = 3 * $all->given[$k];
                    $met[pack('d3', $all->points->xyz[$p], $all->points->xyz[$p + 1], $all->points->xyz[$p + 2])] = true;
                }
            }
        }
        $extent = 0.0;
        foreach ($meshes as $mesh) {
            $extent = max($extent, Extent::of($mesh->xyz));
        }
        $step = 2.0 ** ceil(log(max($extent, 1e-300), 2.0)) / $lines;

        return array_map(static fn (Mesh $mesh): Mesh => self::moved($mesh, $met, $step), $meshes);
    }

    /** @param  array<string, true>  $met */
    private static function moved(Mesh $mesh, array $met, float $step): Mesh
    {
        $xyz = $mesh->xyz;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            if (isset($met[pack('d3', Zero::plain($xyz[$i]), Zero::plain($xyz[$i + 1]), Zero::plain($xyz[$i + 2]))])) {
                $xyz[$i] = round($xyz[$i] / $step) * $step;
                $xyz[$i + 1] = round($xyz[$i + 1] / $step) * $step;
                $xyz[$i + 2] = round($xyz[$i + 2] / $step) * $step;
            }
        }

        return Mesh::of(array_values($xyz), $mesh->corners, $mesh->tags);
    }
}
