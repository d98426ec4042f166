<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Meshes\MeshStore;
use App\Models\Piece;
use App\Models\Project;
use App\Models\Step;

/** Writes worked steps and takes steps back, always within the caller's transaction. */
final class Lineage
{
    public function __construct(private readonly MeshStore $store)
    {
    }

    /** Stores a worked step: the pieces it took are spent, those it made live. */
    public function store(Project $project, WorkedStep $worked): Step
    {
        $record = $worked->record;
        $step = Step::query()->create([
            'project_id' => $project->id, 'number' => $worked->number, 'settings' => $worked->step->toArray(),
            'report' => [
                'took' => array_map(static fn (Family $family): string => $family->taken->name, $worked->families),
                'gave' => array_merge(...array_map(static fn (Family $family): array => $family->names(), $worked->families)), 'seconds' => $record->seconds, 'peak_mb' => $record->peakMb,
                'unclosed' => $record->unclosed, 'crossing' => $record->crossing, ...($record->mended === [] ? [] : ['mended' => $record->mended]), ...($record->mirrored === [] ? [] : ['mirrored' => $record->mirrored]),
            ],
        ]);
        $this->families($project, $step, $worked->families);

        return $step;
    }

    /** @param  list<Family>  $families */
    public function families(Project $project, Step $step, array $families): void
    {
        foreach ($families as $family) {
            $taken = $family->taken->row ?? throw new \LogicException('A piece is stored before what is made of it.');
            $taken->fill(['spent_by' => $step->id])->save();
            foreach ($family->made as $n => $draft) {
                $prepared = $draft->prepared();
                if ($draft->row !== null || $prepared === null) {
                    continue;
                }
                $mesh = $this->store->put($prepared);
                $draft->row = Piece::query()->create([
                    'project_id' => $project->id, 'parent_id' => $taken->id, 'made_by' => $step->id, 'name' => $draft->name, 'title' => $draft->title,
                    'mesh_hash' => $mesh->hash, 'colour' => $draft->colour, 'place' => $n,
                ]);
                $draft->row->setRelation('mesh', $mesh);
                $draft->row->setRelation('parent', $taken);
            }
        }
    }

    /**
     * Makes spent pieces live again: what was made of them goes, steps that took any of it shrink, and a step that has nothing left is gone.
     * Later steps that would now take a revived piece as well are written down to the pieces they took, so the recipe still gives what is here.
     *
     * @param  list<Piece>  $spent
     * @return int number of steps that are gone
     */
    public function rejoin(Project $project, array $spent): int
    {
        $steps = $project->steps()->get()->keyBy('id');
        $made = $project->pieces()->whereNotNull('parent_id')->get()->groupBy('parent_id');
        $revived = $gone = [];
        $first = INF;
        foreach ($spent as $piece) {
            $first = min($first, $steps[$piece->spent_by]->number ?? INF);
            $this->lose($piece, $steps, $made->all(), $gone);
            $revived[] = $piece->name;
        }
        Piece::query()->whereIn('id', array_keys($gone))->delete();
        foreach ($spent as $piece) {
            $piece->fill(['spent_by' => null])->save();
        }
        $vanished = 0;
        foreach ($steps as $step) {
            if ($step->report['took'] === []) {
                $step->delete();
                $vanished++;

                continue;
            }
            if ($step->number >= $first && self::wouldTake($step, $revived)) {
                $step->settings = [...$step->settings, 'of' => $step->report['took']];
            }
            $step->save();
        }
        $this->renumber($project);

        return $vanished;
    }

    /** Children stand where their parent stood: the list follows the lineage. */
    public function renumber(Project $project): void
    {
        $children = $project->pieces()->get()->groupBy(static fn (Piece $piece): int => (int) $piece->parent_id);
        $place = 0;
        $visit = function (int $parent) use (&$visit, &$place, $children): void {
            foreach ($children[$parent] ?? [] as $piece) {
                if ($piece->place !== $place) {
                    $piece->fill(['place' => $place])->save();
                }
                $place++;
                $visit($piece->id);
            }
        };
        $visit(0);
    }

    /**
     * Strikes what was made of a piece, and all that was made of that.
     *
     * @param  \Illuminate\Support\Collection<int|string, Step>  $steps
     * @param  array<int|string, mixed>  $made
     * @param  array<int|string, true>  $gone
     */
    private function lose(Piece $piece, $steps, array $made, array &$gone): void
    {
        $step = $steps[$piece->spent_by] ?? null;
        $children = $made[$piece->id] ?? [];
        if ($step !== null) {
            $names = [];
            foreach ($children as $child) {
                $names[] = $child->name;
            }
            $report = $step->report;
            $report['took'] = array_values(array_diff($report['took'], [$piece->name]));
            $report['gave'] = array_values(array_diff($report['gave'], $names));
            $step->report = $report;
        }
        foreach ($children as $child) {
            $gone[$child->id] = true;
            $this->lose($child, $steps, $made, $gone);
        }
    }

    /** @param  list<string>  $names */
    private static function wouldTake(Step $step, array $names): bool
    {
        foreach ($step->core()->of() as $pattern) {
            if ($pattern === '*') {
                return true;
            }
        }

        return array_filter($names, static fn (string $name): bool => $step->core()->takes($name) && ! in_array($name, $step->report['took'], true)) !== [];
    }
}
