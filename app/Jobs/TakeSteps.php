<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Lineage\Draft;
use App\Lineage\History;
use App\Lineage\Lineage;
use App\Lineage\Sentence;
use App\Lineage\WorkedStep;
use App\Meshes\Fits;
use App\Meshes\MeshStore;
use App\Meshes\StoreAhead;
use App\Models\Piece;
use App\Models\Run;
use Isotome\Exception\BadRecipe;
use Isotome\Fit\BuildSpace;
use Isotome\Operation\Recipe;

/** One step, or all steps of a recipe, on a project's living pieces: all of them are stored, or none. */
final class TakeSteps extends LongWork
{
    /** Pieces that are looked at by the way. */
    private const FITS = 12;

    protected function work(Run $run, StoreAhead $ahead): \Closure
    {
        $store = new MeshStore;
        $steps = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => $run->settings['steps']])->steps;
        $living = [];
        /** @var Piece $piece */
        foreach ($run->project->pieces()->with(['mesh', 'parent'])->whereNull('spent_by')->get() as $piece) {
            $living[$piece->name] = Draft::stored($piece);
        }
        $number = (int) $run->project->steps()->max('number');
        $made = $run->project->pieces()->whereNotNull('made_by')->count();
        $worked = [];
        foreach ($steps as $n => $step) {
            $which = count($steps) > 1 ? sprintf('step %d of %d: ', $n + 1, count($steps)) : '';
            $mine = array_values(array_filter($living, static fn (Draft $draft): bool => $step->takes($draft->name)));
            if ($mine === []) {
                throw new BadRecipe($which.'None of the pieces that it takes ('.implode(', ', array_slice($step->of(), 0, 5)).') is there; pick pieces, or check the names in the recipe.');
            }
            $one = WorkedStep::of($step, ++$number, $mine, $made, $store, $ahead, fn (string $phase, float $share) => $this->report($which.$phase, 0.9 * ($n + $share) / count($steps)));
            foreach ($one->took as $draft) {
                unset($living[$draft->name]);
            }
            foreach ($one->made as $draft) {
                $living[$draft->name] = $draft;
                $made++;
            }
            $worked[] = $one;
        }
        if (array_filter($worked, static fn (WorkedStep $one): bool => $one->took !== []) === []) {
            throw new BadRecipe($worked[0]->step->nothing());
        }

        $this->learnFits($run->project->printer?->space(), array_values($living), $store);

        return function () use ($run, $worked): string {
            (new History)->remember($run->project, (string) $run->settings['what']);
            $lineage = new Lineage;
            foreach ($worked as $one) {
                $lineage->store($run->project, $one);
            }
            $lineage->renumber($run->project);

            return Sentence::of($worked, $run->project);
        };
    }

    /**
     * Of new pieces whose boxes are too large: whether they fit in any turn, so that it is told with what was done. Of many, that is asked for afterwards.
     *
     * @param  list<Draft>  $living
     */
    private function learnFits(?BuildSpace $space, array $living, MeshStore $store): void
    {
        $open = $space === null ? [] : array_values(array_filter($living, static fn (Draft $draft): bool => $draft->mesh() !== null && Fits::isOpen($draft->mesh(), $space)));
        foreach ($space === null || count($open) > self::FITS ? [] : $open as $n => $draft) {
            $this->report('looking how the pieces fit', 0.9 + 0.1 * $n / count($open));
            $mesh = $draft->mesh();
            if ($mesh !== null) {
                Fits::learn($mesh, $draft->piece($store)->mesh, $space);
            }
        }
    }
}
