<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Piece;
use App\Models\Project;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Support\Collection;
use Illuminate\Validation\Rule;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\KerfSide;
use Isotome\Cut\Series;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Plane;
use Isotome\Operation\Kind\StopsStep;
use Isotome\Operation\Kinds;

/** A blade that is not set yet, and the pieces that a question about it is asked of. */
final class BladeRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'through' => ['required', new ThreeNumbers('The blade\'s place is not three ordinary numbers; type it again.')],
            'facing' => ['required', new ThreeNumbers('The blade\'s facing is not three ordinary numbers; type it again.')],
            'pieces' => ['sometimes', 'nullable', new ListOfNumbers(10_000, 'The picked pieces are not a list of pieces; pick them again.', isText: true)],
            'kerf' => ['sometimes', 'numeric', 'between:0,1e6'],
            'kerf_side' => ['sometimes', Rule::enum(KerfSide::class)],
            'catch' => ['sometimes', 'numeric', 'between:0,1e6'],
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
            'kerf' => 'The kerf is not a width of 0 mm or more; type it again.',
            'kerf_side' => 'The side of the kerf is not one of centre, ahead, behind; choose one.',
            'catch' => 'The catch is not a distance of 0 mm or more; type it again.',
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
     * The stops of a series, read by the core.
     *
     * @throws BadRecipe
     */
    public function series(): Series
    {
        $series = $this->input('series');
        try {
            $step = Kinds::read(['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => $this->triple('facing'), ...is_array($series) ? $series : []]], 'step');
        } catch (BadRecipe $refusal) {
            throw new BadRecipe(str_replace('step.', '', $refusal->getMessage()));
        }

        return $step instanceof StopsStep ? $step->series() : throw new BadRecipe('There is no series; place stops on the rail first.');
    }

    /** @return array{float, float, float} */
    public function triple(string $key): array
    {
        return [$this->float("$key.0"), $this->float("$key.1"), $this->float("$key.2")];
    }
}
