<?php

declare(strict_types=1);

namespace Isotome\Geometry;

/**
 * The side of every vertex, decided here once and nowhere else.
 *
 * A vertex counts as on the blade when its distance is within the rounding error of computing with it (about 1e-15 of the
 * largest coordinate): so a vertex made on a crossed edge never falls onto the edge's end, and a blade laid through vertices
 * or faces takes them as on it instead of leaving slivers. Along an axis no rounding is added: coordinates are compared as
 * they are.
 */
final class Sides
{
    public const ON = 0;

    public const BEHIND = 1;

    public const AHEAD = 2;

    private const ROUNDOFFS = ErrorBound::POINT_TO_PLANE;

    /**
     * @param  list<float>  $xyz
     * @param  float|null  $extent  largest absolute coordinate of the mesh that the vertices are a part of; their own when null
     * @return list<int> ON, BEHIND or AHEAD for each vertex
     */
    public static function of(array $xyz, Plane $plane, ?float $extent = null): array
    {
        $sides = [];
        $band = self::band($extent ?? Extent::of($xyz), $plane);
        $count = count($xyz);
        if ($plane->axis !== null) {
            $normal = $plane->facing()[$plane->axis];
            $place = $plane->offset * $normal;
            $high = $place + $band;
            $low = $place - $band;
            [$ahead, $behind] = $normal > 0 ? [self::AHEAD, self::BEHIND] : [self::BEHIND, self::AHEAD];
            for ($i = $plane->axis; $i < $count; $i += 3) {
                $c = $xyz[$i];
                $sides[] = $c > $high ? $ahead : ($c < $low ? $behind : 0);
            }

            return $sides;
        }
        $nx = $plane->nx;
        $ny = $plane->ny;
        $nz = $plane->nz;
        $offset = $plane->offset;
        $high = $offset + $band;
        $low = $offset - $band;
        for ($i = 0; $i < $count; $i += 3) {
            $d = $nx * $xyz[$i] + $ny * $xyz[$i + 1] + $nz * $xyz[$i + 2];
            $sides[] = $d > $high ? 2 : ($d < $low ? 1 : 0);
        }

        return $sides;
    }

    /** Distance from the plane, mm, up to which a vertex is on it. */
    public static function band(float $extent, Plane $plane): float
    {
        return self::ROUNDOFFS * (abs($plane->nx) + abs($plane->ny) + abs($plane->nz)) * max($extent, abs($plane->offset));
    }
}
