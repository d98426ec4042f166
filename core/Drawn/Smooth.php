<?php

declare(strict_types=1);

namespace Isotome\Drawn;

/**
 * A smooth curve through corners, as a line of many: the centripetal Catmull–Rom spline, which makes no loops and no cusps between two corners.
 *
 * Source: C. Yuksel, S. Schaefer, J. Keyser, "Parameterization and applications of Catmull–Rom curves" (2011).
 */
final class Smooth
{
    /** The line stays this near to the curve, as a share of a stretch. */
    private const NEAR = 2e-3;

    private const MOST_STEPS = 24;

    /**
     * @param  list<array{float, float}>  $corners
     * @param  bool  $isClosed  the last one is followed by the first
     * @return list<array{float, float}> through all corners
     */
    public static function of(array $corners, bool $isClosed): array
    {
        $n = count($corners);
        if ($n < 3) {
            return $corners;
        }
        $line = [];
        for ($i = 0, $stretches = $isClosed ? $n : $n - 1; $i < $stretches; $i++) {
            $b = $corners[$i];
            $c = $corners[($i + 1) % $n];
            // An end is continued by its own stretch, turned about it.
            $a = $isClosed || $i > 0 ? $corners[($i + $n - 1) % $n] : [2 * $b[0] - $c[0], 2 * $b[1] - $c[1]];
            $d = $isClosed || $i + 2 < $n ? $corners[($i + 2) % $n] : [2 * $c[0] - $b[0], 2 * $c[1] - $b[1]];
            array_push($line, ...self::stretch($a, $b, $c, $d));
        }
        if (! $isClosed) {
            $line[] = $corners[$n - 1];
        }

        return $line;
    }

    /**
     * @param  array{float, float}  $a
     * @param  array{float, float}  $b
     * @param  array{float, float}  $c
     * @param  array{float, float}  $d
     * @return non-empty-list<array{float, float}> from b on, without c
     */
    private static function stretch(array $a, array $b, array $c, array $d): array
    {
        $one = sqrt(hypot($b[0] - $a[0], $b[1] - $a[1]));
        $two = sqrt(hypot($c[0] - $b[0], $c[1] - $b[1]));
        $three = sqrt(hypot($d[0] - $c[0], $d[1] - $c[1]));
        if ($two <= 0.0) {
            return [$b];
        }
        // As a cubic: the tangents at b and c, times the length of the stretch.
        $from = $to = [];
        for ($k = 0; $k < 2; $k++) {
            $from[] = $one <= 0.0 ? $c[$k] - $b[$k] : $two * (($b[$k] - $a[$k]) / $one - ($c[$k] - $a[$k]) / ($one + $two) + ($c[$k] - $b[$k]) / $two);
            $to[] = $three <= 0.0 ? $c[$k] - $b[$k] : $two * (($c[$k] - $b[$k]) / $two - ($d[$k] - $b[$k]) / ($two + $three) + ($d[$k] - $c[$k]) / $three);
        }
        // A cubic bends away from its chord by at most a fraction of how its tangents differ from it.
        $length = hypot($c[0] - $b[0], $c[1] - $b[1]);
        $bend = max(hypot($from[0] - $c[0] + $b[0], $from[1] - $c[1] + $b[1]), hypot($to[0] - $c[0] + $b[0], $to[1] - $c[1] + $b[1]));
        $steps = max(1, min(self::MOST_STEPS, (int) ceil(sqrt($bend / $length / (4 * self::NEAR)))));
        $line = [$b];
        for ($i = 1; $i < $steps; $i++) {
            $t = $i / $steps;
            $at = static fn (int $k): float => (2 * $t * $t * $t - 3 * $t * $t + 1) * $b[$k] + ($t * $t * $t - 2 * $t * $t + $t) * $from[$k] + (3 * $t * $t - 2 * $t * $t * $t) * $c[$k] + ($t * $t * $t - $t * $t) * $to[$k];
            $line[] = [$at(0), $at(1)];
        }

        return $line;
    }
}
