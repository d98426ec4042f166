<?php

declare(strict_types=1);

namespace Isotome\Motion;

/** What changes the speeds of two bodies, six numbers a body: speed and spin. */
final class Impulse
{
    /**
     * Along or about an axis, between two bodies: so many numbers from a place on in the axes are its direction (3), how it turns the first and the second (6), that times their inverse inertia (6), and the mass that it moves (1).
     *
     * @param  array{a: int, b: int, axes: list<float>, massA: float, massB: float}  $c
     * @param  int  $at  where its axis begins
     * @param  array<int, float>  $v
     */
    public static function push(array $c, int $at, float $impulse, array &$v): void
    {
        $axes = $c['axes'];
        $b = 6 * $c['b'];
        $by = $impulse * $c['massB'];
        $v[$b] += $by * $axes[$at];
        $v[$b + 1] += $by * $axes[$at + 1];
        $v[$b + 2] += $by * $axes[$at + 2];
        $v[$b + 3] += $impulse * $axes[$at + 12];
        $v[$b + 4] += $impulse * $axes[$at + 13];
        $v[$b + 5] += $impulse * $axes[$at + 14];
        $a = 6 * $c['a'];
        $by = $impulse * $c['massA'];
        $v[$a] -= $by * $axes[$at];
        $v[$a + 1] -= $by * $axes[$at + 1];
        $v[$a + 2] -= $by * $axes[$at + 2];
        $v[$a + 3] -= $impulse * $axes[$at + 9];
        $v[$a + 4] -= $impulse * $axes[$at + 10];
        $v[$a + 5] -= $impulse * $axes[$at + 11];
    }
}
