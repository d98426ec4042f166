<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Geometry\ErrorBound;
use Isotome\Mesh\Mesh;

/**
 * Vertices around which the surface is a plain fan: seen along one direction, its triangles go around the vertex once, side by side. Then no two of them meet
 * but in the edges that they share, and none of these pairs needs to be looked at.
 *
 * What is called plain surely is: signs come from a floating-point filter, and where it is in doubt the vertex is not called plain. Vertices on open edges or of
 * several fans, and sharp ones of which some face is seen from behind along the sum of the normals, are not.
 *
 * Source: normal cones and projected contours exclude self-intersection, as P. Volino and N. Magnenat-Thalmann, "Efficient self-collision detection on smoothly
 * discretized surface animations using geometrical shape regularity", Computer Graphics Forum 13 (1994); here for the star of one vertex, where the contour need
 * not be looked at.
 */
final class PlainFans
{
    /** Two products of differences, their difference, and its scalar product with a given direction: 7u of the sizes of all three, and far more, because the rest is decided exactly. */
    private const FILTER = 64 * ErrorBound::UNIT;

    /** How far the ray is turned from a triangle's first edge to its second. Any share will do that no regular mesh has. */
    private const OFF = 0.31;

    /** What products lose that are too small for a double. */
    private const SMALLEST = 1e-290;

    /**
     * @param  list<float>  $planes  of each triangle 4 numbers, the first three its normal, as long as twice its area
     * @return string one byte a vertex: 1 where it is plain, 0 elsewhere
     */
    public static function of(Mesh $mesh, array $planes): string
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        [$first, $around] = self::around($corners, $mesh->vertexCount());
        $plain = str_repeat("\0", $mesh->vertexCount());
        for ($v = 0, $count = $mesh->vertexCount(); $v < $count; $v++) {
            $start = $first[$v];
            $sides = $first[$v + 1] - $start;
            if ($sides < 3) {
                continue;
            }
            // From where it is looked at: along the sum of the normals.
            $dx = $dy = $dz = 0.0;
            $next = [];
            for ($n = $start; $n < $start + $sides; $n++) {
                $k = $around[$n];
                $t = intdiv($k, 3);
                $dx += $planes[4 * $t];
                $dy += $planes[4 * $t + 1];
                $dz += $planes[4 * $t + 2];
                $k -= 3 * $t;
                $next[$corners[3 * $t + ($k === 2 ? 0 : $k + 1)]] = $corners[3 * $t + ($k === 0 ? 2 : $k - 1)];
            }
            if (count($next) < $sides) {
                continue;
            }
            $long = ($dx < 0.0 ? -$dx : $dx) + ($dy < 0.0 ? -$dy : $dy) + ($dz < 0.0 ? -$dz : $dz);
            $ox = $xyz[3 * $v];
            $oy = $xyz[3 * $v + 1];
            $oz = $xyz[3 * $v + 2];
            $begin = $b = $corners[3 * $t + ($k === 2 ? 0 : $k + 1)];
            $bx = $xyz[3 * $b] - $ox;
            $by = $xyz[3 * $b + 1] - $oy;
            $bz = $xyz[3 * $b + 2] - $oz;
            $sizeB = ($bx < 0.0 ? -$bx : $bx) + ($by < 0.0 ? -$by : $by) + ($bz < 0.0 ? -$bz : $bz);
            // The ray that may be passed once: within the first triangle, off its middle, where in a regular mesh another edge would lie across.
            $fx = $fy = $fz = $sizeR = 0.0;
            $isPast = $isPlain = false;
            for ($n = 0; $n < $sides; $n++) {
                $c = $next[$b] ?? -1;
                if ($c < 0) {
                    break;
                }
                $cx = $xyz[3 * $c] - $ox;
                $cy = $xyz[3 * $c + 1] - $oy;
                $cz = $xyz[3 * $c + 2] - $oz;
                $sizeC = ($cx < 0.0 ? -$cx : $cx) + ($cy < 0.0 ? -$cy : $cy) + ($cz < 0.0 ? -$cz : $cz);
                if ($dx * ($by * $cz - $bz * $cy) + $dy * ($bz * $cx - $bx * $cz) + $dz * ($bx * $cy - $by * $cx) <= self::FILTER * $long * $sizeB * $sizeC + self::SMALLEST) {
                    break;
                }
                if ($n === 0) {
                    $rx = $bx + self::OFF * $cx;
                    $ry = $by + self::OFF * $cy;
                    $rz = $bz + self::OFF * $cz;
                    $sizeR = $sizeB + self::OFF * $sizeC;
                    $fx = $dy * $rz - $dz * $ry;
                    $fy = $dz * $rx - $dx * $rz;
                    $fz = $dx * $ry - $dy * $rx;
                    if ($fx * $bx + $fy * $by + $fz * $bz >= -(self::FILTER * $long * $sizeR * $sizeB + self::SMALLEST)) {
                        break;
                    }
                }
                // On which side of the ray, seen along the direction.
                $side = $fx * $cx + $fy * $cy + $fz * $cz;
                $doubt = self::FILTER * $long * $sizeR * $sizeC + self::SMALLEST;
                if ($side <= $doubt && $side >= -$doubt) {
                    break;
                }
                if ($side < 0.0) {
                    $isPast = true;
                } elseif ($isPast) {
                    // The ray is passed a second time.
                    break;
                }
                if ($c === $begin) {
                    $isPlain = $n === $sides - 1;

                    break;
                }
                $b = $c;
                $bx = $cx;
                $by = $cy;
                $bz = $cz;
                $sizeB = $sizeC;
            }
            if ($isPlain) {
                $plain[$v] = "\1";
            }
        }

        return $plain;
    }

    /**
     * @param  list<int>  $corners
     * @return array{array<int, int>, array<int, int>} of each vertex where its corners begin in the second list, and an end; places in $corners
     */
    private static function around(array $corners, int $vertices): array
    {
        $first = array_fill(0, $vertices + 1, 0);
        foreach ($corners as $v) {
            $first[$v + 1]++;
        }
        for ($v = 0; $v < $vertices; $v++) {
            $first[$v + 1] += $first[$v];
        }
        $free = $first;
        $around = $corners;
        foreach ($corners as $k => $v) {
            $around[$free[$v]++] = $k;
        }

        return [$first, $around];
    }
}
