<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Format\Rounded;
use Isotome\Mesh\Mesh;

/** The museum's sign: a water wheel cut out of a sheet without thickness, 180 mm across. */
final class WheelSilhouette
{
    private const PADDLES = 16;

    private const SPOKES = 8;

    public static function mesh(): Mesh
    {
        $rim = [];
        for ($n = 0; $n < self::PADDLES; $n++) {
            $at = 2 * M_PI * $n / self::PADDLES;
            foreach ([[74.0, -0.14], [74.0, -0.05], [90.0, -0.035], [90.0, 0.035], [74.0, 0.05], [74.0, 0.14]] as [$radius, $turn]) {
                $rim[] = [$radius * cos($at + $turn), $radius * sin($at + $turn)];
            }
        }
        $outlines = [$rim, Extrusion::circle(0.0, 0.0, 7.0, 32, true)];
        for ($n = 0; $n < self::SPOKES; $n++) {
            $from = 2 * M_PI * $n / self::SPOKES;
            $to = 2 * M_PI * ($n + 1) / self::SPOKES;
            $hole = [];
            // Spokes are 6 mm wide at both ends.
            foreach ([[62.0, $from, $to, 12], [20.0, $to, $from, 6]] as [$radius, $a, $b, $steps]) {
                $inset = 3.0 / $radius * ($b > $a ? 1 : -1);
                for ($k = 0; $k <= $steps; $k++) {
                    $angle = $a + $inset + ($b - $a - 2 * $inset) * $k / $steps;
                    $hole[] = [$radius * cos($angle), $radius * sin($angle)];
                }
            }
            $outlines[] = array_reverse($hole);
        }

        return Rounded::of(Extrusion::mesh($outlines, null));
    }
}
