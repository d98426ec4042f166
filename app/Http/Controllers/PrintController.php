<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\Answers;
use App\Answers\InLayers;
use App\Http\Requests\PlatesRequest;
use App\Models\PlatePrint;
use App\Models\Project;
use App\Printing\SimulatedPrinter;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Isotome\Exception\BadRecipe;

/** The simulated printer of a project: plates that it was given, and how far it has come. */
final class PrintController
{
    /** Plates that are kept in its list. */
    private const MOST = 100;

    public function index(Project $project): JsonResponse
    {
        return $this->told($project);
    }

    /** Takes a plate whose layers are known, unless a printer could not print it. */
    public function store(PlatesRequest $request, Project $project, Answers $answers): JsonResponse
    {
        $answer = $answers->kept($request->inLayers()->key());
        $stream = $answer === null ? null : Storage::disk('answers')->readStream($answer->file);
        if (! is_resource($stream)) {
            throw new BadRecipe('The layers of this plate are not known yet; look at them first, then print.');
        }
        try {
            $layers = InLayers::header($stream);
        } finally {
            fclose($stream);
        }
        if ($layers['troubles'] !== []) {
            throw new BadRecipe($layers['troubles'][0]['said'].(count($layers['troubles']) > 1 ? ' And '.(count($layers['troubles']) - 1).' more.' : ''));
        }
        $ends = [];
        $end = 0.0;
        foreach ($layers['layers'] as $layer) {
            $ends[] = $end += $layer['seconds'];
        }
        $printer = $request->printer();
        DB::transaction(static function () use ($project, $request, $printer, $layers, $ends, $end): void {
            if (PlatePrint::query()->where('project_id', $project->id)->count() >= self::MOST) {
                throw new BadRecipe('The simulated printer’s list holds '.self::MOST.' plates; take some of them off it first.');
            }
            PlatePrint::query()->create([
                'project_id' => $project->id, 'title' => $request->title(), 'printer' => $printer->name, 'seconds' => $end, 'layers' => $ends, 'grams' => $layers['grams'], 'times' => $request->times(), 'asked_at' => microtime(true),
            ]);
        });

        return $this->told($project)->setStatusCode(201);
    }

    /** Stops what is printed or waits; takes what is over off the list. */
    public function destroy(Project $project, PlatePrint $print): JsonResponse
    {
        abort_if($print->project_id !== $project->id, 404);
        $state = array_column(SimulatedPrinter::state($this->prints($project), microtime(true)), 'state', 'id')[$print->id] ?? '';
        if ($state === 'printing') {
            $print->fill(['stopped_at' => microtime(true)])->save();
        } else {
            $print->delete();
        }

        return $this->told($project);
    }

    private function told(Project $project): JsonResponse
    {
        return response()->json(SimulatedPrinter::state($this->prints($project), microtime(true)));
    }

    /** @return list<PlatePrint> */
    private function prints(Project $project): array
    {
        $prints = [];
        foreach (PlatePrint::query()->where('project_id', $project->id)->orderBy('id')->get() as $print) {
            /** @var PlatePrint $print */
            $prints[] = $print;
        }

        return $prints;
    }
}
