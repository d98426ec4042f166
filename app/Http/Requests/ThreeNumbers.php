<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Closure;
use Illuminate\Contracts\Validation\ValidationRule;

/** A place or a direction: three ordinary numbers, in an address written as text. */
final class ThreeNumbers implements ValidationRule
{
    private const LARGEST = 1e15;

    public function __construct(private readonly string $sentence)
    {
    }

    /** @param  Closure(string): mixed  $fail */
    public function validate(string $attribute, mixed $value, Closure $fail): void
    {
        if (! is_array($value) || count($value) !== 3 || ! array_is_list($value)
            || array_filter($value, static fn (mixed $number): bool => ! is_numeric($number) || abs((float) $number) > self::LARGEST) !== []) {
            $fail($this->sentence);
        }
    }
}
