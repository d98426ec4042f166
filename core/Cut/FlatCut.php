<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Isotome\Seal\Cap;

/**
 * Cuts a mesh with a plane, closes the cut and separates the bodies.
 *
 * Guarantees, for every place of the blade: from a watertight mesh, sealed, every body is watertight; the bodies of both
 * sides have the same vertices and triangles (turned over) on their common cut; nothing is lost but the kerf. From a mesh
 * with open edges, every outline that comes back is closed and the others are reported; from an open sheet, which has none
 * that come back, both sides stay open. Parts that touch only in a point of the cut are bodies of their own.
 */
final class FlatCut
{
    /**
     * @param  int  $tag  surface tag of the cut faces
     * @return Outcome|null null when the blade has nothing of the mesh on one of its sides: it misses, or merely touches
     */
    public static function of(Mesh $mesh, FlatBlade $blade, int $tag): ?Outcome
    {
        [$back, $front] = $blade->faces();
        if ($back === $front) {
            $halves = Split::of(self::caught($mesh, $back, $blade), $back);

            return $halves->isOneSided() ? null : self::finish([[$halves, true], [$halves, false]], $blade, $tag);
        }
        $behind = Split::of(self::caught($mesh, $back, $blade), $back);
        $ahead = Split::of(self::caught($mesh, $front, $blade), $front);
        if (! $behind->hasBehind() || ! $ahead->hasAhead() || ! $behind->hasAhead() || ! $ahead->hasBehind()) {
            return null;
        }

        return self::finish([[$behind, true], [$ahead, false]], $blade, $tag);
    }

    private static function caught(Mesh $mesh, Plane $plane, FlatBlade $blade): Mesh
    {
        return $blade->catch > 0.0 ? Catching::of($mesh, $plane, $blade->catch)->mesh : $mesh;
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
                $cap = Closing::cap($halves, $blade);
                $of = $halves;
                $unclosed = [...$unclosed, ...Closing::unclosed($halves, $cap)];
                $sound = $sound && $cap->sound;
            }
            if ($keep === Keep::Outline) {
                return new Outcome(Closing::sheets($halves, $cap, $tag), $unclosed, $sound);
            }
            if ($keep === Keep::Both || ($keep === Keep::Behind) === $isBehind) {
                $side = Closing::bodies(Closing::side($halves, $isBehind, $cap, $tag), $tag);
                if ($side === []) {
                    return null;
                }
                array_push($bodies, ...$side);
            }
        }

        return new Outcome($bodies, $unclosed, $sound);
    }
}
