<?php

declare(strict_types=1);

namespace Isotome\Measure;

use Isotome\Mesh\Mesh;

/**
 * Mass properties of a watertight mesh of density 1: volume (mm³), centroid (mm), and the inertia tensor about the centroid (mm⁵).
 *
 * Source: B. Mirtich, "Fast and accurate computation of polyhedral mass properties", Journal of Graphics Tools 1 (1996): volume integrals
 * become integrals over faces by the divergence theorem; for triangles these have the closed form of D. Eberly, "Polyhedral mass
 * properties (revisited)" (2002). Taken from a vertex of the mesh, so that places far from the origin lose no digits.
 */
final readonly class Inertia
{
    /**
     * @param  array{float, float, float}  $centroid
     * @param  array{array{float, float, float}, array{float, float, float}, array{float, float, float}}  $tensor  symmetric; off the diagonal the negative products of inertia
     */
    private function __construct(
        public float $volume,
        public array $centroid,
        public array $tensor,
    ) {
    }

    public static function of(Mesh $mesh): self
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        if ($corners === []) {
            return new self(0.0, [0.0, 0.0, 0.0], [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]]);
        }
        $o = 3 * $corners[0];
        [$ox, $oy, $oz] = [$xyz[$o], $xyz[$o + 1], $xyz[$o + 2]];
        $one = $x = $y = $z = $xx = $yy = $zz = $xy = $yz = $zx = 0.0;
        $count = count($corners);
        for ($i = 0; $i < $count; $i += 3) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $x0 = $xyz[$a] - $ox;
            $y0 = $xyz[$a + 1] - $oy;
            $z0 = $xyz[$a + 2] - $oz;
            $x1 = $xyz[$b] - $ox;
            $y1 = $xyz[$b + 1] - $oy;
            $z1 = $xyz[$b + 2] - $oz;
            $x2 = $xyz[$c] - $ox;
            $y2 = $xyz[$c + 1] - $oy;
            $z2 = $xyz[$c + 2] - $oz;
            $nx = ($y1 - $y0) * ($z2 - $z0) - ($z1 - $z0) * ($y2 - $y0);
            $ny = ($z1 - $z0) * ($x2 - $x0) - ($x1 - $x0) * ($z2 - $z0);
            $nz = ($x1 - $x0) * ($y2 - $y0) - ($y1 - $y0) * ($x2 - $x0);
            // Sums of powers of the corners, axis by axis.
            $s = $x0 + $x1;
            $p = $x0 * $x0;
            $q = $p + $x1 * $s;
            $fx1 = $s + $x2;
            $fx2 = $q + $x2 * $fx1;
            $fx3 = $x0 * $p + $x1 * $q + $x2 * $fx2;
            $gx0 = $fx2 + $x0 * ($fx1 + $x0);
            $gx1 = $fx2 + $x1 * ($fx1 + $x1);
            $gx2 = $fx2 + $x2 * ($fx1 + $x2);
            $s = $y0 + $y1;
            $p = $y0 * $y0;
            $q = $p + $y1 * $s;
            $fy1 = $s + $y2;
            $fy2 = $q + $y2 * $fy1;
            $fy3 = $y0 * $p + $y1 * $q + $y2 * $fy2;
            $gy0 = $fy2 + $y0 * ($fy1 + $y0);
            $gy1 = $fy2 + $y1 * ($fy1 + $y1);
            $gy2 = $fy2 + $y2 * ($fy1 + $y2);
            $s = $z0 + $z1;
            $p = $z0 * $z0;
            $q = $p + $z1 * $s;
            $fz1 = $s + $z2;
            $fz2 = $q + $z2 * $fz1;
            $fz3 = $z0 * $p + $z1 * $q + $z2 * $fz2;
            $gz0 = $fz2 + $z0 * ($fz1 + $z0);
            $gz1 = $fz2 + $z1 * ($fz1 + $z1);
            $gz2 = $fz2 + $z2 * ($fz1 + $z2);
            $one += $nx * $fx1;
            $x += $nx * $fx2;
            $y += $ny * $fy2;
            $z += $nz * $fz2;
            $xx += $nx * $fx3;
            $yy += $ny * $fy3;
            $zz += $nz * $fz3;
            $xy += $nx * ($y0 * $gx0 + $y1 * $gx1 + $y2 * $gx2);
            $yz += $ny * ($z0 * $gy0 + $z1 * $gy1 + $z2 * $gy2);
            $zx += $nz * ($x0 * $gz0 + $x1 * $gz1 + $x2 * $gz2);
        }
        $volume = $one / 6;
        if ($volume == 0.0) {
            return new self(0.0, [$ox, $oy, $oz], [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]]);
        }
        $cx = $x / 24 / $volume;
        $cy = $y / 24 / $volume;
        $cz = $z / 24 / $volume;
        $xx = $xx / 60 - $volume * $cx * $cx;
        $yy = $yy / 60 - $volume * $cy * $cy;
        $zz = $zz / 60 - $volume * $cz * $cz;
        $xy = $xy / 120 - $volume * $cx * $cy;
        $yz = $yz / 120 - $volume * $cy * $cz;
        $zx = $zx / 120 - $volume * $cz * $cx;

        return new self($volume, [$ox + $cx, $oy + $cy, $oz + $cz], [[$yy + $zz, -$xy, -$zx], [-$xy, $zz + $xx, -$yz], [-$zx, -$yz, $xx + $yy]]);
    }
}
