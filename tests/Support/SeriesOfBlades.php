<?php

declare(strict_types=1);

namespace Tests\Support;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\Series;
use Isotome\Cut\SeriesCut;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/** Series of blades by chance (mt_srand), and what a kerf must leave of a body. */
final class SeriesOfBlades
{
    /**
     * Equal parts, stops at the heights of vertices, or near them, some a hair apart.
     *
     * @return list<Plane>
     */
    public static function through(Mesh $mesh, Plane $plane): array
    {
        $facing = $plane->facing();
        $kind = mt_rand(0, 3);
        if ($kind === 0) {
            return Series::parts($facing, mt_rand(2, 40))->planes($mesh);
        }
        $size = max(Box::of($mesh->xyz)->size());
        $stops = [];
        for ($n = mt_rand(2, 12); $n > 0; $n--) {
            $place = self::along($facing, $mesh, mt_rand(0, $mesh->vertexCount() - 1));
            $stops[] = $kind === 1 ? $place : $place + $size * [0.1, 1e-9, 1e-12][mt_rand(0, 2)] * (mt_rand(-1000, 1000) / 1000);
        }

        return Series::at($facing, $stops)->planes($mesh);
    }

    /**
     * Those of the planes that are a kerf apart, as recipes must have them, and some more that are exactly that.
     *
     * @param  list<Plane>  $planes  ascending
     * @return list<Plane>
     */
    public static function apart(array $planes, float $kerf): array
    {
        $apart = [];
        $next = -INF;
        foreach ($planes as $plane) {
            if ($plane->offset < $next) {
                continue;
            }
            $apart[] = $plane;
            if (mt_rand(0, 3) === 0) {
                $apart[] = $plane = $plane->shifted($kerf);
            }
            $next = $plane->offset + $kerf;
        }

        return $apart;
    }

    /**
     * What a kerf leaves, mm³: cut without one at both faces of every blade, and the slabs between the faces left out.
     *
     * @param  non-empty-list<Plane>  $planes
     */
    public static function left(Mesh $mesh, array $planes, float $kerf): float
    {
        $facing = $planes[0]->facing();
        $faces = [];
        foreach ($planes as $plane) {
            $faces[] = $plane->shifted(-$kerf / 2);
            $faces[] = $plane->shifted($kerf / 2);
        }
        usort($faces, static fn (Plane $a, Plane $b): int => $a->offset <=> $b->offset);
        $volume = 0.0;
        foreach (SeriesCut::of($mesh, $faces, new FlatBlade($faces[0]), 9)->bodies ?? [$mesh] as $body) {
            $low = INF;
            $high = -INF;
            for ($v = 0; $v < $body->vertexCount(); $v++) {
                $at = self::along($facing, $body, $v);
                $low = min($low, $at);
                $high = max($high, $at);
            }
            $within = array_filter($planes, static fn (Plane $plane): bool => abs(($low + $high) / 2 - $plane->offset) < $kerf / 2);
            $volume += $within === [] ? Volume::of($body) : 0.0;
        }

        return $volume;
    }

    /** @param  array{float, float, float}  $facing */
    private static function along(array $facing, Mesh $mesh, int $v): float
    {
        return $facing[0] * $mesh->xyz[3 * $v] + $facing[1] * $mesh->xyz[3 * $v + 1] + $facing[2] * $mesh->xyz[3 * $v + 2];
    }
}
