<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Closure;
use Isotome\Mesh\Mesh;

/**
 * The same as Combined, for large meshes of which little meets: only triangles that another shell comes near are arranged, and the rest stays as it is or goes as a whole.
 *
 * Guarantees those of Combined, for meshes without open edges and edges of more than two faces, but for what crosses itself away from all other meshes: that stays as it was. Where a mesh crosses itself near others, or anything else is out of the ordinary, it leaves the work to
 * Combined.
 *
 * Source: classifying what hangs together by one ray, G. Cherchi, F. Pellacini, M. Attene, M. Livesu, "Interactive and robust mesh booleans" (2022); common practice.
 */
final class Locally
{
    /** Triangles altogether, below which all are arranged. */
    private const LEAST = 8_000;

    /** Share of them that may be near. */
    private const NEAR = 0.5;

    /**
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(list<int>): bool  $rule  of the winding numbers at a place
     * @param  int|null  $tag  of faces of all meshes but the first; their own when null
     * @param  Closure(float): void|null  $progress
     * @param  int  $least  triangles altogether
     * @param  float  $most  share of them that may be near
     * @return Extracted|null null when all of it is to be arranged
     */
    public static function combined(array $meshes, Closure $rule, ?int $tag, ?Closure $progress, int $least = self::LEAST, float $most = self::NEAR): ?Extracted
    {
        $triangles = array_sum(array_map(static fn (Mesh $mesh): int => $mesh->triangleCount(), $meshes));
        if (count($meshes) < 2 || $triangles < $least) {
            return null;
        }
        $near = Near::of($meshes);
        if ($near === null || array_sum(array_map(count(...), $near)) > $most * $triangles) {
            return null;
        }
        $progress === null ?: $progress(0.1);
        $far = Far::of($meshes, $near);
        $all = Arrangement::of(array_map($far->active(...), array_keys($meshes)), $progress === null ? null : static fn (float $share) => $progress(0.1 + 0.6 * $share));
        if ($all->isSelfMet) {
            return null;
        }
        $windings = new Windings($all, count($meshes), $far);
        $patches = Patches::of($all, $windings);
        [$pointOf, $border] = self::border($all, $far, $patches);
        $together = $border === null ? null : self::together($all, $patches, $border);
        if ($border === null || $together === null) {
            return null;
        }
        $sides = self::sides($windings, $patches, $together, $rule, $progress);
        if ($sides === null) {
            return null;
        }
        $taken = Taken::of($all, $patches->patches, $sides, $tag, static fn (int $m, int $source): int => $meshes[$m]->tags[$far->near[$m][$source]]);

        return self::whole($all, $far, $taken, array_diff_key($all->joined + $patches->crowded + $taken->touched, $border), $pointOf, self::partSides($together, $sides, $far->parts), $tag);
    }

    /**
     * The points that near and far triangles share.
     *
     * @return array{array<int, array<int, int>>, array<int, int>|null} by mesh, points by vertices; far parts by points, null when there is something else at one of them
     */
    private static function border(Arrangement $all, Far $far, Patches $patches): array
    {
        $border = $pointOf = $meshAt = [];
        foreach ($all->mesh as $n => $m) {
            $t = 3 * $far->near[$m][$all->source[$n]];
            for ($k = 0; $k < 3; $k++) {
                $v = $far->meshes[$m]->corners[$t + $k];
                $part = $far->border[$m][$v] ?? -1;
                if ($part < 0) {
                    continue;
                }
                $point = $all->given[3 * $n + $k];
                if (isset($all->joined[$point]) || isset($patches->crowded[$point]) || ($border[$point] ?? $part) !== $part || ($meshAt[$point] ?? $m) !== $m) {
                    return [[], null];
                }
                $border[$point] = $part;
                $meshAt[$point] = $m;
                $pointOf[$m][$v] = $point;
            }
        }

        return [$pointOf, $border];
    }

    /**
     * Patches that are joined by far parts, and by patches with these again.
     *
     * @param  array<int, int>  $border
     * @return array{list<int>, array<int, int>}|null the lowest patch that each patch is joined with, and a patch of each far part that has a border
     */
    private static function together(Arrangement $all, Patches $patches, array $border): ?array
    {
        $root = array_keys($patches->patches);
        $patchOf = [];
        $find = static function (int $n) use (&$root): int {
            while ($root[$n] !== $n) {
                $n = $root[$n] = $root[$root[$n]];
            }

            return $n;
        };
        foreach ($patches->patches as $n => $patch) {
            foreach ($patch as $t) {
                for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                    $part = $border[$all->corners[$k]] ?? -1;
                    if ($part < 0) {
                        continue;
                    }
                    if (isset($all->more[$t])) {
                        return null;
                    }
                    $patchOf[$part] ??= $n;
                    $one = $find($n);
                    $two = $find($patchOf[$part]);
                    $root[max($one, $two)] = min($one, $two);
                }
            }
        }

        return [array_map($find, array_keys($root)), $patchOf];
    }

    /**
     * @param  array{list<int>, array<int, int>}  $together
     * @param  Closure(list<int>): bool  $rule
     * @param  Closure(float): void|null  $progress
     * @return list<bool|null>|null of each patch, whether the rule holds before it and not behind (then it is turned over), or the other way round; null for neither; null for all when something winds unlike a simple
     *     shell
     */
    private static function sides(Windings $windings, Patches $patches, array $together, Closure $rule, ?Closure $progress): ?array
    {
        [$root, $patchOf] = $together;
        $hasFar = [];
        foreach ($patchOf as $n) {
            $hasFar[$root[$n]] = true;
        }
        /** @var list<bool|null> $sides */
        $sides = [];
        foreach ($root as $n => $r) {
            $progress === null ?: $progress(0.7 + 0.2 * $n / count($root));
            if ($r < $n) {
                $sides[] = $sides[$r];

                continue;
            }
            $t = $patches->patches[$n][0];
            $before = $windings->before($t);
            $more = $windings->between($t);
            if (isset($hasFar[$n]) && ! self::isSimple($before, $more)) {
                return null;
            }
            $isBefore = $rule($before);
            $sides[] = $isBefore === $rule(array_map(static fn (int $one, int $other): int => $one + $other, $before, $more)) ? null : $isBefore;
        }

        return $sides;
    }

    /**
     * Of a single mesh, which does not wind before it and winds once behind; or turned over.
     *
     * @param  list<int>  $before
     * @param  list<int>  $more
     */
    private static function isSimple(array $before, array $more): bool
    {
        foreach ($more as $m => $one) {
            if ($one !== 0 && ($before[$m] !== ($one > 0 ? 0 : 1) || abs($one) !== 1)) {
                return false;
            }
        }

        return array_filter($more) !== [];
    }

    /**
     * @param  array{list<int>, array<int, int>}  $together
     * @param  list<bool|null>  $sides
     * @return list<bool|null> of each far part
     */
    private static function partSides(array $together, array $sides, int $parts): array
    {
        $of = [];
        for ($part = 0; $part < $parts; $part++) {
            $of[] = isset($together[1][$part]) ? $sides[$together[1][$part]] : null;
        }

        return $of;
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
