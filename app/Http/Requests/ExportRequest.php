<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Piece;
use App\Models\Project;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Support\Collection;
use Illuminate\Validation\Rule;
use Isotome\Exception\BadRecipe;
use Isotome\Format\MeshFile;

/** Which pieces go out, in which format, apart or together. */
final class ExportRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'as' => ['sometimes', Rule::in(MeshFile::FORMATS)],
            'pieces' => ['sometimes', 'nullable', 'string', 'max:100000', 'regex:/^\d+(,\d+)*$/'],
            'together' => ['sometimes', 'boolean'],
            'density' => ['sometimes', 'nullable', 'numeric', 'gt:0', 'max:100'],
        ];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return [
            'as' => 'The format is not one of '.implode(', ', MeshFile::FORMATS).'; choose one.',
            'pieces' => 'The picked pieces are not a list of pieces; pick them again.', 'together' => 'One file for all is not yes or no; choose one.',
            'density' => 'The density is not more than 0 and at most 100 g/cm³; type it again.',
        ];
    }

    public function ending(): string
    {
        return $this->string('as', 'stl')->value();
    }

    public function isTogether(): bool
    {
        return $this->boolean('together');
    }

    /** g/cm³ */
    public function density(): ?float
    {
        return $this->input('density') === null ? null : $this->float('density');
    }

    /** @return Collection<int, Piece> */
    public function pieces(Project $project): Collection
    {
        if ($this->isTogether() && ! in_array($this->ending(), ['obj', '3mf', 'glb'], true)) {
            throw new BadRecipe('A file of the format '.$this->ending().' holds one piece; choose obj, 3mf or glb for all in one, or a file for each.');
        }
        $query = $project->pieces()->with(['mesh', 'parent', 'maker'])->whereNull('spent_by');
        if ($this->input('pieces') !== null) {
            $query->whereIn('id', array_map(intval(...), explode(',', $this->string('pieces')->value())));
        }
        /** @var Collection<int, Piece> $pieces */
        $pieces = $query->get();
        if ($pieces->isEmpty()) {
            throw new BadRecipe('There is no piece to take out; pick at least one.');
        }

        return $pieces;
    }
}
