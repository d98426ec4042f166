<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Meshes\MeshStore;
use App\Meshes\PreparedMesh;
use App\Meshes\StoreAhead;
use Closure;
use Isotome\Recipe\MirrorStep;
use Isotome\Recipe\Runner;
use Isotome\Recipe\Step;
use Isotome\Recipe\StepRecord;

/** A step that the core has run on drafts; of it only meshes are stored yet, which nobody sees. */
final readonly class WorkedStep
{
    /** @param  list<Family>  $families */
    private function __construct(
        public Step $step,
        public int $number,
        public StepRecord $record,
        public array $families,
    ) {
    }

    /**
     * @param  list<Draft>  $drafts  those that the step may take
     * @param  int  $made  pieces made before, for the colours to go on from
     * @param  Closure(string, float): void  $report  phase and share done; it may throw to cancel
     */
    public static function of(Step $step, int $number, array $drafts, int $made, MeshStore $store, StoreAhead $ahead, Closure $report): self
    {
        $taken = [];
        $pieces = [];
        $mine = array_values(array_filter($drafts, static fn (Draft $draft): bool => $step->takes($draft->name)));
        foreach ($mine as $n => $draft) {
            $report('reading '.$draft->name, 0.3 * $n / count($mine));
            $taken[$draft->name] = $draft;
            $pieces[] = $draft->piece($store);
        }
        $phase = match ($step->does()) {
            'mend' => 'mending and checking', 'thicken' => 'thickening', 'score' => 'scoring', 'mirror' => 'mirroring', default => 'cutting and checking'
        };
        $report($phase, 0.3);
        $runner = Runner::resume($pieces, $number - 1, $made);
        $record = $runner->run($step, static fn (float $share) => $report($phase, 0.3 + 0.3 * $share));
        $before = [];
        foreach ($pieces as $piece) {
            $before[$piece->name] = $piece;
        }
        $families = array_fill_keys($record->took, []);
        foreach ($record->gave as $n => $name) {
            $report('measuring '.$name, 0.6 + 0.4 * $n / max(1, count($record->gave)));
            $piece = $runner->pieces()[$name];
            // In place: nothing of a piece that stayed as it is.
            if (($before[$name] ?? null) === $piece) {
                unset($families[$name]);

                continue;
            }
            $parent = isset($before[$name]) ? $name : (string) $piece->parent;
            $families[$parent][] = Draft::made($piece, $taken[$parent], $ahead->put(PreparedMesh::of($piece->mesh)));
        }

        $ahead->flush();
        foreach ($step instanceof MirrorStep ? $families : [] as $parent => $made) {
            // A half that became a whole is still what a person called it.
            if (count($made) === 1) {
                $made[0]->title = $taken[$parent]->title;
            }
        }

        return new self($step, $number, $record, array_map(static fn (string|int $name, array $made): Family => new Family($taken[$name], $made), array_keys($families), $families));
    }
}
