<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Isotome\Exception\BadRecipe;

/** Values of a recipe, read with care: each refusal names the place in the document, what stands there, and what to give. */
final class Reading
{
    /** Beyond this a number is no place, length or count of anything that is cut. */
    private const LARGEST = 1e15;

    private const MOST_NAMES = 10_000;

    private const MOST_FACES = 100_000;

    /** @return list<int> */
    public static function faces(mixed $value, string $at, string $what = 'triangle'): array
    {
        if (! is_array($value) || ! array_is_list($value) || $value === [] || count($value) > self::MOST_FACES) {
            throw new BadRecipe("$at is ".self::shown($value)."; give a list of $what numbers, counted from 0.");
        }
        $faces = [];
        foreach ($value as $i => $face) {
            if (! is_int($face) || $face < 0) {
                throw new BadRecipe("{$at}[$i] is ".self::shown($face)."; give the number of a $what, counted from 0.");
            }
            $faces[] = $face;
        }

        return $faces;
    }

    public static function whole(mixed $value, string $at): int
    {
        if (! is_int($value)) {
            throw new BadRecipe("$at is ".self::shown($value).'; give a whole number.');
        }

        return $value;
    }

    public static function seed(mixed $value, string $at): int
    {
        $seed = self::whole($value, $at);
        if ($seed < 0 || $seed > 0x7FFFFFFF) {
            throw new BadRecipe("$at is $seed; give a whole number from 0 to 2147483647.");
        }

        return $seed;
    }

    public static function notNegative(mixed $value, string $at, string $what): float
    {
        $number = self::number($value, $at);
        if ($number < 0) {
            throw new BadRecipe("$at is negative; give $what, 0 or more.");
        }

        return $number;
    }

    /**
     * @param  array<mixed>  $object
     * @param  list<string>  $known
     */
    public static function onlyKeys(array $object, array $known, string $at): void
    {
        foreach (array_keys($object) as $key) {
            if (! in_array($key, $known, true)) {
                throw new BadRecipe("$at has the unknown key ".self::shown($key).'; known are '.implode(', ', $known).'.');
            }
        }
    }

    /**
     * @template T of \BackedEnum
     *
     * @param  class-string<T>  $enum
     * @return T
     */
    public static function choice(string $enum, mixed $value, string $at): \BackedEnum
    {
        return (is_string($value) ? $enum::tryFrom($value) : null) ?? throw new BadRecipe(
            "$at is ".self::shown($value).'; choose one of '.implode(', ', array_map(static fn (\BackedEnum $case): string => (string) $case->value, $enum::cases())).'.',
        );
    }

    public static function number(mixed $value, string $at): float
    {
        if ((! is_int($value) && ! is_float($value)) || ! is_finite((float) $value)) {
            throw new BadRecipe("$at is ".self::shown($value).'; give an ordinary number.');
        }
        if (abs($value) > self::LARGEST) {
            throw new BadRecipe("$at is ".self::shown($value).'; give a number of less than 1e15.');
        }

        return (float) $value;
    }

    /** @return array{float, float, float} */
    public static function triple(mixed $value, string $at): array
    {
        if (! is_array($value) || ! array_is_list($value) || count($value) !== 3) {
            throw new BadRecipe("$at is ".self::shown($value).'; give three numbers, [x, y, z].');
        }

        return [self::number($value[0], "{$at}[0]"), self::number($value[1], "{$at}[1]"), self::number($value[2], "{$at}[2]")];
    }

    /** @return list<string> */
    public static function names(mixed $value, string $at): array
    {
        if (! is_array($value) || ! array_is_list($value) || $value === [] || count($value) > self::MOST_NAMES) {
            throw new BadRecipe("$at is ".self::shown($value).'; give a list of piece names, or ["*"] for all.');
        }
        $names = [];
        foreach ($value as $i => $name) {
            if (! is_string($name) || $name === '') {
                throw new BadRecipe("{$at}[$i] is ".self::shown($name).'; give the name of a piece, or "*".');
            }
            $names[] = $name;
        }

        return $names;
    }

    public static function shown(mixed $value): string
    {
        $json = json_encode($value, JSON_PARTIAL_OUTPUT_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE);

        return $value === null ? 'missing' : mb_strimwidth($json === false ? 'unreadable' : $json, 0, 60, '…');
    }
}
