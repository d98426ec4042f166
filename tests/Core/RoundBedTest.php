<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadBed;
use Isotome\Fit\BuildSpace;
use Isotome\Fit\Turned;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Chance;
use Isotome\Geometry\EnclosingCircle;
use Isotome\Geometry\Turn;
use Isotome\Operation\PlannedCuts;
use Isotome\Operation\PlateFiles;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Isotome\Plan\Plans;
use Isotome\Plan\Wishes;
use Isotome\Plate\Crowding;
use Isotome\Plate\Plates;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** A round bed: what fits it in which turn, pieces packed on it, and plans for it. */
final class RoundBedTest extends TestCase
{
    public function test_the_smallest_circle_is_that_of_two_or_three_points(): void
    {
        $chance = new Chance(3);
        for ($n = 0; $n < 200; $n++) {
            $points = [];
            for ($k = 0; $k < 3 + $n % 12; $k++) {
                $points[] = [10 * $chance->uniform(), 10 * $chance->uniform()];
            }
            $circle = EnclosingCircle::of($points);
            // By force: the largest of the smallest circles of any three of them (Helly's theorem).
            $most = 0.0;
            foreach ($points as $i => $p) {
                foreach ($points as $j => $q) {
                    foreach ($points as $k => $r) {
                        if ($i <= $j && $j <= $k) {
                            $most = max($most, self::ofThree($p, $q, $r));
                        }
                    }
                }
            }
            self::assertEqualsWithDelta($most, $circle->radius, 1e-9);
            foreach ($points as [$x, $y]) {
                self::assertLessThanOrEqual($circle->radius + 1e-9, hypot($x - $circle->x, $y - $circle->y));
            }
        }
        self::assertEqualsWithDelta(5.0, EnclosingCircle::of([[0.0, 0.0], [4.0, 0.0], [10.0, 0.0], [7.0, 0.0]])->radius, 1e-12);
    }

    /**
     * @param  array{float, float}  $p
     * @param  array{float, float}  $q
     * @param  array{float, float}  $r
     */
    private static function ofThree(array $p, array $q, array $r): float
    {
        [$a, $b, $c] = [hypot($q[0] - $r[0], $q[1] - $r[1]), hypot($p[0] - $r[0], $p[1] - $r[1]), hypot($p[0] - $q[0], $p[1] - $q[1])];
        $longest = max($a, $b, $c);
        // Obtuse, or a line: half the longest side. Else the circumscribed circle, a b c / 4 area.
        if ($a * $a + $b * $b + $c * $c - 2 * $longest * $longest <= 0.0) {
            return $longest / 2;
        }

        return $a * $b * $c / (2 * abs(($q[0] - $p[0]) * ($r[1] - $p[1]) - ($q[1] - $p[1]) * ($r[0] - $p[0])));
    }

    public function test_boxes_fit_by_their_diagonal(): void
    {
        $bed = BuildSpace::round(100, 80);
        self::assertSame('stands', $bed->holds([70, 71, 80])['how']);
        self::assertFalse($bed->holds([72, 72, 79])['fits']);
        self::assertSame('laid down', $bed->holds([20, 79, 97])['how']);
        self::assertEqualsWithDelta(hypot(80, 80) - 100, $bed->holds([80, 80, 80])['over_mm'], 1e-9);
    }

    public function test_what_is_round_fits_though_its_box_does_not(): void
    {
        $bed = BuildSpace::round(100, 50);
        // A disc of 99 mm that stands askew.
        $disc = Solids::moved(Solids::prism(array_map(static fn (int $k): array => [49.5 * cos($k * M_PI / 24), 49.5 * sin($k * M_PI / 24)], range(0, 47)), 20), 0.4, 0.7, 0.2);
        $turned = Turned::into($disc->xyz, $bed);
        self::assertTrue($turned->fits());
        $angle = sqrt($turned->vector[0] ** 2 + $turned->vector[1] ** 2 + $turned->vector[2] ** 2);
        $laid = Affine::points($disc->xyz, Turn::about($turned->vector, rad2deg($angle))->map([0.0, 0.0, 0.0]));
        $points = array_map(static fn (array $at): array => [$at[0], $at[1]], array_chunk(array_values($laid), 3));
        self::assertLessThanOrEqual(50 + 1e-6, EnclosingCircle::of($points)->radius);
        // Slightly too large for any turn: a ball.
        $ball = Turned::into(Solids::sphere(25.5, 3)->xyz, BuildSpace::round(50, 80));
        self::assertFalse($ball->fits());
        self::assertEqualsWithDelta(1, $ball->over, 0.2);
        // A square rod through the middle: its diagonal decides; a turn about the upright does not help.
        self::assertFalse(Turned::into(Solids::box(72, 72, 60)->xyz, BuildSpace::round(100, 60))->fits());
        self::assertTrue(Turned::into(Solids::box(70, 71, 60)->xyz, BuildSpace::round(100, 60))->fits());
    }

    public function test_pieces_are_packed_within_the_circle(): void
    {
        $chance = new Chance(8);
        foreach ([1, 2] as $round) {
            $pieces = [];
            for ($k = 0; $k < 8; $k++) {
                [$a, $b, $c] = [10 + 30 * $chance->uniform(), 10 + 30 * $chance->uniform(), 10 + 20 * $chance->uniform()];
                $pieces["p$k"] = $k % 2 === 0 ? Solids::box($a, $b, $c) : Solids::cone($a / 2, $c, 16);
            }
            // As large as the bed: it lies in the middle.
            $pieces['disc'] = Solids::prism(array_map(static fn (int $k): array => [59.9 * cos($k * M_PI / 24), 59.9 * sin($k * M_PI / 24)], range(0, 47)), 10);
            $bed = BuildSpace::round(124, 60);
            $meshes = array_values($pieces);
            $plates = Plates::of($pieces, $bed->within(2.0), 1.0 + $round / 2)->plates;
            self::assertGreaterThan(1, count($plates));
            foreach ($plates as $plate) {
                $laid = array_map(static fn (array $one): array => [$meshes[$one['piece']], PlateFiles::pose($one['map'], 2.0)], $plate);
                self::assertTrue(Crowding::of($laid, $bed->within(2.0), 2.0, 1.0 + $round / 2)->isFine());
            }
        }
        $this->expectException(BadBed::class);
        Plates::of(['slab' => Solids::box(100, 90, 20)], BuildSpace::round(124, 60), 1.0);
    }

    public function test_plans_for_it_leave_pieces_that_fit(): void
    {
        $wishes = Wishes::of(BuildSpace::round(120, 100)->sides(), 2.0);
        foreach ([Solids::cone(70, 160, 40), Solids::box(200, 90, 60)] as $mesh) {
            $plans = Plans::of($mesh, $wishes);
            self::assertNotSame([], $plans->alternatives);
            foreach ($plans->alternatives as $alternative) {
                self::assertGreaterThanOrEqual($plans->least, count($alternative->pieces));
                $runner = Runner::on('body', $mesh);
                foreach (Recipe::fromArray(['isotome_recipe' => 1, 'units' => 'mm', 'steps' => PlannedCuts::steps($alternative, 'body', 0.0)])->steps as $step) {
                    $runner->run($step);
                }
                $turns = array_column(PlannedCuts::pieces($alternative, 'body'), 'turn', 'name');
                foreach ($runner->pieces() as $piece) {
                    $turned = array_chunk(Turn::about($turns[$piece->name]['axis'], $turns[$piece->name]['degrees'])->of($piece->mesh->xyz), 3);
                    self::assertLessThanOrEqual(58 + 1e-6, EnclosingCircle::of(array_map(static fn (array $at): array => [$at[0], $at[1]], $turned))->radius);
                    self::assertLessThanOrEqual(100 + 1e-6, max(array_column($turned, 2)) - min(array_column($turned, 2)));
                }
            }
        }
    }
}
