<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\BladeRequest;
use App\Http\Resources\RunResource;
use App\Jobs\EditStep;
use App\Jobs\TakeSteps;
use App\Models\Project;
use App\Models\Run;
use App\Models\Step;
use Illuminate\Http\JsonResponse;

/** Cuts and scores: a new one, or another blade for one in the lineage. */
final class CutController
{
    public function store(BladeRequest $request, Project $project): JsonResponse
    {
        $step = $request->step($project);
        $run = Run::start($project, 'cut', ['steps' => [$step], 'what' => $step['do'] === 'score' ? 'the score' : 'the cut'], TakeSteps::class);

        return RunResource::make($run)->response()->setStatusCode(202);
    }

    public function update(BladeRequest $request, Project $project, Step $step): JsonResponse
    {
        abort_unless($step->project_id === $project->id, 404);
        $settings = $request->step($project, array_values($step->core()->of()));
        $run = Run::start($project, 'edit', ['step' => $step->id, 'steps' => [$settings], 'what' => "the change of step {$step->number}"], EditStep::class);

        return RunResource::make($run)->response()->setStatusCode(202);
    }
}
