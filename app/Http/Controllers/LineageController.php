<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\ProjectResource;
use App\Http\Resources\RunResource;
use App\Jobs\TakeSteps;
use App\Lineage\History;
use App\Lineage\Lineage;
use App\Models\Piece;
use App\Models\Project;
use App\Models\Run;
use App\Models\Step;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Names;
use Isotome\Operation\Rebase;
use Isotome\Operation\Recipe;
use Isotome\Operation\Step as CoreStep;

/** Change of mind: rejoin, undo, redo, and a whole recipe at once. */
final class LineageController
{
    /** Takes a step back on its branch, or one spent piece of it; without either, the last step. */
    public function rejoin(Request $request, Project $project): JsonResponse
    {
        $asked = $request->validate(['step' => ['sometimes', 'nullable', 'integer:strict'], 'piece' => ['sometimes', 'nullable', 'integer:strict']], ['step' => 'The step is not a number; choose it in the lineage.', 'piece' => 'The piece is not a number; choose it in the lineage.']);
        $said = DB::transaction(function () use ($project, $asked): string {
            if ($project->isBusy()) {
                throw new BadRecipe('A step of this project is still at work; wait for it, or stop it, then rejoin.');
            }
            $spent = $this->spent($project, $asked['step'] ?? null, $asked['piece'] ?? null);
            (new History)->remember($project, count($spent) === 1 ? 'the rejoining of '.($spent[0]->title ?? Names::title($spent[0]->name)) : 'the rejoining of '.count($spent).' pieces');
            $gone = (new Lineage)->rejoin($project, $spent);

            return (count($spent) === 1 ? 'Rejoined: '.($spent[0]->title ?? Names::title($spent[0]->name)).' is whole again' : 'Rejoined: '.count($spent).' pieces are whole again')
                .($gone > 1 ? "; $gone steps were taken back." : '.');
        });

        return $this->project($project, $said);
    }

    public function undo(Project $project): JsonResponse
    {
        return $this->project($project, 'Undone: '.(new History)->undo($project).'.');
    }

    public function redo(Project $project): JsonResponse
    {
        return $this->project($project, 'Done again: '.(new History)->redo($project).'.');
    }

    /** Runs the steps of a recipe, written for this stock or another, on the pieces that are there; they are undone as the recipe, or as the plan that they are. */
    public function recipe(Request $request, Project $project): JsonResponse
    {
        $json = $request->getContent();
        if (strlen($json) > Recipe::LARGEST_BYTES) {
            throw new BadRecipe('The recipe is longer than 2.4 MB; check that this is the right file, or take out pictures of its paint steps.');
        }
        $document = json_decode($json, true, 16);
        if (! is_array($document)) {
            throw new BadRecipe('The recipe is not a JSON object; choose a file that was downloaded as a recipe.');
        }
        $living = $project->pieces()->whereNull('spent_by')->pluck('name')->all();
        // Written for other stock: its names become those of the only piece here.
        $recipe = Recipe::fromArray(count($living) === 1 ? Rebase::onto($document, (string) $living[0]) : $document);
        $run = Run::start($project, 'recipe', ['steps' => array_map(static fn (CoreStep $step): array => $step->toArray(), $recipe->steps), 'what' => $request->query('as') === 'plan' ? 'the plan' : 'the recipe'], TakeSteps::class);

        return RunResource::make($run)->response()->setStatusCode(202);
    }

    /** @return list<Piece> */
    private function spent(Project $project, ?int $step, ?int $piece): array
    {
        if ($piece !== null) {
            /** @var Piece $found */
            $found = $project->pieces()->whereNotNull('spent_by')->where('id', $piece)->first() ?? throw new BadRecipe('This piece is whole; choose one that has been cut.');

            return [$found];
        }
        $query = Step::query()->where('project_id', $project->id);
        $found = $step === null ? $query->orderByDesc('number')->first() : $query->find($step);
        if (! $found instanceof Step) {
            throw new BadRecipe($step === null ? 'There is no cut to take back; this project is as it was brought in.' : 'The step is not there any more; choose another one in the lineage.');
        }

        /** @var list<Piece> */
        return $project->pieces()->where('spent_by', $found->id)->get()->all();
    }

    private function project(Project $project, string $said): JsonResponse
    {
        return response()->json(['said' => $said, 'project' => ProjectResource::of($project->refresh())]);
    }
}
