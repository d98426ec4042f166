<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

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
        $behind = Parting::of(self::caught($mesh, $back, $blade), $back);
        $ahead = $back === $front ? $behind : Parting::of(self::caught($mesh, $front, $blade), $front);

        return $behind->isOneSided() || $ahead->isOneSided() ? null : self::finish($behind, $ahead, $blade, $tag);
    }

    private static function caught(Mesh $mesh, Plane $plane, FlatBlade $blade): Mesh
    {
        return $blade->catch > 0.0 ? Catching::of($mesh, $plane, $blade->catch)->mesh : $mesh;
    }

    /** @param  Parting  $ahead  the same as behind when nothing is removed between them */
    private static function finish(Parting $behind, Parting $ahead, FlatBlade $blade, int $tag): ?Outcome
    {
        $keepsBehind = $blade->keep === Keep::Both || $blade->keep === Keep::Behind;
        $keepsAhead = $blade->keep === Keep::Both || $blade->keep === Keep::Ahead;
        $cap = Closing::cap($behind->rim, $blade);
        $unclosed = Closing::unclosed($behind->rim, $cap);
        $sound = $cap->sound;
        if ($blade->keep === Keep::Outline) {
            return new Outcome(Closing::sheets($behind->rim, $cap, $tag), $unclosed, $sound);
        }
        if ($ahead === $behind) {
            [$back, $front] = $behind->bodies($cap, $tag, $keepsBehind, $keepsAhead);
        } else {
            $back = $keepsBehind ? $behind->bodies($cap, $tag, true, false)[0] : [];
            $cap = Closing::cap($ahead->rim, $blade);
            $unclosed = [...$unclosed, ...Closing::unclosed($ahead->rim, $cap)];
            $sound = $sound && $cap->sound;
            $front = $keepsAhead ? $ahead->bodies($cap, $tag, false, true)[1] : [];
        }
        $back = Closing::bodies($back, $tag);
        $front = Closing::bodies($front, $tag);

        return ($keepsBehind && $back === []) || ($keepsAhead && $front === []) ? null : new Outcome([...$back, ...$front], $unclosed, $sound);
    }
}
