<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Check\FaceCheck;
use Isotome\Measure\Volume;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Pinches;
use Isotome\Seal\Cap;
use Isotome\Seal\LeanSeal;

/**
 * Cuts a mesh with a plane, closes the cut and separates the bodies.
 *
 * Guarantees, for every place of the blade: from a watertight mesh, sealed, every body is watertight; the bodies of both
 * sides have the same vertices and triangles (turned over) on their common cut; nothing is lost but the kerf. From a mesh
 * with open edges, every outline that comes back is closed and the others are reported. Parts that touch only in a point of
 * the cut are bodies of their own.
 */
final class FlatCut
{
    private const LARGEST_FOLD = 64;

    /**
     * @param  int  $tag  surface tag of the cut faces
     * @return Outcome|null null when the blade has nothing of the mesh on one of its sides: it misses, or merely touches
     */
    public static function of(Mesh $mesh, FlatBlade $blade, int $tag): ?Outcome
    {
        $plane = $blade->plane;
        if ($blade->kerf <= 0.0 || $blade->keep === Keep::Outline) {
            $halves = Split::of($mesh, $plane);

            return $halves->isOneSided() ? null : self::finish([[$halves, true], [$halves, false]], $blade, $tag);
        }
        $back = match ($blade->kerfSide) {
            KerfSide::Centre => -$blade->kerf / 2,
            KerfSide::Ahead => 0.0,
            KerfSide::Behind => -$blade->kerf,
        };
        $behind = Split::of($mesh, $plane->shifted($back));
        $ahead = Split::of($mesh, $plane->shifted($back + $blade->kerf));
        if (! $behind->hasBehind() || ! $ahead->hasAhead() || ! $behind->hasAhead() || ! $ahead->hasBehind()) {
            return null;
        }

        return self::finish([[$behind, true], [$ahead, false]], $blade, $tag);
    }

    /** @param  list<array{Halves, bool}>  $parts each with whether its side behind is meant */
    private static function finish(array $parts, FlatBlade $blade, int $tag): ?Outcome
    {
        $keep = $blade->keep;
        $bodies = [];
        $unclosed = [];
        $sound = true;
        $cap = Cap::none();
        $of = null;
        foreach ($parts as [$halves, $isBehind]) {
            if ($of !== $halves) {
                $cap = $blade->seal === Seal::Lean || $keep === Keep::Outline ? LeanSeal::of($halves) : Cap::none();
                $of = $halves;
                $unclosed = [...$unclosed, ...self::paths($halves, $cap)];
                $sound = $sound && $cap->sound;
            }
            if ($keep === Keep::Outline) {
                return new Outcome(self::largestFirst(self::sheets($halves, $cap, $tag), true), $unclosed, $sound);
            }
            if ($keep === Keep::Both || ($keep === Keep::Behind) === $isBehind) {
                $side = Bodies::of(self::close($halves, $isBehind, $cap, $tag));
                $side = array_values(array_filter($side, static fn (Mesh $body): bool => self::isSomething($body, $tag)));
                if ($side === []) {
                    return null;
                }
                array_push($bodies, ...self::largestFirst($side, false));
            }
        }

        return new Outcome($bodies, $unclosed, $sound);
    }

    /**
     * Faces that lie on the blade a rounding error the wrong way round would be cut off as a body of skin and cap back to
     * back: that is nothing, and is left out.
     */
    private static function isSomething(Mesh $body, int $tag): bool
    {
        $triangles = $body->triangleCount();

        return $triangles > self::LARGEST_FOLD || 2 * count(array_keys($body->tags, $tag, true)) !== $triangles
            || 2 * FaceCheck::of($body)->doubled !== $triangles;
    }

    private static function close(Halves $halves, bool $isBehind, Cap $cap, int $tag): Mesh
    {
        [$xyz, $corners, $tags] = $halves->take($isBehind);
        $base = $isBehind ? $halves->behindBase : $halves->aheadBase;
        foreach ($cap->newXyz as $coordinate) {
            $xyz[] = $coordinate;
        }
        $count = count($cap->triangles);
        for ($i = 0; $i < $count; $i += 3) {
            $corners[] = $base + $cap->triangles[$i];
            $corners[] = $base + $cap->triangles[$isBehind ? $i + 1 : $i + 2];
            $corners[] = $base + $cap->triangles[$isBehind ? $i + 2 : $i + 1];
            $tags[] = $tag;
        }
        $pinched = [];
        $leaving = array_count_values($halves->rimFrom);
        foreach ($leaving as $point => $edges) {
            if ($edges > 1) {
                $pinched[$base + $point] = true;
            }
        }
        if ($pinched !== []) {
            [$xyz, $corners] = Pinches::apart($xyz, $corners, $pinched);
        }

        return Mesh::of($xyz, $corners, $tags);
    }

    /** @return list<Mesh> */
    private static function sheets(Halves $halves, Cap $cap, int $tag): array
    {
        $tags = $cap->triangles === [] ? [] : array_fill(0, intdiv(count($cap->triangles), 3), $tag);

        return Bodies::of(Mesh::of([...$halves->rimXyz, ...$cap->newXyz], $cap->triangles, $tags));
    }

    /**
     * @param  list<Mesh>  $bodies
     * @return list<Mesh>
     */
    private static function largestFirst(array $bodies, bool $byArea): array
    {
        if (count($bodies) < 2) {
            return $bodies;
        }
        $sizes = [];
        foreach ($bodies as $i => $body) {
            $measures = Volume::measure($body);
            $sizes[$i] = $byArea ? $measures->area : abs($measures->volume);
        }
        arsort($sizes);

        return array_map(static fn (int $i): Mesh => $bodies[$i], array_keys($sizes));
    }

    /** @return list<list<array{float, float, float}>> */
    private static function paths(Halves $halves, Cap $cap): array
    {
        return array_map(
            static fn (array $path): array => array_map(
                static fn (int $p): array => [$halves->rimXyz[3 * $p], $halves->rimXyz[3 * $p + 1], $halves->rimXyz[3 * $p + 2]],
                $path,
            ),
            $cap->unclosed,
        );
    }
}
