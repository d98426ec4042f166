<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Closure;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;

/**
 * The same as Combined, for large meshes of which little meets: what is far from all others stays as it is or goes as a whole.
 *
 * Guarantees those of Combined, for meshes without open edges and edges of more than two faces, but for what crosses itself away from all other meshes: that stays as it was. Where Survey cannot tell by near triangles,
 * it leaves the work to Combined.
 */
final class Locally
{
    /**
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(list<int>): bool  $rule  of the winding numbers at a place
     * @param  int|null  $tag  of faces of all meshes but the first; their own when null
     * @param  Closure(float): void|null  $progress
     * @param  Survey|null  $survey  of near triangles, if it is there
     * @return Extracted|null null when all of it is to be arranged
     */
    public static function combined(array $meshes, Closure $rule, ?int $tag, ?Closure $progress, ?Survey $survey = null): ?Extracted
    {
        $survey ??= Survey::near($meshes, $progress);
        $far = $survey?->far;
        if ($survey === null || $far === null) {
            return null;
        }
        $sides = $survey->taken($rule);
        $taken = Taken::of($survey->all, $survey->patches->patches, $sides, $tag, static fn (int $m, int $source): int => $meshes[$m]->tags[$far->near[$m][$source]]);
        [$xyz, $numbers, $faces] = Wedges::apart($survey->all, $taken->corners, $taken->planes, array_diff_key($survey->all->joined + $survey->patches->crowded + $taken->touched, $survey->border()));
        if (count($faces) !== count($taken->planes)) {
            return null;
        }
        // Where far triangles go on, each point has one vertex.
        $vertexAt = [];
        foreach ($taken->corners as $i => $point) {
            $vertexAt[$point] = $numbers[$i];
        }
        $numbers = Redrawn::of($survey->all, $taken->triangles, $taken->corners, $numbers, $faces);
        $made = Mesh::of($xyz, $numbers, $faces);
        $near = Rounded::near($survey->all, $made, $taken->given);
        if (Rounded::crosses($near)) {
            return null;
        }
        $mayCrossInFiles = Rounded::mayCrossInFiles($made, $near);
        $partSides = [];
        for ($part = 0; $part < $far->parts; $part++) {
            $partSides[] = isset($survey->patchOf[$part]) ? $sides[$survey->patchOf[$part]] : null;
        }
        $progress === null ?: $progress(0.95);
        $isOne = self::isOne(Mesh::of($xyz, $numbers), $survey, $vertexAt, $partSides);
        [$xyz, $numbers, $ofFar, $farTags] = $far->beside($xyz, $numbers, $survey->pointOf, $vertexAt, $partSides);
        if ($tag !== null) {
            $own = array_count_values($ofFar)[0] ?? 0;
            $farTags = [...array_slice($farTags, 0, $own), ...array_fill(0, count($farTags) - $own, $tag)];
        }
        $tags = [...$taken->tags, ...$farTags];
        $solid = Mesh::of($xyz, $numbers, $tags === [] ? [] : range(1, count($tags)));

        return new Extracted($isOne ? Bodies::isWhole($solid) : $solid, [...$taken->of, ...$ofFar], $tags, false, $survey->all, $mayCrossInFiles);
    }

    /**
     * Does all that is taken hang together?
     *
     * @param  Mesh  $near  what was made of near triangles
     * @param  array<int, int>  $vertexAt  by point
     * @param  list<bool|null>  $partSides  of each far part; null where it is left out
     */
    private static function isOne(Mesh $near, Survey $survey, array $vertexAt, array $partSides): bool
    {
        $shells = Bodies::shells($near);
        $root = $shells === [] ? [] : range(0, max(0, ...$shells));
        $find = static function (int $n) use (&$root): int {
            while ($root[$n] !== $n) {
                $n = $root[$n] = $root[$root[$n]];
            }

            return $n;
        };
        $first = [];
        foreach ($survey->pointOf as $m => $points) {
            foreach ($points as $v => $point) {
                $part = $survey->far->partOf[$m][$v] ?? -1;
                if (($partSides[$part] ?? null) === null || ! isset($vertexAt[$point])) {
                    continue;
                }
                $shell = $shells[$vertexAt[$point]];
                $first[$part] ??= $shell;
                $root[$find($shell)] = $find($first[$part]);
            }
        }

        return ! in_array(-1, $shells, true) && count($first) === count(array_filter($partSides, is_bool(...))) && count(array_unique(array_map($find, array_keys($root)))) === 1;
    }
}
