<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Format\Rounded;
use Isotome\Mesh\Mesh;

/** A storage jar of the miller's, thrown by hand: finger ridges, a wall of some 9 mm, slightly out of round. 240 mm tall; to be shattered for a film. */
final class ClayJar
{
    private const AROUND = 112;

    private const STEPS = 44;

    public static function mesh(): Mesh
    {
        $outer = $inner = [];
        for ($n = 0; $n <= self::STEPS; $n++) {
            $t = $n / self::STEPS;
            $ridge = 0.7 * sin(2 * M_PI * 13 * $t) * sin(M_PI * $t);
            $outer[] = [self::radius($t) + $ridge, 4.0 + 226.0 * $t];
            $inner[] = [self::radius($t) - 9.0 - 2.0 * (1 - $t) + 0.5 * sin(2 * M_PI * 17 * $t), 13.0 + 217.0 * $t];
        }
        $lip = [[self::radius(1.0) + 5.0, 233.0], [self::radius(1.0) + 6.0, 237.0], [self::radius(1.0) + 2.0, 240.0], [self::radius(1.0) - 5.0, 239.0]];
        $profile = [[0.0, 0.0], [self::radius(0.0) - 4.0, 0.0], ...$outer, ...$lip, ...array_reverse($inner), [0.0, 11.0]];
        $jar = Lathe::mesh([$profile], self::AROUND);
        $xyz = $jar->xyz;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $angle = atan2($xyz[$i + 1], $xyz[$i]);
            $round = 1 + 0.012 * sin(2 * $angle + 0.9) + 0.006 * sin(3 * $angle + $xyz[$i + 2] / 60);
            $xyz[$i] = $xyz[$i] * $round + 1.5 * sin($xyz[$i + 2] / 90);
            $xyz[$i + 1] *= $round;
        }

        return Rounded::of(Mesh::of(array_values($xyz), $jar->corners));
    }

    /** Of the outer wall, mm: a narrow foot, a full belly, a neck. */
    private static function radius(float $t): float
    {
        return 46.0 + 46.0 * sin(M_PI * $t ** 0.8) ** 0.9 * (1 - 0.15 * $t) + 4.0 * max(0.0, $t - 0.9) * 10;
    }
}
