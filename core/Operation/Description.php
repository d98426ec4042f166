<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Isotome\Geometry\Box;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/** The measures of a mesh under the names that files and commands use for them. */
final class Description
{
    /**
     * @param  bool|null  $watertight  when it is known already
     * @param  int|null  $shells  when their number is known already
     * @return array{triangles: int, vertices: int, shells: int, watertight: bool, volume_mm3: float, area_mm2: float, size_mm: array{float, float, float}, min_mm: array{float, float, float}, max_mm: array{float, float, float}, centroid_mm: array{float, float, float}}
     */
    public static function of(Mesh $mesh, ?bool $watertight = null, ?int $shells = null): array
    {
        $box = Box::of($mesh->xyz);
        $measures = Volume::measure($mesh);

        return [
            'triangles' => $mesh->triangleCount(),
            'vertices' => $mesh->vertexCount(),
            'shells' => $shells ?? Bodies::shellCount($mesh),
            'watertight' => $watertight ?? EdgeCheck::of($mesh)->isWatertight(),
            'volume_mm3' => $measures->volume,
            'area_mm2' => $measures->area,
            'size_mm' => $box->size(),
            'min_mm' => $box->min,
            'max_mm' => $box->max,
            'centroid_mm' => $measures->centroid,
        ];
    }
}
