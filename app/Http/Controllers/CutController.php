<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\BladeRequest;
use App\Http\Resources\RunResource;
use App\Jobs\CutPieces;
use App\Models\Project;
use App\Models\Run;
use Illuminate\Http\JsonResponse;
use Isotome\Exception\BadRecipe;

final class CutController
{
    public function __invoke(BladeRequest $request, Project $project): JsonResponse
    {
        // Refused here already when the blade has no direction.
        $request->plane();
        $settings = $request->step($project);
        if ($project->runs()->whereIn('status', ['waiting', 'running'])->exists()) {
            throw new BadRecipe('Another step of this project is still at work; wait for it, or stop it first.');
        }
        $run = Run::query()->create([
            'project_id' => $project->id, 'kind' => 'cut', 'settings' => $settings, 'status' => 'waiting', 'phase' => 'waiting', 'progress' => 0.0,
        ]);
        CutPieces::dispatch($run->id);

        return RunResource::make($run->refresh())->response()->setStatusCode(202);
    }
}
