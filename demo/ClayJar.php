<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Format\Rounded;
use Isotome\Mesh\Layer;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Skin;

/** A storage jar of the miller's, thrown by hand: finger ridges, a wall of some 9 mm, slightly out of round. 240 mm tall; to be shattered for a film. */
final class ClayJar
{
    private const AROUND = 112;

    private const STEPS = 44;

    /** With a pattern painted around it outside, and glazed within. */
    public static function painted(): Mesh
    {
        $materials = [
            ['name' => 'painted clay', 'pbrMetallicRoughness' => ['baseColorTexture' => ['index' => 0], 'metallicFactor' => 0, 'roughnessFactor' => 0.85]],
            ['name' => 'glaze', 'pbrMetallicRoughness' => ['baseColorFactor' => [0.19, 0.075, 0.03, 1.0], 'metallicFactor' => 0, 'roughnessFactor' => 0.25]],
        ];
        $looks = new Looks($materials, [['picture' => 0, 'sampler' => ['wrapT' => 33071]]], [['kind' => 'image/png', 'bytes' => JarPattern::png(), 'name' => 'wheels and water']]);
        $jar = self::shaped();
        // Triangles lie in the order of the profile: foot, wall outside, lip, wall within.
        $outside = self::AROUND + 2 * self::AROUND * (self::STEPS + 2);
        $numbers = $places = [];
        foreach ($jar->tags as $t => $_) {
            $numbers[] = $t < $outside ? 1 : 2;
            $across = $down = [];
            for ($k = 0; $k < 3; $k++) {
                $v = 3 * $jar->corners[3 * $t + $k];
                $across[] = fmod(atan2($jar->xyz[$v + 1], $jar->xyz[$v]) / (2 * M_PI) + 1.0, 1.0);
                $down[] = 1.0 - ($jar->xyz[$v + 2] - 4.0) / 226.0;
            }
            foreach ($across as $k => $u) {
                // The pattern closes behind: what is beyond the seam goes on counting.
                array_push($places, max($across) - $u > 0.5 ? $u + 1.0 : $u, $down[$k]);
            }
        }

        return Rounded::of($jar->withSkin(new Skin($looks, Packing::longs($numbers), [Skin::TEXTURE.'0' => Layer::of(2, $places)])));
    }

    public static function mesh(): Mesh
    {
        return Rounded::of(self::shaped());
    }

    private static function shaped(): Mesh
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

        return Mesh::of(array_values($xyz), $jar->corners);
    }

    /** Of the outer wall, mm: a narrow foot, a full belly, a neck. */
    private static function radius(float $t): float
    {
        return 46.0 + 46.0 * sin(M_PI * $t ** 0.8) ** 0.9 * (1 - 0.15 * $t) + 4.0 * max(0.0, $t - 0.9) * 10;
    }
}
