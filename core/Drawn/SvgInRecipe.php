<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Closure;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Exception\UnreadableMesh;

/**
 * Drawn blades of a recipe that name an SVG file get its outlines: laid on the page that their line of sight looks at, the middle of the drawing at "at" (the origin when it is left out). What is done
 * afterwards needs the file no more.
 */
final class SvgInRecipe
{
    /**
     * @param  array<mixed>  $recipe  as decoded
     * @param  float  $unit  mm of the recipe's unit
     * @param  Closure(string): ?string  $open  the bytes of a file beside the recipe; null when there is none
     * @return array<mixed>
     *
     * @throws BadRecipe
     */
    public static function filled(array $recipe, float $unit, Closure $open): array
    {
        if (! is_array($recipe['steps'] ?? null)) {
            return $recipe;
        }
        foreach ($recipe['steps'] as $n => $step) {
            $blade = is_array($step) ? $step['blade'] ?? null : null;
            if (! is_array($step) || ! is_array($blade) || ($blade['kind'] ?? null) !== 'drawn' || ! array_key_exists('svg', $blade)) {
                continue;
            }
            $at = "steps[$n].blade";
            $name = $blade['svg'];
            if (! is_string($name) || $name === '' || $name !== basename($name) || str_starts_with($name, '.')) {
                throw new BadRecipe("$at.svg is no plain file name; put the drawing beside the recipe and write its name.");
            }
            foreach (['points', 'lines'] as $other) {
                if (isset($blade[$other])) {
                    throw new BadRecipe("$at has both svg and $other; give one of them.");
                }
            }
            $bytes = $open($name) ?? throw new BadRecipe("$at.svg: there is no file ".mb_strimwidth($name, 0, 60, '…').' beside the recipe; check its name.');
            $middle = self::triple($blade['at'] ?? [0, 0, 0], "$at.at");
            try {
                $sight = isset($blade['eye']) ? Sight::from(self::triple($blade['eye'], "$at.eye"), $middle) : Sight::along(self::triple($blade['along'] ?? null, "$at.along"));
                $drawing = SvgOutlines::read($bytes);
            } catch (UnreadableMesh|BadBlade $refusal) {
                throw new BadRecipe("$at: ".$refusal->getMessage());
            }
            $blade['lines'] = array_map(static fn (array $line): array => array_map(static function (array $p) use ($sight, $middle, $unit): array {
                [$u, $v] = [$p[0] / $unit, $p[1] / $unit];

                return [
                    $middle[0] + $u * $sight->right[0] + $v * $sight->up[0], $middle[1] + $u * $sight->right[1] + $v * $sight->up[1], $middle[2] + $u * $sight->right[2] + $v * $sight->up[2],
                ];
            }, $line), $drawing->lines);
            $blade['shape'] ??= Shape::Outline->value;
            unset($blade['svg'], $blade['at']);
            $step['blade'] = $blade;
            $recipe['steps'][$n] = $step;
        }

        return $recipe;
    }

    /**
     * @return array{float, float, float}
     *
     * @throws BadRecipe
     */
    private static function triple(mixed $given, string $at): array
    {
        if (! is_array($given) || count($given) !== 3 || ! array_is_list($given) || ! is_numeric($given[0]) || ! is_numeric($given[1]) || ! is_numeric($given[2])) {
            throw new BadRecipe("$at is not three numbers; give three numbers, [x, y, z].");
        }

        return [(float) $given[0], (float) $given[1], (float) $given[2]];
    }
}
