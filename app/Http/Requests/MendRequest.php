<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Piece;
use App\Models\Project;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;
use Isotome\Exception\BadRecipe;
use Isotome\Mend\SingleMend;
use Isotome\Operation\Kind\MendingStep;
use Isotome\Operation\Kind\ThickenStep;
use Isotome\Operation\Recipe;

/** The whole mend, one mend only, or a thickness for a sheet. */
final class MendRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'pieces' => ['required', new ListOfNumbers(10_000, 'The picked pieces are not a list of pieces; pick them again.', 1)],
            'only' => ['sometimes', 'nullable', Rule::in(SingleMend::KINDS)],
            'rims' => ['sometimes', 'nullable', new ListOfNumbers(10_000, 'The rims are not a list of rims; pick them again.')],
            'join_mm' => ['sometimes', 'nullable', 'numeric', 'between:0,1e6'],
            'thickness' => ['sometimes', 'nullable', 'numeric', 'gt:0', 'max:1e6'],
            'side' => ['sometimes', Rule::in(['both', 'front', 'back'])],
        ];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return [
            'pieces' => 'No piece is named; pick at least one.',
            'only' => 'The mend is not one of '.implode(', ', SingleMend::KINDS).'; choose one.',
            'join_mm' => 'The distance is not 0 mm or more; type it again.',
            'thickness' => 'The thickness is not more than 0 mm; type it again.',
            'side' => 'The side is not one of both, front, back; choose one.',
        ];
    }

    public function step(Project $project): MendingStep|ThickenStep
    {
        $names = array_values($project->pieces()->whereNull('spent_by')->whereIn('id', (array) $this->input('pieces'))->pluck('name')->all());
        if ($names === []) {
            throw new BadRecipe('The picked pieces are not there any more; pick them again.');
        }
        $step = $this->input('thickness') !== null
            ? ['do' => 'thicken', 'of' => $names, 'thickness_mm' => $this->float('thickness'), 'side' => $this->string('side', 'both')->value()]
            : array_filter([
                'do' => 'mend', 'of' => $names, 'only' => $this->input('only'), 'rims' => is_array($this->input('rims')) ? array_map(intval(...), $this->input('rims')) : null,
                'join_mm' => $this->input('join_mm') === null ? null : $this->float('join_mm'),
            ], static fn (mixed $value): bool => $value !== null);
        $core = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [$step]])->steps[0];

        return $core instanceof MendingStep || $core instanceof ThickenStep ? $core : throw new BadRecipe('This is no mend; choose one.');
    }

    public function piece(Project $project): Piece
    {
        /** @var Piece */
        return $project->pieces()->with('mesh')->whereNull('spent_by')->whereIn('id', (array) $this->input('pieces'))->first()
            ?? throw new BadRecipe('The picked piece is not there any more; pick another one.');
    }
}
