<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Format\SinglePrecision;
use Isotome\Measure\Box;
use Isotome\Mesh\Mesh;

/**
 * The heron of the museum's mill pond: a garden statue on thin legs with a long beak, 420 mm tall.
 *
 * Made of cones with rounded ends that run smoothly into each other (I. Quilez, "Distance functions", articles on signed
 * distance fields: round cone and polynomial smooth minimum, from memory), with feathers as shallow ripples.
 */
final class Heron implements Shape
{
    private const HEIGHT = 420.0;

    /** Start, its radius, end, its radius, smoothing towards the rest. */
    private const CONES = [
        // Body, from the breast to the rump, and the tail.
        [[44, 0, 232], 36, [-30, 0, 214], 44, 18], [[-30, 0, 214], 44, [-92, 0, 184], 22, 18], [[-88, 0, 188], 20, [-150, 0, 150], 5, 14],
        // Neck: an S.
        [[48, 0, 240], 33, [82, 0, 272], 20, 18], [[82, 0, 272], 19, [84, 0, 300], 14.5, 10], [[84, 0, 300], 14.5, [62, 0, 328], 12, 8],
        [[62, 0, 328], 12, [50, 0, 356], 11, 8], [[50, 0, 356], 11, [58, 0, 384], 11.5, 8], [[58, 0, 384], 11.5, [80, 0, 398], 14, 8],
        // Head, beak and crest.
        [[80, 0, 398], 14.5, [96, 0, 397], 10.5, 8], [[98, 0, 397], 8.5, [188, 0, 381], 1.7, 5],
        [[76, 0, 408], 6, [40, 0, 412], 4, 5], [[40, 0, 412], 4, [-14, 0, 396], 1.6, 3],
        // Breast plumes.
        [[72, 0, 252], 9, [70, 0, 196], 2.2, 10],
    ];

    private const MIRRORED = [
        // Wings.
        [[22, 36, 226], 18, [-50, 40, 200], 22, 10], [[-50, 40, 200], 21, [-118, 16, 168], 6, 9],
        // Legs, with the backward knee, and toes.
        [[2, 19, 196], 15, [8, 19, 162], 6.6, 12], [[8, 19, 162], 6.2, [-12, 19, 96], 4.6, 3], [[-12, 19, 96], 5.6, [-12, 19, 92], 5.6, 3],
        [[-12, 19, 96], 4.6, [0, 19, 22], 4.2, 3],
        [[0, 19, 21], 4.4, [38, 25, 17], 2.6, 4], [[0, 19, 21], 4.4, [34, 6, 17], 2.6, 4], [[0, 19, 21], 4.4, [22, 42, 17], 2.6, 4],
        [[0, 19, 21], 4.4, [-24, 19, 17], 2.4, 4],
    ];

    /** @var list<array{float, float, float, float, float, float, float, float, float, float, float}> */
    private array $cones = [];

    private function __construct()
    {
        $all = self::CONES;
        foreach (self::MIRRORED as $cone) {
            $all[] = $cone;
            [$a, , $b] = $cone;
            $cone[0] = [$a[0], -$a[1], $a[2]];
            $cone[2] = [$b[0], -$b[1], $b[2]];
            $all[] = $cone;
        }
        foreach ($all as [$a, $ra, $b, $rb, $smooth]) {
            [$dx, $dy, $dz] = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
            $square = $dx * $dx + $dy * $dy + $dz * $dz;
            $this->cones[] = [(float) $a[0], (float) $a[1], (float) $a[2], (float) $dx, (float) $dy, (float) $dz, 1.0 / $square, (float) $ra, (float) ($rb - $ra), (float) $smooth, sqrt(1 - min(0.9, ($rb - $ra) ** 2 / $square))];
        }
    }

    /** @param  float  $step grid step in mm: 3.2 gives about 105,000 triangles */
    public static function mesh(float $step = 3.2): Mesh
    {
        $mesh = ImplicitSurface::of(new self, $step);
        $box = Box::of($mesh);
        $scale = self::HEIGHT / ($box->max[2] - $box->min[2]);
        $xyz = [];
        foreach ($mesh->xyz as $i => $value) {
            // Standing on the ground, and in the precision of the files it is saved to.
            $xyz[] = $scale * ($i % 3 === 2 ? $value - $box->min[2] : $value);
        }

        return SinglePrecision::of(Mesh::of($xyz, $mesh->corners));
    }

    public function box(): array
    {
        return [[-168.0, -92.0, -6.0], [204.0, 92.0, 432.0]];
    }

    public function distance(float $x, float $y, float $z): float
    {
        $d = $this->mound($x, $y, $z);
        foreach ($this->cones as [$ax, $ay, $az, $dx, $dy, $dz, $inverse, $radius, $growth, $smooth, $slope]) {
            $px = $x - $ax;
            $py = $y - $ay;
            $pz = $z - $az;
            $t = ($px * $dx + $py * $dy + $pz * $dz) * $inverse;
            $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);
            $px -= $t * $dx;
            $py -= $t * $dy;
            $pz -= $t * $dz;
            $c = (sqrt($px * $px + $py * $py + $pz * $pz) - $radius - $t * $growth) * $slope;
            $gap = $smooth - ($d > $c ? $d - $c : $c - $d);
            $d = $d < $c ? $d : $c;
            if ($gap > 0.0) {
                $d -= $gap * $gap / (4 * $smooth);
            }
        }

        return $d < 6.0 && $d > -6.0 ? $d + $this->feathers($x, $y, $z) : $d;
    }

    /** The low mound it stands on. */
    private function mound(float $x, float $y, float $z): float
    {
        $r = sqrt($x * $x / 1.32 + $y * $y);
        $top = 13.5 + 1.2 * sin(0.11 * $x + 1.0) * cos(0.13 * $y);
        $side = $r - 64.0 - 2.5 * sin(3.0 * atan2($y, $x) + 0.7);
        $height = abs($z - $top / 2) - $top / 2 + 4.0;
        $side += 4.0;
        $outside = sqrt(max($side, 0.0) ** 2 + max($height, 0.0) ** 2);

        return (min(max($side, $height), 0.0) + $outside - 4.0) * 0.8;
    }

    /** Rows of scallops on wings, back and tail; smooth on neck, head and legs. */
    private function feathers(float $x, float $y, float $z): float
    {
        $along = 0.94 * $x + 0.34 * $z;
        $weight = max(0.0, min(1.0, ($z - 168.0 + 0.35 * $x) / 18.0)) * max(0.0, min(1.0, (92.0 - $along) / 40.0));
        if ($weight <= 0.0) {
            return 0.0;
        }
        $across = atan2(abs($y) + 2.0, $z - 190.0 - 0.28 * $x) * 13.0;
        $row = $along / 13.0;
        $phase = $row - floor($row);
        $scallop = cos(M_PI * ($across + (((int) floor($row)) & 1)));

        return 0.55 * $weight * sin(2 * M_PI * ($phase + 0.16 * $scallop)) * 0.8;
    }
}
