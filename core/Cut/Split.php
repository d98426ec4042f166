<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Geometry\Plane;
use Isotome\Geometry\Sides;
use Isotome\Mesh\Mesh;
use Isotome\Seal\Rim;

/**
 * Divides every triangle along a plane, leaving the cut open.
 *
 * Guarantees: a crossed edge is cut once, and all triangles around it share the new vertex; every triangle lands on
 * exactly one side; a triangle in the plane belongs to the side whose material it bounds, so that the rim encloses exactly
 * the section's area. The rim of a mesh without open edges consists of closed outlines.
 */
final class Split
{
    /**
     * @param  float|null  $extent see Sides::of
     * @param  bool|null  $onlyBehind  only the triangles wholly behind, or wholly ahead, are wanted: the other side lacks its own
     * @param  Quads|null  $quads  faces beside the triangles, that an earlier blade of a series left; when given, the side ahead keeps such
     *                             faces whole too, for the next blade
     */
    public static function of(Mesh $mesh, Plane $plane, ?float $extent = null, ?bool $onlyBehind = null, ?Quads $quads = null): Halves
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $sides = Sides::of($xyz, $plane, $extent);
        $touched = Divided::touched($corners, $sides);
        $divided = Divided::of($mesh, $sides, $touched, $plane, $quads);
        // One number a vertex tells side and place: 0 and up is ahead, below 0 (its complement) behind. On the plane it is not asked for.
        $map = [];
        $aheadXyz = [];
        $behindXyz = [];
        $ahead = 0;
        $behind = 0;
        $i = 0;
        $isAheadWanted = $onlyBehind !== true;
        $isBehindWanted = $onlyBehind !== false;
        foreach ($sides as $side) {
            if ($side === 2) {
                $map[] = $ahead++;
                if ($isAheadWanted) {
                    $aheadXyz[] = $xyz[$i];
                    $aheadXyz[] = $xyz[$i + 1];
                    $aheadXyz[] = $xyz[$i + 2];
                }
            } elseif ($side === 1) {
                $map[] = ~$behind;
                $behind++;
                if ($isBehindWanted) {
                    $behindXyz[] = $xyz[$i];
                    $behindXyz[] = $xyz[$i + 1];
                    $behindXyz[] = $xyz[$i + 2];
                }
            } else {
                $map[] = 0;
            }
            $i += 3;
        }
        unset($sides);
        $aheadParts = array_map(static fn (int $v): int => $v < 0 ? $ahead + ~$v : $map[$v], $divided->ahead);
        $behindParts = array_map(static fn (int $v): int => $v < 0 ? $behind + ~$v : ~$map[$v], $divided->behind);
        $kept = array_map(static fn (int $v): int => $v < 0 ? $ahead + ~$v : $map[$v], $divided->aheadQuads->corners);
        $tags = $mesh->tags;
        $aheadCorners = [];
        $behindCorners = [];
        $aheadTags = [];
        $behindTags = [];
        $i = $aheadAt = $behindAt = 0;
        $touched[] = count($tags);
        foreach ($touched as $n => $stop) {
            // Between two triangles that are touched, each is wholly on one side.
            for ($t = intdiv($i, 3); $t < $stop; $t++, $i += 3) {
                $a = $map[$corners[$i]];
                if ($a >= 0) {
                    if ($isAheadWanted) {
                        $aheadCorners[] = $a;
                        $aheadCorners[] = $map[$corners[$i + 1]];
                        $aheadCorners[] = $map[$corners[$i + 2]];
                        $aheadTags[] = $tags[$t];
                    }
                } elseif ($isBehindWanted) {
                    $behindCorners[] = ~$a;
                    $behindCorners[] = ~$map[$corners[$i + 1]];
                    $behindCorners[] = ~$map[$corners[$i + 2]];
                    $behindTags[] = $tags[$t];
                }
            }
            $i += 3;
            for ($upTo = $divided->aheadUpTo[$n] ?? count($aheadParts); $aheadAt < $upTo; $aheadAt += 3) {
                $aheadCorners[] = $aheadParts[$aheadAt];
                $aheadCorners[] = $aheadParts[$aheadAt + 1];
                $aheadCorners[] = $aheadParts[$aheadAt + 2];
                $aheadTags[] = $divided->aheadTags[intdiv($aheadAt, 3)];
            }
            for ($upTo = $divided->behindUpTo[$n] ?? count($behindParts); $behindAt < $upTo; $behindAt += 3) {
                $behindCorners[] = $behindParts[$behindAt];
                $behindCorners[] = $behindParts[$behindAt + 1];
                $behindCorners[] = $behindParts[$behindAt + 2];
                $behindTags[] = $divided->behindTags[intdiv($behindAt, 3)];
            }
        }
        // Freed before the rim's coordinates are copied.
        unset($map, $touched, $aheadParts, $behindParts);
        foreach ($divided->rim->xyz as $coordinate) {
            $aheadXyz[] = $coordinate;
            $behindXyz[] = $coordinate;
        }

        return new Halves(
            $divided->rim, [$aheadXyz, $aheadCorners, $aheadTags], [$behindXyz, $behindCorners, $behindTags], $ahead, $behind, new Quads($kept, $divided->aheadQuads->tags),
        );
    }
}
