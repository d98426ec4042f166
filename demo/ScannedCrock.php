<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Format\Rounded;
use Isotome\Mesh\Mesh;

/**
 * The miller's flour crock as a scanner gave it: uneven skin, three holes, doubled faces, a patch turned over, a wall left inside, and a
 * knob on the lid that overlaps it instead of being part of it. 150 mm across, 190 mm tall.
 */
final class ScannedCrock
{
    private const AROUND = 120;

    private const RINGS = 90;

    public static function mesh(): Mesh
    {
        [$xyz, $corners] = self::skin();
        $corners = self::damaged($xyz, $corners);
        [$more, $knob] = self::knob();
        $base = intdiv(count($xyz), 3);
        array_push($xyz, ...$more);
        foreach ($knob as $corner) {
            $corners[] = $base + $corner;
        }

        return Rounded::of(Mesh::of($xyz, $corners));
    }

    /** Radius of the crock, mm: a belly, a neck, and what a hand and a scanner leave. */
    private static function radius(float $t, float $angle): float
    {
        $belly = 52 + 22 * sin(M_PI * (0.12 + 0.8 * $t)) - 9 * exp(-((($t - 0.86) / 0.07) ** 2));

        return $belly + 0.5 * sin(7 * $angle + 9 * $t) * sin(23 * $t) + 0.25 * sin(31 * $angle + 50 * $t);
    }

    /** @return array{list<float>, list<int>} */
    private static function skin(): array
    {
        $xyz = [0.0, 0.0, 0.0];
        $corners = [];
        for ($i = 0; $i <= self::RINGS; $i++) {
            $t = $i / self::RINGS;
            for ($j = 0; $j < self::AROUND; $j++) {
                $angle = 2 * M_PI * $j / self::AROUND;
                $radius = self::radius($t, $angle);
                array_push($xyz, $radius * cos($angle), $radius * sin($angle), 170 * $t);
            }
        }
        array_push($xyz, 0.0, 0.0, 178.0);
        $top = intdiv(count($xyz), 3) - 1;
        $at = static fn (int $i, int $j): int => 1 + $i * self::AROUND + $j % self::AROUND;
        for ($j = 0; $j < self::AROUND; $j++) {
            array_push($corners, 0, $at(0, $j + 1), $at(0, $j));
            for ($i = 0; $i < self::RINGS; $i++) {
                array_push($corners, $at($i, $j), $at($i, $j + 1), $at($i + 1, $j + 1), $at($i, $j), $at($i + 1, $j + 1), $at($i + 1, $j));
            }
            array_push($corners, $top, $at(self::RINGS, $j), $at(self::RINGS, $j + 1));
        }

        return [$xyz, $corners];
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @return list<int>
     */
    private static function damaged(array &$xyz, array $corners): array
    {
        $kept = $doubled = [];
        for ($i = 0; $i < count($corners); $i += 3) {
            $x = $y = $z = 0.0;
            foreach ([0, 1, 2] as $k) {
                $v = 3 * $corners[$i + $k];
                $x += $xyz[$v] / 3;
                $y += $xyz[$v + 1] / 3;
                $z += $xyz[$v + 2] / 3;
            }
            $three = [$corners[$i], $corners[$i + 1], $corners[$i + 2]];
            $near = static fn (float $px, float $py, float $pz, float $r): bool => ($x - $px) ** 2 + ($y - $py) ** 2 + ($z - $pz) ** 2 < $r * $r;
            // Where the scanner did not look.
            if ($near(52, -34, 138, 10) || $near(-20, -70, 60, 7) || $near(66, 20, 40, 4.5)) {
                continue;
            }
            if ($near(0, -74, 95, 5)) {
                array_push($doubled, ...$three);
            }
            array_push($kept, ...($near(40, -60, 60, 5) ? [$three[0], $three[2], $three[1]] : $three));
        }
        // The wall of an inner vessel that was scanned through the neck: a disc that hangs on the skin.
        $ring = 62;
        $centre = intdiv(count($xyz), 3);
        array_push($xyz, 0.0, 0.0, 170 * $ring / self::RINGS - 4);
        for ($j = 0; $j < self::AROUND; $j++) {
            array_push($kept, $centre, 1 + $ring * self::AROUND + $j, 1 + $ring * self::AROUND + ($j + 1) % self::AROUND);
        }

        return [...$kept, ...$doubled];
    }

    /** @return array{list<float>, list<int>} a ball that sinks into the lid */
    private static function knob(): array
    {
        $profile = [[0.0, 166.0]];
        for ($n = 1; $n < 16; $n++) {
            $profile[] = [12 * sin(M_PI * $n / 16), 178 - 12 * cos(M_PI * $n / 16)];
        }
        $profile[] = [0.0, 190.0];
        $knob = Lathe::mesh([$profile], 32);

        return [$knob->xyz, $knob->corners];
    }
}
