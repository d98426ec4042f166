<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * Volume, centroid and area of a mesh by the divergence theorem: signed tetrahedra from one vertex of the mesh to each
 * triangle, so that a place far from the origin costs no digits. Sums are compensated (A. Neumaier 1974, "Rundungsfehleranalyse
 * einiger Verfahren zur Summation endlicher Summen"). For an open mesh volume and centroid depend on the choice of that vertex.
 */
final readonly class Volume
{
    /** @param  array{float, float, float}  $centroid of the solid; of the surface when the volume vanishes */
    private function __construct(
        public float $volume,
        public float $area,
        public array $centroid,
    ) {
    }

    /** Signed volume in mm³; negative when the surface is turned inside out. */
    public static function of(Mesh $mesh): float
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        if ($corners === []) {
            return 0.0;
        }
        $ox = $xyz[3 * $corners[0]];
        $oy = $xyz[3 * $corners[0] + 1];
        $oz = $xyz[3 * $corners[0] + 2];
        $volume = $lost = 0.0;
        $count = count($corners);
        for ($i = 0; $i < $count; $i += 3) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $ax = $xyz[$a] - $ox;
            $ay = $xyz[$a + 1] - $oy;
            $az = $xyz[$a + 2] - $oz;
            $ux = $xyz[$b] - $ox - $ax;
            $uy = $xyz[$b + 1] - $oy - $ay;
            $uz = $xyz[$b + 2] - $oz - $az;
            $vx = $xyz[$c] - $ox - $ax;
            $vy = $xyz[$c + 1] - $oy - $ay;
            $vz = $xyz[$c + 2] - $oz - $az;
            $six = $ax * ($uy * $vz - $uz * $vy) + $ay * ($uz * $vx - $ux * $vz) + $az * ($ux * $vy - $uy * $vx);
            $total = $volume + $six;
            if (($volume < 0 ? -$volume : $volume) >= ($six < 0 ? -$six : $six)) {
                $lost += ($volume - $total) + $six;
            } else {
                $lost += ($six - $total) + $volume;
            }
            $volume = $total;
        }

        return ($volume + $lost) / 6;
    }

    /** As of(), with plain sums: quicker, and less exact where many triangles add up. */
    public static function roughly(Mesh $mesh): float
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        if ($corners === []) {
            return 0.0;
        }
        $ox = $xyz[3 * $corners[0]];
        $oy = $xyz[3 * $corners[0] + 1];
        $oz = $xyz[3 * $corners[0] + 2];
        $volume = 0.0;
        $count = count($corners);
        for ($i = 0; $i < $count; $i += 3) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $bx = $xyz[$b] - $ox;
            $by = $xyz[$b + 1] - $oy;
            $bz = $xyz[$b + 2] - $oz;
            $cx = $xyz[$c] - $ox;
            $cy = $xyz[$c + 1] - $oy;
            $cz = $xyz[$c + 2] - $oz;
            $volume += ($xyz[$a] - $ox) * ($by * $cz - $bz * $cy) + ($xyz[$a + 1] - $oy) * ($bz * $cx - $bx * $cz) + ($xyz[$a + 2] - $oz) * ($bx * $cy - $by * $cx);
        }

        return $volume / 6;
    }

    public static function measure(Mesh $mesh): self
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        if ($corners === []) {
            return new self(0.0, 0.0, [0.0, 0.0, 0.0]);
        }
        $ox = $xyz[3 * $corners[0]];
        $oy = $xyz[3 * $corners[0] + 1];
        $oz = $xyz[3 * $corners[0] + 2];
        $volume = $lost = $area = 0.0;
        $mx = $my = $mz = 0.0;
        $sx = $sy = $sz = 0.0;
        $count = count($corners);
        for ($i = 0; $i < $count; $i += 3) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $ax = $xyz[$a] - $ox;
            $ay = $xyz[$a + 1] - $oy;
            $az = $xyz[$a + 2] - $oz;
            $bx = $xyz[$b] - $ox;
            $by = $xyz[$b + 1] - $oy;
            $bz = $xyz[$b + 2] - $oz;
            $cx = $xyz[$c] - $ox;
            $cy = $xyz[$c + 1] - $oy;
            $cz = $xyz[$c + 2] - $oz;
            $ux = $bx - $ax;
            $uy = $by - $ay;
            $uz = $bz - $az;
            $vx = $cx - $ax;
            $vy = $cy - $ay;
            $vz = $cz - $az;
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $twice = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $area += $twice;
            $six = $ax * $nx + $ay * $ny + $az * $nz;
            $total = $volume + $six;
            if (($volume < 0 ? -$volume : $volume) >= ($six < 0 ? -$six : $six)) {
                $lost += ($volume - $total) + $six;
            } else {
                $lost += ($six - $total) + $volume;
            }
            $volume = $total;
            $x = $ax + $bx + $cx;
            $y = $ay + $by + $cy;
            $z = $az + $bz + $cz;
            $mx += $six * $x;
            $my += $six * $y;
            $mz += $six * $z;
            $sx += $twice * $x;
            $sy += $twice * $y;
            $sz += $twice * $z;
        }
        $volume += $lost;
        if ($volume != 0.0) {
            $centroid = [$ox + $mx / (4 * $volume), $oy + $my / (4 * $volume), $oz + $mz / (4 * $volume)];
        } elseif ($area > 0) {
            $centroid = [$ox + $sx / (3 * $area), $oy + $sy / (3 * $area), $oz + $sz / (3 * $area)];
        } else {
            $centroid = [$ox, $oy, $oz];
        }

        return new self($volume / 6, $area / 2, $centroid);
    }
}
