<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Chance;
use Isotome\Measure\LargestCircle;
use PHPUnit\Framework\TestCase;

/** The largest circle within outlines, against closed forms and a search over a grid. */
final class LargestCircleTest extends TestCase
{
    /** @return list<array{float, float}> */
    private static function circle(float $radius, int $sides, float $x = 0.0, float $y = 0.0): array
    {
        return array_map(static fn (int $n): array => [$x + $radius * cos(2 * M_PI * $n / $sides), $y + $radius * sin(2 * M_PI * $n / $sides)], range(0, $sides - 1));
    }

    public function test_closed_forms(): void
    {
        $rectangle = [[0.0, 0.0], [40.0, 0.0], [40.0, 10.0], [0.0, 10.0]];
        self::assertEqualsWithDelta(5.0, LargestCircle::in([$rectangle], 0.001)->radius ?? 0, 0.001);
        // Of a right triangle: half of both legs less the hypotenuse (Euclid, Elements IV.4).
        $circle = LargestCircle::in([[[0.0, 0.0], [30.0, 0.0], [0.0, 40.0]]], 0.001);
        self::assertEqualsWithDelta([10.0, 10.0, 10.0], [$circle?->x, $circle?->y, $circle?->radius], 0.01);
        // A ring: half of what lies between.
        $ring = [self::circle(20, 720), array_reverse(self::circle(8, 720))];
        self::assertEqualsWithDelta(6.0, LargestCircle::in($ring, 0.001)->radius ?? 0, 0.002);
        // An L of two arms 10 wide: it touches both outer sides and the inner corner, which is 10 √2 from the outer one: r + √2 r = 10 √2.
        $l = [[0.0, 0.0], [30.0, 0.0], [30.0, 10.0], [10.0, 10.0], [10.0, 30.0], [0.0, 30.0]];
        self::assertEqualsWithDelta(10 * M_SQRT2 / (1 + M_SQRT2), LargestCircle::in([$l], 0.001)->radius ?? 0, 0.001);
    }

    public function test_circles_that_are_taken_are_kept_clear_of(): void
    {
        $rectangle = [[0.0, 0.0], [40.0, 0.0], [40.0, 10.0], [0.0, 10.0]];
        $taken = [];
        foreach ([5.0, 5.0, 5.0, 5.0] as $wanted) {
            $circle = LargestCircle::in([$rectangle], 1e-6, $taken);
            self::assertNotNull($circle);
            foreach ($taken as [$x, $y, $radius]) {
                self::assertGreaterThanOrEqual($radius + $circle->radius - 1e-6, hypot($circle->x - $x, $circle->y - $y));
            }
            $taken[] = [$circle->x, $circle->y, $circle->radius];
        }
        self::assertNull(LargestCircle::in([$rectangle], 0.01, [[20.0, 5.0, 50.0]]));
        self::assertNull(LargestCircle::in([], 0.01));
        self::assertNull(LargestCircle::in([[[1.0, 1.0], [1.0, 1.0], [1.0, 1.0]]], 0.01));
    }

    public function test_it_is_looked_for_within_one_outline(): void
    {
        $both = [self::circle(10, 90), self::circle(3, 90, 30.0)];
        self::assertEqualsWithDelta(10.0, LargestCircle::in($both, 0.001)->radius ?? 0, 0.02);
        $small = LargestCircle::in($both, 0.001, [], 1);
        self::assertEqualsWithDelta([30.0, 3.0], [$small?->x, $small?->radius], 0.02);
    }

    public function test_no_place_of_a_grid_is_farther_from_the_outline(): void
    {
        $chance = new Chance(11);
        for ($n = 0; $n < 25; $n++) {
            $star = [];
            for ($k = 0; $k < 24; $k++) {
                $radius = 5 + 15 * $chance->uniform();
                $star[] = [$radius * cos(M_PI * $k / 12), $radius * sin(M_PI * $k / 12)];
            }
            $circle = LargestCircle::in([$star], 0.01);
            self::assertNotNull($circle);
            self::assertEqualsWithDelta(self::distance($star, $circle->x, $circle->y), $circle->radius, 1e-9);
            for ($x = -20.0; $x <= 20.0; $x += 0.5) {
                for ($y = -20.0; $y <= 20.0; $y += 0.5) {
                    // A star is within as seen from its middle.
                    $sector = (int) floor(fmod(atan2($y, $x) + 2 * M_PI, 2 * M_PI) / (M_PI / 12)) % 24;
                    [$p, $q] = [$star[$sector], $star[($sector + 1) % 24]];
                    if (($q[0] - $p[0]) * ($y - $p[1]) - ($q[1] - $p[1]) * ($x - $p[0]) > 0) {
                        self::assertLessThanOrEqual($circle->radius + 0.01, self::distance($star, $x, $y));
                    }
                }
            }
        }
    }

    /** @param  list<array{float, float}>  $outline */
    private static function distance(array $outline, float $x, float $y): float
    {
        $least = INF;
        foreach ($outline as $n => [$ax, $ay]) {
            [$bx, $by] = $outline[($n + 1) % count($outline)];
            $t = max(0.0, min(1.0, (($x - $ax) * ($bx - $ax) + ($y - $ay) * ($by - $ay)) / (($bx - $ax) ** 2 + ($by - $ay) ** 2)));
            $least = min($least, hypot($x - $ax - $t * ($bx - $ax), $y - $ay - $t * ($by - $ay)));
        }

        return $least;
    }
}
