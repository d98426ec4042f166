<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\ProjectResource;
use App\Meshes\MeshStore;
use App\Models\Project;
use App\Models\Step;
use Illuminate\Support\Facades\DB;
use Isotome\Exception\BadRecipe;

/** Takes the last step back: the pieces it made go, the pieces it took live again. */
final class RejoinController
{
    public function __invoke(Project $project, MeshStore $store): ProjectResource
    {
        DB::transaction(function () use ($project, $store): void {
            if ($project->runs()->whereIn('status', ['waiting', 'running'])->exists()) {
                throw new BadRecipe('A step of this project is still at work; wait for it, or stop it, then rejoin.');
            }
            /** @var Step $last */
            $last = Step::query()->where('project_id', $project->id)->orderByDesc('number')->first()
                ?? throw new BadRecipe('There is no cut to take back; this project is as it was brought in.');
            $last->spent()->update(['spent_by' => null]);
            $last->made()->delete();
            $last->delete();
            $project->touch();
            $store->sweep();
        });

        return ProjectResource::make($project->load(['pieces.mesh', 'steps', 'runs' => static fn ($runs) => $runs->limit(1)]));
    }
}
