<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Validation\Rule;
use Isotome\Format\Units;

final class NewProject extends BroughtMeshes
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...parent::rules(), 'name' => ['required', 'string', 'max:120', 'regex:/[\p{L}\p{N}]/u'], 'units' => ['required', Rule::enum(Units::class)]];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return [
            ...parent::messages(), 'name.*' => 'The project needs a name of 1 to 120 characters with at least one letter or digit; type one.',
            'units' => 'The unit is not one of mm, cm, m, in; choose one.',
        ];
    }

    public function name(): string
    {
        return $this->string('name')->trim()->value();
    }

    public function units(): Units
    {
        return Units::from($this->string('units')->value());
    }
}
