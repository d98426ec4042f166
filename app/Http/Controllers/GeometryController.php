<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Meshes\MeshStore;
use App\Models\Mesh;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Isotome\Mesh\Packing;

/**
 * A mesh for the view, as bytes (little-endian): "ISO1", u32 vertices, u32 triangles, u32 zero, 3 × f64 centre, 3 × f32 a
 * vertex counted from the centre, 3 × u32 a triangle, u16 tag a triangle. Never changes, so the browser keeps it for good.
 */
final class GeometryController
{
    public function __invoke(Request $request, Mesh $mesh, MeshStore $store): Response
    {
        $response = response('', 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'private, max-age=31536000, immutable']);
        $response->setEtag($mesh->hash);
        if ($response->isNotModified($request)) {
            return $response;
        }
        $whole = $store->get($mesh);
        [$cx, $cy, $cz] = $centre = [($mesh->x0 + $mesh->x1) / 2, ($mesh->y0 + $mesh->y1) / 2, ($mesh->z0 + $mesh->z1) / 2];
        $near = [];
        for ($i = 0, $count = count($whole->xyz); $i < $count; $i += 3) {
            $near[] = $whole->xyz[$i] - $cx;
            $near[] = $whole->xyz[$i + 1] - $cy;
            $near[] = $whole->xyz[$i + 2] - $cz;
        }

        return $response->setContent(
            'ISO1'.pack('V3', $mesh->vertices, $mesh->triangles, 0).Packing::doubles($centre)
            .Packing::singles($near).Packing::longs($whole->corners).Packing::shorts($whole->tags),
        );
    }
}
