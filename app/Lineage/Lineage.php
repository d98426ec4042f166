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
        $step = Step::query()->create([
            'project_id' => $project->id, 'number' => $worked->number, 'settings' => $worked->step->toArray(),
            'report' => ['took' => $worked->tookNames(), 'gave' => $worked->gaveNames(), ...$worked->report()],
        ]);
        $this->pieces($project, $step, $worked->took, $worked->made);

        return $step;
    }

    /**
     * Writes the pieces that a step made, and spends those that it took.
     *
     * @param  list<Draft>  $took  stored
     * @param  list<Draft>  $made  those that are stored already stay as they are
     *
     * @throws BadRecipe when somebody else spent one of them meanwhile
     */
    public function pieces(Project $project, Step $step, array $took, array $made): void
    {
        self::spend(array_map(static fn (Draft $draft): int => $draft->row->id ?? throw new \LogicException('A piece is stored before it is spent.'), $took), $step);
        $rows = [];
        $now = now()->format('Y-m-d H:i:s');
        foreach ($made as $n => $draft) {
            if ($draft->row === null) {
                $parents = $draft->parentIds();
                $rows[] = [
                    'project_id' => $project->id, 'parent_id' => $parents[0], 'others' => count($parents) > 1 ? json_encode(array_slice($parents, 1), JSON_THROW_ON_ERROR) : null,
                    'made_by' => $step->id, 'name' => $draft->name, 'title' => $draft->title, 'mesh_hash' => $draft->hash(), 'colour' => $draft->colour, 'place' => $n,
                    'created_at' => $now, 'updated_at' => $now,
                ];
            }
        }
        foreach (array_chunk($rows, self::ROWS) as $some) {
            DB::table('pieces')->insert($some);
        }
        $stored = Piece::query()->where('made_by', $step->id)->get()->keyBy(static fn (Piece $piece): string => $piece->parent_id.'/'.$piece->name);
        foreach ($made as $draft) {
            $row = $draft->row === null ? $stored[$draft->parentIds()[0].'/'.$draft->name] ?? null : null;
            if ($row !== null) {
                $draft->row = $row;
                $row->setRelation('mesh', $draft->mesh());
                $row->setRelation('parent', $draft->parents[0]->row);
            }
        }
        foreach ($took as $draft) {
            if ($draft->row !== null) {
                $draft->row->spent_by = $step->id;
                $draft->row->syncOriginal();
            }
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
     * Pieces that went into the same result live again with them. Later steps that would now take a revived piece as well are written down to the
     * pieces they took, so the recipe still gives what is here.
     *
     * @param  list<Piece>  $spent
     * @return int number of steps that are gone
     */
    public function rejoin(Project $project, array $spent): int
    {
        $steps = $project->steps()->get()->keyBy('id');
        $change = Undoing::of($project->pieces()->get()->all(), $spent);
        foreach ($steps as $step) {
            $step->report = [
                ...$step->report,
                'took' => array_values(array_filter($step->report['took'], static fn (string $name): bool => ! isset($change->untaken[$step->id][$name]))),
                'gave' => array_values(array_filter($step->report['gave'], static fn (string $name): bool => ! isset($change->ungiven[$step->id][$name]))),
            ];
        }
        self::remove(array_keys($change->gone));
        foreach (array_chunk(array_keys($change->revived), self::ROWS) as $some) {
            DB::table('pieces')->whereIn('id', $some)->update(['spent_by' => null]);
        }
        $first = min([INF, ...array_map(static fn (Piece $piece): float => $steps[$piece->spent_by]->number ?? INF, $change->revived)]);
        $names = array_values(array_map(static fn (Piece $piece): string => $piece->name, $change->revived));
        $vanished = 0;
        foreach ($steps as $step) {
            if ($step->report['took'] === []) {
                $step->delete();
                $vanished++;

                continue;
            }
            if ($step->number >= $first && self::wouldTake($step, $names)) {
                $step->settings = [...$step->settings, 'of' => $step->report['took']];
            }
            $step->save();
        }
        $this->renumber($project);

        return $vanished;
    }

    /**
     * Before stock comes into a project: steps that would take it, if it had been there then, are written down to the stock that was there and what came of it, so the recipe still gives what
     * is here.
     *
     * @param  list<string>  $names  of the stock that comes
     */
    public function keepFrom(Project $project, array $names): void
    {
        $stock = $project->pieces()->whereNull('parent_id')->pluck('name')->all();
        $lines = array_map(static fn (string $name): string => $name.'*', $stock);
        // Whose name reads like a part of other stock is told from it by the names of what was taken.
        $isAlike = array_filter($names, static fn (string $name): bool => array_filter($stock, static fn (string $old): bool => str_starts_with($name, $old.'-')) !== []) !== [];
        foreach ($project->steps()->get() as $step) {
            if (self::wouldTake($step, $names)) {
                $step->settings = [...$step->settings, 'of' => $isAlike || ! in_array('*', $step->core()->of(), true) ? $step->report['took'] : $lines];
                $step->save();
            }
        }
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

    /** @param  list<string>  $names */
    private static function wouldTake(Step $step, array $names): bool
    {
        $core = $step->core();
        $took = array_fill_keys($step->report['took'], true);
        if (in_array('*', $core->of(), true)) {
            return true;
        }
        foreach ($names as $name) {
            if (! isset($took[$name]) && $core->takes($name)) {
                return true;
            }
        }

        return false;
    }
}
