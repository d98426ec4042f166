<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\MendRequest;
use App\Http\Resources\RunResource;
use App\Jobs\TakeSteps;
use App\Meshes\MeshStore;
use App\Models\Project;
use App\Models\Run;
use Illuminate\Http\JsonResponse;
use Isotome\Check\PlacedReport;
use Isotome\Check\Report;
use Isotome\Mend\Difference;
use Isotome\Operation\Kind\MendingStep;

final class MendController
{
    /** Largest mesh whose mend is tried out before it is done, triangles. */
    private const LARGEST_PREVIEW = 400_000;

    /** Most triangles shown of a preview. */
    private const SHOWN = 4000;

    public function store(MendRequest $request, Project $project): JsonResponse
    {
        $step = $request->step($project);
        $run = Run::start($project, 'mend', ['steps' => [$step->toArray()], 'what' => $step->what()], TakeSteps::class);

        return RunResource::make($run)->response()->setStatusCode(202);
    }

    /** What a mend would change on one piece, without doing it. */
    public function preview(MendRequest $request, Project $project, MeshStore $store): JsonResponse
    {
        set_time_limit(120);
        $piece = $request->piece($project);
        if ($piece->mesh->triangles > self::LARGEST_PREVIEW) {
            return response()->json(['too_large' => true]);
        }
        $before = $store->get($piece->mesh);
        $step = $request->step($project);
        $did = [];
        if ($step instanceof MendingStep) {
            ['mesh' => $after, 'did' => $did] = $step->on($before, 1);
        } else {
            $after = $step->on($before, 1);
        }
        $difference = Difference::of($before, $after);

        return response()->json([
            'too_large' => false, 'did' => $did,
            'before' => Report::of($before, 0, false)->toArray(), 'after' => Report::of($after, 0, false)->toArray(),
            'removed' => count($difference->removed), 'added' => count($difference->added),
            'removed_faces' => PlacedReport::faces($before, array_slice($difference->removed, 0, self::SHOWN)),
            'added_faces' => PlacedReport::faces($after, array_slice($difference->added, 0, self::SHOWN)),
        ]);
    }
}
