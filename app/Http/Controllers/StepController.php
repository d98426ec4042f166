<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\Answers;
use App\Answers\Question;
use App\Foresight\Foresights;
use App\Http\Requests\StepRequest;
use App\Http\Resources\RunResource;
use App\Http\Resources\StepResource;
use App\Http\Told;
use App\Jobs\EditStep;
use App\Jobs\TakeSteps;
use App\Models\Project;
use App\Models\Run;
use App\Models\Step;
use Illuminate\Http\JsonResponse;
use Isotome\Exception\BadRecipe;
use Symfony\Component\HttpFoundation\Response;

/** Steps of every kind: start one, ask what it would do, give one in the lineage other settings. */
final class StepController
{
    public function store(StepRequest $request, Project $project): JsonResponse
    {
        $step = $request->step($project);
        $run = Run::start($project, 'step', ['steps' => [$step->toArray()], 'what' => $step->what()], TakeSteps::class);

        return RunResource::make($run)->response()->setStatusCode(202);
    }

    public function foresee(StepRequest $request, Project $project, Foresights $foresights, Answers $answers): Response
    {
        set_time_limit(120);
        $step = $request->step($project, ['*']);

        $told = $foresights->of($step)->foresee($step, $request->pieces($project)->values(), $request->boolean('tried'));

        return $told instanceof Question ? Told::of($answers->ask($project, $told)) : response()->json($told);
    }

    /** A step of the lineage with all its settings. */
    public function show(Project $project, Step $step): StepResource
    {
        abort_unless($step->project_id === $project->id, 404);
        $resource = StepResource::make($step);
        $resource->isWhole = true;

        return $resource;
    }

    public function update(StepRequest $request, Project $project, Step $step): JsonResponse
    {
        abort_unless($step->project_id === $project->id, 404);
        $old = $step->core();
        $new = $request->step($project, $old->of());
        if ($new::group() !== $old::group()) {
            throw new BadRecipe("Step {$step->number} is {$old->what()}, and stays it when it is edited; what was sent is {$new->what()}. Change its own settings, or take it back and do the other.");
        }
        $run = Run::start($project, 'edit', ['step' => $step->id, 'steps' => [$new->toArray()], 'what' => "the change of step {$step->number}"], EditStep::class);

        return RunResource::make($run)->response()->setStatusCode(202);
    }
}
