<?php

declare(strict_types=1);

namespace Isotome\Number;

/**
 * On which side of the line a→b does c lie? Exact for every input whose products neither overflow nor underflow.
 *
 * A floating-point filter decides nearly always; what it cannot decide is summed exactly as an expansion.
 * Source: J. R. Shewchuk, "Adaptive Precision Floating-Point Arithmetic and Fast Robust Geometric Predicates",
 * Discrete & Computational Geometry 18 (1997): two-product, grow-expansion, and the error bound (3 + 16ε)ε.
 */
final class Orientation
{
    private const FILTER = 3.3306690738754716e-16;

    private const SPLITTER = 134217729.0;

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

        return self::exact($ax, $ay, $bx, $by, $cx, $cy);
    }

    private static function exact(float $ax, float $ay, float $bx, float $by, float $cx, float $cy): int
    {
        $expansion = [];
        foreach ([[$ax, $by], [-$ax, $cy], [-$cx, $by], [-$ay, $bx], [$ay, $cx], [$cy, $bx]] as [$p, $q]) {
            $product = $p * $q;
            $t = self::SPLITTER * $p;
            $pHigh = $t - ($t - $p);
            $pLow = $p - $pHigh;
            $t = self::SPLITTER * $q;
            $qHigh = $t - ($t - $q);
            $qLow = $q - $qHigh;
            $error = $pLow * $qLow - ((($product - $pHigh * $qHigh) - $pLow * $qHigh) - $pHigh * $qLow);
            $expansion = self::grow(self::grow($expansion, $error), $product);
        }
        // Components do not overlap and grow in size: the last decides the sign.
        $last = $expansion === [] ? 0.0 : $expansion[count($expansion) - 1];

        return $last <=> 0.0;
    }

    /**
     * @param  list<float>  $expansion
     * @return list<float>
     */
    private static function grow(array $expansion, float $b): array
    {
        $sum = [];
        foreach ($expansion as $e) {
            $total = $b + $e;
            $virtual = $total - $b;
            $error = ($b - ($total - $virtual)) + ($e - $virtual);
            if ($error !== 0.0) {
                $sum[] = $error;
            }
            $b = $total;
        }
        if ($b !== 0.0) {
            $sum[] = $b;
        }

        return $sum;
    }
}
