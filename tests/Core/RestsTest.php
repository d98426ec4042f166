<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Chance;
use Isotome\Geometry\Orientation3;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Plate\Hull;
use Isotome\Plate\Rest;
use Isotome\Plate\Rests;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Hulls by what makes them hulls, and standing against closed forms. */
final class RestsTest extends TestCase
{
    public function test_a_hull_closes_and_has_all_points_within(): void
    {
        $chance = new Chance(3);
        $grid = [];
        foreach (range(0, 3) as $x) {
            foreach (range(0, 3) as $y) {
                foreach (range(0, 2) as $z) {
                    array_push($grid, (float) $x, (float) $y, (float) $z);
                }
            }
        }
        $clouds = [Solids::torus(8, 3, 20, 12)->xyz, Solids::sphere(5, 2)->xyz, Solids::nest(2)->xyz, $grid];
        for ($n = 0; $n < 20; $n++) {
            $cloud = [];
            // Many in one plane or on one line, some twice.
            for ($i = 0; $i < 40; $i++) {
                array_push($cloud, floor(5 * $chance->uniform()), floor(3 * $chance->uniform()), $n % 2 === 0 ? floor(3 * $chance->uniform()) : $chance->uniform());
            }
            $clouds[] = $cloud;
        }
        foreach ($clouds as $n => $xyz) {
            $hull = Hull::of($xyz);
            self::assertNotSame([], $hull);
            self::assertTrue(EdgeCheck::of(Mesh::of($xyz, $hull))->isWatertight(), "cloud $n");
            for ($i = 0; $i < count($hull); $i += 3) {
                for ($p = 0; $p < count($xyz); $p += 3) {
                    self::assertLessThanOrEqual(0, Orientation3::of($xyz, 3 * $hull[$i], 3 * $hull[$i + 1], 3 * $hull[$i + 2], $p), "cloud $n");
                }
            }
        }
    }

    public function test_hulls_of_solids_in_closed_form(): void
    {
        $volume = static fn (Mesh $mesh): float => Volume::of(Mesh::of($mesh->xyz, Hull::of($mesh->xyz)));
        $turned = static fn (Mesh $mesh): Mesh => Solids::moved($mesh, 0.3, 1.1, 0.7);
        self::assertEqualsWithDelta(24.0, $volume($turned(Solids::box(2, 3, 4))), 1e-9);
        self::assertEqualsWithDelta(Volume::of(Solids::sphere(5, 2)), $volume($turned(Solids::sphere(5, 2))), 1e-9);
        // An L: the hull adds half of the square that is missing.
        $angle = Solids::cells(2, 1, 2, static fn (int $x, int $y, int $z): bool => $x === 0 || $z === 0);
        self::assertEqualsWithDelta(3.5, $volume($turned($angle)), 1e-9);
        self::assertSame([], Hull::of([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 1.0, 1.0, 0.0]));
        self::assertSame([], Hull::of([]));
    }

    private static function standing(Mesh $mesh, float $x, float $y, float $z): Rest
    {
        return Rests::on($mesh, [$x, $y, $z]);
    }

    public function test_how_far_it_can_be_tilted_in_closed_form(): void
    {
        // A box falls when its middle is above an edge.
        $box = Solids::box(2, 3, 4);
        self::assertEqualsWithDelta(rad2deg(atan2(1.0, 2.0)), self::standing($box, 0, 0, -1)->margin, 1e-9);
        self::assertEqualsWithDelta(rad2deg(atan2(1.5, 1.0)), self::standing($box, -1, 0, 0)->margin, 1e-9);
        self::assertEqualsWithDelta(6.0, self::standing($box, 0, 0, 1)->footprint, 1e-9);
        // The middle of a cone's mass is a quarter of its height above the ground; its foot is a polygon.
        $cone = Solids::cone(6, 10, 9);
        self::assertEqualsWithDelta(rad2deg(atan2(6 * cos(M_PI / 9), 2.5)), self::standing($cone, 0, 0, -1)->margin, 1e-9);
        // On a point, or on an edge, nothing stands.
        self::assertLessThanOrEqual(0.0, self::standing($cone, 0, 0, 1)->margin);
        self::assertFalse(self::standing($box, 0, 1, -1)->isStable());
    }

    public function test_a_gallows_falls_and_a_table_stands(): void
    {
        // The arm reaches so far that the middle of its mass is beyond the foot: (0.5 · 3 + 1.5 + 2.5 + 3.5 + 4.5) / 7 is beyond 1.
        $gallows = Solids::cells(5, 1, 3, static fn (int $x, int $y, int $z): bool => $x === 0 || $z === 2);
        self::assertEqualsWithDelta(rad2deg(atan2(1 - 13.5 / 7, 0.5 * 1 / 7 + 1.5 / 7 + 5 * 2.5 / 7)), self::standing($gallows, 0, 0, -1)->margin, 1e-9);
        self::assertTrue(self::standing($gallows, 0, 0, 1)->isStable());
        // Four legs span the whole table.
        $table = Solids::cells(5, 5, 3, static fn (int $x, int $y, int $z): bool => $z === 2 || ($x % 4 === 0 && $y % 4 === 0));
        self::assertEqualsWithDelta(25.0, self::standing($table, 0, 0, -1)->footprint, 1e-9);
        // Legs up it needs no support, legs down all of the top between them does.
        $rests = Rests::of($table);
        self::assertEqualsWithDelta([0.0, 0.0, 1.0], $rests[0]->facing, 1e-9);
        self::assertEqualsWithDelta(0.0, $rests[0]->overhang, 1e-9);
        $down = array_values(array_filter($rests, static fn (Rest $rest): bool => $rest->facing[2] < -0.9));
        self::assertEqualsWithDelta(21.0, $down[0]->overhang, 1e-9);
    }

    public function test_a_face_along_an_axis_but_for_rounding_is_along_it(): void
    {
        $box = Solids::moved(Solids::box(20, 30, 40), 1e-6, -2e-6, 1e-6);
        foreach (Rests::of($box) as $rest) {
            self::assertCount(2, array_keys($rest->facing, 0.0, true));
        }
        foreach (Rests::of(Solids::moved(Solids::box(20, 30, 40), 1e-3, 2e-3, 1e-3)) as $rest) {
            self::assertNotContains(0.0, $rest->facing);
        }
    }

    public function test_faces_that_are_offered_look_different_ways(): void
    {
        $ball = Rests::of(Solids::sphere(9, 2));
        self::assertCount(12, $ball);
        $apart = Rests::apart($ball, 20.0);
        self::assertSame($ball[0], $apart[0]);
        foreach ($apart as $n => $one) {
            foreach (array_slice($apart, $n + 1) as $other) {
                self::assertLessThanOrEqual(cos(deg2rad(20.0)), $one->facing[0] * $other->facing[0] + $one->facing[1] * $other->facing[1] + $one->facing[2] * $other->facing[2]);
            }
        }
        self::assertCount(6, Rests::apart(Rests::of(Solids::box(2, 3, 4)), 20.0));
    }

    public function test_faces_that_are_flat_but_for_rounding_are_one(): void
    {
        $box = Solids::moved(Solids::box(20, 30, 40), 0.3, 1.1, 0.7, 1.0, [5.0, 100.0, -7.0]);
        // As a file with single numbers keeps it.
        $rounded = Mesh::of(array_values((array) unpack('g*', pack('g*', ...$box->xyz))), $box->corners);
        $rests = Rests::of($rounded);
        self::assertCount(6, $rests);
        self::assertEqualsWithDelta(1200.0, $rests[0]->footprint, 0.01);
        self::assertEqualsWithDelta(20.0, $rests[0]->height, 0.001);
    }
}
