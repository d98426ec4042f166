<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\Answers;
use App\Answers\HowCrowded;
use App\Answers\HowItGoesTogether;
use App\Answers\OnPlates;
use App\Answers\PlatesTakenOut;
use App\Http\Requests\PlatesRequest;
use App\Http\Told;
use App\Models\Project;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Isotome\Exception\BadRecipe;
use Symfony\Component\HttpFoundation\Response;

/** Living pieces on plates of the project's printer: packed, moved by hand and kept, judged, in layers, as files, and as a sheet that tells how they go together. */
final class PlatesController
{
    /** As they were kept last; those of pieces that have changed since too. */
    public function kept(Project $project): JsonResponse
    {
        $row = DB::table('layouts')->where('project_id', $project->id)->first();
        /** @var object{version: int, settings: string, plates: string}|null $row */

        return response()->json($row === null
            ? ['version' => 0, 'settings' => null, 'plates' => []]
            : ['version' => $row->version, 'settings' => json_decode($row->settings, flags: JSON_THROW_ON_ERROR), 'plates' => json_decode($row->plates, flags: JSON_THROW_ON_ERROR)]);
    }

    /** Keeps them, unless somebody else has changed them meanwhile. */
    public function keep(PlatesRequest $request, Project $project): JsonResponse
    {
        $plates = json_encode($request->layout()->plates, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
        $names = $request->living()->pluck('id', 'name')->all();
        $copies = [];
        foreach ($request->copies() as $name => $count) {
            $copies[] = ['piece' => $names[$name], 'count' => $count];
        }
        $settings = json_encode(['margin' => $request->margin(), 'spacing' => $request->spacing(), 'turned' => (bool) ($request->validated('turned') ?? true), 'step' => (float) ($request->validated('step') ?? 0), 'copies' => $copies], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
        $version = DB::transaction(static function () use ($project, $request, $plates, $settings): int {
            $now = (int) DB::table('layouts')->where('project_id', $project->id)->value('version');
            if ($now !== ($request->validated('version') ?? $now)) {
                throw new BadRecipe('Somebody else has changed the plates meanwhile; they are shown as they are now.');
            }
            DB::table('layouts')->updateOrInsert(['project_id' => $project->id], ['version' => $now + 1, 'settings' => $settings, 'plates' => $plates]);

            return $now + 1;
        });

        return response()->json(['version' => $version]);
    }

    /** Packs pieces; what lies on locked plates stays there and is not among the answer. */
    public function pack(PlatesRequest $request, Project $project, Answers $answers): Response
    {
        return Told::of($answers->ask($project, OnPlates::of(
            $request->pieces(), $request->printer()->space(), $request->margin(), $request->spacing(), (bool) ($request->validated('turned') ?? true), (float) ($request->validated('step') ?? 0), $request->copies(), $request->layout(),
        )));
    }

    public function files(PlatesRequest $request, Project $project, Answers $answers): Response
    {
        return Told::of($answers->ask($project, PlatesTakenOut::of($project, $request->layout(), $request->living(), $request->printer(), $request->margin(), $request->spacing(), $request->validated('as') ?? '3mf')));
    }

    public function crowding(PlatesRequest $request, Project $project, Answers $answers): Response
    {
        return Told::of($answers->ask($project, HowCrowded::of($request->layout(), $request->living(), $request->printer(), $request->margin(), $request->spacing())));
    }

    /** The layers of one plate, and whether the simulated printer takes it. */
    public function layers(PlatesRequest $request, Project $project, Answers $answers): Response
    {
        return Told::of($answers->ask($project, $request->inLayers()));
    }

    public function sheet(PlatesRequest $request, Project $project, Answers $answers): Response
    {
        return Told::of($answers->ask($project, HowItGoesTogether::of($project, $request->pieces(), $request->layout(), $request->printer(), $request->margin(), $request->spacing(), $request->isSupported())));
    }
}
