<?php

declare(strict_types=1);

namespace Isotome\Seal;

use Isotome\Geometry\Orientation;

/**
 * Triangulates one closed outline even when it crosses itself, as only a faulty mesh leaves it.
 *
 * Guarantees that the triangles' outer edges are exactly the outline. Triangles overlap only where the outline crosses
 * itself or where no proper ear is left. Source: G. H. Meisters, "Polygons have ears", American Mathematical Monthly 82
 * (1975). O(n²) where ears are found soon, O(n³) where the outline crosses itself all over; beyond LONGEST points, and when the
 * looks are used up, it takes the next corner without looking for a proper ear.
 */
final class EarClipping
{
    private const LONGEST = 3000;

    /**
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $loop
     * @param  int  $looks  corners to be looked at in all, counted down: bounds the work on outlines that somebody made to be slow
     * @return list<int>
     */
    public static function of(array $x, array $y, array $loop, int &$looks = PHP_INT_MAX): array
    {
        $count = count($loop);
        $next = [];
        $previous = [];
        for ($i = 0; $i < $count; $i++) {
            $next[] = ($i + 1) % $count;
            $previous[] = ($i + $count - 1) % $count;
        }
        $triangles = [];
        $i = 0;
        $patience = $count;
        $exhaustive = $count <= self::LONGEST;
        while ($count > 2) {
            $h = $previous[$i];
            $j = $next[$i];
            if (! $exhaustive || $patience <= 0 || $looks <= 0 || self::isEar($x, $y, $loop, $next, $h, $i, $j, $looks)) {
                array_push($triangles, $loop[$h], $loop[$i], $loop[$j]);
                $next[$h] = $j;
                $previous[$j] = $h;
                $count--;
                $patience = $count;
                // Two steps on: clipping round about keeps the triangles from fanning.
                $i = $next[$j];
            } else {
                $patience--;
                $i = $j;
            }
        }

        return $triangles;
    }

    /**
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $loop
     * @param  array<int, int>  $next
     */
    private static function isEar(array $x, array $y, array $loop, array $next, int $h, int $i, int $j, int &$looks): bool
    {
        $looks--;
        [$a, $b, $c] = [$loop[$h], $loop[$i], $loop[$j]];
        if (Orientation::of($x[$a], $y[$a], $x[$b], $y[$b], $x[$c], $y[$c]) <= 0) {
            return false;
        }
        for ($k = $next[$j]; $k !== $h; $k = $next[$k]) {
            $looks--;
            $p = $loop[$k];
            if (Orientation::of($x[$a], $y[$a], $x[$b], $y[$b], $x[$p], $y[$p]) >= 0
                && Orientation::of($x[$b], $y[$b], $x[$c], $y[$c], $x[$p], $y[$p]) >= 0
                && Orientation::of($x[$c], $y[$c], $x[$a], $y[$a], $x[$p], $y[$p]) >= 0) {
                return false;
            }
        }

        return true;
    }
}
