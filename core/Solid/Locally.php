<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Closure;
use Isotome\Mesh\Mesh;

/**
 * The same as Combined, for large meshes of which little meets: what is far from all others stays as it is or goes as a whole.
 *
 * Guarantees those of Combined, for meshes without open edges and edges of more than two faces, but for what crosses itself away from all other meshes: that stays as it was. Where LocalArrangement cannot tell, it leaves
 * the work to Combined.
 */
final class Locally
{
    /**
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(list<int>): bool  $rule  of the winding numbers at a place
     * @param  int|null  $tag  of faces of all meshes but the first; their own when null
     * @param  Closure(float): void|null  $progress
     * @return Extracted|null null when all of it is to be arranged
     */
    public static function combined(array $meshes, Closure $rule, ?int $tag, ?Closure $progress, ?LocalArrangement $local = null): ?Extracted
    {
        $local ??= LocalArrangement::of($meshes, $progress);
        if ($local === null) {
            return null;
        }
        $sides = [];
        foreach ($local->before as $n => $before) {
            $isBefore = $rule($before);
            $sides[] = $isBefore === $rule(array_map(static fn (int $one, int $other): int => $one + $other, $before, $local->more[$n])) ? null : $isBefore;
        }
        $partSides = [];
        for ($part = 0; $part < $local->far->parts; $part++) {
            $partSides[] = isset($local->patchOf[$part]) ? $sides[$local->patchOf[$part]] : null;
        }
        $far = $local->far;
        $taken = Taken::of($local->all, $local->patches->patches, $sides, $tag, static fn (int $m, int $source): int => $meshes[$m]->tags[$far->near[$m][$source]]);
        $border = [];
        foreach ($local->pointOf as $points) {
            $border += array_flip($points);
        }

        return self::whole($local->all, $far, $taken, array_diff_key($local->all->joined + $local->patches->crowded + $taken->touched, $border), $local->pointOf, $partSides, $tag);
    }

    /**
     * What was taken of the near triangles, and the far ones with it.
     *
     * @param  array<int, true>  $isTouched
     * @param  array<int, array<int, int>>  $pointOf  by mesh and vertex, where near and far triangles meet
     * @param  list<bool|null>  $partSides
     */
    private static function whole(Arrangement $near, Far $far, Taken $taken, array $isTouched, array $pointOf, array $partSides, ?int $tag): ?Extracted
    {
        [$xyz, $numbers, $faces] = Wedges::apart($near, $taken->corners, $taken->planes, $isTouched);
        if (count($faces) !== count($taken->planes)) {
            return null;
        }
        // Where far triangles go on, each point has one vertex.
        $numberAt = [];
        foreach ($taken->corners as $i => $point) {
            $numberAt[$point] = $numbers[$i];
        }
        $numbers = Redrawn::of($near, $taken->triangles, $taken->corners, $numbers, $faces);
        if (Rounded::crosses($near, Mesh::of($xyz, $numbers, $faces), $taken->given)) {
            return null;
        }
        $of = $taken->of;
        $tags = $taken->tags;
        $next = intdiv(count($xyz), 3);
        foreach ($far->meshes as $m => $mesh) {
            $all = $mesh->xyz;
            $corners = $mesh->corners;
            $partOf = $far->partOf[$m];
            $isNear = $far->isNear[$m];
            $map = array_fill(0, max(1, $mesh->vertexCount()), -1);
            foreach ($pointOf[$m] ?? [] as $v => $point) {
                $map[$v] = $numberAt[$point] ?? -1;
            }
            foreach ($mesh->tags as $t => $own) {
                if ($isNear[$t]) {
                    continue;
                }
                $i = 3 * $t;
                $isTurned = $partSides[$partOf[$corners[$i]]];
                if ($isTurned === null) {
                    continue;
                }
                $a = $corners[$i];
                $b = $corners[$i + ($isTurned ? 2 : 1)];
                $c = $corners[$i + ($isTurned ? 1 : 2)];
                if ($map[$a] < 0) {
                    $map[$a] = $next++;
                    $xyz[] = $all[3 * $a];
                    $xyz[] = $all[3 * $a + 1];
                    $xyz[] = $all[3 * $a + 2];
                }
                if ($map[$b] < 0) {
                    $map[$b] = $next++;
                    $xyz[] = $all[3 * $b];
                    $xyz[] = $all[3 * $b + 1];
                    $xyz[] = $all[3 * $b + 2];
                }
                if ($map[$c] < 0) {
                    $map[$c] = $next++;
                    $xyz[] = $all[3 * $c];
                    $xyz[] = $all[3 * $c + 1];
                    $xyz[] = $all[3 * $c + 2];
                }
                $numbers[] = $map[$a];
                $numbers[] = $map[$b];
                $numbers[] = $map[$c];
                $of[] = $m;
                $tags[] = $m > 0 && $tag !== null ? $tag : $own;
            }
        }

        return new Extracted(Mesh::of($xyz, $numbers, $tags === [] ? [] : range(1, count($tags))), $of, $tags, false, $near);
    }
}
