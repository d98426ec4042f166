<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Closure;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Compact;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/**
 * A body divided by surfaces: by sheets that reach through it, by closed surfaces, by any number of them that may cross each other.
 *
 * Guarantees, for a closed body in any position to the surfaces: every part is solid (no open edge, no edge with more than two faces, faces outward), the parts fill the body, and where two of
 * them part both have the same triangles. What ends within the body divides nothing there and leaves no trace. Faces of the body that met nothing are the given ones.
 *
 * Source: cells of an arrangement, Q. Zhou, E. Grinspun, D. Zorin, A. Jacobson, "Mesh arrangements for solid geometry" (2016). Here a cell is what hangs together when every wall has a face on either side
 * and faces around an edge are paired by the wedge of material between them.
 */
final readonly class Partition
{
    /** So often what rounding crossed is divided again. */
    private const ROUNDS = 3;

    /**
     * @param  list<Mesh>  $bodies  the parts, the largest first; just the body, when nothing divides it
     * @param  list<bool>  $behind  whether each lies behind any of the surfaces: within, where they are closed and face outward
     * @param  bool  $endsWithin  whether some surface ends within the body
     * @param  bool  $meets  whether any surface is within it at all
     */
    private function __construct(
        public array $bodies,
        public array $behind,
        public bool $endsWithin,
        public bool $meets,
    ) {
    }

    /**
     * @param  Mesh  $body  closed; where it winds more than once it is divided like once
     * @param  non-empty-list<Mesh>  $surfaces  open or closed, facing either way
     * @param  int  $tag  of the faces that they leave
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     */
    public static function by(Mesh $body, array $surfaces, int $tag, ?Closure $progress = null): self
    {
        $first = Arrangement::of([$body, ...$surfaces], $progress === null ? null : static fn (float $share) => $progress(0.8 * $share));
        [$made, $crossed] = self::resolved($first, $body, count($surfaces), $tag, $progress);
        foreach ($crossed === [] ? [] : Combined::GRIDS as $lines) {
            // Too close to each other for doubles: where they meet, they are moved by less than a file keeps.
            $snapped = Snapped::of([$body, ...$surfaces], $first, $lines);
            [$made, $crossed] = self::resolved(Arrangement::of($snapped), $snapped[0], count($surfaces), $tag, null);
            if ($crossed === []) {
                break;
            }
        }
        // If nothing helped, each is made solid by itself.
        $solid = static fn (Mesh $one, int $n): Mesh => isset($crossed[$n]) ? Combined::solid([$one], static fn (array $windings): bool => max(0, ...$windings) > 0) : $one;
        $bodies = array_map($solid, $made->bodies, array_keys($made->bodies));

        $order = count($bodies) > 1 ? self::sorted($bodies) : [];
        if (count($order) < 2) {
            return new self([$body], [false], $made->endsWithin, $made->meets);
        }

        return new self(array_map(static fn (int $n): Mesh => $bodies[$n], $order), array_map(static fn (int $n): bool => $made->behind[$n], $order), $made->endsWithin, $made->meets);
    }

    /**
     * @param  Arrangement  $all  of the body and of the surfaces
     * @param  Closure(float): void|null  $progress
     * @return array{self, array<int, true>} and the numbers of the bodies whose faces still cross since their corners were rounded
     */
    private static function resolved(Arrangement $all, Mesh $body, int $surfaces, int $tag, ?Closure $progress): array
    {
        $endsWithin = false;
        $last = null;
        for ($round = 0; ; $round++) {
            [$faces, $patches, $isTouched] = self::patches($all, $surfaces + 1, $round === 0 ? $progress : null);
            $parts = [];
            $meets = $patches !== [] || $round > 0;
            while ($patches !== []) {
                $parts = Bodies::of(self::shells($all, $faces, $patches, $isTouched));
                $dangling = self::dangling($parts, count($faces), $patches);
                if ($dangling === []) {
                    break;
                }
                $endsWithin = true;
                $patches = array_diff_key($patches, $dangling);
            }
            if ($patches === []) {
                // What parted it before rounding still does.
                return $last ?? [new self([$body], [false], $endsWithin, $meets), []];
            }
            [$bodies, $crossed] = self::tagged($all, $parts, $body, $faces, $tag);
            $last = [new self($bodies, self::behind($all, $parts, count($faces), $patches), $endsWithin, true), $crossed];
            if ($crossed === [] || $round === self::ROUNDS) {
                return $last;
            }
            // Rounding brought faces through each other: skin and walls, as they are rounded, are divided once more, so that both sides of a wall are still the same.
            $tags = array_map(static fn (array $face): int => $body->tags[$all->source[self::skinPart($all, $face[0]) - 1]], $faces);
            $body = self::mesh($all, $faces, $tags);
            $surfaces = 1;
            $all = Arrangement::of([$body, self::mesh($all, array_map(static fn (int $t): array => [$t, false], array_merge(...$patches)))]);
        }
    }

    /**
     * Triangles of an arrangement with their corners rounded.
     *
     * @param  list<array{int, bool}>  $faces
     * @param  list<int>|null  $tags
     */
    private static function mesh(Arrangement $all, array $faces, ?array $tags = null): Mesh
    {
        $corners = [];
        foreach ($faces as [$t, $isTurned]) {
            array_push($corners, $all->corners[3 * $t], $all->corners[3 * $t + ($isTurned ? 2 : 1)], $all->corners[3 * $t + ($isTurned ? 1 : 2)]);
        }
        [$xyz, $corners] = Compact::of($all->points->xyz, $corners);

        return Mesh::of($xyz, $corners, $tags);
    }

    /**
     * @param  Closure(float): void|null  $progress
     * @return array{list<array{int, bool}>, array<int, non-empty-list<int>>, array<int, true>} triangles of the body's skin and whether they are turned over; patches of surfaces within it; points
     *     at which something meets
     */
    private static function patches(Arrangement $all, int $meshes, ?Closure $progress): array
    {
        $windings = new Windings($all, $meshes);
        $patches = Patches::of($all, $windings);
        $skin = $walls = [];
        $isTouched = $all->joined + $patches->crowded;
        foreach ($patches->patches as $n => $patch) {
            $progress === null ?: $progress(0.8 + 0.2 * $n / count($patches->patches));
            $before = $windings->before($patch[0])[0];
            $behind = $before + $windings->between($patch[0])[0];
            $isSkin = ($before > 0) !== ($behind > 0);
            if (! $isSkin && ($before <= 0 || ! self::hasWall($all, $patch[0]))) {
                continue;
            }
            $isSkin ?: $walls[] = $patch;
            foreach ($patch as $t) {
                ! $isSkin ?: $skin[] = [$t, $before > 0];
                if ($t >= $all->whole || ! $isSkin) {
                    $isTouched[$all->corners[3 * $t]] = $isTouched[$all->corners[3 * $t + 1]] = $isTouched[$all->corners[3 * $t + 2]] = true;
                }
            }
        }

        return [$skin, $walls, $isTouched];
    }

    /** Is it a part of a surface? Faces within a body that winds twice there are none. */
    private static function hasWall(Arrangement $all, int $triangle): bool
    {
        foreach ($all->parts($triangle) as $part) {
            if ($all->mesh[abs($part) - 1] > 0) {
                return true;
            }
        }

        return false;
    }

    /**
     * The skin, and both sides of every wall. Tags number the faces from 1: those of the skin, then of each wall its front and its back, triangle by triangle.
     *
     * @param  list<array{int, bool}>  $skin
     * @param  array<int, non-empty-list<int>>  $walls
     * @param  array<int, true>  $isTouched
     */
    private static function shells(Arrangement $all, array $skin, array $walls, array $isTouched): Mesh
    {
        $corners = $planes = $triangles = [];
        $add = static function (int $t, bool $isTurned) use ($all, &$corners, &$planes, &$triangles): void {
            $triangles[] = $t;
            array_push($corners, $all->corners[3 * $t], $all->corners[3 * $t + ($isTurned ? 2 : 1)], $all->corners[3 * $t + ($isTurned ? 1 : 2)]);
            $planes[] = $all->part[$t];
        };
        foreach ($skin as [$t, $isTurned]) {
            $add($t, $isTurned);
        }
        foreach ($walls as $wall) {
            foreach ($wall as $t) {
                $add($t, false);
                $add($t, true);
            }
        }
        [$xyz, $numbers, $faces] = Wedges::apart($all, $corners, $planes, $isTouched);
        $numbers = Redrawn::of($all, $triangles, $corners, $numbers, $faces);

        return Mesh::of($xyz, $numbers, array_map(static fn (int $face): int => $face + 1, $faces));
    }

    /**
     * Walls that have the same part on either side.
     *
     * @param  list<Mesh>  $parts
     * @param  array<int, non-empty-list<int>>  $walls
     * @return array<int, true> by their keys
     */
    private static function dangling(array $parts, int $skin, array $walls): array
    {
        $partOf = [];
        foreach ($parts as $p => $part) {
            foreach ($part->tags as $face) {
                $partOf[$face] = $p;
            }
        }
        $dangling = [];
        $face = $skin + 1;
        foreach ($walls as $n => $wall) {
            if ($partOf[$face] === $partOf[$face + 1]) {
                $dangling[$n] = true;
            }
            $face += 2 * count($wall);
        }

        return $dangling;
    }

    /**
     * The parts with the tags that their faces are to have.
     *
     * @param  list<Mesh>  $parts
     * @param  list<array{int, bool}>  $skin
     * @return array{list<Mesh>, array<int, true>} and the numbers of those whose faces cross since their corners were rounded
     */
    private static function tagged(Arrangement $all, array $parts, Mesh $body, array $skin, int $tag): array
    {
        $bodies = $crossed = [];
        foreach ($parts as $p => $part) {
            $tags = $given = [];
            $often = array_count_values($part->tags);
            foreach ($part->tags as $n => $face) {
                [$t] = $skin[$face - 1] ?? [-1];
                $tags[] = $t < 0 ? $tag : $body->tags[$all->source[self::skinPart($all, $t) - 1]];
                if ($t >= 0 && $t < $all->whole && $often[$face] === 1) {
                    $given[$n] = abs($all->part[$t]) - 1;
                }
            }
            $bodies[] = Mesh::of($part->xyz, $part->corners, $tags);
            if (Rounded::crosses($all, $bodies[$p], $given)) {
                $crossed[$p] = true;
            }
        }

        return [$bodies, $crossed];
    }

    /**
     * Those that have a volume, the largest first: what doubles cannot tell from nothing is left out.
     *
     * @param  list<Mesh>  $bodies
     * @return list<int> their numbers
     */
    private static function sorted(array $bodies): array
    {
        $volumes = array_map(static fn (Mesh $body): float => $body->isEmpty() ? 0.0 : Volume::of($body), $bodies);
        arsort($volumes);

        return array_values(array_filter(array_keys($volumes), static fn (int $n): bool => $volumes[$n] > 0.0));
    }

    /**
     * Whether each part has a wall that it lies behind.
     *
     * @param  list<Mesh>  $parts
     * @param  array<int, non-empty-list<int>>  $walls
     * @return list<bool>
     */
    private static function behind(Arrangement $all, array $parts, int $skin, array $walls): array
    {
        // Faces outward that look as the surface does.
        $isBehind = [];
        $face = $skin + 1;
        foreach ($walls as $wall) {
            foreach ($wall as $t) {
                $isBehind[$all->part[$t] > 0 ? $face : $face + 1] = true;
                $face += 2;
            }
        }

        return array_map(static function (Mesh $part) use ($isBehind): bool {
            foreach ($part->tags as $one) {
                if (isset($isBehind[$one])) {
                    return true;
                }
            }

            return false;
        }, $parts);
    }

    /** The body's own triangle, counted from 1, that one of its skin is a part of: surfaces may lie on it as well. */
    private static function skinPart(Arrangement $all, int $triangle): int
    {
        foreach ($all->parts($triangle) as $part) {
            if ($all->mesh[abs($part) - 1] === 0) {
                return abs($part);
            }
        }

        return abs($all->part[$triangle]);
    }
}
