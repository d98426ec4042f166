<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\BladeRequest;
use App\Meshes\MeshStore;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Http\JsonResponse;
use Isotome\Cut\Plane;
use Isotome\Cut\Section;

/** The section of the taken pieces as the blade stands now; asked while it is dragged. */
final class SectionController
{
    public function __invoke(BladeRequest $request, Project $project, MeshStore $store): JsonResponse
    {
        $plane = $request->plane();
        $area = $perimeter = 0.0;
        $page = null;
        $sections = [];
        foreach ($request->pieces($project) as $piece) {
            [$low, $high] = $this->reach($piece, $plane);
            if ($low > 0 || $high < 0) {
                $sections[] = ['piece' => $piece->id, 'cuts' => false, 'outlines' => [], 'lines' => []];

                continue;
            }
            $section = Section::of($store->touching($piece->mesh, $plane), $plane, $piece->mesh->extent());
            // Bodies of one piece may lie apart on either side without being touched; then the cut separates them.
            $cuts = ! $section->isEmpty() || ($piece->mesh->shells > 1 && $low < 0 && $high > 0);
            $area += $section->area;
            $perimeter += $section->perimeter;
            $page = $section->page;
            $sections[] = ['piece' => $piece->id, 'cuts' => $cuts, 'outlines' => $section->outlines, 'lines' => $section->lines];
        }

        return response()->json(['area' => $area, 'perimeter' => $perimeter, 'page' => $page, 'pieces' => $sections]);
    }

    /** @return array{float, float} how far behind and ahead of the plane the piece's box reaches, mm */
    private function reach(Piece $piece, Plane $plane): array
    {
        $mesh = $piece->mesh;
        $middle = $plane->nx * ($mesh->x0 + $mesh->x1) / 2 + $plane->ny * ($mesh->y0 + $mesh->y1) / 2 + $plane->nz * ($mesh->z0 + $mesh->z1) / 2 - $plane->offset;
        $half = abs($plane->nx) * ($mesh->x1 - $mesh->x0) / 2 + abs($plane->ny) * ($mesh->y1 - $mesh->y0) / 2 + abs($plane->nz) * ($mesh->z1 - $mesh->z0) / 2;

        return [$middle - $half, $middle + $half];
    }
}
