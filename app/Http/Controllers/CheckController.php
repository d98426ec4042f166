<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\ListOfNumbers;
use App\Http\Resources\RunResource;
use App\Jobs\CheckPieces;
use App\Models\Check;
use App\Models\Mesh;
use App\Models\Project;
use App\Models\Run;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final class CheckController
{
    /** Checks the pieces named, spent ones too (a mend that is edited took them), or all living ones. */
    public function store(Request $request, Project $project): JsonResponse
    {
        $asked = $request->validate(['pieces' => ['sometimes', 'nullable', new ListOfNumbers(10_000, 'The picked pieces are not a list of pieces; pick them again.')]]);
        $some = $asked['pieces'] ?? null;
        $ids = ($some === null ? $project->pieces()->whereNull('spent_by') : $project->pieces()->whereIn('id', $some))->pluck('id')->all();
        $run = Run::start($project, 'check', ['pieces' => $ids], CheckPieces::class);

        return RunResource::make($run)->response()->setStatusCode(202);
    }

    /** Counts of the checks that are known, by mesh. */
    public function index(Project $project): JsonResponse
    {
        $hashes = $project->pieces()->distinct()->reorder()->select('mesh_hash');

        $known = [];
        foreach (Check::query()->whereIn('mesh_hash', $hashes)->get() as $check) {
            $known[$check->mesh_hash] = ['counts' => $check->report['counts'], 'notes' => $check->report['notes'], 'sound' => $check->report['sound']];
        }

        return response()->json((object) $known);
    }

    /** The whole check of one mesh, with its places. */
    public function show(Mesh $mesh): JsonResponse
    {
        return response()->json(Check::query()->findOrFail($mesh->hash)->report);
    }
}
