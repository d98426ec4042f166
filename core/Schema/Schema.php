<?php

declare(strict_types=1);

namespace Isotome\Schema;

/**
 * Parts of a JSON Schema (draft 2020-12), written once for everything that is said about a setting: how it is read and refused, its line in the
 * documents, and its type in the front end.
 *
 * Beside the standard's keywords there are two of our own, which a validator passes over: "x-give" says what to give instead of a wrong value,
 * and "x-length" marks a number, or a list of numbers, as a length in the recipe's unit. All other lengths end in _mm and are millimetres always.
 */
final class Schema
{
    /** Beyond this a number is no place, length or count of anything that is cut. */
    public const LARGEST = 1e15;

    public const MOST_NAMES = 10_000;

    /**
     * @param  array<string, array<string, mixed>>  $properties
     * @param  list<string>  $required
     * @return array<string, mixed>
     */
    public static function object(array $properties, array $required = [], string $give = 'write an object, {…}'): array
    {
        return ['type' => 'object', 'properties' => $properties, 'required' => $required, 'additionalProperties' => false, 'x-give' => $give];
    }

    /** @return array<string, mixed> an object that is read elsewhere */
    public static function anything(string $give): array
    {
        return ['type' => 'object', 'x-give' => $give];
    }

    /** @return array<string, mixed> a word that can only be this one */
    public static function word(string $word): array
    {
        return ['const' => $word, 'x-give' => "write \"$word\""];
    }

    /**
     * @param  list<string>  $words
     * @return array<string, mixed>
     */
    public static function choice(string $title, array $words, ?string $default = null): array
    {
        return ['title' => $title, 'enum' => $words, ...($default === null ? [] : ['default' => $default])];
    }

    /**
     * @param  class-string<\BackedEnum>  $enum
     * @return array<string, mixed>
     */
    public static function oneOf(string $title, string $enum, ?string $default = null): array
    {
        return self::choice($title, array_map(static fn (\BackedEnum $case): string => (string) $case->value, $enum::cases()), $default);
    }

    /**
     * @param  int  $least  characters
     * @return array<string, mixed>
     */
    public static function text(string $title, int $least, int $most, string $give): array
    {
        return ['title' => $title, 'type' => 'string', 'minLength' => $least, 'maxLength' => $most, 'x-give' => $give];
    }

    /** @return array<string, mixed> */
    public static function yesNo(string $title, bool $default): array
    {
        return ['title' => $title, 'type' => 'boolean', 'default' => $default, 'x-give' => 'give true or false'];
    }

    /** @return array<string, mixed> */
    public static function number(string $title, ?float $default = null, string $give = 'give an ordinary number', ?float $from = null, ?float $above = null, ?float $to = null): array
    {
        return [
            'title' => $title, 'type' => 'number',
            ...($above !== null ? ['exclusiveMinimum' => $above] : ['minimum' => $from ?? -self::LARGEST]), 'maximum' => $to ?? self::LARGEST,
            ...($default === null ? [] : ['default' => $default]), 'x-give' => $give,
        ];
    }

    /** @return array<string, mixed> 0 or more */
    public static function amount(string $title, ?float $default, string $give, ?float $to = null): array
    {
        return self::number($title, $default, "give $give", 0.0, null, $to);
    }

    /** @return array<string, mixed> */
    public static function whole(string $title, int $from, int $to, ?int $default = null, string $give = 'give a whole number'): array
    {
        return ['title' => $title, 'type' => 'integer', 'minimum' => $from, 'maximum' => $to, ...($default === null ? [] : ['default' => $default]), 'x-give' => $give];
    }

    /** @return array<string, mixed> */
    public static function seed(string $title = 'Seed'): array
    {
        return self::whole($title, 0, 0x7FFFFFFF, 1, 'give a whole number from 0 to 2147483647');
    }

    /**
     * @param  list<float>|null  $default
     * @return array<string, mixed> three numbers: a direction, angles
     */
    public static function triple(string $title, ?array $default = null): array
    {
        return [
            'title' => $title, 'type' => 'array', 'items' => self::number(''), 'minItems' => 3, 'maxItems' => 3,
            ...($default === null ? [] : ['default' => $default]), 'x-give' => 'give three numbers, [x, y, z]',
        ];
    }

    /**
     * @param  list<float>|null  $default
     * @return array<string, mixed> three numbers in the recipe's unit
     */
    public static function place(string $title, ?array $default = null): array
    {
        return [...self::triple($title, $default), 'x-length' => true];
    }

    /** @return array<string, mixed> a place, or a word that stands for one; the first word when it is left out */
    public static function placeOr(string $word, string $title, string ...$others): array
    {
        $give = 'give three numbers, [x, y, z], or "'.implode('", or "', [$word, ...$others]).'"';
        $words = $others === [] ? ['const' => $word] : ['enum' => [$word, ...array_values($others)]];

        return ['title' => $title, 'anyOf' => [[...self::place(''), 'x-give' => $give], [...$words, 'x-give' => $give]], 'default' => $word, 'x-give' => $give];
    }

    /** @return array<string, mixed> a direction, or a word that stands for one; the word when it is left out */
    public static function directionOr(string $word, string $title): array
    {
        $give = "give three numbers, [x, y, z], or \"$word\"";

        return ['title' => $title, 'anyOf' => [[...self::triple(''), 'x-give' => $give], ['const' => $word, 'x-give' => $give]], 'default' => $word, 'x-give' => $give];
    }

    /**
     * @param  array<string, mixed>  $items
     * @return array<string, mixed>
     */
    public static function list(string $title, array $items, int $least, int $most, string $give): array
    {
        return ['title' => $title, 'type' => 'array', 'items' => $items, 'minItems' => $least, 'maxItems' => $most, 'x-give' => $give];
    }

    /** @return array<string, mixed> */
    public static function numbersOf(string $what, string $title, int $most): array
    {
        return self::list($title, self::whole('', 0, PHP_INT_MAX, null, "give the number of a $what, counted from 0"), 1, $most, "give a list of $what numbers, counted from 0");
    }

    /** @return array<string, mixed> the pieces that a step takes */
    public static function of(): array
    {
        return [...self::names(), 'default' => ['*']];
    }

    /** @return array<string, mixed> the same, not written when it is left out */
    public static function names(): array
    {
        return self::list('The pieces it takes: * for all, a name, or a name followed by * for it and its descendants', ['type' => 'string', 'minLength' => 1, 'x-give' => 'give the name of a piece, or "*"'], 1, self::MOST_NAMES, 'give a list of piece names, or ["*"] for all');
    }

    /**
     * @param  array<string, mixed>  $schema
     * @return array<string, mixed> the same, a length in the recipe's unit
     */
    public static function length(array $schema): array
    {
        return [...$schema, 'x-length' => true];
    }

    /**
     * @param  array<string, mixed>  $schema
     * @return array<string, mixed> the same, read from older recipes and left out of new ones
     */
    public static function unused(array $schema): array
    {
        return [...$schema, 'deprecated' => true];
    }
}
