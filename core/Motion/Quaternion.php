<?php

declare(strict_types=1);

namespace Isotome\Motion;

/**
 * Turns as quaternions x, y, z, w of length 1 (W. R. Hamilton 1843), as glTF has them.
 *
 * @phpstan-type Quat array{float, float, float, float}
 */
final class Quaternion
{
    public const NONE = [0.0, 0.0, 0.0, 1.0];

    /**
     * @param  array{float, float, float}  $axis  of any length but 0
     * @return Quat
     */
    public static function about(array $axis, float $degrees): array
    {
        $length = sqrt($axis[0] ** 2 + $axis[1] ** 2 + $axis[2] ** 2);
        $half = deg2rad($degrees) / 2;
        $s = $length > 0.0 ? sin($half) / $length : 0.0;

        return [$axis[0] * $s, $axis[1] * $s, $axis[2] * $s, $length > 0.0 ? cos($half) : 1.0];
    }

    /**
     * A turn and then another.
     *
     * @param  Quat  $first
     * @param  Quat  $then
     * @return Quat
     */
    public static function then(array $first, array $then): array
    {
        [$ax, $ay, $az, $aw] = $then;
        [$bx, $by, $bz, $bw] = $first;

        return self::unit([$aw * $bx + $ax * $bw + $ay * $bz - $az * $by, $aw * $by - $ax * $bz + $ay * $bw + $az * $bx, $aw * $bz + $ax * $by - $ay * $bx + $az * $bw, $aw * $bw - $ax * $bx - $ay * $by - $az * $bz]);
    }

    /**
     * @param  Quat  $q
     * @param  array{float, float, float}  $v
     * @return array{float, float, float}
     */
    public static function turned(array $q, array $v): array
    {
        [$x, $y, $z, $w] = $q;
        $tx = 2 * ($y * $v[2] - $z * $v[1]);
        $ty = 2 * ($z * $v[0] - $x * $v[2]);
        $tz = 2 * ($x * $v[1] - $y * $v[0]);

        return [$v[0] + $w * $tx + $y * $tz - $z * $ty, $v[1] + $w * $ty + $z * $tx - $x * $tz, $v[2] + $w * $tz + $x * $ty - $y * $tx];
    }

    /**
     * Between two turns, the shorter way at an even pace (K. Shoemake, "Animating rotation with quaternion curves", 1985).
     *
     * @param  Quat  $a
     * @param  Quat  $b
     * @return Quat
     */
    public static function between(array $a, array $b, float $share): array
    {
        $dot = $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2] + $a[3] * $b[3];
        if ($dot < 0.0) {
            $b = [-$b[0], -$b[1], -$b[2], -$b[3]];
            $dot = -$dot;
        }
        if ($dot > 1.0 - 1e-9) {
            [$p, $q] = [1.0 - $share, $share];
        } else {
            $angle = acos($dot);
            [$p, $q] = [sin((1.0 - $share) * $angle) / sin($angle), sin($share * $angle) / sin($angle)];
        }

        return self::unit([$p * $a[0] + $q * $b[0], $p * $a[1] + $q * $b[1], $p * $a[2] + $q * $b[2], $p * $a[3] + $q * $b[3]]);
    }

    /**
     * @param  Quat  $q
     * @return Quat
     */
    public static function unit(array $q): array
    {
        $length = sqrt($q[0] ** 2 + $q[1] ** 2 + $q[2] ** 2 + $q[3] ** 2);

        return $length > 0.0 ? [$q[0] / $length, $q[1] / $length, $q[2] / $length, $q[3] / $length] : self::NONE;
    }
}
