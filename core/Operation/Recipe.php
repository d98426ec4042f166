<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Closure;
use Isotome\Drawn\SvgInRecipe;
use Isotome\Exception\BadRecipe;
use Isotome\Format\Units;
use Isotome\Schema\Shown;

/** Version 1 of the recipe: steps in order. Every part is validated; a message names the part's place in the document. */
final readonly class Recipe
{
    public const LARGEST_BYTES = 2_400_000;

    /** Triangles that a step may be limited to. */
    public const MOST_FACES = 100_000;

    private const MOST_STEPS = 1000;

    private const KEYS = ['isotome_recipe', 'units', 'steps'];

    /** @param  list<Step>  $steps */
    private function __construct(
        public Units $units,
        public array $steps,
    ) {
    }

    /**
     * @param  Closure(string): ?string|null  $beside  opens a file beside the recipe; null where there are none
     *
     * @throws BadRecipe
     */
    public static function fromJson(string $json, ?Closure $beside = null): self
    {
        if (strlen($json) > self::LARGEST_BYTES) {
            throw new BadRecipe('The recipe is longer than 2.4 MB; check that this is the right file, or take out pictures of its paint steps.');
        }
        $document = json_decode($json, true, 16);
        if (! is_array($document)) {
            throw new BadRecipe('The recipe is not a JSON object ('.json_last_error_msg().'); check it with a JSON validator.');
        }

        if ($beside !== null) {
            $units = $document['units'] ?? 'mm';
            $document = SvgInRecipe::filled($document, (is_string($units) ? Units::tryFrom($units) : null)?->millimetres() ?? 1.0, $beside);
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
        foreach (array_keys($document) as $key) {
            if (! in_array($key, self::KEYS, true)) {
                throw new BadRecipe('the recipe has the unknown key '.Shown::of($key).'; known are '.implode(', ', self::KEYS).'.');
            }
        }
        if (($document['isotome_recipe'] ?? null) !== 1) {
            throw new BadRecipe('isotome_recipe is not 1; this program reads version 1 recipes, so write "isotome_recipe": 1.');
        }
        $given = $document['units'] ?? 'mm';
        $units = (is_string($given) ? Units::tryFrom($given) : null) ?? throw new BadRecipe(
            'units is '.Shown::of($given).'; choose one of '.implode(', ', array_map(static fn (Units $one): string => $one->value, Units::cases())).'.',
        );
        $steps = $document['steps'] ?? null;
        if (! is_array($steps) || ! array_is_list($steps) || $steps === []) {
            throw new BadRecipe('steps is not a list with at least one step; add one, such as {"do": "cut", …}.');
        }
        if (count($steps) > self::MOST_STEPS) {
            throw new BadRecipe('steps has '.count($steps).' entries; at most '.self::MOST_STEPS.' are run at once, so divide the recipe.');
        }
        $read = [];
        foreach ($steps as $i => $step) {
            if (! is_array($step)) {
                throw new BadRecipe("steps[$i] is not an object; write it as {\"do\": \"cut\", …}.");
            }
            $read[] = Kinds::read($step, "steps[$i]", $units->millimetres());
        }

        return new self($units, $read);
    }

    /** @return array<string, mixed> as it is written, in millimetres */
    public function toArray(): array
    {
        return ['isotome_recipe' => 1, 'units' => 'mm', 'steps' => array_map(static fn (Step $step): array => $step->toArray(), $this->steps)];
    }
}
