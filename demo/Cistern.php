<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Format\Rounded;
use Isotome\Mesh\Mesh;

/** The cistern of the mill's roof: closed all round, with the tank inside and a ring-shaped drain chamber in its foot. 190 mm across, 168 mm tall. */
final class Cistern
{
    public static function mesh(): Mesh
    {
        $body = [[0.0, 0.0], [95.0, 0.0], [95.0, 10.0], [88.0, 18.0]];
        // A belly with three hoops.
        for ($n = 0; $n <= 24; $n++) {
            $t = $n / 24;
            $hoop = in_array($n, [5, 6, 12, 13, 19, 20], true) ? 3.0 : 0.0;
            $body[] = [82.0 + 8.0 * sin(M_PI * $t) + $hoop, 20.0 + 118.0 * $t];
        }
        array_push($body, [90.0, 142.0], [90.0, 150.0], [60.0, 160.0], [18.0, 162.0], [18.0, 168.0], [0.0, 168.0]);
        $tank = [[0.0, 140.0], [70.0, 140.0]];
        for ($n = 12; $n >= 0; $n--) {
            $tank[] = [72.0 + 8.0 * sin(M_PI * $n / 12), 32.0 + 106.0 * $n / 12];
        }
        array_push($tank, [66.0, 28.0], [0.0, 28.0]);
        $drain = array_map(static fn (array $p): array => [50.0 + $p[0], 14.0 + $p[1]], Extrusion::circle(0.0, 0.0, 8.0, 24, true));

        return Rounded::of(Lathe::mesh([$body, $tank, $drain], 96));
    }
}
