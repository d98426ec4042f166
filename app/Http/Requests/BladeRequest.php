<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Piece;
use App\Models\Project;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Support\Collection;
use Illuminate\Validation\Rule;
use Isotome\Cut\Keep;
use Isotome\Cut\Plane;
use Isotome\Cut\Seal;
use Isotome\Exception\BadRecipe;

/** A blade, the pieces it takes, and, for a cut, what it leaves. */
final class BladeRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'through' => ['required', 'array', 'list', 'size:3'],
            'through.*' => ['required', 'numeric', 'between:-1e15,1e15'],
            'facing' => ['required', 'array', 'list', 'size:3'],
            'facing.*' => ['required', 'numeric', 'between:-1e15,1e15'],
            'pieces' => ['sometimes', 'nullable', 'array', 'list', 'max:10000'],
            'pieces.*' => ['integer'],
            'keep' => ['sometimes', Rule::enum(Keep::class)],
            'seal' => ['sometimes', Rule::enum(Seal::class)],
            'kerf' => ['sometimes', 'numeric', 'between:0,1e6'],
        ];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        $place = 'The blade\'s place is not three ordinary numbers; type it again.';
        $facing = 'The blade\'s facing is not three ordinary numbers; type it again.';
        $pieces = 'The picked pieces are not a list of pieces; pick them again.';

        return [
            'through' => $place, 'through.*' => $place,
            'facing' => $facing, 'facing.*' => $facing,
            'pieces' => $pieces, 'pieces.*' => $pieces,
            'keep' => 'Keep is not one of both, ahead, behind, outline; choose one.',
            'seal' => 'Seal is not one of open, lean, even; choose one.',
            'kerf' => 'The kerf is not a width of 0 mm or more; type it again.',
        ];
    }

    public function plane(): Plane
    {
        return Plane::through($this->triple('through'), $this->triple('facing'));
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
     * The step as the recipe writes it.
     *
     * @return array<string, mixed>
     */
    public function step(Project $project): array
    {
        return [
            'do' => 'cut',
            'blade' => ['kind' => 'flat', 'through' => $this->triple('through'), 'facing' => $this->triple('facing')],
            'of' => $this->input('pieces') === null ? ['*'] : array_values($this->pieces($project)->map(static fn (Piece $piece): string => $piece->name)->all()),
            'keep' => $this->string('keep', 'both')->value(),
            'kerf' => $this->float('kerf'),
            'seal' => $this->string('seal', 'lean')->value(),
        ];
    }

    /** @return array{float, float, float} */
    private function triple(string $key): array
    {
        return [$this->float("$key.0"), $this->float("$key.1"), $this->float("$key.2")];
    }
}
