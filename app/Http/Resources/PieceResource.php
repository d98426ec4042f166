<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Meshes\Fits;
use App\Models\Piece;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Piece */
final class PieceResource extends JsonResource
{
    public ?Fits $fits = null;

    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $mesh = $this->mesh;

        return [
            'id' => $this->id,
            'parent' => $this->parent_id,
            'parents' => $this->parentIds(),
            'name' => $this->name,
            'title' => $this->title,
            'colour' => $this->colour,
            'spent' => $this->spent_by !== null,
            'made_by' => $this->made_by,
            'spent_by' => $this->spent_by,
            'mesh' => $mesh->hash,
            'triangles' => $mesh->triangles,
            'vertices' => $mesh->vertices,
            'shells' => $mesh->shells,
            'watertight' => $mesh->watertight,
            'faults' => $mesh->faults,
            'volume' => $mesh->volume,
            'area' => $mesh->area,
            'min' => [$mesh->x0, $mesh->y0, $mesh->z0],
            'max' => [$mesh->x1, $mesh->y1, $mesh->z1],
            'centroid' => [$mesh->cx, $mesh->cy, $mesh->cz],
            'carries' => $mesh->carries ?? [],
            'fit' => $this->fits?->of($mesh),
        ];
    }
}
