<?php

declare(strict_types=1);

namespace Isotome\Format;

/** Colours as files write them and as light adds up. Source: IEC 61966-2-1 (sRGB). */
final class Colours
{
    /** @param  float  $part  0 to 1, as it is written; beyond that it is taken to the nearest */
    public static function linear(float $part): float
    {
        $part = $part > 0.0 ? min($part, 1.0) : 0.0;

        return $part <= 0.04045 ? $part / 12.92 : (($part + 0.055) / 1.055) ** 2.4;
    }

    /** @return float 0 to 1, as it is written */
    public static function written(float $part): float
    {
        $part = $part > 0.0 ? min($part, 1.0) : 0.0;

        return $part <= 0.0031308 ? 12.92 * $part : 1.055 * $part ** (1 / 2.4) - 0.055;
    }
}
