<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Orientation;
use PHPUnit\Framework\TestCase;

final class OrientationTest extends TestCase
{
    /**
     * The classic trap: points a few units in the last place from the line through (12, 12) and (24, 24). Source: L. Kettner
     * et al., "Classroom examples of robustness problems in geometric computations", Computational Geometry 40 (2008).
     */
    public function test_it_is_exact_where_floating_point_is_not(): void
    {
        $wrong = 0;
        for ($i = 0; $i < 64; $i++) {
            for ($j = 0; $j < 64; $j++) {
                $x = 0.5 + $i * 2 ** -53;
                $y = 0.5 + $j * 2 ** -53;
                // On the line y = x the sign is that of y − x, which is exact here.
                self::assertSame($y <=> $x, Orientation::of(12.0, 12.0, 24.0, 24.0, $x, $y));
                $naive = (12.0 - $x) * (24.0 - $y) - (12.0 - $y) * (24.0 - $x);
                $wrong += ($naive <=> 0.0) === ($y <=> $x) ? 0 : 1;
            }
        }
        self::assertGreaterThan(500, $wrong, 'plain floating point fails here, so the exact path was needed');
    }

    public function test_turning_the_points_round_changes_nothing_and_swapping_two_turns_the_sign(): void
    {
        mt_srand(5);
        for ($n = 0; $n < 2000; $n++) {
            $p = [];
            for ($k = 0; $k < 6; $k++) {
                $p[] = (mt_rand(-8, 8) + mt_rand(-3, 3) * 2 ** -50) * 2 ** mt_rand(-20, 20);
            }
            [$ax, $ay, $bx, $by, $cx, $cy] = $p;
            $sign = Orientation::of($ax, $ay, $bx, $by, $cx, $cy);
            self::assertSame($sign, Orientation::of($bx, $by, $cx, $cy, $ax, $ay));
            self::assertSame($sign, Orientation::of($cx, $cy, $ax, $ay, $bx, $by));
            self::assertSame(-$sign, Orientation::of($bx, $by, $ax, $ay, $cx, $cy));
        }
    }

    /**
     * Points a few units of the last digit beside a line (L. Kettner, K. Mehlhorn, S. Pion, S. Schirra, C. Yap, "Classroom examples of robustness problems in
     * geometric computations", 2008, their first figure); made smaller by powers of two, which is exact, they turn the same way.
     */
    public function test_nearly_on_a_line_the_turn_is_the_same_at_every_size(): void
    {
        $seen = [];
        foreach (range(0, 31) as $i) {
            foreach (range(0, 31) as $k) {
                [$x, $y] = [0.5 + $i * 2 ** -53, 0.5 + $k * 2 ** -53];
                $turn = Orientation::of($x, $y, 12.0, 12.0, 24.0, 24.0);
                // On the line y = x, or beside it.
                self::assertSame($y <=> $x, $turn);
                $seen[$turn] = true;
                foreach ([2 ** -6, 2 ** -10, 2 ** -40, 2 ** 30] as $by) {
                    self::assertSame($turn, Orientation::of($x * $by, $y * $by, 12.0 * $by, 12.0 * $by, 24.0 * $by, 24.0 * $by), (string) $by);
                }
            }
        }
        self::assertCount(3, $seen);
    }
}
