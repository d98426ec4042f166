<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Affine;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Turn;
use Isotome\Mesh\Mesh;
use Isotome\Motion\Glue;
use Isotome\Motion\Quaternion;
use Isotome\Motion\RigidBodies;
use Isotome\Motion\Shape;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Rigid bodies against the closed forms of mechanics. Boxes are 20 mm wide unless told otherwise; gravity is 9,810 mm/s². */
final class RigidBodiesTest extends TestCase
{
    private const G = 9810.0;

    private static function box(float $x, float $y, float $z, float $wide = 20.0, float $deep = 20.0, float $high = 20.0, float $degrees = 0.0): Shape
    {
        $xyz = Turn::about([0.0, 1.0, 0.0], $degrees)->of(array_values(Solids::box($wide, $deep, $high, [-$wide / 2, -$deep / 2, -$high / 2])->xyz));
        $by = [$x, $y, $z];

        return Shape::of(Mesh::of(array_map(static fn (float $c, int $i): float => $c + $by[$i % 3], $xyz, array_keys($xyz)), Solids::box(1, 1, 1)->corners), 1.0);
    }

    /** @param  list<Shape>  $shapes */
    private static function world(array $shapes, ?float $floor = 0.0, float $gravity = self::G, float $friction = 0.5, float $bounce = 0.0, int ...$stay): RigidBodies
    {
        return new RigidBodies($shapes, array_map(static fn (int $n): bool => in_array($n, $stay, true), array_keys($shapes)), $floor, $gravity, $friction, $bounce);
    }

    private static function goOn(RigidBodies $world, int $steps, float $seconds = 0.01): void
    {
        for ($n = 0; $n < $steps; $n++) {
            $world->step($seconds);
        }
    }

    public function test_a_shape_has_the_mass_of_its_piece_and_the_faces_of_its_hull(): void
    {
        $shape = self::box(3, 4, 5, 10, 20, 30);
        self::assertEqualsWithDelta([3.0, 4.0, 5.0], $shape->centre, 1e-9);
        self::assertEqualsWithDelta(6.0, $shape->mass, 1e-9);
        self::assertEqualsWithDelta([6 * (400 + 900) / 12, 6 * (100 + 900) / 12, 6 * (100 + 400) / 12], [$shape->inertia[0][0], $shape->inertia[1][1], $shape->inertia[2][2]], 1e-6);
        self::assertCount(6, $shape->faces);
        foreach ($shape->faces as [$normal, $corners]) {
            self::assertCount(4, $corners);
            // Counter-clockwise, seen from outside.
            [$a, $b, $c] = array_map(static fn (int $v): array => array_slice($shape->points, 3 * $v, 3), array_slice($corners, 0, 3));
            $u = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
            $v = [$c[0] - $b[0], $c[1] - $b[1], $c[2] - $b[2]];
            self::assertGreaterThan(0.0, $normal[0] * ($u[1] * $v[2] - $u[2] * $v[1]) + $normal[1] * ($u[2] * $v[0] - $u[0] * $v[2]) + $normal[2] * ($u[0] * $v[1] - $u[1] * $v[0]));
        }
    }

    public function test_a_round_body_touches_others_with_some_corners_and_the_floor_with_all(): void
    {
        $ball = Solids::sphere(10, 4);
        $shape = Shape::of($ball, 1.0);
        self::assertLessThanOrEqual(300, intdiv(count($shape->points), 3));
        self::assertLessThan(0.2, $shape->out);
        // Every corner is kept, or left out and named, or sticks out by less than a hundredth of a millimetre.
        self::assertGreaterThan(0.9 * $ball->vertexCount(), intdiv(count($shape->points) + count($shape->more), 3));
        $world = self::world([Shape::of(Solids::moved($ball, 5, 7, 0, 1.0, [0.0, 0.0, 40.0]), 1.0)]);
        $lowest = INF;
        for ($n = 0; $n < 200; $n++) {
            $world->step(0.01);
            for ($i = 0, $count = $ball->vertexCount(); $i < $count; $i++) {
                $at = Quaternion::turned($world->turns[0], [$ball->xyz[3 * $i], $ball->xyz[3 * $i + 1], $ball->xyz[3 * $i + 2]]);
                $lowest = min($lowest, $world->places[0][2] + $at[2]);
            }
        }
        self::assertGreaterThan(-0.06, $lowest);
    }

    public function test_a_free_fall_is_exact(): void
    {
        $world = self::world([self::box(0, 0, 0)], null);
        self::goOn($world, 100);
        self::assertEqualsWithDelta(-self::G / 2, $world->places[0][2], 1e-6);
        self::assertEqualsWithDelta(-self::G, $world->speeds[0][2], 1e-6);
    }

    public function test_a_box_rests_and_a_stack_of_ten_stands_for_ten_seconds(): void
    {
        $world = self::world(array_map(static fn (int $n): Shape => self::box(0, 0, 10 + 20 * $n), range(0, 9)));
        self::goOn($world, 300);
        $places = $world->places;
        self::goOn($world, 700);
        foreach ($world->places as $n => [$x, $y, $z]) {
            // Nothing sinks by more than a hundredth of its size, it sways by less than half a millimetre as it comes to rest, and nothing creeps.
            self::assertEqualsWithDelta(10 + 20 * $n, $z, 0.1 * ($n + 1));
            self::assertEqualsWithDelta([0.0, 0.0], [$x, $y], 0.5);
            self::assertEqualsWithDelta($places[$n], [$x, $y, $z], 0.01);
            self::assertEqualsWithDelta(1.0, abs($world->turns[$n][3]), 1e-4);
        }
    }

    public function test_a_box_bounces_to_the_square_of_the_share_of_its_height(): void
    {
        $world = self::world([self::box(0, 0, 310)], bounce: 0.6);
        $peaks = [];
        $isUp = false;
        for ($n = 0; $n < 600; $n++) {
            $world->step(0.002);
            if ($isUp && $world->speeds[0][2] <= 0.0) {
                $peaks[] = $world->places[0][2] - 10;
            }
            $isUp = $world->speeds[0][2] > 0.0;
        }
        self::assertEqualsWithDelta([300 * 0.36, 300 * 0.36 ** 2, 300 * 0.36 ** 3], array_slice($peaks, 0, 3), 3.0);
    }

    public function test_a_sliding_box_stops_after_the_distance_that_friction_says(): void
    {
        $world = self::world([self::box(0, 0, 10)]);
        $world->speeds[0] = [1000.0, 0.0, 0.0];
        self::goOn($world, 100);
        self::assertEqualsWithDelta(1000 ** 2 / (2 * 0.5 * self::G), $world->places[0][0], 1.0);
        self::assertEqualsWithDelta([0.0, 0.0, 0.0], $world->speeds[0], 1e-6);
    }

    public function test_on_a_slope_a_box_stays_below_the_angle_of_friction_and_slides_by_the_formula_above_it(): void
    {
        foreach ([[20.0, 0.5], [35.0, 0.5]] as [$degrees, $friction]) {
            $slope = self::box(0, 0, 0, 2000, 100, 20, $degrees);
            [$c, $s] = [cos(deg2rad($degrees)), sin(deg2rad($degrees))];
            $box = self::box(20 * $s, 0, 20 * $c, 20, 20, 20, $degrees);
            $world = self::world([$slope, $box], null, self::G, $friction, 0.0, 0);
            self::goOn($world, 30);
            [$x, , $z] = [$world->places[1][0] - 20 * $s, 0, $world->places[1][2] - 20 * $c];
            $down = $x * $c - $z * $s;
            $expected = tan(deg2rad($degrees)) <= $friction ? 0.0 : 0.5 * self::G * ($s - $friction * $c) * 0.3 ** 2;
            self::assertEqualsWithDelta($expected, $down, 0.03 * $expected + 0.1);
            // It stays on the slope.
            self::assertEqualsWithDelta(0.0, $x * $s + $z * $c, 0.2);
        }
    }

    public function test_a_collision_keeps_momentum_and_by_its_bounce_energy(): void
    {
        foreach ([1.0, 0.5, 0.0] as $bounce) {
            $world = self::world([self::box(-40, 0, 0), self::box(40, 0, 0, 20, 20, 40)], null, 0.0, 0.0, $bounce);
            $world->speeds[0] = [600.0, 0.0, 0.0];
            self::goOn($world, 60, 0.005);
            // Masses of 8 g and 16 g; Newton's law of restitution.
            $first = 600 * (8 - $bounce * 16) / 24;
            $second = 600 * 8 * (1 + $bounce) / 24;
            self::assertEqualsWithDelta([$first, $second], [$world->speeds[0][0], $world->speeds[1][0]], 6.0);
            self::assertEqualsWithDelta(8 * 600, 8 * $world->speeds[0][0] + 16 * $world->speeds[1][0], 1e-6);
        }
    }

    public function test_a_free_box_tumbles_about_its_middle_axis_and_keeps_momentum_and_energy(): void
    {
        $world = self::world([self::box(0, 0, 0, 40, 20, 10)], null, 0.0);
        $world->spins[0] = [0.01, 5.0, 0.01];
        $energy = $world->energy();
        $momentum = $world->angular(0);
        $flips = 0;
        $side = 1;
        for ($n = 0; $n < 2000; $n++) {
            $world->step(0.01);
            $y = Quaternion::turned($world->turns[0], [0.0, 1.0, 0.0])[1];
            if ($y * $side < -0.25) {
                $flips++;
                $side = -$side;
            }
        }
        // The theorem of the intermediate axis (L. Poinsot 1834): it turns over, and over again.
        self::assertGreaterThanOrEqual(2, $flips);
        self::assertEqualsWithDelta(1.0, $world->energy() / $energy, 1e-4);
        self::assertEqualsWithDelta($momentum, $world->angular(0), 1e-3);
        // About the longest and the shortest one it does not.
        foreach ([[5.0, 0.01, 0.01], [0.01, 0.01, 5.0]] as $k => $spin) {
            $steady = self::world([self::box(0, 0, 0, 40, 20, 10)], null, 0.0);
            $steady->spins[0] = $spin;
            self::goOn($steady, 500);
            self::assertGreaterThan(0.99, Quaternion::turned($steady->turns[0], $k === 0 ? [1.0, 0.0, 0.0] : [0.0, 0.0, 1.0])[$k === 0 ? 0 : 2]);
        }
    }

    /**
     * Steady precession of a heavy symmetric top on its tip: I₁ Ω² cos θ − I₃ ω Ω + m g l = 0 (H. Goldstein, "Classical Mechanics", 5.7, with ω the spin about its axis). What touches the floor loses 1.5 of its spin a second here, so that Ω
     * grows as the spin becomes less.
     */
    public function test_a_spinning_top_on_its_tip_precesses(): void
    {
        $xyz = [0.0, 0.0, 0.0, 0.0, 0.0, 20.0];
        $corners = [];
        for ($k = 0; $k < 48; $k++) {
            array_push($xyz, 20 * cos(2 * M_PI * $k / 48), 20 * sin(2 * M_PI * $k / 48), 15.0);
            array_push($corners, 0, 2 + ($k + 1) % 48, 2 + $k, 1, 2 + $k, 2 + ($k + 1) % 48);
        }
        $top = Mesh::of($xyz, $corners);
        $upright = Shape::of($top, 1.0);
        $long = $upright->centre[2];
        $about = $upright->inertia[2][2];
        $across = $upright->inertia[0][0] + $upright->mass * $long ** 2;
        $tilted = Shape::of(Mesh::of(Affine::points($top->xyz, Turn::about([0.0, 1.0, 0.0], 20.0)->map([0.0, 0.0, 0.0])), $corners), 1.0);
        $axis = [sin(deg2rad(20)), 0.0, cos(deg2rad(20))];
        foreach ([300.0, 500.0] as $spin) {
            $rate = ($about * $spin - sqrt(($about * $spin) ** 2 - 4 * $across * $axis[2] * $upright->mass * self::G * $long)) / (2 * $across * $axis[2]);
            $world = new RigidBodies([$tilted], [false], 0.0, self::G, 10.0, 0.0);
            $world->spins[0] = [$spin * $axis[0], 0.0, $spin * $axis[2] + $rate];
            $world->speeds[0] = [0.0, $rate * $world->places[0][0], 0.0];
            self::goOn($world, 150, 0.002);
            $now = Quaternion::turned($world->turns[0], $axis);
            self::assertEqualsWithDelta($rate * (exp(1.5 * 0.3) - 1) / 1.5, atan2($now[1], $now[0]), 0.005, "at $spin");
            self::assertEqualsWithDelta(20.0, rad2deg(acos($now[2])), 1.0, "at $spin");
        }
    }

    /** What lay on something falls when that is knocked away, however long it was at rest. */
    public function test_what_is_at_rest_is_woken_when_what_it_lies_on_leaves(): void
    {
        $world = self::world([self::box(0, 0, 10), self::box(0, 0, 30), self::box(-6000, 0, 10, 40, 18, 18)], friction: 0.0);
        // It arrives when they have been at rest for more than a second.
        $world->speeds[2] = [4000.0, 0.0, 0.0];
        self::goOn($world, 130);
        self::assertEqualsWithDelta(30.0, $world->places[1][2], 0.2);
        self::goOn($world, 200);
        self::assertGreaterThan(50.0, $world->places[0][0]);
        self::assertLessThan(15.0, $world->places[1][2]);
    }

    public function test_what_is_at_rest_is_woken_when_what_it_lies_on_goes_slowly(): void
    {
        // It is at rest before its edge comes by.
        $world = self::world([self::box(0, 0, 10, 60), self::box(0, 0, 30)], friction: 0.0);
        $world->speeds[0] = [16.0, 0.0, 0.0];
        self::goOn($world, 150);
        self::assertEqualsWithDelta(30.0, $world->places[1][2], 0.1);
        self::goOn($world, 300);
        self::assertGreaterThan(40.0, $world->places[0][0] - $world->places[1][0]);
        self::assertLessThan(15.0, $world->places[1][2]);
    }

    public function test_a_tower_that_leans_falls_over_its_edge_and_one_that_does_not_stays(): void
    {
        foreach ([[5.0, false], [14.0, true]] as [$degrees, $falls]) {
            // 20 mm wide and 100 mm high: its diagonal is upright at 11.3°.
            [$c, $s] = [cos(deg2rad($degrees)), sin(deg2rad($degrees))];
            $tower = self::box(0, 0, 50 * $c + 10 * $s, 20, 20, 100, $degrees);
            $world = self::world([$tower], 0.0, self::G, 0.8);
            self::goOn($world, 200);
            $upright = $world->turns[0];
            $height = $world->places[0][2];
            self::assertEqualsWithDelta($falls ? 10.0 : 50.0, $height, 0.5, json_encode($upright) ?: '');
        }
    }

    public function test_a_heap_loses_energy_stays_above_the_floor_and_comes_to_rest_the_same_way_every_time(): void
    {
        $heap = static function (): RigidBodies {
            $chance = new Chance(5);
            $shapes = [];
            for ($n = 0; $n < 12; $n++) {
                $mesh = Solids::moved(Solids::box(12 + 10 * $chance->uniform(), 10, 8, [-6.0, -5.0, -4.0]), 6 * $chance->uniform(), 6 * $chance->uniform(), 6 * $chance->uniform(), 1.0, [30 * $chance->uniform(), 30 * $chance->uniform(), 40.0 + 22 * $n]);
                $shapes[] = Shape::of($mesh, 1.2);
            }

            return self::world($shapes, 0.0, self::G, 0.6, 0.2);
        };
        $world = $heap();
        $energy = $first = $world->energy();
        for ($n = 0; $n < 220; $n++) {
            $world->step(0.01);
            $now = $world->energy();
            // But for what pushing apart lifts: a thousandth of all.
            self::assertLessThanOrEqual($energy + 1e-3 * $first, $now);
            $energy = min($energy, $now);
        }
        foreach ($world->places as $n => [, , $z]) {
            self::assertGreaterThan(3.5, $z);
            self::assertLessThan(30.0, sqrt(array_sum(array_map(static fn (float $c): float => $c * $c, $world->speeds[$n]))));
        }
        $again = $heap();
        self::goOn($again, 220);
        self::assertSame([$world->places, $world->turns], [$again->places, $again->turns]);
    }

    /** A box of 20 mm that hangs glued on one that stays parts when it weighs more than the strength of the glue times the face. */
    public function test_glue_bears_what_its_strength_times_its_face_says(): void
    {
        $over = Solids::box(20, 20, 20, [0, 0, 20]);
        $under = Solids::box(20, 20, 20, [0, 0, 0]);
        [[, , $glue]] = Glue::between([$over, $under], [[0, 1]]);
        self::assertEqualsWithDelta([10.0, 10.0, 20.0], $glue->middle, 1e-9);
        self::assertEqualsWithDelta(400.0, $glue->area, 1e-9);
        self::assertEqualsWithDelta(20 / sqrt(6), $glue->long, 1e-9);
        foreach ([[0.98, 1], [1.02, 0]] as [$load, $holds]) {
            $world = self::world([Shape::of($over, 1.2), Shape::of($under, 1.2)], null, self::G, 0.5, 0.0, 0);
            $world->glue(0, 1, $glue, 9.6 * self::G / 400 / $load);
            self::goOn($world, 60);
            self::assertSame($holds, $world->glued(), "pulled by $load of what it bears");
            self::assertEqualsWithDelta($holds === 1 ? 10.0 : 10.0 - self::G * 0.6 ** 2 / 2, $world->places[1][2], $holds === 1 ? 0.01 : 40.0);
        }
    }

    /** A beam of 60 mm that is glued to a wall with its end: weight times half its length, against four places √2 standard deviations from the middle. */
    public function test_glue_parts_by_bending_at_the_load_that_is_reckoned(): void
    {
        $wall = Solids::box(20, 20, 20);
        $beam = Solids::box(60, 20, 20, [20, 0, 0]);
        [[, , $glue]] = Glue::between([$wall, $beam], [[0, 1]]);
        $weight = 60 * 20 * 20 * 1.2 / 1000 * self::G;
        $bears = hypot($weight * 30 / (2 * 20 / sqrt(6)), $weight / 4) / 100;
        foreach ([[0.97, 1], [1.03, 0]] as [$load, $holds]) {
            $world = self::world([Shape::of($wall, 1.2), Shape::of($beam, 1.2)], null, self::G, 0.5, 0.0, 0);
            $world->glue(0, 1, $glue, $bears / $load);
            self::goOn($world, 60);
            self::assertSame($holds, $world->glued(), "bent by $load of what it bears");
        }
    }

    public function test_what_is_glued_falls_as_one_and_what_was_moved_apart_is_not_glued(): void
    {
        $over = Solids::box(20, 20, 20, [0, 0, 20]);
        $under = Solids::box(40, 20, 20, [0, 0, 0]);
        [[, , $glue]] = Glue::between([$over, $under], [[0, 1]]);
        $world = self::world([Shape::of($over, 1.0), Shape::of($under, 1.0)], null);
        $world->glue(0, 1, $glue, 1e9);
        $world->spins[0] = $world->spins[1] = [0.0, 0.0, 4.0];
        self::goOn($world, 50);
        self::assertSame(1, $world->glued());
        // Free fall for half a second, of the common centre of mass.
        self::assertEqualsWithDelta((30 + 2 * 10) / 3 - self::G * 0.25 / 2, ($world->places[0][2] + 2 * $world->places[1][2]) / 3, 3.0);
        $between = array_map(static fn (int $k): float => $world->places[0][$k] - $world->places[1][$k], [0, 1, 2]);
        self::assertEqualsWithDelta(hypot(10, 20), sqrt($between[0] ** 2 + $between[1] ** 2 + $between[2] ** 2), 0.02);
        $apart = self::world([Shape::of($over, 1.0), Shape::of($under, 1.0)], null);
        $apart->places[0] = [10.0, 10.0, 35.0];
        $apart->glue(0, 1, $glue, 1e9);
        self::assertSame(0, $apart->glued());
    }

    /** Rounded bodies rock on their corners; that must not give them energy. */
    public function test_a_rounded_body_comes_to_rest_by_itself(): void
    {
        foreach ([1, 2, 3] as $seed) {
            $body = Solids::moved(Solids::sphere(30, 2), 0.3 * $seed, 0.2, 0.1);
            $flattened = Mesh::of(array_map(static fn (float $c, int $i): float => $i % 3 === 2 ? 0.4 * $c : $c, $body->xyz, array_keys($body->xyz)), $body->corners);
            $world = self::world([Shape::of($flattened, 1.0)], -40.0, self::G, 0.6, 0.1);
            $world->spins[0] = [2.0, 1.0, 3.0];
            $before = INF;
            for ($n = 0; $n < 500; $n += 50) {
                self::goOn($world, 50);
                self::assertLessThan($before + 1e-6 * abs($world->energy()) + 2000.0, $world->energy());
                $before = min($before, $world->energy());
            }
            self::assertSame([0.0, 0.0, 0.0], $world->speeds[0], "seed $seed");
        }
    }
}
