<?php

declare(strict_types=1);

namespace App\Meshes;

use App\Models\Mesh;
use Isotome\Mesh\Packing;

/**
 * A mesh for the view, as bytes (little-endian): "ISO1", u32 vertices, u32 triangles, u32 zero, 3 × f64 centre, 3 × f32 a
 * vertex counted from the centre, 3 × u32 a triangle, u16 tag a triangle, and padding to a multiple of 8.
 */
final class Geometry
{
    public function __construct(private readonly MeshStore $store)
    {
    }

    public function bytes(Mesh $mesh): string
    {
        $whole = $this->store->get($mesh);
        [$cx, $cy, $cz] = $centre = $mesh->centre();
        $near = [];
        for ($i = 0, $count = count($whole->xyz); $i < $count; $i += 3) {
            $near[] = $whole->xyz[$i] - $cx;
            $near[] = $whole->xyz[$i + 1] - $cy;
            $near[] = $whole->xyz[$i + 2] - $cz;
        }
        $bytes = 'ISO1'.pack('V3', $mesh->vertices, $mesh->triangles, 0).Packing::doubles($centre)
            .Packing::singles($near).Packing::longs($whole->corners).Packing::shorts($whole->tags);

        return $bytes.str_repeat("\0", -strlen($bytes) & 7);
    }
}
