<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Closure;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/**
 * The solid that a rule makes of meshes: all places where the rule holds of how often each mesh winds around them.
 *
 * Guarantees, for closed meshes in any position, crossing themselves, flush or equal: no open edge, no edge with more than two faces, faces outward; nothing of
 * volume 0. Triangles that were not crossed are the given ones, in place and whole. Tags are those of the triangles that each one is a part of (marks too, see Mark).
 *
 * Source: Q. Zhou, E. Grinspun, D. Zorin, A. Jacobson, "Mesh arrangements for solid geometry" (2016).
 */
final class Combined
{
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
        [$solid, $of, $tags] = self::whole($meshes, $rule, $tag, $progress);
        $bodies = $volumes = [];
        foreach (Bodies::of($solid) as $body) {
            $from = $own = [];
            foreach ($body->tags as $n) {
                $from[$of[$n - 1]] = true;
                $own[] = $tags[$n - 1];
            }
            ksort($from);
            $bodies[] = [Mesh::of($body->xyz, $body->corners, $own), array_keys($from)];
            $volumes[] = Volume::measure($body)->volume;
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
     */
    public static function solid(array $meshes, Closure $rule): Mesh
    {
        [$solid, , $tags] = self::whole($meshes, $rule, null, null);

        return Mesh::of($solid->xyz, $solid->corners, array_map(static fn (int $n): int => $tags[$n - 1], $solid->tags));
    }

    /**
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(list<int>): bool  $rule
     * @param  Closure(float): void|null  $progress
     * @return array{Mesh, list<int>, list<int>} the result, faces numbered from 1 by their tags; of each face the mesh, and the tag that it is to have
     */
    private static function whole(array $meshes, Closure $rule, ?int $tag, ?Closure $progress): array
    {
        $all = Arrangement::of($meshes, $progress === null ? null : static fn (float $share) => $progress(0.8 * $share));
        $windings = new Windings($all, count($meshes));
        $corners = $of = $tags = $planes = [];
        $isTouched = $all->joined;
        $patches = Patches::of($all, $windings);
        foreach ($patches as $n => $patch) {
            $progress === null ?: $progress(0.8 + 0.2 * $n / count($patches));
            $before = $windings->before($patch[0]);
            $isBefore = $rule($before);
            if ($isBefore === $rule(array_map(static fn (int $one, int $more): int => $one + $more, $before, $windings->between($patch[0])))) {
                continue;
            }
            // Outward is where the rule does not hold.
            foreach ($patch as $t) {
                [$a, $b, $c] = [$all->corners[3 * $t], $all->corners[3 * $t + 1], $all->corners[3 * $t + 2]];
                array_push($corners, $a, ...($isBefore ? [$c, $b] : [$b, $c]));
                $planes[] = $part = self::part($all->parts[$t], $isBefore);
                $of[] = $mesh = $all->mesh[abs($part) - 1];
                if ($t >= $all->whole) {
                    $isTouched[$a] = $isTouched[$b] = $isTouched[$c] = true;
                }
                $tags[] = $mesh > 0 && $tag !== null ? $tag : $meshes[$mesh]->tags[$all->source[abs($part) - 1]];
            }
        }
        [$xyz, $numbers, $faces] = Wedges::apart($all, $corners, $planes, $isTouched);

        return [Mesh::of($xyz, $numbers, array_map(static fn (int $face): int => $face + 1, $faces)), $of, $tags];
    }

    /**
     * Of all given triangles that lie there the first that looks the same way, if there is one.
     *
     * @param  list<int>  $parts
     */
    private static function part(array $parts, bool $isTurned): int
    {
        foreach ($parts as $part) {
            if (($part < 0) === $isTurned) {
                return $part;
            }
        }

        return $parts[0];
    }
}
