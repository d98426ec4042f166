<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Lineage\History;
use App\Meshes\Fits;
use App\Meshes\Insides;
use App\Models\Mesh;
use App\Models\Piece;
use App\Models\Project;
use App\Models\Step;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Project */
final class ProjectResource extends JsonResource
{
    public static function of(Project $project): self
    {
        // The run first: when it is over, all that it made is there to be read after it.
        return new self($project->load(['runs' => static fn ($runs) => $runs->limit(1), 'pieces.mesh', 'steps', 'printer']));
    }

    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $run = $this->runs->first();
        $fits = new Fits($this->printer?->space(), $this->pieces->map(static fn (Piece $piece): Mesh => $piece->mesh));

        return [
            'id' => $this->id,
            'name' => $this->name,
            'file' => $this->file,
            'units' => $this->units,
            'note' => $this->note,
            'printer' => $this->printer,
            'inside' => Insides::shown($this->inside),
            'pieces' => $this->pieces->map(static function (Piece $piece) use ($fits, $request): array {
                $resource = PieceResource::make($piece);
                $resource->fits = $fits;

                return $resource->toArray($request);
            })->values(),
            'steps' => $this->steps->map(static fn (Step $step): array => StepResource::make($step)->toArray($request))->values(),
            'history' => (new History)->next($this->resource),
            'run' => $run === null ? null : RunResource::make($run),
        ];
    }
}
