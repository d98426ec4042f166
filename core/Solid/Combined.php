<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Closure;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Together;
use Isotome\Mesh\Volume;

/**
 * The solid that a rule makes of meshes: all places where the rule holds of how often each mesh winds around them.
 *
 * Guarantees, for closed meshes in any position, crossing themselves, flush or equal: no open edge, no edge with more than two faces, faces outward; nothing of
 * volume 0 (Film). Triangles that met nothing are the given ones, in place and whole (but where Snapped had to move what they touch). Tags are those of the triangles that each one is a part of (marks too, see Mark).
 *
 * Source: Q. Zhou, E. Grinspun, D. Zorin, A. Jacobson, "Mesh arrangements for solid geometry" (2016).
 */
final class Combined
{
    /** So often what rounding crossed is resolved again. */
    private const ROUNDS = 3;

    /** Lines within the largest coordinate, of the grids to which places are moved that doubles cannot tell apart: all far finer than single numbers. */
    public const GRIDS = [2 ** 37, 2 ** 35, 2 ** 33, 2 ** 31];

    /**
     * All that is in any of them.
     *
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @return list<array{Mesh, list<int>}> see bodies()
     */
    public static function unite(array $meshes, ?Closure $progress = null): array
    {
        return self::bodies($meshes, static fn (array $windings): bool => max(0, ...$windings) > 0, null, $progress);
    }

    /**
     * What is in all of them.
     *
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(float): void|null  $progress
     * @return list<array{Mesh, list<int>}>
     */
    public static function common(array $meshes, ?Closure $progress = null): array
    {
        return self::bodies($meshes, static fn (array $windings): bool => min(1, ...$windings) > 0, null, $progress);
    }

    /**
     * What is in the first and in none of the others.
     *
     * @param  non-empty-list<Mesh>  $meshes
     * @param  int  $tag  of the faces that the others leave
     * @param  Closure(float): void|null  $progress
     * @return list<array{Mesh, list<int>}>
     */
    public static function subtract(array $meshes, int $tag, ?Closure $progress = null): array
    {
        return self::bodies($meshes, static fn (array $windings): bool => $windings[0] > 0 && max(0, ...array_slice($windings, 1)) <= 0, $tag, $progress);
    }

    /**
     * The result body by body, and which of the meshes each has faces of.
     *
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(list<int>): bool  $rule  of the winding numbers at a place
     * @param  int|null  $tag  of faces of all meshes but the first; their own when null
     * @param  Closure(float): void|null  $progress
     * @return list<array{Mesh, list<int>}>
     */
    public static function bodies(array $meshes, Closure $rule, ?int $tag, ?Closure $progress = null): array
    {
        $made = self::whole($meshes, $rule, $tag, $progress);
        $bodies = $volumes = [];
        $parts = self::withVolume($made->solid);
        foreach ($parts as $body) {
            $from = $own = [];
            foreach ($body->tags as $n) {
                $from[$made->of[$n - 1]] = true;
                $own[] = $made->tags[$n - 1];
            }
            ksort($from);
            $bodies[] = [$of = Mesh::of($body->xyz, $body->corners, $own), array_keys($from)];
            $made->mayCrossInFiles && FileProof::isInDoubt($of);
            $volumes[] = count($parts) > 1 ? Volume::of($body) : 0.0;
        }
        $order = array_keys($bodies);
        // By the first mesh that each is of; the largest first.
        usort($order, static fn (int $a, int $b): int => ($bodies[$a][1][0] ?? 0) <=> ($bodies[$b][1][0] ?? 0) ?: $volumes[$b] <=> $volumes[$a]);

        return array_map(static fn (int $n): array => $bodies[$n], $order);
    }

    /**
     * The result as one mesh.
     *
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(list<int>): bool  $rule
     * @param  Closure(float): void|null  $progress
     */
    public static function solid(array $meshes, Closure $rule, ?Closure $progress = null): Mesh
    {
        $made = self::whole($meshes, $rule, null, $progress);
        $solid = Together::of(self::withVolume($made->solid));

        $solid = Mesh::of($solid->xyz, $solid->corners, array_map(static fn (int $n): int => $made->tags[$n - 1], $solid->tags));

        return $made->mayCrossInFiles ? FileProof::isInDoubt($solid) : $solid;
    }

    /** @return list<Mesh> the bodies that are not nothing */
    private static function withVolume(Mesh $solid): array
    {
        return array_values(array_filter(Bodies::of($solid), static fn (Mesh $body): bool => ! Film::is($body)));
    }

    /**
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(list<int>): bool  $rule
     * @param  Closure(float): void|null  $progress
     */
    private static function whole(array $meshes, Closure $rule, ?int $tag, ?Closure $progress): Extracted
    {
        $try = new SecondTry($progress);
        $made = Locally::combined($meshes, $rule, $tag, $try->first());
        if ($made !== null) {
            return $made;
        }
        $progress = $try->second();
        $made = $first = self::resolved($meshes, $rule, $tag, $progress);
        foreach (self::GRIDS as $lines) {
            if (! $made->isCrossed) {
                break;
            }
            // Too close to each other for doubles: where they meet, they are moved by less than a file keeps.
            $made = self::resolved(Snapped::of($meshes, $first->all, $lines), $rule, $tag, self::atTheEnd($progress));
        }

        return $made;
    }

    /**
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(list<int>): bool  $rule
     * @param  Closure(float): void|null  $progress
     */
    private static function resolved(array $meshes, Closure $rule, ?int $tag, ?Closure $progress): Extracted
    {
        $made = self::once($meshes, $rule, $tag, $progress);
        for ($round = 0; $made->isCrossed && $round < self::ROUNDS; $round++) {
            // Rounding brought faces through each other: what is inside is asked once more, of the rounded faces; then without what is next to nothing.
            $solid = $round === 0 ? $made->solid : Gathered::of($made->solid);
            $made = $made->resolvedTo(self::once([$solid], static fn (array $windings): bool => $windings[0] > 0, null, self::atTheEnd($progress)));
        }

        return $made;
    }

    /**
     * Work that comes after the end says no more how far it is, but can be stopped like the rest.
     *
     * @param  Closure(float): void|null  $progress
     * @return Closure(float): void|null
     */
    private static function atTheEnd(?Closure $progress): ?Closure
    {
        return $progress === null ? null : static fn (float $share) => $progress(1.0);
    }

    /**
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(list<int>): bool  $rule
     * @param  Closure(float): void|null  $progress
     */
    private static function once(array $meshes, Closure $rule, ?int $tag, ?Closure $progress): Extracted
    {
        $survey = Survey::of($meshes, $progress);
        $all = $survey->all;
        $taken = Taken::of($all, $survey->patches->patches, $survey->taken($rule), $tag, static fn (int $m, int $t): int => $meshes[$m]->tags[$t]);
        $given = $taken->given;
        [$xyz, $numbers, $faces] = Wedges::apart($all, $taken->corners, $taken->planes, $all->joined + $survey->patches->crowded + $taken->touched);
        $numbers = Redrawn::of($all, $taken->triangles, $taken->corners, $numbers, $faces);
        $solid = Mesh::of($xyz, $numbers, array_map(static fn (int $face): int => $face + 1, $faces));
        if (count($faces) > count($taken->planes)) {
            // Some were divided.
            $parts = array_count_values($faces);
            $numbered = [];
            foreach ($faces as $n => $face) {
                if (isset($given[$face]) && $parts[$face] === 1) {
                    $numbered[$n] = $given[$face];
                }
            }
            $given = $numbered;
        }

        $near = Rounded::near($all, $solid, $given);
        $isCrossed = Rounded::crosses($near);

        return new Extracted($solid, $taken->of, $taken->tags, $isCrossed, $all, $isCrossed || Rounded::mayCrossInFiles($solid, $near));
    }
}
