<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Closure;
use Illuminate\Contracts\Validation\ValidationRule;

/** A list of at most so many texts of a form, looked at once. */
final class ListOfTexts implements ValidationRule
{
    public function __construct(private readonly int $most, private readonly string $form, private readonly string $sentence)
    {
    }

    /** @param  Closure(string): mixed  $fail */
    public function validate(string $attribute, mixed $value, Closure $fail): void
    {
        if (! is_array($value) || $value === [] || count($value) > $this->most || ! array_is_list($value)
            || array_filter($value, fn (mixed $text): bool => ! is_string($text) || preg_match($this->form, $text) !== 1) !== []) {
            $fail($this->sentence);
        }
    }
}
