<?php

declare(strict_types=1);

namespace Isotome\Mirror;

use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/** The reflection of a mesh in a plane, its faces outward again; tags stay. Across a plane square to an axis two coordinates stay as they are. */
final class Reflect
{
    public static function of(Mesh $mesh, Plane $plane): Mesh
    {
        $corners = [];
        $all = $mesh->corners;
        for ($i = 0, $count = count($all); $i < $count; $i += 3) {
            $corners[] = $all[$i];
            $corners[] = $all[$i + 2];
            $corners[] = $all[$i + 1];
        }

        return Mesh::of(self::places($mesh->xyz, $plane), $corners, $mesh->tags);
    }

    /**
     * @param  list<float>  $xyz
     * @return list<float>
     */
    public static function places(array $xyz, Plane $plane): array
    {
        $places = [];
        $count = count($xyz);
        if ($plane->axis !== null) {
            $axis = $plane->axis;
            $twice = 2 * $plane->offset * $plane->facing()[$axis];
            for ($i = 0, $k = 0; $i < $count; $i++) {
                $places[] = $k === $axis ? $twice - $xyz[$i] : $xyz[$i];
                $k = $k === 2 ? 0 : $k + 1;
            }

            return $places;
        }
        [$nx, $ny, $nz, $offset] = [$plane->nx, $plane->ny, $plane->nz, $plane->offset];
        for ($i = 0; $i < $count; $i += 3) {
            $d = 2 * ($nx * $xyz[$i] + $ny * $xyz[$i + 1] + $nz * $xyz[$i + 2] - $offset);
            $places[] = $xyz[$i] - $d * $nx;
            $places[] = $xyz[$i + 1] - $d * $ny;
            $places[] = $xyz[$i + 2] - $d * $nz;
        }

        return $places;
    }
}
