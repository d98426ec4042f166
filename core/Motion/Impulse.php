<?php

declare(strict_types=1);

namespace Isotome\Motion;

/** What changes the speeds of two bodies, six numbers a body: speed and spin. */
final class Impulse
{
    /**
     * Along or about an axis, between two bodies: so many numbers from a place on in the axes are its direction (3), how it turns the first and the second (6), that times their inverse inertia (6), and the mass that it moves (1).
     *
     * @param  list<float>  $axes
     * @param  int  $k  where its axis begins
     * @param  array<int, float>  $v
     * @param  int  $a  where the numbers of the first body begin
     */
    public static function push(array $axes, int $k, float $impulse, array &$v, int $a, int $b, float $massA, float $massB): void
    {
        $by = $impulse * $massB;
        $v[$b] += $by * $axes[$k];
        $v[$b + 1] += $by * $axes[$k + 1];
        $v[$b + 2] += $by * $axes[$k + 2];
        $v[$b + 3] += $impulse * $axes[$k + 12];
        $v[$b + 4] += $impulse * $axes[$k + 13];
        $v[$b + 5] += $impulse * $axes[$k + 14];
        $by = $impulse * $massA;
        $v[$a] -= $by * $axes[$k];
        $v[$a + 1] -= $by * $axes[$k + 1];
        $v[$a + 2] -= $by * $axes[$k + 2];
        $v[$a + 3] -= $impulse * $axes[$k + 9];
        $v[$a + 4] -= $impulse * $axes[$k + 10];
        $v[$a + 5] -= $impulse * $axes[$k + 11];
    }
}
