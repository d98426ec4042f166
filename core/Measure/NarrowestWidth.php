<?php

declare(strict_types=1);

namespace Isotome\Measure;

/**
 * The narrowest width of a section: the smallest circle that touches walls facing each other, at least 120° apart seen from its middle, so that
 * corners do not count as narrow places.
 *
 * A local thickness in the sense of T. Hildebrand and P. Rüegsegger, "A new method for the model-independent assessment of thickness"
 * (1997). Circles are found by shrinking them at places along each edge until no wall that looks the other way reaches into them (J. Ma, S. W. Bae, S. Choi, "3D medial axis point
 * approximation using nearest neighbors and the normal field", The Visual Computer 28, 2012), and at inward corners by the nearest
 * opposite place that faces them. Exact for parallel walls and for necks between an inward corner and a wall or corner.
 */
final class NarrowestWidth
{
    private const FACING = -0.5;

    /**
     * @param  list<list<array{float, float}>>  $outlines  material to the left
     * @return float|null mm; null when nothing faces anything (no outline)
     */
    public static function of(array $outlines): ?float
    {
        $ax = $ay = $bx = $by = [];
        $edgesBefore = [];
        foreach ($outlines as $outline) {
            $count = count($outline);
            $first = count($ax);
            for ($i = 0; $i < $count; $i++) {
                [$px, $py] = $outline[$i];
                [$qx, $qy] = $outline[($i + 1) % $count];
                if ($px === $qx && $py === $qy) {
                    continue;
                }
                $edgesBefore[] = count($ax) > $first ? count($ax) - 1 : -1;
                $ax[] = $px;
                $ay[] = $py;
                $bx[] = $qx;
                $by[] = $qy;
            }
            if (count($ax) > $first) {
                $edgesBefore[$first] = count($ax) - 1;
            }
        }
        $count = count($ax);
        if ($count < 3) {
            return null;
        }
        $following = [];
        foreach ($edgesBefore as $e => $before) {
            $following[$before] = $e;
        }
        $grid = new SegmentGrid($ax, $ay, $bx, $by);
        $best = $grid->extent();
        $found = false;
        for ($e = 0; $e < $count; $e++) {
            $length = hypot($bx[$e] - $ax[$e], $by[$e] - $ay[$e]);
            // Inward normal: to the left.
            $nx = -($by[$e] - $ay[$e]) / $length;
            $ny = ($bx[$e] - $ax[$e]) / $length;
            $before = $edgesBefore[$e];
            $after = $following[$e] ?? $e;
            // The middle's normal is right on curves too; other places only of walls that end in a real corner.
            $shares = [0.5];
            if ($before >= 0 && self::isCorner($ax, $ay, $bx, $by, $before, $e)) {
                array_push($shares, 0.001, 0.25);
            }
            if (self::isCorner($ax, $ay, $bx, $by, $e, $after)) {
                array_push($shares, 0.75, 0.999);
            }
            foreach ($shares as $share) {
                $px = $ax[$e] + $share * ($bx[$e] - $ax[$e]);
                $py = $ay[$e] + $share * ($by[$e] - $ay[$e]);
                $width = self::circle($grid, $px, $py, $nx, $ny, $best, [$e, $before, $after]);
                if ($width !== null && $width <= $best) {
                    $best = $width;
                    $found = true;
                }
            }
            if ($before < 0) {
                continue;
            }
            // An inward corner at the start of this edge?
            $turn = ($bx[$before] - $ax[$before]) * ($by[$e] - $ay[$e]) - ($by[$before] - $ay[$before]) * ($bx[$e] - $ax[$e]);
            if ($turn < 0) {
                $width = self::acrossCorner($grid, $e, $before, $ax, $ay, $bx, $by, $best);
                if ($width !== null && $width <= $best) {
                    $best = $width;
                    $found = true;
                }
            }
        }

        return $found ? $best : null;
    }

    /**
     * Do the walls turn by more than 25° from one edge to the next?
     *
     * @param  list<float>  $ax
     * @param  list<float>  $ay
     * @param  list<float>  $bx
     * @param  list<float>  $by
     */
    private static function isCorner(array $ax, array $ay, array $bx, array $by, int $e, int $next): bool
    {
        [$ux, $uy] = [$bx[$e] - $ax[$e], $by[$e] - $ay[$e]];
        [$vx, $vy] = [$bx[$next] - $ax[$next], $by[$next] - $ay[$next]];

        return $ux * $vx + $uy * $vy < 0.906 * hypot($ux, $uy) * hypot($vx, $vy);
    }

    /**
     * Diameter of the circle that touches the outline at p, when it is not larger than the best and touches another place facing p.
     *
     * @param  list<int>  $except  the walls at p itself
     */
    private static function circle(SegmentGrid $grid, float $px, float $py, float $nx, float $ny, float $best, array $except): ?float
    {
        $radius = $best / 2 * (1 + 1e-9);
        $facing = null;
        for ($round = 0; $round < 40; $round++) {
            $cx = $px + $radius * $nx;
            $cy = $py + $radius * $ny;
            [$near, $qx, $qy] = $grid->nearest($cx, $cy, $radius * (1 - 1e-9), $nx, $ny, $except);
            if ($near < 0) {
                break;
            }
            $dx = $qx - $px;
            $dy = $qy - $py;
            $along = $dx * $nx + $dy * $ny;
            if ($along <= 1e-12 * $radius) {
                // Beside p on the same wall.
                return null;
            }
            $next = ($dx * $dx + $dy * $dy) / (2 * $along);
            if ($next >= $radius) {
                break;
            }
            $radius = $next;
            $facing = [$qx, $qy];
        }
        if ($facing === null || $radius <= 0.0) {
            return null;
        }
        $cx = $px + $radius * $nx;
        $cy = $py + $radius * $ny;
        $cos = (($px - $cx) * ($facing[0] - $cx) + ($py - $cy) * ($facing[1] - $cy)) / ($radius * $radius);

        return $cos <= self::FACING ? 2 * $radius : null;
    }

    /**
     * @param  list<float>  $ax
     * @param  list<float>  $ay
     * @param  list<float>  $bx
     * @param  list<float>  $by
     */
    private static function acrossCorner(SegmentGrid $grid, int $edge, int $before, array $ax, array $ay, array $bx, array $by, float $best): ?float
    {
        $px = $ax[$edge];
        $py = $ay[$edge];
        $width = null;
        foreach ($grid->around($px, $py, $best) as $e) {
            if ($e === $edge || $e === $before) {
                continue;
            }
            [$qx, $qy] = $grid->foot($e, $px, $py);
            $dx = $qx - $px;
            $dy = $qy - $py;
            $distance = hypot($dx, $dy);
            if ($distance <= 0.0 || $distance > $best || ($width !== null && $distance >= $width)) {
                continue;
            }
            // Into the material at both walls of the corner, and met from the material's side.
            $outOne = $dx * ($bx[$edge] - $ax[$edge]) + $dy * ($by[$edge] - $ay[$edge]);
            $outTwo = $dx * ($ax[$before] - $bx[$before]) + $dy * ($ay[$before] - $by[$before]);
            $left = -($by[$e] - $ay[$e]) * $dx + ($bx[$e] - $ax[$e]) * $dy;
            if ($outOne <= 1e-12 * $distance && $outTwo <= 1e-12 * $distance && $left < 0) {
                $width = $distance;
            }
        }

        return $width;
    }
}
