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

    /** Triangles of a body, below which all are arranged. */
    private const LEAST = 8_000;

    /** Share of them that may be near. */
    private const NEAR = 0.5;

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
        $made = self::near($body, $surfaces, $tag, $progress);
        if ($made !== null) {
            return self::ordered($made, $body, $made->bodies);
        }
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

        return self::ordered($made, $body, array_map($solid, $made->bodies, array_keys($made->bodies)));
    }

    /**
     * With its bodies in the order that is promised.
     *
     * @param  list<Mesh>  $bodies
     */
    private static function ordered(self $made, Mesh $body, array $bodies): self
    {
        $order = count($bodies) > 1 ? self::sorted($bodies) : [];
        if (count($order) < 2) {
            return new self([$body], [false], $made->endsWithin, $made->meets);
        }

        return new self(array_map(static fn (int $n): Mesh => $bodies[$n], $order), array_map(static fn (int $n): bool => $made->behind[$n], $order), $made->endsWithin, $made->meets);
    }

    /**
     * The same of a large body to which surfaces come near in few places: these are arranged, with all of the surfaces, and the rest of its skin stays.
     *
     * @param  non-empty-list<Mesh>  $surfaces
     * @param  Closure(float): void|null  $progress
     * @return self|null null when all of it is to be arranged: as in Locally, or where rounding brought faces through each other
     */
    public static function near(Mesh $body, array $surfaces, int $tag, ?Closure $progress, int $least = self::LEAST, float $most = self::NEAR): ?self
    {
        $near = $body->triangleCount() < $least ? null : Near::of([$body, ...$surfaces]);
        if ($near === null || count($near[0]) > $most * $body->triangleCount()) {
            return null;
        }
        $progress === null ?: $progress(0.1);
        $far = Far::of([$body, ...$surfaces], [$near[0], ...array_map(static fn (Mesh $surface): array => array_keys($surface->tags), $surfaces)]);
        $some = $far->active(0);
        $all = Arrangement::of([$some, ...$surfaces], $progress === null ? null : static fn (float $share) => $progress(0.1 + 0.6 * $share));
        $windings = new Windings($all, count($surfaces) + 1, $far);
        $found = Patches::of($all, $windings);
        $pointOf = self::border($all, $far, $found);
        if ($pointOf === null || $all->isSelfMet || ! self::goesOn($all, $windings, $found, array_flip($pointOf))) {
            return null;
        }
        [$faces, $patches, $isTouched] = Walls::found($all, $windings, $found, null);
        $isTouched = array_diff_key($isTouched, array_flip($pointOf));
        $endsWithin = false;
        $meets = $patches !== [];
        $parts = $farTags = [];
        $last = 0;
        while ($patches !== []) {
            $last = count($faces) + 2 * array_sum(array_map(count(...), $patches));
            [$shells, $numberAt] = Walls::shells($all, $faces, $patches, $isTouched);
            if (array_diff_key(array_flip($pointOf), $numberAt) !== []) {
                return null;
            }
            [$shells, $farTags] = self::withFar($far, $shells, $pointOf, $numberAt, $last);
            $parts = Bodies::of($shells);
            $dangling = Walls::dangling($parts, count($faces), $patches);
            if ($dangling === []) {
                break;
            }
            $endsWithin = true;
            $patches = array_diff_key($patches, $dangling);
        }
        if ($patches === []) {
            return new self([$body], [false], $endsWithin, $meets);
        }
        [$bodies, $crossed] = Walls::tagged($all, $parts, $some, $faces, $tag, $farTags, $last);

        return $crossed === [] ? new self($bodies, Walls::behind($all, $parts, count($faces), $patches), $endsWithin, true) : null;
    }

    /**
     * Where near and far triangles of the body meet.
     *
     * @return array<int, int>|null points by vertices of the body; null when there is something else at one of them
     */
    private static function border(Arrangement $all, Far $far, Patches $found): ?array
    {
        $pointOf = [];
        foreach ($all->mesh as $n => $m) {
            for ($k = 0; $m === 0 && $k < 3; $k++) {
                $v = $far->meshes[0]->corners[3 * $far->near[0][$all->source[$n]] + $k];
                if (isset($far->border[0][$v])) {
                    $point = $all->given[3 * $n + $k];
                    if (isset($all->joined[$point]) || isset($found->crowded[$point])) {
                        return null;
                    }
                    $pointOf[$v] = $point;
                }
            }
        }

        return $pointOf;
    }

    /**
     * Whether all that goes on where nothing is near is skin, of a body that winds once.
     *
     * @param  array<int, int>  $border  by point
     */
    private static function goesOn(Arrangement $all, Windings $windings, Patches $found, array $border): bool
    {
        foreach ($found->patches as $patch) {
            foreach ($patch as $t) {
                if (isset($border[$all->corners[3 * $t]]) || isset($border[$all->corners[3 * $t + 1]]) || isset($border[$all->corners[3 * $t + 2]])) {
                    $way = $windings->between($t)[0];
                    if (isset($all->more[$t]) || abs($way) !== 1 || $windings->before($t)[0] !== ($way > 0 ? 0 : 1)) {
                        return false;
                    }
                    break;
                }
            }
        }

        return true;
    }

    /**
     * Far triangles beside the others, their faces numbered on.
     *
     * @param  array<int, int>  $numberAt  vertices by points
     * @param  array<int, int>  $pointOf  by vertices of the body
     * @return array{Mesh, list<int>} and the tags that the far ones are to have
     */
    private static function withFar(Far $far, Mesh $shells, array $pointOf, array $numberAt, int $last): array
    {
        $body = $far->meshes[0];
        $isNear = $far->isNear[0];
        $all = $body->xyz;
        $xyz = $shells->xyz;
        $numbers = $shells->corners;
        $tags = $shells->tags;
        $map = array_fill(0, max(1, $body->vertexCount()), -1);
        foreach ($pointOf as $v => $point) {
            $map[$v] = $numberAt[$point];
        }
        $next = $shells->vertexCount();
        $farTags = [];
        foreach ($body->tags as $t => $own) {
            if ($isNear[$t]) {
                continue;
            }
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $v = $body->corners[$k];
                if ($map[$v] < 0) {
                    $map[$v] = $next++;
                    $xyz[] = $all[3 * $v];
                    $xyz[] = $all[3 * $v + 1];
                    $xyz[] = $all[3 * $v + 2];
                }
                $numbers[] = $map[$v];
            }
            $tags[] = ++$last;
            $farTags[] = $own;
        }

        return [Mesh::of($xyz, $numbers, $tags), $farTags];
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
            $windings = new Windings($all, $surfaces + 1);
            [$faces, $patches, $isTouched] = Walls::found($all, $windings, Patches::of($all, $windings), $round === 0 ? $progress : null);
            $parts = [];
            $meets = $patches !== [] || $round > 0;
            while ($patches !== []) {
                $parts = Bodies::of(Walls::shells($all, $faces, $patches, $isTouched)[0]);
                $dangling = Walls::dangling($parts, count($faces), $patches);
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
            [$bodies, $crossed] = Walls::tagged($all, $parts, $body, $faces, $tag);
            $last = [new self($bodies, Walls::behind($all, $parts, count($faces), $patches), $endsWithin, true), $crossed];
            if ($crossed === [] || $round === self::ROUNDS) {
                return $last;
            }
            // Rounding brought faces through each other: skin and walls, as they are rounded, are divided once more, so that both sides of a wall are still the same.
            $tags = array_map(static fn (array $face): int => $body->tags[$all->source[Walls::skinPart($all, $face[0]) - 1]], $faces);
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
}
