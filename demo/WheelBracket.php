<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Cut\Seal;
use Isotome\Format\Rounded;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/**
 * Half of the bracket that carries the water wheel's axle, as somebody modelled it to be mirrored: open along the middle, its rim
 * off the plane x = 0 by up to 0.4 mm.
 */
final class WheelBracket
{
    public static function mesh(): Mesh
    {
        $foot = [[-70.0, 0.0], [70.0, 0.0], [70.0, 14.0], [44.0, 18.0], [30.0, 60.0]];
        for ($n = 0; $n <= 32; $n++) {
            $angle = deg2rad(-25 + 230 * $n / 32);
            $foot[] = [34 * cos($angle), 92 + 34 * sin($angle)];
        }
        array_push($foot, [-30.0, 60.0], [-44.0, 18.0], [-70.0, 14.0]);
        $outlines = [$foot, Extrusion::circle(0.0, 92.0, 20.0, 48, true), Extrusion::circle(54.0, 7.5, 4.0, 20, true), Extrusion::circle(-54.0, 7.5, 4.0, 20, true), Extrusion::circle(0.0, 34.0, 10.0, 32, true)];
        $whole = Extrusion::mesh($outlines, 36.0);
        $half = FlatCut::of($whole, new FlatBlade(Plane::through([0.0, 0.0, 0.0], [1.0, 0.0, 0.0]), Keep::Ahead, Seal::Open), 1)->bodies[0] ?? $whole;
        $xyz = $half->xyz;
        for ($i = 0, $n = 0; $i < count($xyz); $i += 3) {
            if ($xyz[$i] === 0.0) {
                $xyz[$i] = 0.4 * sin(12.9898 * ++$n);
            }
        }

        return Rounded::of(Mesh::of($xyz, $half->corners));
    }
}
