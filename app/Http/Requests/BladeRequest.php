<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Piece;
use App\Models\Project;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Support\Collection;
use Illuminate\Validation\Rule;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\Keep;
use Isotome\Cut\KerfSide;
use Isotome\Cut\Plane;
use Isotome\Cut\Seal;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Recipe;
use Isotome\Operation\Step;

/** A blade, the pieces it takes, and, for a cut, what it leaves. */
final class BladeRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'through' => ['required', new ThreeNumbers('The blade\'s place is not three ordinary numbers; type it again.')],
            'facing' => ['required', new ThreeNumbers('The blade\'s facing is not three ordinary numbers; type it again.')],
            'pieces' => ['sometimes', 'nullable', new ListOfNumbers(10_000, 'The picked pieces are not a list of pieces; pick them again.', isText: true)],
            'keep' => ['sometimes', Rule::enum(Keep::class)],
            'seal' => ['sometimes', Rule::enum(Seal::class)],
            'kerf' => ['sometimes', 'numeric', 'between:0,1e6'],
            'kerf_side' => ['sometimes', Rule::enum(KerfSide::class)],
            'catch' => ['sometimes', 'numeric', 'between:0,1e6'],
            'edge_mm' => ['sometimes', 'nullable', 'numeric', 'gt:0', 'max:1e6'],
            'score' => ['sometimes', 'boolean'],
            'faces' => ['sometimes', 'nullable', new ListOfNumbers(100_000, 'The picked faces are not a list of at most 100,000 faces; pick fewer.')],
            // The core reads the rest of it, and says what is wrong.
            'series' => ['sometimes', 'nullable', 'array'],
        ];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return [
            'through' => 'The blade\'s place is not three ordinary numbers; type it again.',
            'facing' => 'The blade\'s facing is not three ordinary numbers; type it again.',
            'keep' => 'Keep is not one of both, ahead, behind, outline; choose one.',
            'seal' => 'Seal is not one of open, lean, even; choose one.',
            'kerf' => 'The kerf is not a width of 0 mm or more; type it again.',
            'kerf_side' => 'The side of the kerf is not one of centre, ahead, behind; choose one.',
            'catch' => 'The catch is not a distance of 0 mm or more; type it again.',
            'edge_mm' => 'The edge length of the even seal is not more than 0 mm; type it again.',
            'score' => 'Score only is not yes or no; choose one.',
            'series' => 'The series is not a set of stops; place them again.',
        ];
    }

    public function plane(): Plane
    {
        return Plane::through($this->triple('through'), $this->triple('facing'));
    }

    /** The blade with its kerf; for a series the blade at hand. */
    public function blade(): FlatBlade
    {
        return new FlatBlade(
            $this->plane(), kerf: $this->float('kerf'), kerfSide: KerfSide::from($this->string('kerf_side', 'centre')->value()), catch: $this->float('catch'),
        );
    }

    /**
     * The pieces that a question is about: those named, spent ones too (a step that is edited took them), or all living ones.
     *
     * @return Collection<int, Piece>
     */
    public function asked(Project $project): Collection
    {
        $ids = $this->input('pieces');
        if (! is_array($ids)) {
            return $this->pieces($project);
        }
        /** @var Collection<int, Piece> $pieces */
        $pieces = $project->pieces()->with('mesh')->whereIn('id', $ids)->get();
        if ($pieces->isEmpty()) {
            throw new BadRecipe('There is no piece for this blade to take; show or pick at least one piece.');
        }

        return $pieces;
    }

    /**
     * The living pieces that the blade takes: those named, or all.
     *
     * @return Collection<int, Piece>
     */
    public function pieces(Project $project): Collection
    {
        $query = $project->pieces()->with('mesh')->whereNull('spent_by');
        $ids = $this->input('pieces');
        if (is_array($ids)) {
            $query->whereIn('id', $ids);
        }
        /** @var Collection<int, Piece> $pieces */
        $pieces = $query->get();
        if ($pieces->isEmpty()) {
            throw new BadRecipe('There is no piece for this blade to take; show or pick at least one piece.');
        }

        return $pieces;
    }

    /**
     * The step as the recipe writes it, read by the core once.
     *
     * @param  list<string>|null  $of  names instead of the request's pieces
     * @return array<string, mixed>
     */
    public function step(Project $project, ?array $of = null): array
    {
        $facing = $this->triple('facing');
        $series = $this->input('series');
        $of ??= $this->input('pieces') === null ? ['*'] : array_values($this->pieces($project)->map(static fn (Piece $piece): string => $piece->name)->all());
        $faces = is_array($this->input('faces')) ? ['faces' => array_map(intval(...), $this->input('faces'))] : [];
        $blade = is_array($series) ? ['kind' => 'series', 'facing' => $facing, ...$series] : ['kind' => 'flat', 'through' => $this->triple('through'), 'facing' => $facing];
        $step = $this->boolean('score') ? ['do' => 'score', 'blade' => $blade, 'of' => $of, ...$faces] : [
            'do' => 'cut', 'blade' => $blade, 'of' => $of, 'keep' => $this->string('keep', 'both')->value(),
            'kerf' => $this->float('kerf'), 'kerf_side' => $this->string('kerf_side', 'centre')->value(), 'seal' => $this->string('seal', 'lean')->value(),
            ...($this->input('edge_mm') !== null && $this->input('seal') === 'even' ? ['edge_mm' => $this->float('edge_mm')] : []),
            'catch' => $this->float('catch'), ...$faces,
        ];
        if (! is_array($series)) {
            // Refused here already when the blade has no direction.
            $this->plane();
        }

        return $this->read($step)->toArray();
    }

    /** @return array{float, float, float} */
    public function triple(string $key): array
    {
        return [$this->float("$key.0"), $this->float("$key.1"), $this->float("$key.2")];
    }

    /** @param  array<string, mixed>  $step */
    private function read(array $step): Step
    {
        try {
            return Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [$step]])->steps[0];
        } catch (BadRecipe $refusal) {
            throw new BadRecipe(str_replace('steps[0].', '', $refusal->getMessage()));
        }
    }
}
