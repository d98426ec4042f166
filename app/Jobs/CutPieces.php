<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Meshes\MeshStore;
use App\Meshes\PreparedMesh;
use App\Models\Piece;
use App\Models\Run;
use App\Models\Step;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Recipe\CutStep;
use Isotome\Recipe\Piece as CorePiece;
use Isotome\Recipe\Recipe;
use Isotome\Recipe\Runner;
use Isotome\Recipe\StepRecord;

/** One cut of a project's living pieces. */
final class CutPieces extends LongWork
{
    protected function work(Run $run): \Closure
    {
        $store = new MeshStore;
        $step = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [$run->settings]])->steps[0];
        if (! $step instanceof CutStep) {
            throw new BadRecipe('The step is no cut; make a cut of it.');
        }
        /** @var Collection<int, Piece> $all */
        $all = $run->project->pieces()->with(['mesh', 'parent'])->whereNull('spent_by')->get();
        /** @var list<Piece> $living */
        $living = $all->filter(static fn (Piece $piece): bool => $step->takes($piece->name))->values()->all();
        if ($living === []) {
            throw new BadRecipe('None of the pieces that this cut takes is there any more; pick pieces and cut again.');
        }
        $pieces = [];
        foreach ($living as $n => $piece) {
            $this->report($run, 'reading '.$piece->name, 0.3 * $n / count($living));
            $pieces[] = new CorePiece(
                $piece->name, $store->get($piece->mesh), $piece->parent?->name, 0, $piece->colour, $piece->mesh->watertight,
            );
        }
        $this->report($run, 'cutting and checking', 0.3);
        $number = ((int) $run->project->steps()->max('number')) + 1;
        $made = $run->project->pieces()->whereNotNull('made_by')->count();
        $runner = Runner::resume($pieces, $number - 1, $made);
        $record = $runner->run($step, fn (float $share) => $this->report($run, 'cutting and checking', 0.3 + 0.3 * $share));
        $prepared = [];
        foreach ($record->gave as $n => $name) {
            $this->report($run, 'measuring '.$name, 0.6 + 0.3 * $n / max(1, count($record->gave)));
            $prepared[$name] = PreparedMesh::of($runner->pieces()[$name]->mesh);
        }

        return fn (): string => $this->store($run, $step, $number, $runner, $record, $living, $prepared, $store);
    }

    /**
     * @param  list<Piece>  $living
     * @param  array<string, PreparedMesh>  $prepared
     */
    private function store(Run $run, CutStep $step, int $number, Runner $runner, StepRecord $record, array $living, array $prepared, MeshStore $store): string
    {
        $stored = Step::query()->create([
            'project_id' => $run->project_id,
            'number' => $number,
            'settings' => $step->toArray(),
            'report' => [
                'took' => $record->took, 'gave' => $record->gave, 'seconds' => $record->seconds, 'peak_mb' => $record->peakMb,
                'unclosed' => $record->unclosed, 'crossing' => $record->crossing,
            ],
        ]);
        $parents = [];
        $volume = 0.0;
        foreach ($living as $piece) {
            $parents[$piece->name] = $piece;
            if (in_array($piece->name, $record->took, true)) {
                $piece->fill(['spent_by' => $stored->id])->save();
                $volume += $piece->mesh->volume;
            }
        }
        $kept = 0.0;
        $watertight = 0;
        foreach ($record->gave as $n => $name) {
            $piece = $runner->pieces()[$name];
            $mesh = $store->put($prepared[$name]);
            $kept += $mesh->volume;
            $watertight += $mesh->watertight ? 1 : 0;
            $parent = $parents[(string) $piece->parent];
            Piece::query()->create([
                'project_id' => $run->project_id, 'parent_id' => $parent->id, 'made_by' => $stored->id, 'name' => $name,
                'mesh_hash' => $mesh->hash, 'colour' => $piece->colour, 'place' => $n,
            ]);
        }
        $this->renumber($run);

        return self::said($record, $watertight, $volume, $kept, $step);
    }

    /** Children stand where their parent stood: the list follows the lineage. */
    private function renumber(Run $run): void
    {
        /** @var array<int, list<Piece>> $children */
        $children = [];
        foreach ($run->project->pieces()->get() as $piece) {
            $children[(int) $piece->parent_id][] = $piece;
        }
        $place = 0;
        $visit = function (int $parent) use (&$visit, &$place, $children): void {
            foreach ($children[$parent] ?? [] as $piece) {
                $piece->fill(['place' => $place++])->save();
                $visit($piece->id);
            }
        };
        $visit(0);
    }

    private static function said(StepRecord $record, int $watertight, float $before, float $after, CutStep $step): string
    {
        $count = count($record->gave);
        $sentence = $count === 1 ? '1 piece' : "$count pieces";
        $sentence .= match (true) {
            $watertight === $count => $count === 1 ? ', watertight' : ($count === 2 ? ', both watertight' : ', all watertight'),
            $watertight === 0 => $count === 1 ? ', not watertight' : ', none watertight',
            default => ', '.($count - $watertight).' not watertight',
        };
        if ($step->blade->keep->value === 'both' && $before > 0 && $watertight === $count) {
            $sentence .= sprintf(', %.3f %% volume %s', 100 * abs($before - $after) / $before, $step->blade->kerf > 0 ? 'removed by the kerf' : 'lost');
        }
        if ($record->unclosed !== []) {
            $first = $record->unclosed[0];
            $sentence .= sprintf(
                '; %d %s could not be closed, the first one %.1f mm long, from (%.1f, %.1f, %.1f) to (%.1f, %.1f, %.1f) on %s, because the mesh has open edges there',
                count($record->unclosed), count($record->unclosed) === 1 ? 'outline' : 'outlines', $first['length_mm'],
                ...[...$first['from'], ...$first['to'], $first['piece']],
            );
        }
        if ($record->crossing !== []) {
            $sentence .= '; outlines of '.implode(', ', array_slice($record->crossing, 0, 3)).' cross each other, so its cut faces overlap there';
        }

        return $sentence.'.';
    }
}
