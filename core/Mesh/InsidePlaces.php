<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * Texture coordinates of inside faces, in millimetres: each flat face is looked at straight on, so nothing is stretched. They depend on the plane alone and not on the
 * piece or on how the face is divided, so a grain runs through from one neighbour to the other, and what is upright on the page is upright on a standing face.
 */
final class InsidePlaces
{
    /** Cosine between triangles from which on they are parts of one flat face. */
    private const FLAT = 0.99999;

    /** A face this near to level, by the length of what is left of "up" in it, has +Y up instead. */
    private const LEVEL = 1e-4;

    /**
     * @param  float  $turn  degrees by which the coordinates are turned on the page
     * @return string for each corner two 64-bit floats, across and up, mm; 0 for skin
     */
    public static function of(Mesh $mesh, float $turn = 0.0): string
    {
        $directions = self::directions($mesh);
        [$cos, $sin] = [cos(deg2rad($turn)), sin(deg2rad($turn))];
        $blank = str_repeat("\0", 48);
        $bytes = '';
        foreach ($mesh->tags as $t => $tag) {
            $n = $directions[$t] ?? null;
            if ($tag <= 0 || $n === null) {
                $bytes .= $blank;

                continue;
            }
            [$across, $up] = self::axes($n);
            $places = [];
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $v = 3 * $mesh->corners[$k];
                $x = $mesh->xyz[$v];
                $y = $mesh->xyz[$v + 1];
                $z = $mesh->xyz[$v + 2];
                $a = $x * $across[0] + $y * $across[1] + $z * $across[2];
                $b = $x * $up[0] + $y * $up[1] + $z * $up[2];
                $places[] = $cos * $a - $sin * $b;
                $places[] = $sin * $a + $cos * $b;
            }
            $bytes .= pack('e6', ...$places);
        }

        return $bytes;
    }

    /**
     * @param  array{float, float, float}  $n  of length 1
     * @return array{array{float, float, float}, array{float, float, float}}
     */
    private static function axes(array $n): array
    {
        // Both sides of a cut see the same.
        $largest = abs($n[2]) >= abs($n[0]) && abs($n[2]) >= abs($n[1]) ? 2 : (abs($n[1]) >= abs($n[0]) ? 1 : 0);
        if ($n[$largest] < 0.0) {
            $n = [-$n[0], -$n[1], -$n[2]];
        }
        $across = [-$n[1], $n[0], 0.0];
        $length = sqrt($across[0] ** 2 + $across[1] ** 2);
        if ($length < self::LEVEL) {
            $across = [$n[2], 0.0, -$n[0]];
            $length = sqrt($across[0] ** 2 + $across[2] ** 2);
        }
        $across = [$across[0] / $length, $across[1] / $length, $across[2] / $length];

        return [$across, [$n[1] * $across[2] - $n[2] * $across[1], $n[2] * $across[0] - $n[0] * $across[2], $n[0] * $across[1] - $n[1] * $across[0]]];
    }

    /** @return array<int, array{float, float, float}> of each inside triangle the direction of the flat face that it is a part of */
    private static function directions(Mesh $mesh): array
    {
        $xyz = $mesh->xyz;
        $odd = $mesh->vertexCount() | 1;
        $area = $parent = $waiting = [];
        foreach ($mesh->tags as $t => $tag) {
            if ($tag <= 0) {
                continue;
            }
            [$a, $b, $c] = [3 * $mesh->corners[3 * $t], 3 * $mesh->corners[3 * $t + 1], 3 * $mesh->corners[3 * $t + 2]];
            [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
            [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];
            $area[$t] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
            $parent[$t] = $t;
        }
        // A sliver's own direction is rounding: larger faces are joined first, and each goes by the direction of all that it is joined to.
        $edges = [];
        foreach ($parent as $t => $_) {
            for ($k = 0; $k < 3; $k++) {
                $a = $mesh->corners[3 * $t + $k];
                $b = $mesh->corners[3 * $t + ($k + 1) % 3];
                if (isset($waiting[$b * $odd + $a])) {
                    $s = $waiting[$b * $odd + $a];
                    unset($waiting[$b * $odd + $a]);
                    $edges[] = [min(self::square($area[$t]), self::square($area[$s])), $t, $s];
                } else {
                    $waiting[$a * $odd + $b] = $t;
                }
            }
        }
        usort($edges, static fn (array $one, array $other): int => $other[0] <=> $one[0] ?: $one[1] <=> $other[1] ?: $one[2] <=> $other[2]);
        foreach ($edges as [$smaller, $t, $s]) {
            $t = self::top($parent, $t);
            $s = self::top($parent, $s);
            if ($t === $s) {
                continue;
            }
            [$p, $q] = [$area[$t], $area[$s]];
            $dot = $p[0] * $q[0] + $p[1] * $q[1] + $p[2] * $q[2];
            $least = min(self::square($p), self::square($q));
            $isSliver = $least < 1e-16 * max(self::square($p), self::square($q));
            if ($isSliver || ($dot > 0.0 && $dot * $dot >= self::FLAT ** 2 * self::square($p) * self::square($q))) {
                $parent[$s] = $t;
                $area[$t] = [$p[0] + $q[0], $p[1] + $q[1], $p[2] + $q[2]];
            }
        }
        $directions = [];
        foreach ($parent as $t => $_) {
            $n = $area[self::top($parent, $t)];
            $length = sqrt(self::square($n));
            if ($length > 0.0) {
                $directions[$t] = [$n[0] / $length, $n[1] / $length, $n[2] / $length];
            }
        }

        return $directions;
    }

    /** @param  array<int, int>  $parent */
    private static function top(array &$parent, int $t): int
    {
        while ($parent[$t] !== $t) {
            $t = $parent[$t] = $parent[$parent[$t]];
        }

        return $t;
    }

    /** @param  array{float, float, float}  $v */
    private static function square(array $v): float
    {
        return $v[0] * $v[0] + $v[1] * $v[1] + $v[2] * $v[2];
    }
}
