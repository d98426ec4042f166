<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Answers\HowItMoves;
use App\Meshes\MeshStore;
use App\Meshes\PreparedMesh;
use App\Meshes\StoreAhead;
use Closure;
use Isotome\Motion\Movement;
use Isotome\Motion\Poses;
use Isotome\Operation\Runner;
use Isotome\Operation\Step;
use Isotome\Operation\StepRecord;

/** A step that the core has run on drafts; of it only meshes are stored yet, which nobody sees. */
final readonly class WorkedStep
{
    /**
     * @param  list<Draft>  $took  those that it changed or used up
     * @param  list<Draft>  $made
     */
    private function __construct(
        public Step $step,
        public int $number,
        public StepRecord $record,
        public array $took,
        public array $made,
    ) {
    }

    /**
     * @param  list<Draft>  $drafts  those that the step may take, in any order
     * @param  int  $before  pieces made before, for the colours to go on from
     * @param  Closure(string, float): void  $report  phase and share done; it may throw to cancel
     */
    public static function of(Step $step, int $number, array $drafts, int $before, MeshStore $store, StoreAhead $ahead, Closure $report): self
    {
        $mine = [];
        foreach (Draft::inOrder($drafts) as $draft) {
            if ($step->takes($draft->name)) {
                $mine[$draft->name] = $draft;
            }
        }
        $pieces = [];
        foreach ($mine as $draft) {
            $report('reading '.$draft->name, 0.3 * count($pieces) / count($mine));
            $pieces[$draft->name] = $draft->piece($store);
        }
        $report($step->doing(), 0.3);
        $runner = Runner::resume(array_values($pieces), $number - 1, $before);
        $record = $runner->run($step, static fn (float $share) => $report($step->doing(), 0.3 + 0.3 * $share), static fn (Movement $movement, array $actors): ?Poses => HowItMoves::ofDrafts(array_values($mine), $movement)->known($actors));
        $took = array_fill_keys($record->took, true);
        $made = [];
        foreach ($record->gave as $n => $name) {
            $report('measuring '.$name, 0.6 + 0.4 * $n / max(1, count($record->gave)));
            $piece = $runner->pieces()[$name];
            if (($pieces[$name] ?? null) === $piece) {
                // A piece that stayed the one it was is neither taken nor made.
                unset($took[$name]);

                continue;
            }
            $parents = array_map(static fn (string $parent): Draft => $mine[$parent], $record->parents[$name]);
            $made[] = Draft::made($piece, $parents, $ahead->put(PreparedMesh::of($piece->mesh)), $n);
        }
        $ahead->flush();
        $step->passesTitleOn() && self::passTitlesOn($made);

        return new self($step, $number, $record, array_map(static fn (string|int $name): Draft => $mine[$name], array_keys($took)), $made);
    }

    /** @return list<string> */
    public function tookNames(): array
    {
        return array_map(static fn (Draft $draft): string => $draft->name, $this->took);
    }

    /** @return list<string> */
    public function gaveNames(): array
    {
        return array_map(static fn (Draft $draft): string => $draft->name, $this->made);
    }

    /** @return array<string, mixed> what the lineage keeps of it beside the names */
    public function report(): array
    {
        return ['seconds' => $this->record->seconds, 'peak_mb' => $this->record->peakMb, ...$this->record->report->toArray()];
    }

    /**
     * To the only piece that was made of another one.
     *
     * @param  list<Draft>  $made
     */
    private static function passTitlesOn(array $made): void
    {
        $children = [];
        foreach ($made as $draft) {
            foreach ($draft->parents as $parent) {
                $children[$parent->name][] = $draft;
            }
        }
        foreach ($made as $draft) {
            if (count($draft->parents) === 1 && count($children[$draft->parents[0]->name]) === 1) {
                $draft->title = $draft->parents[0]->title;
            }
        }
    }
}
