<?php

declare(strict_types=1);

namespace Tests\Core;

use Demo\Heron;
use Demo\WheelBracket;
use Isotome\Check\Rims;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Cut\Seal;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Blocks;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Mirror\Band;
use Isotome\Mirror\Copies;
use Isotome\Mirror\Gives;
use Isotome\Mirror\Mirror;
use Isotome\Mirror\MirrorSettings;
use Isotome\Mirror\Reflect;
use Isotome\Mirror\SeamForecast;
use Isotome\Mirror\SeamGap;
use Isotome\Mirror\Symmetry;
use Isotome\Mirror\SymmetryMap;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Blades;
use Tests\Support\Bodies;
use Tests\Support\Solids;

final class MirrorTest extends TestCase
{
    /** @return iterable<string, array{string, int}> */
    public static function bodies(): iterable
    {
        foreach (Bodies::names() as $n => $name) {
            yield $name => [$name, 300 + $n];
        }
    }

    #[DataProvider('bodies')]
    public function test_the_kept_half_and_its_reflection_are_watertight_and_twice_the_half(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        $blades = new Blades($mesh, $seed);
        $made = 0;
        for ($n = 0; $n < 24; $n++) {
            $plane = $n % 2 ? $blades->unlucky() : $blades->anywhere();
            $half = FlatCut::of($mesh, new FlatBlade($plane, $n % 3 ? Keep::Ahead : Keep::Behind), 1);
            if ($half === null) {
                continue;
            }
            $outcome = Mirror::of($mesh, new MirrorSettings([$plane], $n % 3 !== 0), 1);
            $volume = 0.0;
            foreach ($outcome->bodies as $body) {
                if (! EdgeCheck::of($body)->isWatertight()) {
                    self::fail("$name, plane $n: not watertight");
                }
                $volume += Volume::of($body);
            }
            $expected = 2 * array_sum(array_map(static fn (Mesh $body): float => Volume::of($body), $half->bodies));
            self::assertEqualsWithDelta(0.0, ($volume - $expected) / Volume::of($mesh), 1e-9, "$name, plane $n");
            self::assertFalse($outcome->overlaps);
            $made++;
        }
        self::assertGreaterThan(10, $made);
    }

    #[DataProvider('bodies')]
    public function test_the_reflection_of_a_reflection_is_the_original(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        $axis = Plane::through([3.0, 0.5, -2.0], [0.0, 1.0, 0.0]);
        $again = Reflect::of(Reflect::of($mesh, $axis), $axis);
        self::assertSame($mesh->corners, $again->corners);
        $size = max(Box::of($mesh->xyz)->size());
        $extent = max(array_map(abs(...), $mesh->xyz));
        foreach ([$axis, (new Blades($mesh, $seed))->anywhere()] as $plane) {
            $once = Reflect::of($mesh, $plane);
            self::assertEqualsWithDelta(Volume::of($mesh), Volume::of($once), 1e-9 * Volume::of($mesh) + 1e-12 * $extent * $size ** 2, 'outward');
            foreach (Reflect::of($once, $plane)->xyz as $i => $c) {
                if (abs($c - $mesh->xyz[$i]) > 1e-14 * max($extent, abs($plane->offset), 10.0) * 10) {
                    self::fail("coordinate $i: $c is not ".$mesh->xyz[$i]);
                }
            }
        }
    }

    public function test_a_symmetric_body_mirrored_is_itself(): void
    {
        foreach ([Solids::sphere(20, 3), Solids::torus(20, 7, 24, 16), Solids::box(30, 20, 10, [-15.0, -10.0, -5.0])] as $n => $mesh) {
            foreach ([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]] as $facing) {
                $outcome = Mirror::of($mesh, new MirrorSettings([Plane::through([0.0, 0.0, 0.0], $facing)]), 1);
                self::assertCount(1, $outcome->bodies);
                self::assertEqualsWithDelta(Volume::of($mesh), Volume::of($outcome->bodies[0]), 1e-9 * Volume::of($mesh), "body $n");
                self::assertEqualsWithDelta(0.0, Symmetry::of($outcome->bodies[0], Plane::through([0.0, 0.0, 0.0], $facing))->largest, 1e-9);
                $measured = Symmetry::of($mesh, Plane::through([0.0, 0.0, 0.0], $facing));
                self::assertEqualsWithDelta(0.0, $measured->largest, 1e-9, "body $n");
            }
        }
    }

    public function test_a_closed_half_that_lies_against_the_plane_is_joined_there(): void
    {
        $half = Solids::box(10, 20, 30);
        $outcome = Mirror::of($half, new MirrorSettings([Plane::through([0.0, 0.0, 0.0], [1.0, 0.0, 0.0])], true), 1);
        self::assertCount(1, $outcome->bodies);
        self::assertEqualsWithDelta(12000.0, Volume::of($outcome->bodies[0]), 1e-9);
        self::assertTrue(EdgeCheck::of($outcome->bodies[0])->isWatertight());
        self::assertSame(4, $outcome->joined);
        self::assertEqualsWithDelta(0.0, $outcome->kink, 1e-9);
        // A quarter over two planes, an eighth over three.
        $three = Mirror::of($half, new MirrorSettings([Plane::through([0.0, 0.0, 0.0], [1.0, 0.0, 0.0]), Plane::through([0.0, 0.0, 0.0], [0.0, 1.0, 0.0]), Plane::through([0.0, 0.0, 0.0], [0.0, 0.0, 1.0])], true), 1);
        self::assertCount(1, $three->bodies);
        self::assertEqualsWithDelta(48000.0, Volume::of($three->bodies[0]), 1e-9);
        self::assertTrue(EdgeCheck::of($three->bodies[0])->isWatertight());
    }

    public function test_an_open_half_with_an_uneven_rim_becomes_a_closed_whole(): void
    {
        $half = WheelBracket::mesh();
        $plane = Plane::through([0.0, 0.0, 0.0], [1.0, 0.0, 0.0]);
        $gap = SeamGap::of($half, $plane);
        self::assertEqualsWithDelta(0.4, $gap->largest, 0.002);
        self::assertSame([3, 0], [$gap->rims, $gap->others]);
        $outcome = Mirror::of($half, new MirrorSettings([$plane], true, catch: $gap->weld()), 1);
        self::assertCount(1, $outcome->bodies);
        self::assertTrue(EdgeCheck::of($outcome->bodies[0])->isWatertight());
        self::assertSame([], $outcome->unjoined);
        // Too small a distance leaves gaps, and says where.
        $short = Mirror::of($half, new MirrorSettings([$plane], true, catch: 0.05), 1);
        self::assertNotSame([], $short->unjoined);
    }

    public function test_an_empty_result_is_refused_with_the_reason(): void
    {
        $this->expectException(BadBlade::class);
        $this->expectExceptionMessage('lies from 5.000 to 15.000 mm ahead of the plane');
        Mirror::of(Solids::box(10, 10, 10, [5.0, 0.0, 0.0]), new MirrorSettings([Plane::through([0.0, 0.0, 0.0], [1.0, 0.0, 0.0])]), 1);
    }

    /** Also where only faces in the plane, or a hair of rounding, are on the kept side; and over several planes bodies that are lost go. */
    public function test_nothing_but_a_face_in_the_plane_is_nothing(): void
    {
        $box = Solids::box(10, 20, 30, [0.0, 0.0, 0.1]);
        foreach ([Gives::One, Gives::Two, Gives::Reflection] as $gives) {
            foreach ([0.1, 0.1 - 1e-17, 0.1 + 1e-17] as $z) {
                try {
                    Mirror::of($box, new MirrorSettings([Plane::through([0.0, 0.0, $z], [0.0, 0.0, 1.0])], false, gives: $gives), 1);
                    self::fail('An empty mirror was made.');
                } catch (BadBlade $refusal) {
                    self::assertStringContainsString('nothing is there', $refusal->getMessage());
                }
            }
        }
        $two = Mirror::of($box, new MirrorSettings([Plane::through([5.0, 0.0, 0.0], [1.0, 0.0, 0.0]), Plane::through([5.0, 0.0, 0.0], [1.0, 0.0, 0.0])], false, gives: Gives::Two), 1);
        self::assertCount(2, $two->bodies);
    }

    public function test_the_seam_is_told_before_it_is_made(): void
    {
        // A cone's walls lean out of square to a plane across it: by closed form each kink is twice the lean.
        $cone = Solids::cone(10, 30, 720);
        $plane = Plane::through([0.0, 0.0, 10.0], [0.0, 0.0, 1.0]);
        $lean = rad2deg(2 * atan(10 / 30));
        foreach ([true, false] as $isAhead) {
            $told = SeamForecast::of($cone, $plane, $isAhead, 0.0);
            self::assertEqualsWithDelta($lean, $told->kink, 1e-3);
            self::assertEqualsWithDelta($lean, $told->meanKink, 1e-3);
            $made = Mirror::of($cone, new MirrorSettings([$plane], $isAhead), 1);
            self::assertSame($made->kink, $told->kink);
            self::assertSame($made->joined, $told->edges);
        }
        // A part of a large mesh tells the same as the whole.
        $heron = Heron::mesh(8.0);
        $plane = Plane::through([0.0, 0.0, 200.3], [0.1, 0.2, 1.0]);
        $part = Blocks::touching(array_column(Blocks::of($heron), 'payload'), $plane, 500.0, 0.3);
        self::assertLessThan(0.5 * $heron->triangleCount(), $part->triangleCount());
        $whole = SeamForecast::of($heron, $plane, true, 0.3);
        $told = SeamForecast::of($part, $plane, true, 0.3);
        self::assertSame([$whole->edges, $whole->kink], [$told->edges, $told->kink]);
        // The half bracket: what its rims are off the plane stays open, unless it is caught.
        $bracket = WheelBracket::mesh();
        $plane = Plane::through([0.0, 0.0, 0.0], [1.0, 0.0, 0.0]);
        $gap = SeamGap::of($bracket, $plane);
        self::assertSame([], $gap->unjoined($gap->weld()));
        self::assertNotSame([], $gap->unjoined(0.1));
        self::assertSame([], Mirror::of($bracket, new MirrorSettings([$plane], true, catch: $gap->weld()), 1)->unjoined);
        self::assertNotSame([], Mirror::of($bracket, new MirrorSettings([$plane], true, catch: 0.1), 1)->unjoined);
    }

    public function test_two_pieces_and_the_reflection_alone(): void
    {
        $mesh = Solids::torus(20, 7, 30, 20);
        $plane = Plane::through([5.0, 0.0, 0.0], [1.0, 0.0, 0.0]);
        $two = Mirror::of($mesh, new MirrorSettings([$plane], true, gives: Gives::Two), 1)->bodies;
        self::assertCount(2, $two);
        self::assertEqualsWithDelta(Volume::of($two[0]), Volume::of($two[1]), 1e-9);
        self::assertGreaterThanOrEqual(5.0 - 1e-12, Box::of($two[0]->xyz)->min[0]);
        self::assertLessThanOrEqual(5.0 + 1e-12, Box::of($two[1]->xyz)->max[0]);
        $alone = Mirror::of($mesh, new MirrorSettings([$plane], true, gives: Gives::Reflection), 1)->bodies;
        self::assertCount(1, $alone);
        self::assertEquals(Box::of($two[1]->xyz), Box::of($alone[0]->xyz));
        foreach ([...$two, ...$alone] as $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
        }
    }

    public function test_without_a_cut_overlap_is_said_and_facing_rims_are_joined_by_bands(): void
    {
        $plane = Plane::through([0.0, 0.0, 0.0], [1.0, 0.0, 0.0]);
        $across = Mirror::of(Solids::box(10, 10, 10, [-4.0, 0.0, 0.0]), new MirrorSettings([$plane], cuts: false), 1);
        self::assertTrue($across->overlaps);
        self::assertCount(2, $across->bodies);
        $apart = Mirror::of(Solids::box(10, 10, 10, [3.0, 0.0, 0.0]), new MirrorSettings([$plane], cuts: false), 1);
        self::assertEqualsWithDelta(6.0, $apart->apart, 1e-12);
        self::assertCount(2, $apart->bodies);
        // A tube's half that is open where it faces the plane.
        $tube = FlatCut::of(Solids::prism(array_map(static fn (int $n): array => [5 * cos(2 * M_PI * $n / 40), 5 * sin(2 * M_PI * $n / 40)], range(0, 39)), 20.0), new FlatBlade(Plane::through([0.0, 0.0, 4.0], [0.0, 0.0, 1.0]), Keep::Ahead, Seal::Open), 1)->bodies[0] ?? null;
        self::assertNotNull($tube);
        $level = Plane::through([0.0, 0.0, 0.0], [0.0, 0.0, 1.0]);
        $area = 20 * 25 * sin(2 * M_PI / 40);
        foreach ([Band::Straight, Band::Smoothed] as $band) {
            $joined = Mirror::of($tube, new MirrorSettings([$level], true, cuts: false, band: $band), 2);
            self::assertSame(1, $joined->banded);
            self::assertCount(1, $joined->bodies);
            self::assertTrue(EdgeCheck::of($joined->bodies[0])->isWatertight(), $band->value);
            self::assertEqualsWithDelta($area * 40, Volume::of($joined->bodies[0]), 1e-9 * $area * 40, $band->value);
        }
    }

    public function test_an_open_sheet_is_mirrored_as_a_sheet_and_tags_stay(): void
    {
        $sheet = Mesh::of([1.0, 0.0, 0.0, 2.0, 0.0, 0.0, 2.0, 1.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0], [4, 0, 3, 0, 1, 2, 0, 2, 3], [0, 5, 7]);
        $outcome = Mirror::of($sheet, new MirrorSettings([Plane::through([0.0, 0.0, 0.0], [1.0, 0.0, 0.0])], true), 1);
        self::assertCount(1, $outcome->bodies);
        self::assertSame([0, 5, 7, 0, 5, 7], $outcome->bodies[0]->tags);
        self::assertCount(1, Rims::of($outcome->bodies[0])->list);
        self::assertEqualsWithDelta(2 * Volume::measure($sheet)->area, Volume::measure($outcome->bodies[0])->area, 1e-12);
    }

    public function test_the_kink_is_told_in_degrees_and_smoothed_below_an_angle(): void
    {
        // A roof of 20° either side: its faces meet their reflections at 40°.
        $roof = Mesh::of([0.0, 0.0, 0.0, 10.0, 0.0, -10 * tan(deg2rad(20)), 10.0, 10.0, -10 * tan(deg2rad(20)), 0.0, 10.0, 0.0], [0, 1, 2, 0, 2, 3]);
        $plane = Plane::through([0.0, 0.0, 0.0], [1.0, 0.0, 0.0]);
        self::assertEqualsWithDelta(40.0, Mirror::of($roof, new MirrorSettings([$plane], true), 1)->kink, 1e-9);
        $ball = Solids::moved(Solids::sphere(20, 5), 0.1, 0.2, 0.3, 1.0, [-2.0, 0.0, 0.0]);
        $sharp = Mirror::of($ball, new MirrorSettings([$plane], true), 1);
        $smooth = Mirror::of($ball, new MirrorSettings([$plane], true, smooth: 90.0), 1);
        self::assertGreaterThan(8.0, $sharp->meanKink);
        self::assertLessThan(0.7 * $sharp->meanKink, $smooth->meanKink);
        self::assertTrue(EdgeCheck::of($smooth->bodies[0])->isWatertight());
        self::assertEqualsWithDelta(1.0, Volume::of($smooth->bodies[0]) / Volume::of($sharp->bodies[0]), 0.02);
        // Edges that are meant stay.
        self::assertEqualsWithDelta($sharp->kink, Mirror::of($ball, new MirrorSettings([$plane], true, smooth: 1.0), 1)->kink, 1e-9);
    }

    public function test_copies_about_an_axis_are_joined_where_they_meet(): void
    {
        // A sixth of a hexagonal prism, closed.
        $sixth = Solids::prism([[0.0, 0.0], [10.0, 0.0], [5.0, 10 * sqrt(3) / 2]], 4.0);
        $whole = Copies::of($sixth, [0.0, 0.0, 0.0], [0.0, 0.0, 1.0], 6);
        self::assertCount(1, $whole->bodies);
        self::assertTrue(EdgeCheck::of($whole->bodies[0])->isWatertight());
        self::assertEqualsWithDelta(1.5 * sqrt(3) * 100 * 4, Volume::of($whole->bodies[0]), 1e-9);
        // Spokes that meet nowhere.
        $spokes = Copies::of(Solids::box(10, 2, 2, [5.0, -1.0, 0.0]), [0.0, 0.0, 0.0], [0.0, 0.0, 1.0], 5);
        self::assertCount(5, $spokes->bodies);
        self::assertEqualsWithDelta(5 * 40.0, array_sum(array_map(static fn (Mesh $body): float => Volume::of($body), $spokes->bodies)), 1e-9);
    }

    public function test_copies_that_overlap_are_said_to(): void
    {
        $z = [0.0, 0.0, 1.0];
        $origin = [0.0, 0.0, 0.0];
        // A block seen from the axis: from atan(−5/20) to atan(5/20) by its near corners.
        $block = Solids::box(10, 10, 10, [20.0, -5.0, 0.0]);
        self::assertEqualsWithDelta(2 * rad2deg(atan(5 / 20)), Copies::span($block, $origin, $z), 0.25);
        self::assertEqualsWithDelta(2 * rad2deg(atan(5 / 20)), Copies::span(Reflect::of($block, Plane::through($origin, [1.0, 0.0, 0.0])), $origin, $z), 0.25, 'across the seam of the turn');
        self::assertSame(360.0, Copies::span(Solids::box(2, 2, 2, [-1.0, -1.0, 0.0]), $origin, $z));
        self::assertEqualsWithDelta(90.0, Copies::span(Solids::box(2, 2, 2), $origin, [0.0, 0.0, -7.0]), 0.25);
        self::assertFalse(Copies::of($block, $origin, $z, 12)->overlaps);
        self::assertTrue(Copies::of($block, $origin, $z, 13)->overlaps, '27.7° each, and 28.07° wide');
        self::assertTrue(Copies::of(Solids::box(1, 40, 1, [10.0, -20.0, 0.0]), $origin, $z, 4)->overlaps);
        // Wider than its part of the turn, but each stands in the next one's bend, as the sails of a mill.
        $interlocked = Solids::box(1, 40, 1, [10.0, -5.0, 0.0]);
        self::assertGreaterThan(90.0, Copies::span($interlocked, $origin, $z));
        self::assertFalse(Copies::of($interlocked, $origin, $z, 4)->overlaps);
    }

    public function test_deviations_are_those_of_the_whole_surface(): void
    {
        // A box over a plane 3 mm off its middle: the reflection stands 6 mm farther along. In closed form: one end is 6 mm outside; of the other,
        // within, a place is as deep as it is far from the border, at most 6 mm; strips of the sides are 0 to 6 mm beyond.
        $box = Solids::box(100, 40, 40);
        $symmetry = Symmetry::of($box, Plane::through([53.0, 0.0, 0.0], [1.0, 0.0, 0.0]));
        $ends = 40 * 40 * 6 + (28 * 28 * 6 + 80 * 6 ** 2 - 8 / 3 * 6 ** 3);
        $sides = 4 * 40 * 6 * 3;
        self::assertEqualsWithDelta(($ends + $sides) / (2 * 1600 + 4 * 4000), $symmetry->mean, 0.01);
        self::assertEqualsWithDelta(6.0, $symmetry->largest, 1e-9);
        // The map has places within the faces of a box, too; the same deviations on the same surface.
        $map = SymmetryMap::of($box, $symmetry->plane);
        self::assertGreaterThan(5000, $map->mesh->triangleCount());
        self::assertTrue(EdgeCheck::of($map->mesh)->isWatertight());
        self::assertEqualsWithDelta(Volume::of($box), Volume::of($map->mesh), 1e-6);
        self::assertEqualsWithDelta(6.0, max($map->deviations), 1e-9);
        self::assertEqualsWithDelta($symmetry->mean, array_sum($map->deviations) / count($map->deviations), 0.15);
    }

    public function test_symmetry_is_measured_and_the_best_plane_found(): void
    {
        // Off the plane by 3 mm: the reflection of one end stands 6 mm beyond.
        $box = Solids::box(20, 10, 6);
        $off = Symmetry::of($box, Plane::through([7.0, 0.0, 0.0], [1.0, 0.0, 0.0]));
        self::assertEqualsWithDelta(6.0, $off->largest, 1e-9);
        foreach ([[0.3, 0.8, -0.2, [4.0, -7.0, 11.0]], [1.1, -0.4, 0.6, [0.0, 50.0, 0.0]]] as [$a, $b, $c, $by]) {
            $turned = Solids::moved(Solids::together(Solids::box(40, 20, 10, [-20.0, -10.0, -5.0]), Solids::sphere(3, 2)), $a, $b, $c, 1.0, $by);
            $best = Symmetry::best($turned);
            self::assertLessThan(1e-4, $best->mean);
            self::assertEqualsWithDelta(0.0, abs($best->plane->nx * $by[0] + $best->plane->ny * $by[1] + $best->plane->nz * $by[2] - $best->plane->offset), 1e-3, 'through the middle');
        }
        $lame = Symmetry::best(Solids::together(Solids::box(40, 20, 10, [-20.0, -10.0, -5.0]), Solids::box(4, 4, 4, [12.0, 3.0, 5.0])));
        self::assertGreaterThan(1.0, $lame->largest);
    }
}
