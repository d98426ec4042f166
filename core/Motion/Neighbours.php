<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;

/** Pieces that are next to each other, as they stand. */
final class Neighbours
{
    private const ROUNDS = 400;

    /** Share of the first error within which places are found. */
    private const NEAR = 1e-10;

    /**
     * Pairs whose boxes come as near as this along every axis.
     *
     * @param  list<Mesh>  $meshes
     * @param  float  $reach  mm
     * @return list<array{int, int}>
     */
    public static function pairs(array $meshes, float $reach): array
    {
        $boxes = $margins = [];
        foreach ($meshes as $mesh) {
            $box = Box::of($mesh->xyz);
            $boxes[] = [...$box->min, ...$box->max];
            $margins[] = $reach / 2;
        }

        return array_map(static fn (int $pair): array => [$pair >> 20, $pair & 0xFFFFF], Nearby::pairs($boxes, $margins, array_fill(0, count($meshes), true)));
    }

    /**
     * How far each must go so that all pairs part by the same distance along the faces that they share, as nearly as that goes for all of them at once: the least squares of what each pair is off by, weighed by area. What hangs together stays
     * where it is on the whole.
     *
     * Source: normal equations, a Laplacian of the graph, by conjugate gradients (M. R. Hestenes, E. Stiefel 1952).
     *
     * @param  list<array{int, int, array{float, float, float}, float}>  $faces  two pieces, the direction from the first to the second, area
     * @return list<array{float, float, float}> by piece, mm
     */
    public static function parted(int $count, array $faces, float $distance): array
    {
        $parted = [];
        foreach ([0, 1, 2] as $k) {
            $found = array_fill(0, $count, 0.0);
            $rest = array_fill(0, $count, 0.0);
            foreach ($faces as [$a, $b, $way, $area]) {
                $rest[$a] -= $area * $distance * $way[$k];
                $rest[$b] += $area * $distance * $way[$k];
            }
            $along = $rest;
            $square = $first = self::dot($rest, $rest);
            for ($round = 0; $round < self::ROUNDS && $square > self::NEAR ** 2 * $first; $round++) {
                $image = array_fill(0, $count, 0.0);
                foreach ($faces as [$a, $b, , $area]) {
                    $by = $area * ($along[$b] - $along[$a]);
                    $image[$a] -= $by;
                    $image[$b] += $by;
                }
                $step = $square / self::dot($along, $image);
                foreach ($along as $n => $c) {
                    $found[$n] += $step * $c;
                    $rest[$n] -= $step * $image[$n];
                }
                $next = self::dot($rest, $rest);
                foreach ($rest as $n => $c) {
                    $along[$n] = $c + $next / $square * $along[$n];
                }
                $square = $next;
            }
            $parted[] = $found;
        }

        return array_map(static fn (float $x, float $y, float $z): array => [$x, $y, $z], ...$parted);
    }

    /**
     * @param  array<int, float>  $a
     * @param  array<int, float>  $b
     */
    private static function dot(array $a, array $b): float
    {
        $sum = 0.0;
        foreach ($a as $n => $c) {
            $sum += $c * $b[$n];
        }

        return $sum;
    }
}
