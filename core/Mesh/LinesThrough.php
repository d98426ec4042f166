<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * Where upright lines of a square grid go through triangles.
 *
 * Guarantees: a line meets every triangle that it passes within, at the height of the triangle's plane there. Triangles that stand upright are not met. Source: scan conversion row by row, as in J. D. Foley and others, "Computer graphics", chapter 3.
 */
final class LinesThrough
{
    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @param  float  $x0  of the first line, in the unit of the places
     * @param  float  $cell  distance of the lines
     * @param  int  $width  more than there are lines in a row
     * @return array{list<int>, list<float>, list<int>} of every place where a line meets a triangle: row × width + column of the line, the height, and the triangle
     */
    public static function of(array $xyz, array $corners, float $x0, float $y0, float $cell, int $width): array
    {
        $lines = $heights = $triangles = [];
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            // In rows and columns.
            $ay = ($xyz[$a + 1] - $y0) / $cell;
            $by = ($xyz[$b + 1] - $y0) / $cell;
            $cy = ($xyz[$c + 1] - $y0) / $cell;
            $low = (int) ceil($ay < $by ? ($ay < $cy ? $ay : $cy) : ($by < $cy ? $by : $cy));
            $high = (int) floor($ay > $by ? ($ay > $cy ? $ay : $cy) : ($by > $cy ? $by : $cy));
            if ($low > $high) {
                continue;
            }
            $ax = ($xyz[$a] - $x0) / $cell;
            $bx = ($xyz[$b] - $x0) / $cell;
            $cx = ($xyz[$c] - $x0) / $cell;
            $area = ($bx - $ax) * ($cy - $ay) - ($by - $ay) * ($cx - $ax);
            if ($area === 0.0) {
                continue;
            }
            $az = $xyz[$a + 2];
            $right = (($xyz[$b + 2] - $az) * ($cy - $ay) - ($xyz[$c + 2] - $az) * ($by - $ay)) / $area;
            $up = (($xyz[$c + 2] - $az) * ($bx - $ax) - ($xyz[$b + 2] - $az) * ($cx - $ax)) / $area;
            $triangle = intdiv($i, 3);
            for ($row = $low; $row <= $high; $row++) {
                // From where to where the triangle is on the row: its edges that pass it.
                $left = INF;
                $end = -INF;
                if ($ay !== $by && ($ay - $row) * ($by - $row) <= 0.0) {
                    $left = $end = $ax + ($bx - $ax) * ($row - $ay) / ($by - $ay);
                }
                if ($by !== $cy && ($by - $row) * ($cy - $row) <= 0.0) {
                    $x = $bx + ($cx - $bx) * ($row - $by) / ($cy - $by);
                    $left = $x < $left ? $x : $left;
                    $end = $x > $end ? $x : $end;
                }
                if ($cy !== $ay && ($cy - $row) * ($ay - $row) <= 0.0) {
                    $x = $cx + ($ax - $cx) * ($row - $cy) / ($ay - $cy);
                    $left = $x < $left ? $x : $left;
                    $end = $x > $end ? $x : $end;
                }
                $z = $az + $up * ($row - $ay) - $right * $ax;
                for ($column = (int) ceil($left), $last = (int) floor($end); $column <= $last; $column++) {
                    $lines[] = $row * $width + $column;
                    $heights[] = $z + $right * $column;
                    $triangles[] = $triangle;
                }
            }
        }

        return [$lines, $heights, $triangles];
    }
}
