<?php

declare(strict_types=1);

namespace Isotome\Mirror;

/** Eigenvalues and eigenvectors of a symmetric 3 × 3 matrix. Source: C. G. J. Jacobi (1846), cyclic rotations. */
final class Jacobi
{
    private const SWEEPS = 32;

    /**
     * @param  array<int, array<int, float>>  $m
     * @return list<array{float, array{float, float, float}}> value and unit vector, in the order in which they stand on the diagonal
     */
    public static function of(array $m): array
    {
        $v = [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]];
        for ($sweep = 0; $sweep < self::SWEEPS; $sweep++) {
            $off = abs($m[0][1]) + abs($m[0][2]) + abs($m[1][2]);
            if ($off <= 1e-300 || $off <= 1e-16 * (abs($m[0][0]) + abs($m[1][1]) + abs($m[2][2]))) {
                break;
            }
            foreach ([[0, 1], [0, 2], [1, 2]] as [$p, $q]) {
                if ($m[$p][$q] == 0.0) {
                    continue;
                }
                $theta = ($m[$q][$q] - $m[$p][$p]) / (2 * $m[$p][$q]);
                $t = ($theta >= 0 ? 1 : -1) / (abs($theta) + sqrt($theta * $theta + 1));
                $c = 1 / sqrt($t * $t + 1);
                $s = $t * $c;
                for ($k = 0; $k < 3; $k++) {
                    [$m[$k][$p], $m[$k][$q]] = [$c * $m[$k][$p] - $s * $m[$k][$q], $s * $m[$k][$p] + $c * $m[$k][$q]];
                }
                for ($k = 0; $k < 3; $k++) {
                    [$m[$p][$k], $m[$q][$k]] = [$c * $m[$p][$k] - $s * $m[$q][$k], $s * $m[$p][$k] + $c * $m[$q][$k]];
                    [$v[$k][$p], $v[$k][$q]] = [$c * $v[$k][$p] - $s * $v[$k][$q], $s * $v[$k][$p] + $c * $v[$k][$q]];
                }
            }
        }
        $pairs = [];
        for ($k = 0; $k < 3; $k++) {
            $pairs[] = [$m[$k][$k], [$v[0][$k], $v[1][$k], $v[2][$k]]];
        }

        return $pairs;
    }

    /**
     * @param  array<int, array<int, float>>  $m
     * @return list<array{float, float, float}>
     */
    public static function vectors(array $m): array
    {
        return array_column(self::of($m), 1);
    }
}
