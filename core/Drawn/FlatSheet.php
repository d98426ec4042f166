<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Isotome\Geometry\Extent;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\TriangleAreas;

/** An open mesh that lies in one plane: flat material, which is cut flat and may get its thickness afterwards. */
final class FlatSheet
{
    /** Share of the largest coordinate within which a corner lies in the plane. */
    private const FLAT = 1e-6;

    public static function is(Mesh $mesh): bool
    {
        $areas = TriangleAreas::of($mesh);
        if ($areas === []) {
            return false;
        }
        $t = (int) array_search(max($areas), $areas, true);
        $xyz = $mesh->xyz;
        [$a, $b, $c] = [3 * $mesh->corners[3 * $t], 3 * $mesh->corners[3 * $t + 1], 3 * $mesh->corners[3 * $t + 2]];
        [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
        [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];
        [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
        $most = self::FLAT * Extent::of($xyz) * sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            if (abs($nx * ($xyz[$i] - $xyz[$a]) + $ny * ($xyz[$i + 1] - $xyz[$a + 1]) + $nz * ($xyz[$i + 2] - $xyz[$a + 2])) > $most) {
                return false;
            }
        }

        return true;
    }
}
