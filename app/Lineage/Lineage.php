<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Models\Piece;
use App\Models\Project;
use App\Models\Step;
use Illuminate\Support\Facades\DB;
use Isotome\Exception\BadRecipe;

/**
 * Writes worked steps and takes steps back, always within the caller's transaction; rows only, for the meshes are stored before, and
 * many to one statement, so that a step of thousands of pieces is short.
 */
final class Lineage
{
    /** Rows, or numbers of rows, a statement. */
    private const ROWS = 500;

    /** Stores a worked step: the pieces it took are spent, those it made live. */
    public function store(Project $project, WorkedStep $worked): Step
    {
        $record = $worked->record;
        $step = Step::query()->create([
            'project_id' => $project->id, 'number' => $worked->number, 'settings' => $worked->step->toArray(),
            'report' => [
                'took' => array_map(static fn (Family $family): string => $family->taken->name, $worked->families),
                'gave' => array_merge(...array_map(static fn (Family $family): array => $family->names(), $worked->families)), 'seconds' => $record->seconds, 'peak_mb' => $record->peakMb,
                'unclosed' => $record->unclosed, 'crossing' => $record->crossing,
                ...($record->mended === [] ? [] : ['mended' => $record->mended]), ...($record->mirrored === [] ? [] : ['mirrored' => $record->mirrored]),
            ],
        ]);
        $this->families($project, $step, $worked->families);

        return $step;
    }

    /** @param  list<Family>  $families */
    public function families(Project $project, Step $step, array $families): void
    {
        $taken = $rows = [];
        $now = now()->format('Y-m-d H:i:s');
        foreach ($families as $family) {
            $parent = $family->taken->row ?? throw new \LogicException('A piece is stored before what is made of it.');
            $taken[] = $parent->id;
            foreach ($family->made as $n => $draft) {
                if ($draft->row === null) {
                    $rows[] = [
                        'project_id' => $project->id, 'parent_id' => $parent->id, 'made_by' => $step->id, 'name' => $draft->name, 'title' => $draft->title,
                        'mesh_hash' => $draft->hash(), 'colour' => $draft->colour, 'place' => $n, 'created_at' => $now, 'updated_at' => $now,
                    ];
                }
            }
        }
        self::spend($taken, $step);
        foreach (array_chunk($rows, self::ROWS) as $some) {
            DB::table('pieces')->insert($some);
        }
        $made = Piece::query()->where('made_by', $step->id)->get()->keyBy(static fn (Piece $piece): string => $piece->parent_id.'/'.$piece->name);
        foreach ($families as $family) {
            foreach ($family->made as $draft) {
                $row = $draft->row === null ? $made[$family->taken->row->id.'/'.$draft->name] ?? null : null;
                if ($row !== null) {
                    $draft->row = $row;
                    $row->setRelation('mesh', $draft->mesh());
                    $row->setRelation('parent', $family->taken->row);
                }
            }
        }
        foreach ($families as $family) {
            $family->taken->row->spent_by = $step->id;
            $family->taken->row->syncOriginal();
        }
    }

    /**
     * A piece is spent once, whoever asks.
     *
     * @param  list<int>  $pieces
     *
     * @throws BadRecipe
     */
    private static function spend(array $pieces, Step $step): void
    {
        foreach (array_chunk($pieces, self::ROWS) as $some) {
            $spent = DB::table('pieces')->whereIn('id', $some)->where(static fn ($query) => $query->whereNull('spent_by')->orWhere('spent_by', $step->id))->update(['spent_by' => $step->id]);
            if ($spent !== count($some)) {
                throw new BadRecipe('The pieces were changed while this was worked out, so nothing of it was kept; look at the pieces and do it again.');
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
        $children = $made->all();
        $revived = $gone = $lost = [];
        $first = INF;
        foreach ($spent as $piece) {
            $first = min($first, $steps[$piece->spent_by]->number ?? INF);
            $this->lose($piece, $steps, $children, $gone, $lost);
            $revived[] = $piece->name;
        }
        foreach ($lost as $id => $names) {
            [$took, $gave] = [$names['took'] ?? [], $names['gave'] ?? []];
            $report = $steps[$id]->report;
            $report['took'] = array_values(array_filter($report['took'], static fn (string $name): bool => ! isset($took[$name])));
            $report['gave'] = array_values(array_filter($report['gave'], static fn (string $name): bool => ! isset($gave[$name])));
            $steps[$id]->report = $report;
        }
        self::remove(array_keys($gone));
        foreach (array_chunk(array_map(static fn (Piece $piece): int => $piece->id, $spent), self::ROWS) as $some) {
            DB::table('pieces')->whereIn('id', $some)->update(['spent_by' => null]);
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
        $children = $places = [];
        foreach (DB::table('pieces')->where('project_id', $project->id)->orderBy('place')->orderBy('id')->get(['id', 'parent_id', 'place']) as $row) {
            $children[(int) $row->parent_id][] = (int) $row->id;
            $places[(int) $row->id] = (int) $row->place;
        }
        $update = DB::connection()->getPdo()->prepare('update pieces set place = ? where id = ?');
        $place = 0;
        $waiting = array_reverse($children[0] ?? []);
        while ($waiting !== []) {
            $id = array_pop($waiting);
            if ($places[$id] !== $place) {
                $update->execute([$place, $id]);
            }
            $place++;
            foreach (array_reverse($children[$id] ?? []) as $child) {
                $waiting[] = $child;
            }
        }
    }

    /** @param  list<int>  $pieces */
    public static function remove(array $pieces): void
    {
        foreach (array_chunk($pieces, self::ROWS) as $some) {
            DB::table('pieces')->whereIn('id', $some)->delete();
        }
    }

    /**
     * Strikes what was made of a piece, and all that was made of that.
     *
     * @param  \Illuminate\Support\Collection<int|string, Step>  $steps
     * @param  array<int|string, mixed>  $made
     * @param  array<array-key, true>  $gone
     * @param  array<array-key, array{took?: array<array-key, true>, gave?: array<array-key, true>}>  $lost  by step
     */
    private function lose(Piece $piece, $steps, array $made, array &$gone, array &$lost): void
    {
        $step = $steps[$piece->spent_by] ?? null;
        $children = $made[$piece->id] ?? [];
        if ($step !== null) {
            $lost[$step->id]['took'][$piece->name] = true;
            foreach ($children as $child) {
                $lost[$step->id]['gave'][$child->name] = true;
            }
        }
        foreach ($children as $child) {
            $gone[$child->id] = true;
            $this->lose($child, $steps, $made, $gone, $lost);
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
