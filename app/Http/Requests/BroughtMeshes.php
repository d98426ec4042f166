<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Upload;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;
use Isotome\Exception\BadRecipe;

/** Files that were sent before and are accepted now: for a new project, or into one that is open. */
class BroughtMeshes extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'upload' => ['required_without:uploads', 'string', 'exists:uploads,id'],
            'uploads' => ['required_without:upload', new ListOfTexts(200, '/^[0-9a-z]{26}$/i', 'No file was brought in, or more than 200 at once; bring in one to 200 files.')],
            'up' => ['sometimes', Rule::in(['z', 'y'])],
        ];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        $gone = 'The file that was brought in is not there any more; bring it in again.';

        return [
            'upload.*' => $gone, 'upload' => $gone, 'uploads' => 'No file was brought in, or more than 200 at once; bring in one to 200 files.',
            'up' => 'The axis that is up is not one of z, y; choose one.',
        ];
    }

    /** @return non-empty-list<Upload> in the order given */
    public function uploads(): array
    {
        $ids = $this->input('uploads') ?? [$this->string('upload')->value()];

        return array_map(static fn (string $id): Upload => Upload::query()->find($id)
            ?? throw new BadRecipe('The file that was brought in is not there any more; bring it in again.'), array_values(array_unique((array) $ids))) ?: throw new BadRecipe('No file was brought in; bring in at least one.');
    }

    /** Is Y up in the files? Then the stock is turned once it is there. */
    public function isYUp(): bool
    {
        return $this->string('up', 'z')->value() === 'y';
    }
}
