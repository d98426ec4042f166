<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Format\PngWriter;

/** What is painted around the miller's jar: bands, running water, and a row of water wheels; white slip and iron red on clay. It closes around the jar. */
final class JarPattern
{
    private const WIDTH = 1024;

    private const HEIGHT = 512;

    private const WHEELS = 8;

    private const PADDLES = 10;

    private const CLAY = "\xb8\x7c\x55";

    private const SLIP = "\xee\xe3\xcd";

    private const IRON = "\x6b\x2f\x22";

    /** Bands from the top: from, to (shares of the height), colour. */
    private const BANDS = [[0.0, 0.05, self::IRON], [0.08, 0.1, self::SLIP], [0.2, 0.215, self::IRON], [0.72, 0.735, self::IRON], [0.9, 0.92, self::SLIP], [0.94, 1.0, self::IRON]];

    public static function png(): string
    {
        // One wheel's width is worked out; the rest repeats it.
        $wide = intdiv(self::WIDTH, self::WHEELS);
        $pixels = '';
        for ($y = 0; $y < self::HEIGHT; $y++) {
            $row = '';
            for ($x = 0; $x < $wide; $x++) {
                $row .= self::colour(($x + 0.5) / $wide, ($y + 0.5) / self::HEIGHT);
            }
            $pixels .= str_repeat($row, self::WHEELS);
        }

        return PngWriter::of(self::WIDTH, self::HEIGHT, $pixels);
    }

    /**
     * @param  float  $u  0 to 1 across one wheel
     * @param  float  $v  0 to 1 downwards
     */
    private static function colour(float $u, float $v): string
    {
        foreach (self::BANDS as [$from, $to, $colour]) {
            if ($v >= $from && $v < $to) {
                return $colour;
            }
        }
        // Water: three lines that follow each other.
        foreach ([0.76, 0.8, 0.84] as $n => $line) {
            if (abs($v - $line - 0.012 * sin(2 * M_PI * (2 * $u + $n / 3))) < 0.007) {
                return self::SLIP;
            }
        }
        $x = ($u - 0.5) * self::WIDTH / self::WHEELS;
        $y = ($v - 0.465) * self::HEIGHT;
        $r = sqrt($x * $x + $y * $y);
        $spoke = fmod(atan2($y, $x) / (2 * M_PI) * self::PADDLES + self::PADDLES, 1.0);
        $isSpoke = abs($spoke - 0.5) * $r * 2 * M_PI / self::PADDLES < 2.2;

        return match (true) {
            $r < 7.0 || abs($r - 40.0) < 2.5 || abs($r - 30.0) < 1.5 => self::IRON,
            $isSpoke && $r < 40.0 => self::IRON,
            $isSpoke && $r < 52.0 => self::SLIP,
            default => self::CLAY,
        };
    }
}
