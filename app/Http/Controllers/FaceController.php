<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Meshes\MeshStore;
use App\Models\Mesh;
use Illuminate\Http\JsonResponse;
use Isotome\Exception\BadRecipe;
use Isotome\Mesh\FlatRegion;

/** A face that was clicked: a point and the normal for a blade parallel to it, and the flat part of the surface it belongs to. */
final class FaceController
{
    public function __invoke(Mesh $mesh, int $face, MeshStore $store): JsonResponse
    {
        if ($face < 0 || $face >= $mesh->triangles) {
            throw new BadRecipe("There is no face $face in this piece; click it again.");
        }
        $whole = $store->get($mesh);
        $corner = 3 * $whole->corners[3 * $face];
        $region = FlatRegion::of($whole, $face);

        return response()->json([
            'point' => [$whole->xyz[$corner], $whole->xyz[$corner + 1], $whole->xyz[$corner + 2]], 'normal' => FlatRegion::normal($whole, $face), 'region' => $region,
        ]);
    }
}
