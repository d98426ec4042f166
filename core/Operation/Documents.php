<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Isotome\Format\MeshFile;
use Isotome\Schema\Schema;

/** What is written down of all kinds of step, from their schemas: one JSON Schema of the recipe, and tables for people. `bin/generate` writes both. */
final class Documents
{
    /** @return array<string, mixed> JSON Schema (draft 2020-12) of a recipe of version 1 */
    public static function schema(): array
    {
        $kinds = [];
        foreach (Kinds::ALL as $kind) {
            $kinds[Kinds::name($kind)] = self::published($kind::schema());
        }

        return [
            '$schema' => 'https://json-schema.org/draft/2020-12/schema',
            'title' => 'Recipe of Isotome, version 1',
            'type' => 'object',
            'properties' => [
                'isotome_recipe' => ['const' => 1],
                'units' => ['enum' => ['mm', 'cm', 'm', 'in'], 'default' => 'mm'],
                'steps' => ['type' => 'array', 'items' => ['anyOf' => array_map(static fn (string $name): array => ['$ref' => '#/$defs/'.$name], array_keys($kinds))], 'minItems' => 1, 'maxItems' => 1000],
            ],
            'required' => ['isotome_recipe', 'steps'],
            'additionalProperties' => false,
            '$defs' => $kinds,
        ];
    }

    /** Every kind with its settings, as Markdown. */
    public static function tables(): string
    {
        $text = '';
        foreach (Kinds::ALL as $kind) {
            $schema = $kind::schema();
            $text .= '### '.self::title($schema)."\n\n| setting | what it is | values | without it |\n|---|---|---|---|\n".self::rows($schema, '')."\n";
        }

        return $text;
    }

    /** @param  array<string, mixed>  $schema */
    private static function rows(array $schema, string $before): string
    {
        $rows = '';
        $required = is_array($schema['required'] ?? null) ? $schema['required'] : [];
        foreach (self::properties($schema) as $key => $property) {
            if (($property['deprecated'] ?? false) === true) {
                continue;
            }
            $without = match (true) {
                array_key_exists('default', $property) => '`'.self::json($property['default']).'`',
                in_array($key, $required, true) => 'refused',
                $key === 'of' => '`["*"]`',
                default => '',
            };
            if (isset($property['properties'])) {
                $rows .= $before === '' && self::title($property) === '' ? '' : "| `$before$key` | ".self::title($property)." | an object | $without |\n";
                $rows .= self::rows($property, "$before$key.");
            } else {
                $rows .= "| `$before$key` | ".self::title($property).' | '.self::values($property)." | $without |\n";
                $items = self::item($property);
                $rows .= isset($items['properties']) ? self::rows($items, "$before{$key}[].") : '';
            }
        }

        return $rows;
    }

    /** @param  array<string, mixed>  $schema */
    private static function values(array $schema): string
    {
        $length = ($schema['x-length'] ?? false) === true ? ' in the recipe\'s unit' : '';

        return match (true) {
            isset($schema['anyOf']) => implode(', or ', array_map(self::values(...), self::alternatives($schema))),
            isset($schema['const']) => '`'.self::json($schema['const']).'`',
            is_array($schema['enum'] ?? null) => implode(', ', array_map(static fn (mixed $word): string => '`'.self::json($word).'`', $schema['enum'])),
            $schema['type'] === 'boolean' => 'true, false',
            $schema['type'] === 'string' => 'a text',
            $schema['type'] === 'object' => 'an object',
            $schema['type'] === 'array' => self::count($schema).' '.self::of(self::item($schema)).$length,
            default => self::number($schema).$length,
        };
    }

    /** @param  array<string, mixed>  $schema */
    private static function count(array $schema): string
    {
        return $schema['minItems'] === $schema['maxItems'] ? self::json($schema['minItems']) : self::json($schema['minItems']).' to '.self::json($schema['maxItems']);
    }

    /** @param  array<string, mixed>  $items */
    private static function of(array $items): string
    {
        return match ($items['type'] ?? '') {
            'number' => 'numbers',
            'integer' => 'whole numbers',
            'string' => 'names',
            'object' => 'objects',
            default => 'lists of three numbers',
        };
    }

    /** @param  array<string, mixed>  $schema */
    private static function number(array $schema): string
    {
        $what = $schema['type'] === 'integer' ? 'a whole number' : 'a number';
        $from = is_numeric($schema['minimum'] ?? null) && $schema['minimum'] > -Schema::LARGEST ? self::json($schema['minimum']) : '';
        $to = is_numeric($schema['maximum'] ?? null) && $schema['maximum'] < Schema::LARGEST ? self::json($schema['maximum']) : '';

        return $what.match (true) {
            isset($schema['exclusiveMinimum']) => ', more than '.self::json($schema['exclusiveMinimum']),
            $from !== '' && $to !== '' => " from $from to $to",
            $from !== '' => ", $from or more",
            $to !== '' => " up to $to",
            default => '',
        };
    }

    /**
     * Without what only readers of this program use; titles of settings become descriptions, as other tools expect them.
     *
     * @param  array<string, mixed>  $schema
     * @return array<string, mixed>
     */
    private static function published(array $schema): array
    {
        $length = ($schema['x-length'] ?? false) === true ? 'in the recipe\'s unit' : '';
        $words = implode('; ', array_filter([self::title($schema), $length], static fn (string $one): bool => $one !== ''));
        unset($schema['x-give'], $schema['x-length'], $schema['title']);
        if (isset($schema['properties'])) {
            $schema['properties'] = array_map(self::published(...), self::properties($schema));
        }
        if (isset($schema['items'])) {
            $schema['items'] = self::published(self::item($schema));
        }
        if (isset($schema['anyOf'])) {
            $schema['anyOf'] = array_map(self::published(...), self::alternatives($schema));
        }

        return [...($words === '' ? [] : ['description' => $words]), ...$schema];
    }

    /**
     * @param  array<string, mixed>  $schema
     * @return array<string, array<string, mixed>>
     */
    private static function properties(array $schema): array
    {
        /** @var array<string, array<string, mixed>> */
        return is_array($schema['properties'] ?? null) ? $schema['properties'] : [];
    }

    /**
     * @param  array<string, mixed>  $schema
     * @return array<string, mixed>
     */
    private static function item(array $schema): array
    {
        /** @var array<string, mixed> */
        return is_array($schema['items'] ?? null) ? $schema['items'] : [];
    }

    /**
     * @param  array<string, mixed>  $schema
     * @return list<array<string, mixed>>
     */
    private static function alternatives(array $schema): array
    {
        /** @var list<array<string, mixed>> */
        return is_array($schema['anyOf'] ?? null) ? array_values($schema['anyOf']) : [];
    }

    /** @param  array<string, mixed>  $schema */
    private static function title(array $schema): string
    {
        return is_string($schema['title'] ?? null) ? $schema['title'] : '';
    }

    private static function json(mixed $value): string
    {
        return is_string($value) ? $value : json_encode($value, JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES);
    }

    /** What the window must know of formats, as TypeScript. */
    public static function formats(): string
    {
        $json = static fn (mixed $value): string => str_replace('"', "'", json_encode($value, JSON_THROW_ON_ERROR));
        $lines = ['// Generated by bin/generate from core/Format/MeshFile.php; not to be changed by hand.', '', '/** Read and written, by their endings. */', 'export const FORMATS = '.str_replace(',', ', ', $json(MeshFile::FORMATS)).' as const', '',
            '/** Read besides. */', 'export const READ_ONLY = '.str_replace(',', ', ', $json(MeshFile::READ_ONLY)).' as const', '', '/** What of that which a mesh may carry each format keeps; the others keep none. */', 'export const KEEPS: Record<string, readonly string[]> = {'];
        foreach (MeshFile::KEEPS as $format => $words) {
            $lines[] = '    '.(preg_match('/^[a-z]+$/', $format) === 1 ? $format : "'$format'").': '.str_replace(',', ', ', $json($words)).',';
        }

        return implode("\n", [...$lines, '}', '']);
    }
}
