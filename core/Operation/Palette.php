<?php

declare(strict_types=1);

namespace Isotome\Operation;

/**
 * Identity colours: muted and well apart. Hues go round in steps of the golden angle (common practice for sequences of
 * unknown length), lightness and chroma alternate. All are different: where two would be the same, the later one is a shade bluer. Colour space: B. Ottosson, "A perceptual color space for image
 * processing" (2020), Oklab.
 */
final class Palette
{
    /** @var list<string> those that were asked for, and all before */
    private static array $known = [];

    /** @var array<string, true> */
    private static array $taken = [];

    /** @return string #rrggbb of the n-th piece, from 0 */
    public static function colour(int $n): string
    {
        for ($k = count(self::$known); $k <= $n; $k++) {
            $colour = self::plain($k);
            while (isset(self::$taken[$colour])) {
                $blue = (int) hexdec(substr($colour, 5, 2));
                $colour = substr($colour, 0, 5).sprintf('%02x', ($blue + 1) & 255);
            }
            self::$taken[$colour] = true;
            self::$known[] = $colour;
        }

        return self::$known[$n];
    }

    private static function plain(int $n): string
    {
        $hue = deg2rad(fmod(165.0 + $n * 137.50776405, 360.0));
        $lightness = [0.66, 0.72, 0.60][$n % 3] + 0.0043 * (intdiv($n, 12) % 11 - 5);
        $chroma = [0.055, 0.062, 0.050, 0.072][$n % 4];
        $a = $chroma * cos($hue);
        $b = $chroma * sin($hue);
        $l = ($lightness + 0.3963377774 * $a + 0.2158037573 * $b) ** 3;
        $m = ($lightness - 0.1055613458 * $a - 0.0638541728 * $b) ** 3;
        $s = ($lightness - 0.0894841775 * $a - 1.2914855480 * $b) ** 3;
        $linear = [
            4.0767416621 * $l - 3.3077115913 * $m + 0.2309699292 * $s,
            -1.2684380046 * $l + 2.6097574011 * $m - 0.3413193965 * $s,
            -0.0041960863 * $l - 0.7034186147 * $m + 1.7076147010 * $s,
        ];
        $hex = '#';
        foreach ($linear as $value) {
            $value = max(0.0, min(1.0, $value));
            $hex .= sprintf('%02x', (int) round(255 * ($value <= 0.0031308 ? 12.92 * $value : 1.055 * $value ** (1 / 2.4) - 0.055)));
        }

        return $hex;
    }
}
