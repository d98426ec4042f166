<?php

declare(strict_types=1);

namespace Isotome\Measure;

use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\TriangleAreas;

/**
 * A few triangles of a mesh, enough for a picture of a finger's breadth: all of them, or so many, evenly spread over the area, so that none of the large ones
 * is missing.
 */
final class Sketch
{
    /**
     * @param  int  $most  triangles
     * @return string nine bytes a triangle: corners within a cube of 0 to 255 around the mesh's box, in which its proportions stay
     */
    public static function of(Mesh $mesh, int $most = 4000): string
    {
        if ($mesh->isEmpty()) {
            return '';
        }
        $box = Box::of($mesh->xyz);
        $size = max($box->size());
        if (is_nan($size) || $size <= 0.0) {
            return '';
        }
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        [$cx, $cy, $cz] = [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
        $scale = 255.0 / $size;
        $chosen = count($corners) <= 3 * $most ? null : self::chosen($mesh, $most);
        $bytes = '';
        foreach ($chosen ?? range(0, intdiv(count($corners), 3) - 1) as $t) {
            for ($i = 3 * $t; $i < 3 * $t + 3; $i++) {
                $v = 3 * $corners[$i];
                $bytes .= pack('C3', self::byte(($xyz[$v] - $cx) * $scale), self::byte(($xyz[$v + 1] - $cy) * $scale), self::byte(($xyz[$v + 2] - $cz) * $scale));
            }
        }

        return $bytes;
    }

    private static function byte(float $offset): int
    {
        return max(0, min(255, (int) round(127.5 + $offset)));
    }

    /** @return list<int> triangles, each once */
    private static function chosen(Mesh $mesh, int $most): array
    {
        $areas = TriangleAreas::of($mesh);
        $step = array_sum($areas) / $most;
        $chosen = [];
        $sum = $step / 2;
        foreach ($areas as $t => $area) {
            $sum += $area;
            if ($sum >= $step) {
                $chosen[] = $t;
                $sum = $area >= $step ? 0.0 : $sum - $step;
            }
        }

        return $chosen;
    }
}
