<?php

declare(strict_types=1);

namespace Isotome\Mirror;

use Isotome\Cells\Shards;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;

/**
 * Mirrors a mesh over one to three planes.
 *
 * Guarantees: with a cut, from a watertight mesh, the kept side and its reflection are joined along the cut into watertight bodies that are their own
 * reflection to the last bit of rounding, welded at shared vertices; an open mesh whose rim was taken onto the plane becomes a closed one.
 * Faces look outward, and tags stay. A result that would be empty is refused.
 */
final class Mirror
{
    /**
     * @param  int  $tag  surface tag of new faces
     *
     * @throws BadBlade when nothing lies on the kept side
     */
    public static function of(Mesh $mesh, MirrorSettings $settings, int $tag): MirrorOutcome
    {
        $meshes = [$mesh];
        $joined = $banded = 0;
        $unjoined = [];
        $kink = $meanKink = $apart = 0.0;
        $overlaps = false;
        foreach ($settings->planes as $plane) {
            $next = [];
            foreach ($meshes as $one) {
                $outcome = $settings->gives === Gives::One ? self::joined($one, $plane, $settings, $tag) : self::parted($one, $plane, $settings, $tag);
                array_push($next, ...$outcome->bodies);
                $joined += $outcome->joined;
                $banded += $outcome->banded;
                array_push($unjoined, ...$outcome->unjoined);
                $overlaps = $overlaps || $outcome->overlaps;
                $kink = max($kink, $outcome->kink);
                $meanKink = max($meanKink, $outcome->meanKink);
                $apart = max($apart, $outcome->apart);
            }
            if ($next === []) {
                throw self::empty($meshes, $plane, $settings->keepsAhead);
            }
            $meshes = $next;
        }

        return new MirrorOutcome($meshes, $joined, $unjoined, $kink, $meanKink, $overlaps, $apart, $banded);
    }

    /** @param  list<Mesh>  $meshes */
    private static function empty(array $meshes, Plane $plane, bool $keepsAhead): BadBlade
    {
        $low = INF;
        $high = -INF;
        foreach ($meshes as $mesh) {
            [$from, $to] = self::reach($mesh, $plane);
            $low = min($low, $from);
            $high = max($high, $to);
        }

        return new BadBlade(sprintf(
            'The mirror keeps the side %s its plane, but nothing is there: the piece lies from %.3f to %.3f mm ahead of the plane. Keep the other side, or move the plane.',
            $keepsAhead ? 'ahead of' : 'behind', $low, $high,
        ));
    }

    /**
     * Nothing of a mesh is on the kept side, or no more than the catch lays onto the plane.
     *
     * @param  float  $low  least distance ahead of the plane, mm
     * @param  float  $high  greatest
     */
    public static function isLost(float $low, float $high, MirrorSettings $settings): bool
    {
        return $settings->cuts && ($settings->keepsAhead ? $high <= $settings->catch : $low >= -$settings->catch);
    }

    /** @return array{float, float} least and greatest distance ahead of the plane, mm */
    public static function reach(Mesh $mesh, Plane $plane): array
    {
        $low = INF;
        $high = -INF;
        [$nx, $ny, $nz, $offset] = [$plane->nx, $plane->ny, $plane->nz, $plane->offset];
        $xyz = $mesh->xyz;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $d = $nx * $xyz[$i] + $ny * $xyz[$i + 1] + $nz * $xyz[$i + 2] - $offset;
            $low = $d < $low ? $d : $low;
            $high = $d > $high ? $d : $high;
        }

        return [$low, $high];
    }

    private static function joined(Mesh $mesh, Plane $plane, MirrorSettings $settings, int $tag): MirrorOutcome
    {
        [$low, $high] = self::reach($mesh, $plane);
        if (self::isLost($low, $high, $settings)) {
            return self::nothing();
        }
        $size = Box::of($mesh->xyz)->size();
        $hair = 1e-9 * max($size);
        $isOneSided = $settings->keepsAhead ? $low >= -$settings->catch - $hair : $high <= $settings->catch + $hair;
        if (! $settings->cuts && ! $isOneSided) {
            // On whichever side: the whole is mirrored, and where it reaches across the plane it meets itself.
            $isBeyond = $low >= -$settings->catch - $hair || $high <= $settings->catch + $hair;
            if (! $isBeyond) {
                return new MirrorOutcome([...Bodies::of($mesh), ...Bodies::of(Reflect::of($mesh, $plane))], 0, [], 0.0, 0.0, true, 0.0, 0);
            }
        }
        $isAhead = $settings->cuts ? $settings->keepsAhead : $high > -$low;
        $kept = KeptSide::of($mesh, $plane, $isAhead, $settings->catch);
        $half = $kept->mesh;
        $seam = $kept->seam;
        if ($half->isEmpty()) {
            // Only faces in the plane, or what rounding leaves beside it.
            return self::nothing();
        }
        if ($settings->smooth > 0.0 && $seam !== []) {
            $half = Seam::smoothed($half, $seam, $plane, $settings->smooth);
        }
        [$kink, $meanKink] = Seam::kinks($half, $seam, $plane);
        $apart = $seam === [] ? 2 * max(0.0, $isAhead ? $low : -$high) : 0.0;
        $both = self::withReflection($half, $seam, $plane);
        $banded = 0;
        if ($seam === [] && $apart > 0.0 && $settings->band !== Band::None) {
            [$both, $banded] = FacingRims::joined($both, $half, $plane, $settings->band, $tag);
        }
        $whole = $kept->touches || $settings->catch > 0.0 ? Shards::untangled($both) : $both;

        $isOne = $whole === $both && $kept->isWhole && $seam !== [] && Bodies::shellCount($half) === 1;

        return new MirrorOutcome($isOne ? [$whole] : Bodies::of($whole), count($seam), Seam::unjoined($half, $seam, $plane), $kink, $meanKink, false, $banded > 0 ? 0.0 : $apart, $banded);
    }

    private static function nothing(): MirrorOutcome
    {
        return new MirrorOutcome([], 0, [], 0.0, 0.0, false, 0.0, 0);
    }

    /**
     * @param  list<array{int, int, int}>  $seam
     */
    private static function withReflection(Mesh $half, array $seam, Plane $plane): Mesh
    {
        $xyz = $half->xyz;
        $vertices = $half->vertexCount();
        /** @var array<int, int> $map */
        $map = $vertices === 0 ? [] : array_fill(0, $vertices, -1);
        foreach ($seam as [$p, $q]) {
            $map[$p] = $p;
            $map[$q] = $q;
        }
        $reflected = Reflect::places($xyz, $plane);
        $next = $vertices;
        $i = 0;
        foreach ($map as $v => $shared) {
            if ($shared < 0) {
                $map[$v] = $next++;
                $xyz[] = $reflected[$i];
                $xyz[] = $reflected[$i + 1];
                $xyz[] = $reflected[$i + 2];
            }
            $i += 3;
        }
        unset($reflected);
        $corners = $half->corners;
        $all = $half->corners;
        for ($i = 0, $count = count($all); $i < $count; $i += 3) {
            $corners[] = $map[$all[$i]];
            $corners[] = $map[$all[$i + 2]];
            $corners[] = $map[$all[$i + 1]];
        }

        return Mesh::of($xyz, $corners, array_merge($half->tags, $half->tags));
    }

    private static function parted(Mesh $mesh, Plane $plane, MirrorSettings $settings, int $tag): MirrorOutcome
    {
        [$low, $high] = self::reach($mesh, $plane);
        if (self::isLost($low, $high, $settings)) {
            return self::nothing();
        }
        $kept = Bodies::of($mesh);
        $overlaps = false;
        if ($settings->cuts) {
            $cut = FlatCut::of($mesh, new FlatBlade($plane, $settings->keepsAhead ? Keep::Ahead : Keep::Behind, catch: $settings->catch), $tag);
            // When the plane parts nothing, all of it lies on one side.
            $kept = $cut === null ? (($high > -$low) === $settings->keepsAhead ? $kept : []) : $cut->bodies;
        } else {
            $overlaps = $low < 0.0 && $high > 0.0;
        }
        $reflected = array_map(static fn (Mesh $body): Mesh => Reflect::of($body, $plane), $kept);
        $apart = $overlaps ? 0.0 : 2 * max(0.0, $low, -$high);

        return new MirrorOutcome($settings->gives === Gives::Two ? [...$kept, ...$reflected] : $reflected, 0, [], 0.0, 0.0, $overlaps, $apart, 0);
    }
}
