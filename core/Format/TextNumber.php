<?php

declare(strict_types=1);

namespace Isotome\Format;

/** Numbers in text files. */
final class TextNumber
{
    /** NAN for anything that is not an ordinary decimal number. */
    public static function of(string $word): float
    {
        return is_numeric($word) ? (float) $word : NAN;
    }

    /** The shortest decimal that reads back as the same 64-bit float. */
    public static function exact(float $number): string
    {
        return $number == 0.0 ? '0' : (string) json_encode($number);
    }

    /** A short decimal that reads back as the same 32-bit float. */
    public static function single(float $number): string
    {
        return $number == 0.0 ? '0' : (string) (float) sprintf('%.9g', $number);
    }
}
