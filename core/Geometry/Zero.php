<?php

declare(strict_types=1);

namespace Isotome\Geometry;

/**
 * One zero where floats have two. Adding 0.0 is no way to get rid of −0: PHP 8.2's optimizer takes x + 0.0 for x where it knows that x is a float, so that −0
 * comes through with opcache and not without.
 */
final class Zero
{
    /** The number; 0 for −0. */
    public static function plain(float $number): float
    {
        return $number === 0.0 ? 0.0 : $number;
    }
}
