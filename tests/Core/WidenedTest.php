<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Crossings;
use Isotome\Check\Rays;
use Isotome\Check\Shells;
use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Mend\Widened;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use Isotome\Mesh\Tree;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** Solids widened by a gap: exact where faces are flat, far enough everywhere. */
final class WidenedTest extends TestCase
{
    public function test_a_box_stays_a_box(): void
    {
        $wide = self::widened(Solids::box(4, 2, 1), 0.25);
        self::assertSame([[-0.25, -0.25, -0.25], [4.25, 2.25, 1.25]], [Box::of($wide->xyz)->min, Box::of($wide->xyz)->max]);
        self::assertSame([12, 4.5 * 2.5 * 1.5], [$wide->triangleCount(), Volume::measure($wide)->volume]);
    }

    public function test_faces_that_stop_on_their_way_are_counted(): void
    {
        $towers = Solids::cells(3, 1, 3, static fn (int $x, int $y, int $z): bool => $z === 0 || $x !== 1);
        self::assertSame([0, 0], [Widened::of(Solids::sphere(3, 2), 1.0)['stopped'], Widened::of($towers, 0.4)['stopped']]);
        // The floor of the slot is two triangles.
        self::assertGreaterThanOrEqual(2, Widened::of($towers, 0.6)['stopped']);
    }

    /** A rectilinear outline of area A and perimeter P, brought out by g: A + P g + 4 g², whatever its corners (closed form). */
    public function test_an_angle_has_the_size_that_it_should(): void
    {
        $angle = Solids::cells(3, 3, 1, static fn (int $x, int $y, int $z): bool => $x === 0 || $y === 0);
        $g = 0.2;
        self::assertEqualsWithDelta((5 + 12 * $g + 4 * $g * $g) * (1 + 2 * $g), Volume::measure(self::widened($angle, $g))->volume, 1e-9);
    }

    public function test_a_slot_narrower_than_two_gaps_is_filled_and_a_wider_one_is_not(): void
    {
        // Two towers on a floor, one apart.
        $towers = Solids::cells(3, 1, 3, static fn (int $x, int $y, int $z): bool => $z === 0 || $x !== 1);
        $full = self::widened($towers, 0.6);
        self::assertSame([[-0.6, -0.6, -0.6], [3.6, 1.6, 3.6]], [Box::of($full->xyz)->min, Box::of($full->xyz)->max]);
        self::assertGreaterThan(0.97 * 4.2 * 2.2 * 4.2, Volume::measure($full)->volume);
        self::assertEqualsWithDelta((7 + 16 * 0.4 + 4 * 0.16) * 1.8, Volume::measure(self::widened($towers, 0.4))->volume, 1e-9);
    }

    public function test_the_hole_of_a_ring_closes(): void
    {
        $ring = Solids::torus(3, 2.6, 40, 24);
        $wide = self::widened($ring, 0.8);
        self::assertTrue(EdgeCheck::of($wide)->isWatertight());
        self::assertSame([1, 0], [Shells::of($wide)->count, Shells::of($wide)->handles]);
        self::assertSame(1, Shells::of(self::widened($ring, 0.2))->handles);
    }

    public function test_a_hollow_becomes_smaller_and_goes(): void
    {
        $hollow = Solids::together(Solids::box(10, 10, 10), Solids::insideOut(Solids::box(2, 2, 2, [4.0, 4.0, 4.0])));
        self::assertEqualsWithDelta(11.0 ** 3 - 1.0, Volume::measure(self::widened($hollow, 0.5))->volume, 1e-9);
        self::assertEqualsWithDelta(13.0 ** 3, Volume::measure(self::widened($hollow, 1.5))->volume, 1e-9);
    }

    /** @return iterable<string, array{string, int}> a body; how many of 400 places just within the gap must lie within */
    public static function bodies(): iterable
    {
        yield 'sphere' => ['sphere', 400];
        yield 'staircase' => ['staircase', 400];
        // Furrows and feathers have folds.
        yield 'millstone' => ['millstone', 380];
        yield 'heron' => ['heron', 390];
    }

    #[DataProvider('bodies')]
    public function test_what_is_nearer_than_the_gap_lies_within_but_in_folds(string $name, int $least): void
    {
        $body = Bodies::named($name);
        $size = max(Box::of($body->xyz)->size());
        $gap = 0.003 * $size;
        $wide = self::widened($body, $gap);
        self::assertTrue(EdgeCheck::of($wide)->isWatertight());
        self::assertSame([], Crossings::of(Places::joined($wide))->pairs);
        $tree = Tree::of($wide);
        $chance = new Chance(3);
        $within = 0;
        for ($n = 0; $n < 400; $n++) {
            $t = (int) ($chance->uniform() * $body->triangleCount());
            [$place, $normal] = self::on($body, $t, $chance);
            $near = array_map(static fn (float $at, float $out): float => $at + 0.999 * $gap * $out, $place, $normal);
            $within += self::isWithin($wide, $tree, $near) ? 1 : 0;
        }
        self::assertGreaterThanOrEqual($least, $within);
        // No corner went farther than it may.
        self::assertLessThan($size + 8.001 * $gap, max(Box::of($wide->xyz)->size()));
        self::assertGreaterThan(Volume::measure($body)->volume, Volume::measure($wide)->volume);
    }

    private static function widened(Mesh $solid, float $gap): Mesh
    {
        return Widened::of($solid, $gap)['mesh'];
    }

    /** @return array{list<float>, list<float>} a place on a face, and its normal */
    private static function on(Mesh $mesh, int $t, Chance $chance): array
    {
        $p = array_map(static fn (int $v): array => [$mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]], array_slice($mesh->corners, 3 * $t, 3));
        $r = sqrt($chance->uniform());
        $s = $chance->uniform();
        $u = array_map(static fn (float $a, float $b): float => $b - $a, $p[0], $p[1]);
        $v = array_map(static fn (float $a, float $b): float => $b - $a, $p[0], $p[2]);
        $normal = [$u[1] * $v[2] - $u[2] * $v[1], $u[2] * $v[0] - $u[0] * $v[2], $u[0] * $v[1] - $u[1] * $v[0]];
        $length = sqrt($normal[0] ** 2 + $normal[1] ** 2 + $normal[2] ** 2);

        return [array_map(static fn (int $k): float => (1 - $r) * $p[0][$k] + $r * (1 - $s) * $p[1][$k] + $r * $s * $p[2][$k], [0, 1, 2]), array_map(static fn (float $part): float => $part / $length, $normal)];
    }

    /** @param  list<float>  $place */
    private static function isWithin(Mesh $mesh, Tree $tree, array $place): bool
    {
        $votes = 0;
        foreach ([[0.571, 0.318, 0.756], [-0.845, 0.214, 0.488], [0.129, -0.902, 0.411]] as $ray) {
            $votes += array_sum(Rays::hits($mesh, $tree, [$place[0], $place[1], $place[2]], $ray)) > 0 ? 1 : 0;
        }

        return $votes > 1;
    }
}
