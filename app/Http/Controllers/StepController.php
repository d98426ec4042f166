<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\StepRequest;
use App\Http\Resources\RunResource;
use App\Jobs\EditStep;
use App\Jobs\TakeSteps;
use App\Models\Project;
use App\Models\Run;
use App\Models\Step;
use Illuminate\Http\JsonResponse;

/** Cuts with cells, and mirrors: a new one, or other settings for one in the lineage. */
final class StepController
{
    public function store(StepRequest $request, Project $project): JsonResponse
    {
        $step = $request->step($project);
        $run = Run::start($project, 'cut', ['steps' => [$step->toArray()], 'what' => $step->what()], TakeSteps::class);

        return RunResource::make($run)->response()->setStatusCode(202);
    }

    public function update(StepRequest $request, Project $project, Step $step): JsonResponse
    {
        abort_unless($step->project_id === $project->id, 404);
        $settings = $request->step($project, array_values($step->core()->of()));
        $run = Run::start($project, 'edit', ['step' => $step->id, 'steps' => [$settings->toArray()], 'what' => "the change of step {$step->number}"], EditStep::class);

        return RunResource::make($run)->response()->setStatusCode(202);
    }
}
