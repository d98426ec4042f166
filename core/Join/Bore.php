<?php

declare(strict_types=1);

namespace Isotome\Join;

/** Where a peg is in a piece, as a line with a thickness: those of several faces must not meet. */
final readonly class Bore
{
    /**
     * @param  array{float, float, float}  $from
     * @param  array{float, float, float}  $to
     */
    public function __construct(
        public array $from,
        public array $to,
        public float $radius,
    ) {
    }

    /** The distance between both, mm; negative when they overlap. Source: C. Ericson, "Real-Time Collision Detection" (2005), closest points of two segments. */
    public function distance(self $other): float
    {
        $u = self::way($this->from, $this->to);
        $v = self::way($other->from, $other->to);
        $w = self::way($other->from, $this->from);
        [$uu, $vv, $uv, $uw, $vw] = [self::dot($u, $u), self::dot($v, $v), self::dot($u, $v), self::dot($u, $w), self::dot($v, $w)];
        $area = $uu * $vv - $uv * $uv;
        $s = $area > 1e-12 * $uu * $vv ? max(0.0, min(1.0, ($uv * $vw - $uw * $vv) / $area)) : 0.0;
        $t = $vv > 0.0 ? ($uv * $s + $vw) / $vv : 0.0;
        if ($t < 0.0 || $t > 1.0) {
            $t = max(0.0, min(1.0, $t));
            $s = $uu > 0.0 ? max(0.0, min(1.0, ($t * $uv - $uw) / $uu)) : 0.0;
        }
        $between = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $between += ($w[$k] + $s * $u[$k] - $t * $v[$k]) ** 2;
        }

        return sqrt($between) - $this->radius - $other->radius;
    }

    /**
     * @param  array{float, float, float}  $from
     * @param  array{float, float, float}  $to
     * @return array{float, float, float}
     */
    private static function way(array $from, array $to): array
    {
        return [$to[0] - $from[0], $to[1] - $from[1], $to[2] - $from[2]];
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     */
    private static function dot(array $a, array $b): float
    {
        return $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
    }
}
