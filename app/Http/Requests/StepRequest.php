<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Meshes\Kept;
use App\Meshes\MeshStore;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Support\Collection;
use Isotome\Cells\Sites;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Kinds;
use Isotome\Operation\Step;

/** A step as a recipe writes it, but for the pieces it takes, which are given by number. */
final class StepRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            // The core reads it, and says what is wrong.
            'step' => ['required', 'array'],
            'pieces' => ['sometimes', 'nullable', new ListOfNumbers(10_000, 'The picked pieces are not a list of pieces; pick them again.')],
            // Made for a try, not foreseen from what stands in.
            'tried' => ['sometimes', 'boolean'],
        ];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return ['step' => 'There is no step to take; set it again.', 'tried' => 'Whether to try the step out is not yes or no; set it again.'];
    }

    /**
     * @param  list<string>|null  $of  names instead of the request's pieces
     *
     * @throws BadRecipe
     */
    public function step(Project $project, ?array $of = null): Step
    {
        $given = $this->written((array) $this->input('step'), $project);
        $of ??= $this->input('pieces') === null ? ['*'] : array_values($this->pieces($project)->map(static fn (Piece $piece): string => $piece->name)->all());
        try {
            return Kinds::read([...$given, 'of' => $of], 'step');
        } catch (BadRecipe $refusal) {
            throw new BadRecipe(str_replace(['step.blade: ', 'step.', 'step has'], ['', '', 'The step has'], $refusal->getMessage()));
        }
    }

    /**
     * Points that are the vertices of a piece are written down: the recipe stands for itself.
     *
     * @param  array<mixed>  $step
     * @return array<mixed>
     */
    private function written(array $step, Project $project): array
    {
        $blade = $step['blade'] ?? null;
        if (! is_array($blade) || ! isset($blade['vertices_of'])) {
            return $step;
        }
        /** @var Piece|null $piece */
        $piece = is_int($blade['vertices_of']) ? $project->pieces()->with('mesh')->find($blade['vertices_of']) : null;
        if ($piece === null || ! is_int($blade['count'] ?? null)) {
            throw new BadRecipe('The piece whose vertices the cells grow around is not there; choose another.');
        }
        $count = max(2, $blade['count']);
        $step['blade']['points'] = Kept::remember("vertices-{$piece->mesh->hash}-$count", static fn (): array => array_chunk(Sites::vertices((new MeshStore)->get($piece->mesh), $count), 3));
        unset($step['blade']['vertices_of'], $step['blade']['count']);

        return $step;
    }

    /**
     * The pieces that it is about: those named, spent ones too (a step that is edited took them), or all living ones.
     *
     * @return Collection<int, Piece>
     */
    public function pieces(Project $project): Collection
    {
        $ids = $this->input('pieces');
        $query = $project->pieces()->with('mesh');
        /** @var Collection<int, Piece> $pieces */
        $pieces = is_array($ids) ? $query->whereIn('id', $ids)->get() : $query->whereNull('spent_by')->get();
        if ($pieces->isEmpty()) {
            throw new BadRecipe('There is no piece to take; show or pick at least one piece.');
        }

        return $pieces;
    }
}
