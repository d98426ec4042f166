<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Meshes\Fits;
use App\Models\Mesh;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Project */
final class ShelfResource extends JsonResource
{
    /** Further pieces in the picture of a project. */
    private const BESIDE = 30;

    public int $bytes = 0;

    /**
     * @param  Collection<int, Project>  $projects
     * @return list<self>
     */
    public static function shelf(Collection $projects): array
    {
        $bytes = Project::bytesOf($projects->pluck('id')->all());

        return array_values($projects->map(static function (Project $project) use ($bytes): self {
            $entry = new self($project);
            $entry->bytes = $bytes[$project->id] ?? 0;

            return $entry;
        })->all());
    }

    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $living = $this->pieces->whereNull('spent_by');
        $fits = new Fits($this->printer?->space(), $living->map(static fn (Piece $piece): Mesh => $piece->mesh));
        // What it is now; of so many pieces that no picture would be drawn of all, what it began as.
        $shown = $living->isNotEmpty() && $living->count() <= 1 + self::BESIDE ? $living : $this->pieces->whereNull('parent_id');
        $all = $shown->sortByDesc(static fn (Piece $piece): float => $piece->mesh->volume)->values();
        $largest = $all->first();

        return [
            'id' => $this->id,
            'name' => $this->name,
            'note' => $this->note,
            'file' => $this->file,
            'units' => $this->units,
            'changed' => $this->updated_at?->toIso8601String(),
            'pieces' => $living->count(),
            'bytes' => $this->bytes,
            'removed' => $this->deleted_at?->toIso8601String(),
            'too_large' => $living->filter(static fn (Piece $piece): bool => ($fits->of($piece->mesh)['fits'] ?? true) === false)->count(),
            'watertight' => $living->every(static fn (Piece $piece): bool => $piece->mesh->watertight),
            'largest' => $largest === null ? null : PieceResource::make($largest),
            // What else there is, for the picture; and how large all of it is.
            'beside' => $all->slice(1, self::BESIDE)->map(static fn (Piece $piece): array => ['mesh' => $piece->mesh_hash, 'colour' => $piece->colour, 'carries' => $piece->mesh->carries ?? []])->values()->all(),
            'size' => $largest === null ? null : array_map(static fn (string $axis): float => (float) $all->max("mesh.{$axis}1") - (float) $all->min("mesh.{$axis}0"), ['x', 'y', 'z']),
            'volume' => (float) $all->sum('mesh.volume'),
        ];
    }
}
