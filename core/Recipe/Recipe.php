<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\Keep;
use Isotome\Cut\KerfSide;
use Isotome\Cut\Plane;
use Isotome\Cut\Seal;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Format\Units;

/** Version 1 of the recipe: steps in order. Every part is validated; a message names the part's place in the document. */
final readonly class Recipe
{
    public const LARGEST_BYTES = 1_000_000;

    private const MOST_STEPS = 1000;

    private const MOST_NAMES = 10_000;

    /** @param  list<CutStep>  $steps */
    private function __construct(
        public Units $units,
        public array $steps,
    ) {
    }

    /** @throws BadRecipe */
    public static function fromJson(string $json): self
    {
        if (strlen($json) > self::LARGEST_BYTES) {
            throw new BadRecipe('The recipe is longer than 1 MB; a recipe of steps is far shorter, so check that this is the right file.');
        }
        $document = json_decode($json, true, 16);
        if (! is_array($document)) {
            throw new BadRecipe('The recipe is not a JSON object ('.json_last_error_msg().'); check it with a JSON validator.');
        }

        return self::fromArray($document);
    }

    /**
     * @param  array<mixed>  $document
     *
     * @throws BadRecipe
     */
    public static function fromArray(array $document): self
    {
        self::onlyKeys($document, ['isotome_recipe', 'units', 'steps'], 'the recipe');
        if (($document['isotome_recipe'] ?? null) !== 1) {
            throw new BadRecipe('isotome_recipe is not 1; this program reads version 1 recipes, so write "isotome_recipe": 1.');
        }
        $units = self::choice(Units::class, $document['units'] ?? 'mm', 'units');
        $steps = $document['steps'] ?? null;
        if (! is_array($steps) || ! array_is_list($steps) || $steps === []) {
            throw new BadRecipe('steps is not a list with at least one step; add one, such as {"do": "cut", …}.');
        }
        if (count($steps) > self::MOST_STEPS) {
            throw new BadRecipe('steps has '.count($steps).' entries; at most '.self::MOST_STEPS.' are run at once, so divide the recipe.');
        }
        $read = [];
        foreach ($steps as $i => $step) {
            $read[] = self::step($step, "steps[$i]", $units->millimetres());
        }

        return new self($units, $read);
    }

    private static function step(mixed $step, string $at, float $scale): CutStep
    {
        if (! is_array($step)) {
            throw new BadRecipe("$at is not an object; write it as {\"do\": \"cut\", …}.");
        }
        $do = $step['do'] ?? null;
        if ($do !== 'cut') {
            throw new BadRecipe("$at.do is ".self::shown($do).'; this version can do "cut".');
        }
        self::onlyKeys($step, ['do', 'blade', 'of', 'keep', 'kerf', 'kerf_side', 'seal', 'catch'], $at);
        $blade = $step['blade'] ?? null;
        if (! is_array($blade)) {
            throw new BadRecipe("$at.blade is missing; write {\"kind\": \"flat\", \"through\": [x, y, z], \"facing\": [x, y, z]}.");
        }
        if (($blade['kind'] ?? null) !== 'flat') {
            throw new BadRecipe("$at.blade.kind is ".self::shown($blade['kind'] ?? null).'; this version knows "flat".');
        }
        self::onlyKeys($blade, ['kind', 'through', 'facing'], "$at.blade");
        $through = array_map(static fn (float $c): float => $c * $scale, self::triple($blade['through'] ?? null, "$at.blade.through"));
        $facing = self::triple($blade['facing'] ?? null, "$at.blade.facing");
        try {
            $plane = Plane::through($through, $facing);
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at.blade: ".$refusal->getMessage());
        }
        $kerf = self::number($step['kerf'] ?? 0, "$at.kerf") * $scale;
        if ($kerf < 0) {
            throw new BadRecipe("$at.kerf is negative; give the width of material to remove, 0 or more.");
        }
        if (self::number($step['catch'] ?? 0, "$at.catch") !== 0.0) {
            throw new BadRecipe("$at.catch is not 0; this version does not take vertices onto the blade yet, so leave it out.");
        }

        return new CutStep(
            new FlatBlade(
                $plane,
                self::choice(Keep::class, $step['keep'] ?? 'both', "$at.keep"),
                self::choice(Seal::class, $step['seal'] ?? 'lean', "$at.seal"),
                $kerf,
                self::choice(KerfSide::class, $step['kerf_side'] ?? 'centre', "$at.kerf_side"),
            ),
            self::names($step['of'] ?? ['*'], "$at.of"),
            $through,
            $facing,
        );
    }

    /**
     * @param  array<mixed>  $object
     * @param  list<string>  $known
     */
    private static function onlyKeys(array $object, array $known, string $at): void
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
    private static function choice(string $enum, mixed $value, string $at): \BackedEnum
    {
        return (is_string($value) ? $enum::tryFrom($value) : null) ?? throw new BadRecipe(
            "$at is ".self::shown($value).'; choose one of '.implode(', ', array_map(static fn (\BackedEnum $case): string => (string) $case->value, $enum::cases())).'.',
        );
    }

    private static function number(mixed $value, string $at): float
    {
        if ((! is_int($value) && ! is_float($value)) || ! is_finite((float) $value)) {
            throw new BadRecipe("$at is ".self::shown($value).'; give an ordinary number.');
        }

        return (float) $value;
    }

    /** @return array{float, float, float} */
    private static function triple(mixed $value, string $at): array
    {
        if (! is_array($value) || ! array_is_list($value) || count($value) !== 3) {
            throw new BadRecipe("$at is ".self::shown($value).'; give three numbers, [x, y, z].');
        }

        return [self::number($value[0], "{$at}[0]"), self::number($value[1], "{$at}[1]"), self::number($value[2], "{$at}[2]")];
    }

    /** @return list<string> */
    private static function names(mixed $value, string $at): array
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

    private static function shown(mixed $value): string
    {
        $json = json_encode($value, JSON_PARTIAL_OUTPUT_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE);

        return $value === null ? 'missing' : mb_strimwidth($json === false ? 'unreadable' : $json, 0, 60, '…');
    }
}
