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

    /** Points that rounding has put beside a line, or left on it; made larger by a power of two, which is exact, they turn the same way. */
    public function test_nearly_on_a_line_the_turn_is_the_same_at_every_size(): void
    {
        mt_srand(11);
        $chance = static fn (): float => mt_rand() / mt_getrandmax();
        $seen = [];
        for ($n = 0; $n < 4000; $n++) {
            [$ax, $ay, $bx, $by, $t] = [$chance(), $chance(), $chance(), $chance(), $chance()];
            [$cx, $cy] = [$ax + $t * ($bx - $ax), $ay + $t * ($by - $ay)];
            $turn = Orientation::of($ax, $ay, $bx, $by, $cx, $cy);
            $seen[$turn] = ($seen[$turn] ?? 0) + 1;
            foreach ([2 ** -30, 2 ** 8, 2 ** 40] as $scale) {
                self::assertSame($turn, Orientation::of($ax * $scale, $ay * $scale, $bx * $scale, $by * $scale, $cx * $scale, $cy * $scale));
            }
        }
        self::assertGreaterThan(1000, min($seen[1] ?? 0, $seen[-1] ?? 0));
    }
}
