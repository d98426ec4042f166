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
use Isotome\Recipe\Step as CoreStep;
use Isotome\Recipe\StepRecord;

/**
 * A step in the middle of the lineage with other settings: it runs again on the pieces it took, and the steps after it run again on
 * what came of that. Branches that the change does not reach keep their pieces, and so does a piece that comes out with the same
 * name and the same mesh as before, with everything made of it. A later step that has nothing to take any more is left out.
 */
final class Rework
{
    /** @var array<int, Piece> */
    private array $rows;

    /** @var array<int, true> rows that go, unless what is made again is the same */
    private array $gone = [];

    /** @var list<array{Step, CoreStep, list<Family>, StepRecord|null}> what each affected step gives now */
    private array $results = [];

    /** @var array<int, list<Piece>> rows by what they were made of */
    private array $children = [];

    /** @var array<string, list<int>> rows that go, by step and name */
    private array $struck = [];

    private int $kept = 0;

    private int $ran = 0;

    /** @param  Closure(string, float): void  $report */
    public function __construct(private readonly MeshStore $store, private readonly StoreAhead $ahead, private readonly Project $project, private readonly Closure $report)
    {
        /** @var array<int, Piece> $rows */
        $rows = $project->pieces()->with(['mesh', 'parent'])->get()->keyBy('id')->all();
        $this->rows = $rows;
        foreach ($rows as $row) {
            $this->children[(int) $row->parent_id][] = $row;
        }
    }

    public function work(Step $edited, CoreStep $core): void
    {
        $steps = $this->project->steps()->where('number', '>=', $edited->number)->get()->all();
        $alive = [];
        foreach ($this->rows as $row) {
            if ($row->spent_by === $edited->id) {
                $alive[$row->name] = Draft::stored($row);
                $this->strike($row);
            }
        }
        $made = count(array_filter($this->rows, static fn (Piece $row): bool => $row->made_by !== null)) - count($this->gone);
        foreach ($steps as $n => $step) {
            $run = $step->id === $edited->id ? $core : $step->core();
            $mine = array_values(array_filter($alive, static fn (Draft $draft): bool => $run->takes($draft->name)));
            if ($mine === []) {
                $this->results[] = [$step, $run, [], null];

                continue;
            }
            $which = sprintf('step %d: ', $step->number);
            try {
                $worked = WorkedStep::of($run, $step->number, $mine, $made, $this->store, $this->ahead, fn (string $phase, float $share) => ($this->report)($which.$phase, ($n + $share) / count($steps)));
            } catch (BadBlade $miss) {
                // The step that a person edits must do something; one after it may miss now.
                if ($step->id === $edited->id) {
                    throw $miss;
                }
                $this->results[] = [$step, $run, [], null];

                continue;
            }
            $this->ran++;
            foreach ($worked->families as $family) {
                unset($alive[$family->taken->name]);
                foreach ($family->made as $draft) {
                    if ($this->isKept($draft, $family->taken, $step)) {
                        continue;
                    }
                    $alive[$draft->name] = $draft;
                    $made++;
                }
            }
            $this->results[] = [$step, $run, $worked->families, $worked->record];
        }
    }

    /** Writes it all; in the caller's transaction. */
    public function store(): string
    {
        // Pieces whose fate is decided anew live until their step takes them.
        Lineage::remove(array_keys($this->gone));
        $lineage = new Lineage;
        $left = [];
        $names = [];
        foreach ($this->gone as $id => $_) {
            $names[$this->rows[$id]->name] = true;
        }
        foreach ($this->results as [$step, $core, $families, $record]) {
            $old = $step->report;
            $run = array_fill_keys(array_map(static fn (Family $family): string => $family->taken->name, $families), true);
            // What the edited step took it is asked to take again.
            $isEdited = $step->id === $this->results[0][0]->id;
            $took = array_values(array_filter($old['took'], static fn (string $name): bool => ! isset($names[$name]) && ! isset($run[$name]) && ! $isEdited));
            $gave = array_values(array_filter($old['gave'], static fn (string $name): bool => ! isset($names[$name])));
            $step->settings = $core->toArray();
            if ($record !== null) {
                $took = [...$took, ...array_map(static fn (Family $family): string => $family->taken->name, $families)];
                $gave = array_values(array_unique([...$gave, ...array_merge(...array_map(static fn (Family $family): array => $family->names(), $families))]));
                $old = [...$old, 'seconds' => $record->seconds, 'peak_mb' => $record->peakMb, 'unclosed' => $record->unclosed, 'crossing' => $record->crossing];
            }
            $step->report = [...$old, 'took' => $took, 'gave' => $gave];
            if ($took === []) {
                $step->delete();
                $left[] = $step->number;

                continue;
            }
            $step->save();
            $lineage->families($this->project, $step, $families);
        }
        // What the edited step took and does not take any more.
        $edited = $this->results[0][0];
        $taken = $edited->exists ? array_fill_keys($edited->report['took'], true) : [];
        foreach ($edited->exists ? $this->rows : [] as $row) {
            if ($row->spent_by === $edited->id && ! isset($taken[$row->name])) {
                $row->fill(['spent_by' => null])->save();
            }
        }
        $lineage->renumber($this->project);
        $said = $this->ran === 1 ? 'Step '.$this->results[0][0]->number.' run again' : "{$this->ran} steps run again";
        $said .= $this->kept > 0 ? sprintf('; %d %s unchanged and kept', $this->kept, $this->kept === 1 ? 'piece was' : 'pieces were') : '';

        return $said.($left === [] ? '.' : sprintf('; step %s had nothing to take any more and %s left out (undo brings it back).', implode(', ', $left), count($left) === 1 ? 'was' : 'were'));
    }

    /** All that was made of a piece. */
    private function strike(Piece $row): void
    {
        foreach ($this->children[$row->id] ?? [] as $child) {
            if (! isset($this->gone[$child->id])) {
                $this->gone[$child->id] = true;
                $this->struck["$child->made_by/$child->name"][] = $child->id;
                $this->strike($child);
            }
        }
    }

    /** The same name and mesh came of the same step before: that row stays, with all that was made of it. */
    private function isKept(Draft $draft, Draft $parent, Step $step): bool
    {
        foreach ($this->struck["$step->id/$draft->name"] ?? [] as $id) {
            $row = $this->rows[$id];
            if (! isset($this->gone[$id])) {
                continue;
            }
            if ($row->mesh_hash === $draft->hash() && $parent->row !== null && $row->parent_id === $parent->row->id) {
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

    private function keep(Piece $row): void
    {
        unset($this->gone[$row->id]);
        $this->kept++;
        foreach ($this->children[$row->id] ?? [] as $child) {
            $this->keep($child);
        }
    }
}
