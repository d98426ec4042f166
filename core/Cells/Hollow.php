<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Check\Crossings;
use Isotome\Exception\BadMesh;
use Isotome\Mend\Thicken;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/**
 * A wall instead of a solid: the skin, and the skin moved inwards and turned over; an open sheet gets a wall behind it.
 *
 * Guarantees a watertight result whose wall does not pass through itself: where a body is too thin for the wall it is refused. Vertices move
 * along the mean of their faces' normals (Thicken), so the wall has the thickness on flat parts and about it on round ones.
 */
final class Hollow
{
    /**
     * @param  float  $wall  mm
     * @param  int  $tag  of the new faces
     *
     * @throws BadMesh
     */
    public static function of(Mesh $mesh, float $wall, int $tag): Mesh
    {
        if (! is_finite($wall) || $wall <= 0.0) {
            throw new BadMesh("The wall is $wall mm thick; give more than 0.");
        }
        if (! EdgeCheck::of($mesh)->isWatertight()) {
            return Thicken::of($mesh, $wall, 'back', $tag);
        }
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $tags = $mesh->tags;
        $vertices = $mesh->vertexCount();
        foreach (Thicken::normals($mesh) as $i => $n) {
            $xyz[] = $mesh->xyz[$i] - $wall * $n;
        }
        for ($i = 0, $count = count($mesh->corners); $i < $count; $i += 3) {
            array_push($corners, $vertices + $mesh->corners[$i], $vertices + $mesh->corners[$i + 2], $vertices + $mesh->corners[$i + 1]);
            $tags[] = $tag;
        }
        $hollow = Mesh::of($xyz, $corners, $tags);
        $left = Volume::of($hollow);
        $whole = Volume::of($mesh);
        $before = count(Crossings::of($mesh)->faces);
        if ($left <= 0.0 || $left >= $whole || count(Crossings::of($hollow)->faces) > 2 * $before) {
            throw new BadMesh(sprintf('A wall of %g mm would pass through itself where the body is thin or sharply bent; give a thinner wall.', $wall));
        }

        return $hollow;
    }
}
