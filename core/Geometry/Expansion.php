<?php

declare(strict_types=1);

namespace Isotome\Geometry;

/**
 * Exact sums and products of floating-point numbers, as lists of components that do not overlap, smallest first.
 *
 * Source: J. R. Shewchuk, "Adaptive Precision Floating-Point Arithmetic and Fast Robust Geometric Predicates", Discrete &
 * Computational Geometry 18 (1997): two-sum, two-product by splitting, grow-expansion. Exact while nothing over- or underflows.
 */
final class Expansion
{
    private const SPLITTER = 134217729.0;

    /** @return list<float> a − b */
    public static function difference(float $a, float $b): array
    {
        return self::grow($a === 0.0 ? [] : [$a], -$b);
    }

    /**
     * @param  list<float>  $e
     * @param  list<float>  $f
     * @return list<float>
     */
    public static function sum(array $e, array $f): array
    {
        foreach ($f as $component) {
            $e = self::grow($e, $component);
        }

        return $e;
    }

    /**
     * @param  list<float>  $e
     * @param  list<float>  $f
     * @return list<float>
     */
    public static function product(array $e, array $f): array
    {
        $sum = [];
        foreach ($e as $p) {
            foreach ($f as $q) {
                $product = $p * $q;
                $t = self::SPLITTER * $p;
                $pHigh = $t - ($t - $p);
                $pLow = $p - $pHigh;
                $t = self::SPLITTER * $q;
                $qHigh = $t - ($t - $q);
                $qLow = $q - $qHigh;
                $error = $pLow * $qLow - ((($product - $pHigh * $qHigh) - $pLow * $qHigh) - $pHigh * $qLow);
                $sum = self::grow(self::grow($sum, $error), $product);
            }
        }

        return $sum;
    }

    /**
     * @param  list<float>  $e
     * @return list<float>
     */
    public static function negative(array $e): array
    {
        return array_map(static fn (float $c): float => -$c, $e);
    }

    /** @param  list<float>  $e */
    public static function sign(array $e): int
    {
        return $e === [] ? 0 : $e[count($e) - 1] <=> 0.0;
    }

    /**
     * @param  list<float>  $e
     * @return list<float>
     */
    private static function grow(array $e, float $b): array
    {
        $sum = [];
        foreach ($e as $component) {
            $total = $b + $component;
            $virtual = $total - $b;
            $error = ($b - ($total - $virtual)) + ($component - $virtual);
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
