<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/** The areas of a mesh's triangles, mm², in their order. */
final class TriangleAreas
{
    /** @return list<float> */
    public static function of(Mesh $mesh): array
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $areas = [];
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $ux = $xyz[$b] - $xyz[$a];
            $uy = $xyz[$b + 1] - $xyz[$a + 1];
            $uz = $xyz[$b + 2] - $xyz[$a + 2];
            $vx = $xyz[$c] - $xyz[$a];
            $vy = $xyz[$c + 1] - $xyz[$a + 1];
            $vz = $xyz[$c + 2] - $xyz[$a + 2];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $areas[] = sqrt($nx * $nx + $ny * $ny + $nz * $nz) / 2;
        }

        return $areas;
    }
}
