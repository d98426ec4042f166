<?php

declare(strict_types=1);

namespace Isotome\Geometry;

/**
 * On which side of the line a→b does c lie? Exact for every input whose products neither overflow nor underflow.
 *
 * A floating-point filter decides nearly always; what it cannot decide is summed exactly as an expansion.
 * Source: J. R. Shewchuk, "Adaptive Precision Floating-Point Arithmetic and Fast Robust Geometric Predicates",
 * Discrete & Computational Geometry 18 (1997): the error bound (3 + 16ε)ε.
 */
final class Orientation
{
    private const FILTER = ErrorBound::ORIENT_2D;

    /** @return int 1 when a, b, c turn left, −1 when they turn right, 0 when they lie on one line */
    public static function of(float $ax, float $ay, float $bx, float $by, float $cx, float $cy): int
    {
        $left = ($ax - $cx) * ($by - $cy);
        $right = ($ay - $cy) * ($bx - $cx);
        $det = $left - $right;
        $bound = self::FILTER * (($left < 0 ? -$left : $left) + ($right < 0 ? -$right : $right));
        if ($det > $bound) {
            return 1;
        }
        if (-$det > $bound) {
            return -1;
        }
        // Both products have a factor that is exactly 0, as on a line along an axis: nothing to compute.
        if (($ax === $cx || $by === $cy) && ($ay === $cy || $bx === $cx)) {
            return 0;
        }

        return self::exact($ax, $ay, $bx, $by, $cx, $cy);
    }

    private static function exact(float $ax, float $ay, float $bx, float $by, float $cx, float $cy): int
    {
        $expansion = [];
        foreach ([[$ax, $by], [-$ax, $cy], [-$cx, $by], [-$ay, $bx], [$ay, $cx], [$cy, $bx]] as [$p, $q]) {
            $expansion = Expansion::sum($expansion, Expansion::product([$p], [$q]));
        }

        return Expansion::sign($expansion);
    }
}
