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
        $try = new SecondTry($progress);
        $made = self::near($body, $surfaces, $tag, $try->first());
        if ($made !== null) {
            return self::ordered($made, $body, $made->bodies);
        }
        $progress = $try->second();
        $first = Arrangement::of([$body, ...$surfaces], $progress === null ? null : static fn (float $share) => $progress(0.8 * $share));
        [$made, $crossed] = self::resolved($first, $body, count($surfaces), $tag, $progress);
        $exact = $made;
        $onlyFilms = self::areFilms($made, $crossed) ? [$made, $crossed] : null;
        foreach ($crossed === [] ? [] : Combined::GRIDS as $lines) {
            // Too close to each other for doubles: where they meet, they are moved by less than a file keeps.
            $snapped = Snapped::of([$body, ...$surfaces], $first, $lines);
            [$made, $crossed] = self::resolved(Arrangement::of($snapped), $snapped[0], count($surfaces), $tag, null);
            if ($crossed === []) {
                break;
            }
            $onlyFilms ??= self::areFilms($made, $crossed) ? [$made, $crossed] : null;
        }
        if ($crossed !== [] && $onlyFilms !== null) {
            [$made, $crossed] = $onlyFilms;
        } elseif ($crossed !== [] && Film::isAllButOne($exact->bodies)) {
            return new self([$body], [false], $exact->endsWithin, $exact->meets);
        }
        // If nothing helped, each is made solid by itself, and films are left out.
        $solid = static fn (Mesh $one, int $n): Mesh => isset($crossed[$n]) ? (Film::is($one) ? Mesh::of([], []) : Combined::solid([$one], static fn (array $windings): bool => max(0, ...$windings) > 0)) : $one;

        return self::ordered($made, $body, array_map($solid, $made->bodies, array_keys($made->bodies)));
    }

    /** @param  array<int, true>  $crossed  numbers of the bodies whose faces cross */
    private static function areFilms(self $made, array $crossed): bool
    {
        return array_filter(array_keys($crossed), static fn (int $n): bool => ! Film::is($made->bodies[$n])) === [];
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
        $survey = Survey::near([$body, ...$surfaces], $progress, $least, $most, 1);
        $far = $survey?->far;
        if ($survey === null || $far === null) {
            return null;
        }
        $all = $survey->all;
        [$faces, $patches, $isTouched] = Walls::found($survey);
        $pointOf = $survey->pointOf[0] ?? [];
        $endsWithin = false;
        $meets = $patches !== [];
        $parts = $farTags = [];
        $last = 0;
        while ($patches !== []) {
            $last = count($faces) + 2 * array_sum(array_map(count(...), $patches));
            [$shells, $vertexAt] = Walls::shells($all, $faces, $patches, $isTouched);
            if (array_diff_key(array_flip($pointOf), $vertexAt) !== []) {
                return null;
            }
            // All of it is skin, as it winds once.
            [$xyz, $numbers, , $farTags] = $far->beside($shells->xyz, $shells->corners, $survey->pointOf, $vertexAt, array_fill(0, max(1, $far->parts), false));
            $parts = Bodies::of(Mesh::of($xyz, $numbers, [...$shells->tags, ...($farTags === [] ? [] : range($last + 1, $last + count($farTags)))]));
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
        [$bodies, $crossed] = Walls::tagged($all, $parts, $far->active(0), $faces, $tag, $farTags, $last);

        return $crossed === [] ? new self($bodies, Walls::behind($all, $parts, count($faces), $patches), $endsWithin, true) : null;
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
            [$faces, $patches, $isTouched] = Walls::found(Survey::arranged($all, $surfaces + 1, $round === 0 ? $progress : null));
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
