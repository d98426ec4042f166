<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\ThreeNumbers;
use App\Meshes\MeshStore;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Plane;
use Isotome\Mirror\Nearest;
use Isotome\Mirror\Symmetry;
use Isotome\Mirror\SymmetryMap;

/** How symmetric a piece is. */
final class SymmetryController
{
    /** Triangles up to which it is measured while somebody waits. */
    private const LARGEST = 2_000_000;

    /** Deviations of a piece from its own reflection, over a plane or over the best one. */
    public function __invoke(Request $request, Project $project, MeshStore $store): JsonResponse
    {
        set_time_limit(120);
        $plane = 'The plane\'s place and facing are not three ordinary numbers each; set it again.';
        $asked = $request->validate([
            'piece' => ['required', 'integer:strict'], 'through' => ['sometimes', 'nullable', new ThreeNumbers($plane)], 'facing' => ['required_with:through', 'nullable', new ThreeNumbers($plane)],
        ], ['piece' => 'There is no piece to measure; pick one.', 'facing' => $plane]);
        /** @var Piece $piece */
        $piece = $project->pieces()->with('mesh')->findOrFail($asked['piece']);
        if ($piece->mesh->triangles > self::LARGEST) {
            throw new BadRecipe('The piece has more than 2,000,000 triangles; its symmetry is measured up to that.');
        }
        $mesh = $store->get($piece->mesh);
        $three = static fn (array $list): array => [(float) $list[0], (float) $list[1], (float) $list[2]];
        $nearest = new Nearest($mesh);
        $symmetry = isset($asked['through'], $asked['facing']) ? Symmetry::of($mesh, Plane::through($three($asked['through']), $three($asked['facing'])), nearest: $nearest) : Symmetry::best($mesh, nearest: $nearest);
        $map = SymmetryMap::of($mesh, $symmetry->plane, $nearest);
        $values = [];
        foreach ($map->mesh->corners as $v) {
            array_push($values, $map->mesh->xyz[3 * $v], $map->mesh->xyz[3 * $v + 1], $map->mesh->xyz[3 * $v + 2], $map->deviations[$v]);
        }
        $facing = $symmetry->plane->facing();

        return response()->json([
            'largest' => $symmetry->largest, 'mean' => $symmetry->mean, 'facing' => $facing,
            'through' => array_map(static fn (float $part): float => $part * $symmetry->plane->offset, $facing),
            'map' => base64_encode(implode('', array_map(static fn (array $chunk): string => pack('g*', ...$chunk), array_chunk($values, 8192)))),
        ]);
    }
}
