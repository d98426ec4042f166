<?php

declare(strict_types=1);

namespace Isotome\Cut;

/** A small convex face as triangles around one of its corners: the one whose diagonals are shortest. */
final class Fan
{
    /**
     * @param  list<float>  $places  3 a corner, in order
     * @return list<int> corners of the triangles, 3 each, in the face's own sense
     */
    public static function of(array $places): array
    {
        $n = intdiv(count($places), 3);
        $apex = 0;
        $least = INF;
        for ($a = 0; $n > 3 && $a < $n; $a++) {
            $sum = 0.0;
            for ($k = 2; $k < $n - 1; $k++) {
                $b = 3 * (($a + $k) % $n);
                $x = $places[$b] - $places[3 * $a];
                $y = $places[$b + 1] - $places[3 * $a + 1];
                $z = $places[$b + 2] - $places[3 * $a + 2];
                $sum += $x * $x + $y * $y + $z * $z;
            }
            if ($sum < $least) {
                $least = $sum;
                $apex = $a;
            }
        }
        $triangles = [];
        for ($k = 1; $k < $n - 1; $k++) {
            array_push($triangles, $apex, ($apex + $k) % $n, ($apex + $k + 1) % $n);
        }

        return $triangles;
    }
}
