<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\NewProject;
use App\Http\Resources\ProjectResource;
use App\Http\Resources\RunResource;
use App\Http\Resources\ShelfResource;
use App\Jobs\BringIn;
use App\Meshes\MeshStore;
use App\Models\Project;
use App\Models\Run;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Isotome\Recipe\Names;

final class ProjectController
{
    public function index(): AnonymousResourceCollection
    {
        return ShelfResource::collection(Project::query()->with('pieces.mesh')->orderByDesc('updated_at')->orderByDesc('id')->get());
    }

    /** Accepts a file that was brought in: the project is there at once, its stock as soon as the run is done. */
    public function store(NewProject $request): JsonResponse
    {
        $upload = $request->upload();
        [$project, $run] = DB::transaction(function () use ($request, $upload): array {
            $project = Project::query()->create(['name' => $request->name(), 'file' => $upload->file, 'units' => $request->units()->value, 'note' => '']);
            $run = Run::query()->create([
                'project_id' => $project->id, 'kind' => 'bring in', 'status' => 'waiting', 'phase' => 'waiting', 'progress' => 0.0,
                'settings' => ['upload' => $upload->id, 'piece' => mb_strtolower(Names::file($request->name()))],
            ]);

            return [$project, $run];
        });
        BringIn::dispatch($run->id);

        return response()->json(['id' => $project->id, 'run' => RunResource::make($run->refresh())], 202);
    }

    public function show(Project $project): ProjectResource
    {
        return ProjectResource::make($project->load(['pieces.mesh', 'steps', 'runs' => static fn ($runs) => $runs->limit(1)]));
    }

    public function destroy(Project $project, MeshStore $store): Response
    {
        DB::transaction(function () use ($project, $store): void {
            $project->delete();
            $store->sweep();
        });

        return response()->noContent();
    }
}
