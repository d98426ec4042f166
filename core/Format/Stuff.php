<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\BadCommand;
use Isotome\Geometry\Chance;

/**
 * Small pictures of what a body may be made of, for its inside: worked out here, the same on every machine, and without an edge where they begin again.
 *
 * Made of value noise on a lattice that closes on itself (K. Perlin, "An Image Synthesizer", 1985, on lattices of values instead of gradients).
 */
final class Stuff
{
    /** Names, and how many millimetres a picture takes when nothing else is said. */
    public const WIDTHS = ['stone' => 40.0, 'oak' => 60.0, 'clay' => 30.0, 'plaster' => 50.0];

    private const SIDE = 256;

    /** @var array<string, string> */
    private static array $made = [];

    /** @throws BadCommand when there is none of this name */
    public static function look(string $name, ?float $width = null, float $turn = 0.0): InsideLook
    {
        return InsideLook::picture(self::png($name), $name, $width ?? self::WIDTHS[$name], $turn);
    }

    /** @throws BadCommand when there is none of this name */
    public static function png(string $name): string
    {
        if (! isset(self::WIDTHS[$name])) {
            throw new BadCommand('There is no picture called '.mb_strimwidth($name, 0, 40, '…').'; choose one of '.implode(', ', array_keys(self::WIDTHS)).'.');
        }

        return self::$made[$name] ??= self::make($name);
    }

    private static function make(string $name): string
    {
        $coarse = self::lattice(11, 8, 8);
        $middle = self::lattice(23, 32, 32);
        $fine = self::lattice(37, 128, 128);
        $long = self::lattice(41, 4, 64);
        $pixels = '';
        for ($y = 0; $y < self::SIDE; $y++) {
            $v = $y / self::SIDE;
            for ($x = 0; $x < self::SIDE; $x++) {
                $u = $x / self::SIDE;
                $a = self::at($coarse, 8, 8, $u, $v);
                $b = self::at($middle, 32, 32, $u, $v);
                $c = self::at($fine, 128, 128, $u, $v);
                [$from, $to, $share] = match ($name) {
                    // Broken stone: grains of all sizes, a few dark ones.
                    'stone' => [[146, 142, 134], [92, 88, 82], 0.45 * $a + 0.3 * $b + 0.25 * $c + ($b > 0.8 ? 0.25 : 0.0)],
                    // Split wood: lines along it that sway, and short pores.
                    'oak' => [[203, 164, 112], [142, 98, 54], 0.5 + 0.38 * sin(2 * M_PI * (9 * $v + 1.3 * self::at($coarse, 8, 8, $u, $v) + 0.15 * $b)) * (0.6 + 0.4 * $a) + 0.22 * (self::at($long, 4, 64, $u, $v) - 0.5) + ($c > 0.86 ? 0.2 : 0.0)],
                    // Fired clay: even, with grog.
                    'clay' => [[190, 112, 74], [158, 84, 54], 0.3 * $a + 0.4 * $b + 0.3 * $c + ($c > 0.9 ? -0.5 : 0.0)],
                    default => [[236, 231, 221], [214, 208, 196], 0.4 * $a + 0.35 * $b + 0.25 * $c],
                };
                $share = max(0.0, min(1.0, $share));
                for ($k = 0; $k < 3; $k++) {
                    $pixels .= chr((int) round($from[$k] + ($to[$k] - $from[$k]) * $share));
                }
            }
        }

        return PngWriter::of(self::SIDE, self::SIDE, $pixels);
    }

    /** @return list<float> values from 0 to 1, row by row */
    private static function lattice(int $seed, int $across, int $down): array
    {
        $chance = new Chance($seed);
        $values = [];
        for ($i = 0; $i < $across * $down; $i++) {
            $values[] = $chance->uniform();
        }

        return $values;
    }

    /**
     * Smoothly between the values around a place; what is beyond an edge is at the other one.
     *
     * @param  list<float>  $values
     */
    private static function at(array $values, int $across, int $down, float $u, float $v): float
    {
        $x = $u * $across;
        $y = $v * $down;
        $i = (int) $x;
        $j = (int) $y;
        $s = $x - $i;
        $t = $y - $j;
        $s = $s * $s * (3 - 2 * $s);
        $t = $t * $t * (3 - 2 * $t);
        $right = ($i + 1) % $across;
        $below = $across * (($j + 1) % $down);
        $here = $across * $j;
        $top = $values[$here + $i] + $s * ($values[$here + $right] - $values[$here + $i]);
        $bottom = $values[$below + $i] + $s * ($values[$below + $right] - $values[$below + $i]);

        return $top + $t * ($bottom - $top);
    }
}
