<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Format\Rounded;
use Isotome\Geometry\Box;
use Isotome\Mesh\Layer;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;

/**
 * The heron of the museum's mill pond: a garden statue on thin legs with a long beak, 420 mm tall.
 *
 * Made of limbs: round cones end to end along a smooth line (E. Catmull, R. Rom 1974), a limb running smoothly into the rest
 * (I. Quilez, articles on distance functions: capsule and polynomial smooth minimum, from memory), with feathers as shallow
 * ripples.
 */
final class Heron implements Shape
{
    private const HEIGHT = 420.0;

    /** Points of each limb with their radius, and the width of its smooth joint to the rest. */
    private const LIMBS = [
        // Body: breast, back, rump, tail.
        [22.0, [[62, 0, 240, 22], [40, 0, 236, 35], [0, 0, 224, 43], [-44, 0, 205, 38], [-88, 0, 184, 23], [-124, 0, 165, 11], [-152, 0, 149, 4.5]]],
        // Neck: an S.
        [20.0, [[44, 0, 240, 30], [74, 0, 264, 21], [86, 0, 290, 15.5], [72, 0, 320, 12.5], [53, 0, 347, 11.2], [54, 0, 376, 11.2], [70, 0, 395, 12.8], [84, 0, 399, 13.6], [97, 0, 397, 10.5]]],
        // Beak, crest, breast plumes.
        [7.0, [[92, 0, 398, 9.6], [126, 0, 392.5, 6.4], [160, 0, 387, 3.9], [186, 0, 382.5, 2.5]]],
        [6.0, [[86, 0, 407, 6.5], [62, 0, 412.5, 5.2], [30, 0, 409, 3.8], [-8, 0, 397, 2.5]]],
        [12.0, [[76, 0, 256, 12], [77, 0, 232, 8], [70, 0, 208, 4.6], [64, 0, 190, 2.6]]],
    ];

    private const MIRRORED = [
        // Wing.
        [9.0, [[34, 33, 236, 13], [2, 41, 220, 19], [-42, 40, 200, 20], [-88, 28, 178, 12], [-126, 13, 160, 4.5]]],
        // Leg with the backward knee, and toes.
        [13.0, [[0, 19, 202, 17], [6, 19, 172, 8.2], [2, 19, 140, 6.2], [-9, 19, 106, 5.2], [-11, 19, 97, 6.2], [-10, 19, 88, 5.0], [-4, 19, 52, 4.4], [0, 19, 20, 4.8]]],
        [4.0, [[0, 19, 19, 4.8], [20, 22, 18, 3.8], [38, 25, 15.5, 2.8]]],
        [4.0, [[0, 19, 19, 4.8], [18, 12, 18, 3.8], [35, 6, 15.5, 2.8]]],
        [4.0, [[0, 19, 19, 4.8], [12, 31, 18, 3.8], [22, 43, 15.5, 2.8]]],
        [4.0, [[0, 19, 19, 4.8], [-12, 19, 18, 3.6], [-24, 19, 15.5, 2.6]]],
    ];

    private const PER_SPAN = 2;

    /** @var list<array{float, array{float, float, float, float, float, float}, list<array{float, float, float, float, float, float, float, float, float, float}>}> joint, box around it, cones */
    private array $limbs = [];

    private function __construct()
    {
        foreach (self::LIMBS as [$joint, $points]) {
            $this->limbs[] = $this->limb($joint, $points);
        }
        foreach (self::MIRRORED as [$joint, $points]) {
            $this->limbs[] = $this->limb($joint, $points);
            $this->limbs[] = $this->limb($joint, array_map(static fn (array $p): array => [$p[0], -$p[1], $p[2], $p[3]], $points));
        }
    }

    /**
     * @param  non-empty-array<int, array<int, int|float>>  $points
     * @return array{float, array{float, float, float, float, float, float}, list<array{float, float, float, float, float, float, float, float, float, float}>}
     */
    private function limb(float $joint, array $points): array
    {
        $line = [];
        $last = count($points) - 1;
        for ($i = 0; $i < $last; $i++) {
            [$p, $q, $r, $s] = [$points[max(0, $i - 1)], $points[$i], $points[$i + 1], $points[min($last, $i + 2)]];
            for ($n = 0; $n < self::PER_SPAN; $n++) {
                $t = $n / self::PER_SPAN;
                $point = [];
                for ($k = 0; $k < 4; $k++) {
                    $point[] = 0.5 * (2 * $q[$k] + ($r[$k] - $p[$k]) * $t + (2 * $p[$k] - 5 * $q[$k] + 4 * $r[$k] - $s[$k]) * $t * $t
                        + (3 * $q[$k] - $p[$k] - 3 * $r[$k] + $s[$k]) * $t ** 3);
                }
                $line[] = $point;
            }
        }
        $line[] = array_map(floatval(...), $points[$last]);
        $cones = [];
        $box = [INF, -INF, INF, -INF, INF, -INF];
        foreach ($line as $i => [$x, $y, $z, $radius]) {
            $box = [min($box[0], $x - $radius), max($box[1], $x + $radius), min($box[2], $y - $radius), max($box[3], $y + $radius), min($box[4], $z - $radius), max($box[5], $z + $radius)];
            if (! isset($line[$i + 1])) {
                break;
            }
            [$dx, $dy, $dz, $growth] = [$line[$i + 1][0] - $x, $line[$i + 1][1] - $y, $line[$i + 1][2] - $z, $line[$i + 1][3] - $radius];
            $square = $dx * $dx + $dy * $dy + $dz * $dz;
            $cones[] = [$x, $y, $z, $dx, $dy, $dz, 1.0 / $square, $radius, $growth, sqrt(1 - min(0.75, $growth * $growth / $square))];
        }

        return [$joint, $box, $cones];
    }

    /** @param  float  $step grid step in mm: 3.2 gives about 105,000 triangles */
    public static function mesh(float $step = 3.2): Mesh
    {
        $mesh = ImplicitSurface::of(new self, $step);
        $box = Box::of($mesh->xyz);
        $scale = self::HEIGHT / ($box->max[2] - $box->min[2]);
        $xyz = [];
        foreach ($mesh->xyz as $i => $value) {
            // Standing on the ground, and in the precision of the files it is saved to.
            $xyz[] = $scale * ($i % 3 === 2 ? $value - $box->min[2] : $value);
        }

        return Rounded::of(Mesh::of($xyz, $mesh->corners));
    }

    /** The same, coloured as herons are: a colour at every vertex, as scans have them. */
    public static function coloured(float $step = 3.2): Mesh
    {
        $heron = self::mesh($step);
        $at = $colours = [];
        for ($i = 0, $count = count($heron->xyz); $i < $count; $i += 3) {
            $at[] = self::colour($heron->xyz[$i], $heron->xyz[$i + 2]);
        }
        foreach ($heron->corners as $v) {
            array_push($colours, ...$at[$v]);
        }

        return $heron->withSkin(new Skin(new Looks, str_repeat("\0\0\0\0", $heron->triangleCount()), [Skin::COLOUR => Layer::of(4, $colours)]));
    }

    /** @return array{float, float, float, float} linear */
    private static function colour(float $x, float $z): array
    {
        $slate = [0.19, 0.23, 0.29];
        $white = [0.72, 0.7, 0.65];
        $black = [0.03, 0.03, 0.04];
        $horn = [0.62, 0.36, 0.09];
        $moss = [0.13, 0.16, 0.07];
        $shares = static fn (float $from, float $to, float $at): float => max(0.0, min(1.0, ($at - $from) / ($to - $from)));
        // From the ground up: mound, legs, body, neck and head.
        $colour = self::mixed($moss, $horn, $shares(13.0, 18.0, $z));
        $colour = self::mixed($colour, $slate, $shares(150.0, 172.0, $z + 0.25 * min(0.0, $x)));
        $colour = self::mixed($colour, $white, $shares(40.0, 56.0, $x) * $shares(176.0, 196.0, $z));
        $colour = self::mixed($colour, $black, $shares(403.0, 406.0, $z) * $shares(96.0, 88.0, $x));
        $colour = self::mixed($colour, $horn, $shares(104.0, 116.0, $x) * $shares(370.0, 376.0, $z));

        return [$colour[0], $colour[1], $colour[2], 1.0];
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @return array{float, float, float}
     */
    private static function mixed(array $a, array $b, float $share): array
    {
        return [$a[0] + ($b[0] - $a[0]) * $share, $a[1] + ($b[1] - $a[1]) * $share, $a[2] + ($b[2] - $a[2]) * $share];
    }

    public function box(): array
    {
        return [[-168.0, -92.0, -6.0], [204.0, 92.0, 432.0]];
    }

    public function distance(float $x, float $y, float $z): float
    {
        $d = $z > 40.0 ? $z - 16.0 : $this->mound($x, $y, $z);
        foreach ($this->limbs as [$joint, [$x0, $x1, $y0, $y1, $z0, $z1], $cones]) {
            // A limb that is further off than it can matter is not looked at more closely.
            $fx = $x < $x0 ? $x0 - $x : ($x > $x1 ? $x - $x1 : 0.0);
            $fy = $y < $y0 ? $y0 - $y : ($y > $y1 ? $y - $y1 : 0.0);
            $fz = $z < $z0 ? $z0 - $z : ($z > $z1 ? $z - $z1 : 0.0);
            $within = $d + $joint;
            if ($fx > $within || $fy > $within || $fz > $within || $fx * $fx + $fy * $fy + $fz * $fz > $within * $within) {
                continue;
            }
            $c = INF;
            foreach ($cones as [$ax, $ay, $az, $dx, $dy, $dz, $inverse, $radius, $growth, $slope]) {
                $px = $x - $ax;
                $py = $y - $ay;
                $pz = $z - $az;
                $t = ($px * $dx + $py * $dy + $pz * $dz) * $inverse;
                $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);
                $px -= $t * $dx;
                $py -= $t * $dy;
                $pz -= $t * $dz;
                $one = (sqrt($px * $px + $py * $py + $pz * $pz) - $radius - $t * $growth) * $slope;
                if ($one < $c) {
                    $c = $one;
                }
            }
            $gap = $joint - ($d > $c ? $d - $c : $c - $d);
            $d = $d < $c ? $d : $c;
            if ($gap > 0.0) {
                $d -= $gap * $gap / (4 * $joint);
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
