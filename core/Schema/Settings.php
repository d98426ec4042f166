<?php

declare(strict_types=1);

namespace Isotome\Schema;

use Isotome\Exception\BadRecipe;
use Opis\JsonSchema\Schema as Loaded;
use Opis\JsonSchema\Validator;
use stdClass;

/**
 * Reads settings by their schema.
 *
 * Guarantees: what comes out has every key that the schema gives a default for, in the order of the schema, numbers as floats where the schema says
 * number, and lengths in millimetres. What does not fit the schema is refused in one sentence: where it is, what stands there, what to give. A key whose
 * value is null counts as missing. Validation itself is done by the package opis/json-schema.
 */
final class Settings
{
    private static ?Validator $validator = null;

    /** @var array<string, Loaded> */
    private static array $loaded = [];

    /**
     * @param  array<mixed>  $given
     * @param  array<string, mixed>  $schema  of an object
     * @param  string  $name  of the schema; the same name is the same schema
     * @param  string  $at  its place in the document
     * @param  float  $scale  millimetres a unit
     * @return array<string, mixed>
     *
     * @throws BadRecipe
     */
    public static function read(array $given, array $schema, string $name, string $at, float $scale = 1.0): array
    {
        $validator = self::$validator ??= self::validator();
        $loaded = self::$loaded[$name] ??= $validator->loader()->loadObjectSchema((object) self::asObject($schema));
        $fault = $validator->schemaValidation(self::asObject($given), $loaded);
        if ($fault !== null) {
            throw new BadRecipe(Fault::sentence($fault, $at));
        }

        /** @var array<string, mixed> */
        return self::filled($given, $schema, $scale, false);
    }

    private static function validator(): Validator
    {
        $validator = new Validator;
        $validator->setMaxErrors(1);
        $validator->parser()->setOption('allowDefaults', false);

        return $validator;
    }

    /** Arrays with keys as objects, without keys of null; numbers that JSON does not know as text. */
    private static function asObject(mixed $value): mixed
    {
        if (is_float($value)) {
            return is_finite($value) ? $value : (string) $value;
        }
        if (! is_array($value)) {
            return $value;
        }
        if (array_is_list($value)) {
            foreach ($value as $n => $one) {
                if (is_array($one) || is_float($one)) {
                    $value[$n] = self::asObject($one);
                }
            }

            return $value;
        }
        $object = new stdClass;
        foreach ($value as $key => $one) {
            if ($one !== null) {
                $object->{(string) $key} = self::asObject($one);
            }
        }

        return $object;
    }

    /** @param  array<string, mixed>  $schema */
    private static function filled(mixed $value, array $schema, float $scale, bool $isLength): mixed
    {
        if (is_array($schema['anyOf'] ?? null)) {
            // A place or a word: only the place is numbers.
            /** @var array<string, mixed> $schema */
            $schema = is_array($value) ? $schema['anyOf'][0] : [];
        }
        $isLength = $isLength || ($schema['x-length'] ?? false) === true;
        $type = $schema['type'] ?? null;
        if ($type === 'number' && (is_int($value) || is_float($value))) {
            return $isLength ? $value * $scale : (float) $value;
        }
        if ($type === 'integer' && is_float($value)) {
            return (int) $value;
        }
        if ($type === 'array' && is_array($value) && is_array($schema['items'] ?? null)) {
            /** @var array<string, mixed> $items */
            $items = $schema['items'];

            return array_map(static fn (mixed $one): mixed => self::filled($one, $items, $scale, $isLength), $value);
        }
        if ($type !== 'object' || ! is_array($value) || ! is_array($schema['properties'] ?? null)) {
            return $value;
        }
        $filled = [];
        /** @var array<string, mixed> $property */
        foreach ($schema['properties'] as $key => $property) {
            $one = $value[$key] ?? null;
            if (($property['deprecated'] ?? false) === true) {
                continue;
            }
            if ($one !== null) {
                $filled[$key] = self::filled($one, $property, $scale, false);
            } elseif (array_key_exists('default', $property)) {
                $filled[$key] = $property['default'];
            }
        }

        return $filled;
    }
}
