<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Isotome\Join\CommonFace;
use Isotome\Join\Joints;
use Isotome\Mesh\Mesh;

/**
 * Glue between neighbours: the faces that two pieces share.
 *
 * What a face bears is told by four places, each of which stands for a quarter of it: on both sides of its middle, along both main directions, √2 standard deviations away. They have its area, its middle and its second moments, so that
 * a pull is shared evenly, and a bending moment is borne as by the face itself.
 */
final readonly class Glue
{
    /** Pieces that are farther from each other, mm, share no glue. */
    public const REACH = 0.5;

    /**
     * @param  array{float, float, float}  $middle
     * @param  array{float, float, float}  $normal  from the first piece into the second
     * @param  array{float, float, float}  $along  the direction in which the face is long
     * @param  float  $long  mm from the middle to two of the places
     * @param  float  $short  and to the two others, square to it
     * @param  float  $area  mm²
     */
    private function __construct(
        public array $middle,
        public array $normal,
        public array $along,
        public float $long,
        public float $short,
        public float $area,
    ) {
    }

    /**
     * @param  list<Mesh>  $meshes
     * @param  list<array{int, int}>  $pairs
     * @return list<array{int, int, self}> pieces and what holds them, a face each
     */
    public static function between(array $meshes, array $pairs): array
    {
        $glue = [];
        foreach (Joints::of($meshes, $pairs, self::REACH) as [$a, $b, $faces]) {
            foreach ($faces as $face) {
                $one = self::on($meshes[$a], $face);
                if ($one !== null) {
                    $glue[] = [$a, $b, $one];
                }
            }
        }

        return $glue;
    }

    private static function on(Mesh $mesh, CommonFace $face): ?self
    {
        // The middles of a triangle's edges give its moments up to the second exactly (A. H. Stroud 1971).
        $sum = $x = $y = $z = $xx = $xy = $yy = 0.0;
        foreach ($face->faces[0] as $t) {
            $corners = [];
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $i = 3 * $mesh->corners[$k];
                $corners[] = $face->onPage($mesh->xyz[$i], $mesh->xyz[$i + 1], $mesh->xyz[$i + 2]);
            }
            [$p, $q, $r] = $corners;
            $area = abs(($q[0] - $p[0]) * ($r[1] - $p[1]) - ($q[1] - $p[1]) * ($r[0] - $p[0])) / 6;
            foreach ([[$p, $q], [$q, $r], [$r, $p]] as [$from, $to]) {
                [$u, $v, $w] = [($from[0] + $to[0]) / 2, ($from[1] + $to[1]) / 2, ($from[2] + $to[2]) / 2];
                $sum += $area;
                $x += $area * $u;
                $y += $area * $v;
                $z += $area * $w;
                $xx += $area * $u * $u;
                $xy += $area * $u * $v;
                $yy += $area * $v * $v;
            }
        }
        if ($sum <= 0.0) {
            return null;
        }
        [$x, $y, $z] = [$x / $sum, $y / $sum, $z / $sum];
        [$xx, $xy, $yy] = [$xx / $sum - $x * $x, $xy / $sum - $x * $y, $yy / $sum - $y * $y];
        $turn = atan2(2 * $xy, $xx - $yy) / 2;
        [$c, $s] = [cos($turn), sin($turn)];
        $long = sqrt(max(0.0, 2 * ($xx * $c * $c + 2 * $xy * $c * $s + $yy * $s * $s)));
        $short = sqrt(max(0.0, 2 * ($xx * $s * $s - 2 * $xy * $c * $s + $yy * $c * $c)));

        $along = $face->inSpace($c, $s, 0.0);

        return $long > 0.0 && $short > 0.0 ? new self($face->inSpace($x, $y, $z), $face->axis, $along, $long, $short, $face->area) : null;
    }
}
