<?php

declare(strict_types=1);

namespace Isotome\Geometry;

/**
 * The smallest circle around points of a page.
 *
 * Source: E. Welzl, "Smallest enclosing disks (balls and ellipsoids)", 1991, with points brought to the front; without recursion, as M. de Berg and others give it in "Computational Geometry", chapter 4.7.
 */
final readonly class EnclosingCircle
{
    /** Share of the radius that is rounding. */
    private const ROUNDING = 1e-12;

    private function __construct(
        public float $x,
        public float $y,
        public float $radius,
    ) {
    }

    /** @param  non-empty-list<array{float, float}>  $points */
    public static function of(array $points): self
    {
        $circle = new self($points[0][0], $points[0][1], 0.0);
        foreach ($points as $i => $p) {
            if ($circle->holds($p)) {
                continue;
            }
            $circle = new self($p[0], $p[1], 0.0);
            for ($j = 0; $j < $i; $j++) {
                $q = $points[$j];
                if ($circle->holds($q)) {
                    continue;
                }
                $circle = self::across($p, $q);
                for ($k = 0; $k < $j; $k++) {
                    if (! $circle->holds($points[$k])) {
                        $circle = self::through($p, $q, $points[$k]);
                    }
                }
            }
        }

        return $circle;
    }

    /** @param  array{float, float}  $at */
    private function holds(array $at): bool
    {
        return hypot($at[0] - $this->x, $at[1] - $this->y) <= $this->radius * (1 + self::ROUNDING);
    }

    /**
     * @param  array{float, float}  $p
     * @param  array{float, float}  $q
     */
    private static function across(array $p, array $q): self
    {
        return new self(($p[0] + $q[0]) / 2, ($p[1] + $q[1]) / 2, hypot($p[0] - $q[0], $p[1] - $q[1]) / 2);
    }

    /**
     * Of three points on a line, around the two farthest apart.
     *
     * @param  array{float, float}  $p
     * @param  array{float, float}  $q
     * @param  array{float, float}  $r
     */
    private static function through(array $p, array $q, array $r): self
    {
        [$ux, $uy] = [$q[0] - $p[0], $q[1] - $p[1]];
        [$vx, $vy] = [$r[0] - $p[0], $r[1] - $p[1]];
        $cross = 2 * ($ux * $vy - $uy * $vx);
        $u = $ux * $ux + $uy * $uy;
        $v = $vx * $vx + $vy * $vy;
        if (abs($cross) <= 1e-14 * ($u + $v)) {
            $circles = [self::across($p, $q), self::across($p, $r), self::across($q, $r)];
            usort($circles, static fn (self $a, self $b): int => $b->radius <=> $a->radius);

            return $circles[0];
        }
        $x = ($vy * $u - $uy * $v) / $cross;
        $y = ($ux * $v - $vx * $u) / $cross;

        return new self($p[0] + $x, $p[1] + $y, hypot($x, $y));
    }
}
