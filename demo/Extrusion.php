<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Mesh\Mesh;
use Isotome\Seal\RimTriangulation;

/** A flat drawing with holes, as an open sheet or drawn out to a thickness along y. */
final class Extrusion
{
    /**
     * @param  list<list<array{float, float}>>  $outlines  x and z; the outer one counter-clockwise, holes clockwise
     * @param  float|null  $thickness  null for a sheet in the plane y = 0
     */
    public static function mesh(array $outlines, ?float $thickness): Mesh
    {
        $x = $z = $from = $to = [];
        foreach ($outlines as $outline) {
            $first = count($x);
            foreach ($outline as $n => [$px, $pz]) {
                $x[] = $px;
                $z[] = $pz;
                $from[] = $first + $n;
                $to[] = $first + ($n + 1) % count($outline);
            }
        }
        $face = RimTriangulation::of($x, $z, $from, $to)->triangles;
        $count = count($x);
        $xyz = $corners = [];
        foreach ($thickness === null ? [0.0] : [-$thickness / 2, $thickness / 2] as $y) {
            foreach ($x as $v => $px) {
                array_push($xyz, $px, $y, $z[$v]);
            }
        }
        // Seen from the front (from −y), x to the right and z up: the face looks to −y.
        $corners = $face;
        if ($thickness !== null) {
            for ($i = 0; $i < count($face); $i += 3) {
                array_push($corners, $face[$i] + $count, $face[$i + 2] + $count, $face[$i + 1] + $count);
            }
            foreach ($from as $e => $a) {
                $b = $to[$e];
                array_push($corners, $a, $b + $count, $b, $a, $a + $count, $b + $count);
            }
        }

        return Mesh::of($xyz, $corners);
    }

    /**
     * Points of a circle, counter-clockwise; clockwise for a hole.
     *
     * @return list<array{float, float}>
     */
    public static function circle(float $cx, float $cz, float $radius, int $points, bool $isHole = false): array
    {
        $circle = [];
        for ($n = 0; $n < $points; $n++) {
            $angle = ($isHole ? -2 : 2) * M_PI * $n / $points;
            $circle[] = [$cx + $radius * cos($angle), $cz + $radius * sin($angle)];
        }

        return $circle;
    }
}
