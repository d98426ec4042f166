<?php

declare(strict_types=1);

namespace Isotome\Schema;

use Opis\JsonSchema\Errors\ValidationError;
use stdClass;

/** What does not fit a schema, as a sentence: where it is, what stands there, what to give. */
final class Fault
{
    public static function sentence(ValidationError $error, string $at): string
    {
        $error = self::innermost($error);
        foreach ($error->data()->fullPath() as $key) {
            $at .= is_int($key) ? "[$key]" : '.'.self::text($key);
        }
        $schema = $error->schema()->info()->data();
        $schema = $schema instanceof stdClass ? $schema : new stdClass;
        $args = $error->args();

        return match ($error->keyword()) {
            'required' => self::missing($schema, self::text(self::first($args['missing'] ?? '')), $at),
            'additionalProperties' => "$at has the unknown key ".Shown::of(self::first($args['properties'] ?? '')).'; known are '.implode(', ', self::known($schema)).'.',
            default => "$at ".self::is($error->keyword(), $error->data()->value(), $schema).'; '.(self::isBeyond($error->data()->value(), $schema) ? 'give a number of less than 1e15' : self::give($schema)).'.',
        };
    }

    private static function innermost(ValidationError $error): ValidationError
    {
        $inner = self::first($error->subErrors());

        return $inner instanceof ValidationError ? self::innermost($inner) : $error;
    }

    private static function missing(stdClass $schema, string $key, string $at): string
    {
        $property = ($schema->properties ?? null) instanceof stdClass ? $schema->properties->{$key} ?? null : null;

        return "$at.$key is missing; ".($property instanceof stdClass ? self::give($property) : 'add it').'.';
    }

    /** @return list<string> */
    private static function known(stdClass $schema): array
    {
        $known = [];
        foreach (($schema->properties ?? null) instanceof stdClass ? get_object_vars($schema->properties) : [] as $key => $property) {
            if (! $property instanceof stdClass || ! isset($property->deprecated)) {
                $known[] = (string) $key;
            }
        }

        return $known;
    }

    private static function is(string $keyword, mixed $value, stdClass $schema): string
    {
        return match (true) {
            in_array($keyword, ['minItems', 'maxItems'], true) && is_array($value) && count($value) > 3 => 'has '.count($value).' entries',
            $keyword === 'minimum' && self::isZero($schema->minimum ?? null) && $value < 0 => 'is negative',
            $keyword === 'exclusiveMinimum' && self::isZero($schema->exclusiveMinimum ?? null) => 'is not more than 0',
            default => 'is '.Shown::of($value),
        };
    }

    private static function isZero(mixed $bound): bool
    {
        return $bound === 0 || $bound === 0.0;
    }

    /** A number where any is allowed that is ordinary, and this one is not. */
    private static function isBeyond(mixed $value, stdClass $schema): bool
    {
        return (is_int($value) || is_float($value)) && abs($value) > Schema::LARGEST && ($schema->maximum ?? null) === Schema::LARGEST;
    }

    private static function give(stdClass $schema): string
    {
        $give = $schema->{'x-give'} ?? null;
        if (is_string($give)) {
            return $give;
        }
        $words = is_array($schema->enum ?? null) ? array_filter($schema->enum, is_string(...)) : [];

        return $words === [] ? 'leave it out' : 'choose one of '.implode(', ', $words);
    }

    private static function first(mixed $value): mixed
    {
        return is_array($value) ? array_values($value)[0] ?? '' : $value;
    }

    private static function text(mixed $value): string
    {
        return is_scalar($value) ? (string) $value : '';
    }
}
