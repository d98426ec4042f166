<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Closure;
use Illuminate\Contracts\Validation\ValidationRule;

/**
 * A list of at most so many whole numbers, looked at once: the framework's rules for each element of a list take minutes for a million.
 */
final class ListOfNumbers implements ValidationRule
{
    /** @param  string  $sentence  what to say when it is none */
    public function __construct(private readonly int $most, private readonly string $sentence, private readonly int $least = 0, private readonly bool $isText = false)
    {
    }

    /** @param  Closure(string): mixed  $fail */
    public function validate(string $attribute, mixed $value, Closure $fail): void
    {
        if (! is_array($value) || count($value) > $this->most || count($value) < $this->least || ! array_is_list($value)) {
            $fail($this->sentence);

            return;
        }
        foreach ($value as $number) {
            // In an address a number is written as text.
            if (! is_int($number) && ! ($this->isText && is_string($number) && preg_match('/^[0-9]{1,18}$/', $number) === 1) || $number < 0) {
                $fail($this->sentence);

                return;
            }
        }
    }
}
