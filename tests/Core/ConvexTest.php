<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Chance;
use Isotome\Geometry\Turn;
use Isotome\Motion\Convex;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Distances and depths of convex bodies against closed forms, and against force: all directions in which bodies with few faces can be apart (the separating axes of S. Gottschalk 1996). */
final class ConvexTest extends TestCase
{
    /**
     * @param  list<float>  $points
     * @param  list<float>  $by
     * @return list<float>
     */
    private static function shifted(array $points, array $by): array
    {
        return array_map(static fn (float $c, int $i): float => $c + $by[$i % 3], $points, array_keys($points));
    }

    public function test_boxes_that_are_turned_together_stay_as_far_apart(): void
    {
        $chance = new Chance(12);
        $box = array_values(Solids::box(10, 6, 4, [-5.0, -3.0, -2.0])->xyz);
        for ($n = 0; $n < 300; $n++) {
            $by = [30 * $chance->uniform() - 15, 20 * $chance->uniform() - 10, 16 * $chance->uniform() - 8];
            $gaps = [abs($by[0]) - 10, abs($by[1]) - 6, abs($by[2]) - 4];
            $apart = sqrt(array_sum(array_map(static fn (float $gap): float => max(0.0, $gap) ** 2, $gaps)));
            $expected = $apart > 0.0 ? $apart : max($gaps);
            $turn = Turn::about($chance->direction(), 360 * $chance->uniform());
            $shift = [50 * $chance->uniform(), 50 * $chance->uniform(), 50 * $chance->uniform()];
            $a = self::shifted($turn->of($box), $shift);
            $b = self::shifted($turn->of(self::shifted($box, $by)), $shift);
            [$distance, $way, $on, $other] = Convex::between($a, $b, $chance->direction());
            self::assertEqualsWithDelta($expected, $distance, 1e-7);
            self::assertEqualsWithDelta(1.0, $way[0] ** 2 + $way[1] ** 2 + $way[2] ** 2, 1e-9);
            // Moved by it, they only just touch; and the places are as far apart along it.
            self::assertEqualsWithDelta($distance, ($other[0] - $on[0]) * $way[0] + ($other[1] - $on[1]) * $way[1] + ($other[2] - $on[2]) * $way[2], 1e-7);
            [$touching] = Convex::between($a, self::shifted($b, array_map(static fn (float $c): float => -$distance * $c, $way)), $chance->direction());
            self::assertEqualsWithDelta(0.0, $touching, 1e-6);
        }
    }

    public function test_bodies_of_few_corners_agree_with_all_separating_axes(): void
    {
        $chance = new Chance(31);
        for ($n = 0; $n < 400; $n++) {
            $bodies = [];
            for ($k = 0; $k < 2; $k++) {
                $points = [];
                for ($m = 0; $m < 4; $m++) {
                    array_push($points, 10 * $chance->uniform() + 7 * $k, 10 * $chance->uniform(), 10 * $chance->uniform());
                }
                $bodies[] = $points;
            }
            [$distance, $way] = Convex::between($bodies[0], $bodies[1], $chance->direction());
            // Along the best axis of all: less than the distance when they are apart, the depth itself when they overlap.
            $best = -INF;
            foreach (self::axes($bodies[0], $bodies[1]) as $axis) {
                $best = max($best, self::gap($bodies[0], $bodies[1], $axis));
            }
            if ($best <= 0.0) {
                self::assertEqualsWithDelta($best, $distance, 1e-7);
            } else {
                self::assertGreaterThanOrEqual($best - 1e-9, $distance);
            }
            self::assertEqualsWithDelta($distance, self::gap($bodies[0], $bodies[1], $way), 1e-7);
        }
    }

    /**
     * @param  list<float>  $a
     * @param  list<float>  $b
     * @return list<array{float, float, float}>
     */
    private static function axes(array $a, array $b): array
    {
        $edges = $normals = [];
        foreach ([$a, $b] as $points) {
            $p = array_chunk($points, 3);
            $own = [];
            foreach ([[0, 1], [0, 2], [0, 3], [1, 2], [1, 3], [2, 3]] as [$i, $j]) {
                $own[] = [$p[$j][0] - $p[$i][0], $p[$j][1] - $p[$i][1], $p[$j][2] - $p[$i][2]];
            }
            foreach ([[0, 1], [0, 2], [1, 2], [3, 4]] as [$i, $j]) {
                $normals[] = self::cross($own[$i], $own[$j]);
            }
            $edges[] = $own;
        }
        foreach ($edges[0] as $one) {
            foreach ($edges[1] as $other) {
                $normals[] = self::cross($one, $other);
            }
        }
        $axes = [];
        foreach ($normals as [$x, $y, $z]) {
            $long = sqrt($x * $x + $y * $y + $z * $z);
            if ($long > 1e-9) {
                array_push($axes, [$x / $long, $y / $long, $z / $long], [-$x / $long, -$y / $long, -$z / $long]);
            }
        }

        return $axes;
    }

    /**
     * @param  array<int, float>  $a
     * @param  array<int, float>  $b
     * @return array{float, float, float}
     */
    private static function cross(array $a, array $b): array
    {
        return [$a[1] * $b[2] - $a[2] * $b[1], $a[2] * $b[0] - $a[0] * $b[2], $a[0] * $b[1] - $a[1] * $b[0]];
    }

    /**
     * @param  list<float>  $a
     * @param  list<float>  $b
     * @param  array{float, float, float}  $axis
     */
    private static function gap(array $a, array $b, array $axis): float
    {
        $along = static fn (array $points): array => array_map(static fn (array $at): float => $at[0] * $axis[0] + $at[1] * $axis[1] + $at[2] * $axis[2], array_chunk($points, 3));

        return min($along($b)) - max($along($a));
    }

    public function test_balls_and_touching_bodies(): void
    {
        $ball = array_values(Solids::sphere(10, 3)->xyz);
        [$apart, $way] = Convex::between($ball, self::shifted($ball, [24.0, 18.0, 0.0]));
        self::assertEqualsWithDelta(10.0, $apart, 0.15);
        self::assertEqualsWithDelta([0.8, 0.6, 0.0], $way, 0.05);
        [$deep] = Convex::between($ball, self::shifted($ball, [12.0, 9.0, 0.0]));
        self::assertEqualsWithDelta(-5.0, $deep, 0.15);
        // In the very same place, corner to corner, and face to face.
        $box = array_values(Solids::box(4, 6, 8)->xyz);
        self::assertEqualsWithDelta(-4.0, Convex::between($box, $box)[0], 1e-9);
        self::assertEqualsWithDelta(0.0, Convex::between($box, self::shifted($box, [4.0, 6.0, 8.0]))[0], 1e-9);
        [$touching, $facing] = Convex::between($box, self::shifted($box, [0.0, 0.0, 8.0]));
        self::assertEqualsWithDelta(0.0, $touching, 1e-9);
        self::assertEqualsWithDelta([0.0, 0.0, 1.0], $facing, 1e-6);
    }
}
