<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Lineage\History;
use App\Lineage\Rework;
use App\Meshes\MeshStore;
use App\Meshes\StoreAhead;
use App\Models\Run;
use App\Models\Step;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Recipe;

/** Gives a step other settings and runs it again, and after it what was made of its pieces. */
final class EditStep extends LongWork
{
    protected function work(Run $run, StoreAhead $ahead): \Closure
    {
        $store = new MeshStore;
        $step = Step::query()->where('project_id', $run->project_id)->find($run->settings['step'])
            ?? throw new BadRecipe('The step is not there any more; choose another one in the lineage.');
        $core = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => $run->settings['steps']])->steps[0];
        $rework = new Rework($store, $ahead, $run->project, fn (string $phase, float $share) => $this->report($phase, 0.9 * $share));
        $rework->work($step, $core);

        return function () use ($run, $rework): string {
            (new History)->remember($run->project, (string) $run->settings['what']);

            return $rework->store();
        };
    }
}
