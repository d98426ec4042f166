<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Format\Rounded;
use Isotome\Mesh\Mesh;

/** The lifting beam of the sluice gate: tenons at both ends, pin holes and a long slot. 640 mm long, far more than a printer reaches. */
final class SluiceBeam
{
    public static function mesh(): Mesh
    {
        $side = [
            [-320.0, 22.0], [-268.0, 22.0], [-268.0, 6.0], [-120.0, 0.0], [120.0, 0.0], [268.0, 6.0], [268.0, 22.0], [320.0, 22.0], [320.0, 48.0], [268.0, 48.0], [268.0, 62.0],
            [150.0, 66.0], [130.0, 84.0], [-130.0, 84.0], [-150.0, 66.0], [-268.0, 62.0], [-268.0, 48.0], [-320.0, 48.0],
        ];
        $slot = [];
        foreach ([[70.0, 90.0, -90.0], [-70.0, -90.0, -270.0]] as [$cx, $from, $to]) {
            for ($n = 0; $n <= 16; $n++) {
                $angle = deg2rad($from + ($to - $from) * $n / 16);
                $slot[] = [$cx + 16 * cos($angle), 42 + 16 * sin($angle)];
            }
        }
        $outlines = [$side, $slot];
        foreach ([-294.0, -210.0, -170.0, 170.0, 210.0, 294.0] as $x) {
            $outlines[] = Extrusion::circle($x, 35.0, abs($x) > 250 ? 6.0 : 9.0, 32, true);
        }

        return Rounded::of(Extrusion::mesh($outlines, 56.0));
    }
}
