<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Meshes\MeshStore;
use App\Meshes\StoreAhead;
use App\Models\Piece;
use App\Models\Project;
use App\Models\Step;
use Closure;
use Isotome\Exception\BadBlade;
use Isotome\Operation\Step as CoreStep;

/**
 * A step in the middle of the lineage with other settings: it runs again on the pieces it took, and the steps after it run again on
 * what came of that. Branches that the change does not reach keep their pieces, and so does a piece that comes out with the same
 * name and the same mesh as before, with everything made of it. A later step that has nothing to take any more is left out. Pieces of another
 * branch that went into the same result as changed ones are offered to their step again; what it does not take then lives.
 */
final class Rework
{
    /** @var array<int, Piece> */
    private array $rows;

    /** @var array<int, true> rows that go, unless what is made again is the same */
    private array $gone = [];

    /** @var list<array{Step, CoreStep, WorkedStep|null}> what each affected step gives now */
    private array $results = [];

    /** @var array<int, list<Piece>> rows by each piece they were made of */
    private array $children = [];

    /** @var array<string, list<int>> rows that go, by step and name */
    private array $struck = [];

    /** @var array<int, array<int, Piece>> rows that are offered again to the step that spent them, by step */
    private array $offered = [];

    /** @var array<int, int> number by step */
    private array $numbers = [];

    /** @var array<int, true> pieces that an earlier step uses up now, though it was a later one that took them before */
    private array $drawn = [];

    private int $kept = 0;

    private int $ran = 0;

    /** @param  Closure(string, float): void  $report */
    public function __construct(private readonly MeshStore $store, private readonly StoreAhead $ahead, private readonly Project $project, private readonly Closure $report)
    {
        /** @var array<int, Piece> $rows */
        $rows = $project->pieces()->with(['mesh', 'parent'])->get()->keyBy('id')->all();
        $this->rows = $rows;
        foreach ($rows as $row) {
            foreach ($row->parentIds() as $parent) {
                $this->children[$parent][] = $row;
            }
        }
    }

    public function work(Step $edited, CoreStep $core): void
    {
        $this->numbers = $this->project->steps()->pluck('number', 'id')->all();
        $steps = $this->project->steps()->where('number', '>=', $edited->number)->get()->all();
        foreach ($this->rows as $row) {
            if ($row->spent_by === $edited->id) {
                $this->offer($row);
            }
        }
        $alive = [];
        $made = count(array_filter($this->rows, static fn (Piece $row): bool => $row->made_by !== null)) - count($this->gone);
        foreach ($steps as $n => $step) {
            $run = $step->id === $edited->id ? $core : $step->core();
            if ($this->hasOtherTools($step, $run, $alive)) {
                foreach ($this->rows as $row) {
                    $row->spent_by !== $step->id ?: $this->offer($row);
                }
            }
            foreach (array_diff_key($this->offered[$step->id] ?? [], $this->gone, $this->drawn) as $row) {
                $alive[$row->name] ??= Draft::stored($row);
            }
            $worked = $this->again($step, $run, $alive, $made, $n / count($steps), 1 / count($steps), $step->id === $edited->id);
            foreach ($worked->took ?? [] as $draft) {
                unset($alive[$draft->name]);
                if ($draft->row !== null && $draft->row->spent_by !== null && $draft->row->spent_by !== $step->id) {
                    $this->offer($draft->row);
                    $this->drawn[$draft->row->id] = true;
                }
            }
            foreach ($worked->made ?? [] as $draft) {
                if (! $this->isKept($draft, $step)) {
                    $alive[$draft->name] = $draft;
                    $made++;
                }
            }
            $this->results[] = [$step, $run, $worked];
        }
    }

    /** Was a piece there when the step was done, before it? */
    private function wasThere(Piece $row, Step $step): bool
    {
        return ($row->made_by === null ? 0 : $this->numbers[$row->made_by] ?? 0) < $step->number && ($row->spent_by === null ? INF : $this->numbers[$row->spent_by] ?? INF) >= $step->number;
    }

    /**
     * Did any piece change that the step only works with? Then all that it took is taken again.
     *
     * @param  array<string, Draft>  $alive
     */
    private function hasOtherTools(Step $step, CoreStep $run, array $alive): bool
    {
        foreach ($alive as $draft) {
            if ($run->reads($draft->name)) {
                return true;
            }
        }
        foreach (array_keys($this->gone) as $id) {
            if ($run->reads($this->rows[$id]->name) && $this->wasThere($this->rows[$id], $step)) {
                return true;
            }
        }

        return false;
    }

    /**
     * Pieces that the step works with and that nothing changed.
     *
     * @return array<string, Draft>
     */
    private function tools(Step $step, CoreStep $run): array
    {
        $tools = [];
        foreach (array_diff_key($this->rows, $this->gone, $this->drawn) as $row) {
            if ($row->spent_by !== $step->id && $run->reads($row->name) && $this->wasThere($row, $step)) {
                $tools[$row->name] = Draft::stored($row);
            }
        }

        return $tools;
    }

    /** @param  array<string, Draft>  $alive */
    private function again(Step $step, CoreStep $run, array $alive, int $made, float $from, float $share, bool $isEdited): ?WorkedStep
    {
        $mine = array_values(array_filter($alive, static fn (Draft $draft): bool => $run->takes($draft->name)));
        if ($mine === []) {
            return null;
        }
        array_push($mine, ...array_values(array_diff_key($this->tools($step, $run), $alive)));
        try {
            $worked = WorkedStep::of(
                $run, $step->number, $mine, $made, $this->store, $this->ahead, fn (string $phase, float $done) => ($this->report)("step {$step->number}: $phase", $from + $share * $done),
            );
            $this->ran++;

            return $worked;
        } catch (BadBlade $miss) {
            // The step that a person edits must do something; one after it may miss now.
            return $isEdited ? throw $miss : null;
        }
    }

    /** Writes it all; in the caller's transaction. */
    public function store(): string
    {
        // Pieces whose fate is decided anew live until their step takes them.
        Lineage::remove(array_keys($this->gone));
        $lineage = new Lineage;
        foreach (array_chunk(array_keys($this->drawn), 500) as $some) {
            Piece::query()->whereIn('id', $some)->update(['spent_by' => null]);
        }
        $left = [];
        $anew = [];
        foreach ($this->gone as $id => $_) {
            $anew[$this->rows[$id]->name] = true;
        }
        foreach ($this->results as [$step, $core, $worked]) {
            $names = $anew + array_fill_keys($worked?->tookNames() ?? [], true);
            foreach ($this->offered[$step->id] ?? [] as $row) {
                $names[$row->name] = true;
            }
            $old = $step->report;
            $took = array_values(array_filter($old['took'], static fn (string $name): bool => ! isset($names[$name])));
            $gave = array_values(array_filter($old['gave'], static fn (string $name): bool => ! isset($anew[$name])));
            $step->settings = $core->toArray();
            $step->report = [
                ...($worked === null ? array_diff_key($old, ['took' => true, 'gave' => true]) : PartReport::joined($old, $took, $worked->report())),
                'took' => [...$took, ...$worked?->tookNames() ?? []], 'gave' => array_values(array_unique([...$gave, ...$worked?->gaveNames() ?? []])),
            ];
            $this->release($step, $worked);
            if ($step->report['took'] === []) {
                $step->delete();
                $left[] = $step->number;

                continue;
            }
            $step->save();
            $lineage->pieces($this->project, $step, $worked->took ?? [], $worked->made ?? []);
        }
        $lineage->renumber($this->project);
        $said = $this->ran === 1 ? 'Step '.$this->results[0][0]->number.' run again' : "{$this->ran} steps run again";
        $said .= $this->kept > 0 ? sprintf('; %d %s unchanged and kept', $this->kept, $this->kept === 1 ? 'piece was' : 'pieces were') : '';

        return $said.($left === [] ? '.' : sprintf('; step %s had nothing to take any more and %s left out (undo brings it back).', implode(', ', $left), count($left) === 1 ? 'was' : 'were'));
    }

    /** What the step took and does not take any more lives. */
    private function release(Step $step, ?WorkedStep $worked): void
    {
        $taken = [];
        foreach ($worked->took ?? [] as $draft) {
            $taken[(int) $draft->row?->id] = true;
        }
        foreach ($this->offered[$step->id] ?? [] as $row) {
            if (! isset($taken[$row->id]) && ! isset($this->gone[$row->id]) && ! isset($this->drawn[$row->id])) {
                $row->fill(['spent_by' => null])->save();
            }
        }
    }

    /** Its step is to take it again: what that step made of it goes. */
    private function offer(Piece $row): void
    {
        if ($row->spent_by === null || isset($this->offered[$row->spent_by][$row->id]) || isset($this->gone[$row->id])) {
            return;
        }
        $this->offered[$row->spent_by][$row->id] = $row;
        foreach ($this->children[$row->id] ?? [] as $child) {
            if ($child->made_by === $row->spent_by) {
                $this->strike($child);
            }
        }
    }

    /** It goes, with all that was made of it; what else went into it is offered to its step again. */
    private function strike(Piece $row): void
    {
        if (isset($this->gone[$row->id])) {
            return;
        }
        $this->gone[$row->id] = true;
        $this->struck["$row->made_by/$row->name"][] = $row->id;
        foreach ($this->children[$row->id] ?? [] as $child) {
            $this->strike($child);
        }
        foreach ($row->parentIds() as $id) {
            $parent = $this->rows[$id] ?? null;
            if ($parent !== null && $parent->spent_by === $row->made_by) {
                $this->offer($parent);
            }
        }
    }

    /** The same name and mesh came of the same pieces by the same step before: that row stays, with all that was made of it alone. */
    private function isKept(Draft $draft, Step $step): bool
    {
        foreach ($this->struck["$step->id/$draft->name"] ?? [] as $id) {
            $row = $this->rows[$id];
            if (! isset($this->gone[$id])) {
                continue;
            }
            $isSame = $row->mesh_hash === $draft->hash() && array_filter($draft->parents, static fn (Draft $parent): bool => $parent->row === null) === [] && $draft->parentIds() === $row->parentIds();
            if ($isSame && $this->mayStay($row)) {
                $draft->row = $row;
                $this->keep($row);

                return true;
            }
            // Another mesh under the same name: the person's colour and title stay with it.
            $draft->colour = $row->colour;
            $draft->title = $row->title;
        }

        return false;
    }

    /** Whether all that was made of it was made of nothing else that changes. */
    private function mayStay(Piece $row): bool
    {
        foreach ($this->children[$row->id] ?? [] as $child) {
            if (count($child->parentIds()) > 1 || ! $this->mayStay($child)) {
                return false;
            }
        }

        return true;
    }

    private function keep(Piece $row): void
    {
        unset($this->gone[$row->id]);
        $this->kept++;
        foreach ($this->children[$row->id] ?? [] as $child) {
            $this->keep($child);
        }
    }
}
