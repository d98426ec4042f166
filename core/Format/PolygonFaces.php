<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Geometry\Orientation;
use Isotome\Seal\EarClipping;
use Isotome\Seal\RimTriangulation;

/**
 * Polygons of a file into triangles that use only their corners and, unless the polygon crosses itself, do not cross each other; also
 * concave ones. The work grows little faster than the number of corners, whatever the polygon is.
 */
final class PolygonFaces
{
    public const MOST_CORNERS = 100_000;

    /** Work spent in a file on polygons that cross themselves, for which no triangles are right: see EarClipping. */
    public const LOOKS = 2_000_000;

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $polygon  vertex numbers in order
     * @param  int  $looks  what is left of LOOKS for this file
     * @return list<int> corners of its triangles, the same way round
     */
    public static function triangles(array $xyz, array $polygon, int &$looks): array
    {
        $count = count($polygon);
        if ($count === 3) {
            return $polygon;
        }
        [$u, $v, $isTurned] = self::page($xyz, $polygon);
        $x = $y = [];
        foreach ($polygon as $p) {
            $x[$p] = $xyz[3 * $p + $u];
            $y[$p] = $xyz[3 * $p + $v];
        }
        $loop = $isTurned ? array_reverse($polygon) : $polygon;
        if ($count === 4) {
            $triangles = self::quad($x, $y, $loop);
        } else {
            $from = $loop;
            $to = [...array_slice($loop, 1), $loop[0]];
            $flat = RimTriangulation::exact($x, $y, $from, $to);
            $triangles = $flat !== null && count($flat) === 3 * ($count - 2) ? $flat : EarClipping::of($x, $y, $loop, $looks);
        }

        return $isTurned ? array_reverse($triangles) : $triangles;
    }

    /**
     * By the diagonal that lies inside; by the shorter one when both do.
     *
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $q
     * @return list<int>
     */
    private static function quad(array $x, array $y, array $q): array
    {
        [$a, $b, $c, $d] = $q;
        $turn = static fn (int $i, int $j, int $k): int => Orientation::of($x[$i], $y[$i], $x[$j], $y[$j], $x[$k], $y[$k]);
        $alongAC = $turn($a, $b, $c) > 0 && $turn($a, $c, $d) > 0;
        $alongBD = $turn($b, $c, $d) > 0 && $turn($b, $d, $a) > 0;
        $isShorter = ($x[$a] - $x[$c]) ** 2 + ($y[$a] - $y[$c]) ** 2 <= ($x[$b] - $x[$d]) ** 2 + ($y[$b] - $y[$d]) ** 2;

        return $alongAC && (! $alongBD || $isShorter) || (! $alongAC && ! $alongBD) ? [$a, $b, $c, $a, $c, $d] : [$b, $c, $d, $b, $d, $a];
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $polygon
     * @return array{int, int, bool} two axes that show the polygon largest, and whether it runs clockwise there
     */
    private static function page(array $xyz, array $polygon): array
    {
        $n = [0.0, 0.0, 0.0];
        $o = 3 * $polygon[0];
        $p = $polygon[count($polygon) - 1];
        foreach ($polygon as $q) {
            [$px, $py, $pz] = [$xyz[3 * $p] - $xyz[$o], $xyz[3 * $p + 1] - $xyz[$o + 1], $xyz[3 * $p + 2] - $xyz[$o + 2]];
            [$qx, $qy, $qz] = [$xyz[3 * $q] - $xyz[$o], $xyz[3 * $q + 1] - $xyz[$o + 1], $xyz[3 * $q + 2] - $xyz[$o + 2]];
            $n[0] += $py * $qz - $pz * $qy;
            $n[1] += $pz * $qx - $px * $qz;
            $n[2] += $px * $qy - $py * $qx;
            $p = $q;
        }
        [$x, $y, $z] = [abs($n[0]), abs($n[1]), abs($n[2])];
        if ($z >= $x && $z >= $y) {
            return [0, 1, $n[2] < 0];
        }

        return $x >= $y ? [1, 2, $n[0] < 0] : [2, 0, $n[1] < 0];
    }
}
