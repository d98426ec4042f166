<?php

declare(strict_types=1);

namespace Isotome\Operation;

/**
 * A recipe that names the pieces of one stock, written for another: heron, heron-A and heron-A* become jar, jar-A and jar-A*.
 * The old stock's name is what all names of pieces have in common before the letters of the cuts.
 */
final class Rebase
{
    /**
     * @param  array<string, mixed>  $recipe  as JSON gives it
     * @return array<string, mixed> the same when it names no piece, several stocks, or the new stock already
     */
    public static function onto(array $recipe, string $stock): array
    {
        $old = null;
        $steps = is_array($recipe['steps'] ?? null) ? $recipe['steps'] : [];
        foreach ($steps as $step) {
            foreach (is_array($step) && is_array($step['of'] ?? null) ? $step['of'] : [] as $name) {
                if (! is_string($name) || $name === '*') {
                    continue;
                }
                // A name of the new stock's own needs nothing.
                if ($name === $stock || str_starts_with($name, "$stock-") || $name === "$stock*") {
                    return $recipe;
                }
                $root = (string) preg_replace('/(-[A-Z]+)*\*?$/', '', $name);
                if ($old !== null && $old !== $root) {
                    return $recipe;
                }
                $old = $root;
            }
        }
        if ($old === null) {
            return $recipe;
        }
        foreach ($steps as $n => $step) {
            if (is_array($step) && is_array($step['of'] ?? null)) {
                $step['of'] = array_map(static fn (mixed $name): mixed => is_string($name) && $name !== '*' ? $stock.substr($name, strlen($old)) : $name, $step['of']);
                $steps[$n] = $step;
            }
        }

        return [...$recipe, 'steps' => $steps];
    }
}
