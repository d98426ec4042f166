<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Cut\KerfSide;
use Isotome\Cut\Seal;
use Isotome\Cut\Section;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Blocks;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\TestCase;
use Tests\Support\Blades;
use Tests\Support\Solids;

final class BodiesTest extends TestCase
{
    public function test_a_cavity_stays_with_its_body(): void
    {
        foreach ([1 => 1, 2 => 1, 3 => 2, 4 => 2, 5 => 3, 6 => 3] as $depth => $count) {
            $mesh = Solids::nest($depth);
            $bodies = Bodies::of($mesh);
            self::assertCount($count, $bodies, "nest of $depth");
            self::assertSame($depth, Bodies::shellCount($mesh));
            self::assertEqualsWithDelta(Volume::of($mesh), array_sum(array_map(Volume::of(...), $bodies)), 1e-9);
            foreach ($bodies as $body) {
                self::assertGreaterThan(0, Volume::of($body));
            }
        }
    }

    public function test_each_of_several_cavities_finds_the_body_around_it(): void
    {
        $mesh = Solids::together(
            Solids::insideOut(Solids::sphere(2, 1, 5, 5, 5)), Solids::box(10, 10, 10), Solids::box(10, 10, 10, [20.0, 0.0, 0.0]),
            Solids::insideOut(Solids::sphere(2, 1, 23, 5, 5)), Solids::insideOut(Solids::sphere(1, 1, 27, 5, 5)), Solids::box(1, 1, 1, [4.5, 4.5, 4.5]),
        );
        $shells = array_map(Bodies::shellCount(...), Bodies::of($mesh));
        sort($shells);
        self::assertSame([1, 2, 3], $shells);
    }

    public function test_parts_that_touch_in_a_point_of_the_cut_are_bodies_of_their_own(): void
    {
        // Two pyramids, point to point, on a common block: cut through the point.
        $hourglass = Solids::cells(3, 3, 3, static fn (int $x, int $y, int $z): bool => $z === 0 || ($x === 0 && $y === 0) || ($x === 2 && $y === 2));
        $above = FlatCut::of($hourglass, new FlatBlade(Plane::through([0.0, 0.0, 1.0], [0.0, 0.0, 1.0])), 1);
        self::assertNotNull($above);
        self::assertCount(3, $above->bodies);

        $saddle = Mesh::of(
            [0.0, 0.0, 0.0, 2.0, 0.0, 1.0, 0.0, 2.0, -1.0, -2.0, 0.0, 1.0, 0.0, -2.0, -1.0, 0.0, 0.0, -4.0],
            [0, 1, 2, 0, 2, 3, 0, 3, 4, 0, 4, 1, 5, 2, 1, 5, 3, 2, 5, 4, 3, 5, 1, 4],
        );
        self::assertTrue(EdgeCheck::of($saddle)->isWatertight());
        $outcome = FlatCut::of($saddle, new FlatBlade(Plane::through([0.0, 0.0, 0.0], [0.0, 0.0, 1.0])), 1);
        self::assertNotNull($outcome);
        // The two horns ahead meet only in the middle of the saddle.
        self::assertCount(3, $outcome->bodies);
        foreach ($outcome->bodies as $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
        }
    }

    public function test_pieces_come_from_behind_to_ahead_and_the_largest_first(): void
    {
        $fork = Solids::cells(5, 1, 4, static fn (int $x, int $y, int $z): bool => $z === 0 || $x === 0 || ($x === 2 && $z < 3) || ($x === 4 && $z < 2));
        $bodies = FlatCut::of($fork, new FlatBlade(Plane::through([0.0, 0.0, 1.0], [0.0, 0.0, 2.0])), 1)->bodies ?? [];
        self::assertSame([5.0, 3.0, 2.0, 1.0], array_map(Volume::of(...), $bodies));
        $bodies = FlatCut::of($fork, new FlatBlade(Plane::through([0.0, 0.0, 1.0], [0.0, 0.0, -2.0])), 1)->bodies ?? [];
        self::assertSame([3.0, 2.0, 1.0, 5.0], array_map(Volume::of(...), $bodies));
    }

    public function test_a_body_turned_inside_out_is_cut_as_soundly(): void
    {
        $outcome = FlatCut::of(Solids::insideOut(Solids::torus(20, 7, 40, 24)), new FlatBlade(Plane::through([0.0, 0.0, 1.0], [0.1, 0.0, 1.0])), 1);
        self::assertNotNull($outcome);
        self::assertTrue($outcome->sound);
        self::assertCount(2, $outcome->bodies);
        foreach ($outcome->bodies as $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
            self::assertLessThan(0, Volume::of($body));
        }
    }

    /** Shells that were never united: each is closed for itself, and the overlap is told. */
    public function test_shells_that_cross_each_other_are_each_closed(): void
    {
        $mesh = Solids::together(Solids::sphere(10, 2), Solids::sphere(10, 2, 8, 1, 0.5), Solids::insideOut(Solids::sphere(4, 2, 1, 0, 0)), Solids::torus(12, 3, 30, 12));
        $whole = Volume::of($mesh);
        foreach ([[0.1, 0.2, 1.0], [1.0, 0.0, 0.3], [0.0, 1.0, 0.0]] as $facing) {
            $outcome = FlatCut::of($mesh, new FlatBlade(Plane::through([0.3, 0.2, 0.1], $facing)), 1);
            self::assertNotNull($outcome);
            self::assertFalse($outcome->sound);
            self::assertEqualsWithDelta($whole, array_sum(array_map(Volume::of(...), $outcome->bodies)), 1e-9 * $whole);
            foreach ($outcome->bodies as $body) {
                self::assertTrue(EdgeCheck::of($body)->isWatertight());
            }
        }
    }

    public function test_keep_seal_and_kerf(): void
    {
        $box = Solids::box(10, 10, 30);
        $plane = Plane::through([0.0, 0.0, 12.0], [0.0, 0.0, 1.0]);
        $volumes = static fn (FlatBlade $blade): array => array_map(static fn (Mesh $body): float => round(Volume::of($body), 9), FlatCut::of($box, $blade, 3)->bodies ?? []);
        self::assertSame([1200.0, 1800.0], $volumes(new FlatBlade($plane)));
        self::assertSame([1800.0], $volumes(new FlatBlade($plane, Keep::Ahead)));
        self::assertSame([1200.0], $volumes(new FlatBlade($plane, Keep::Behind)));
        self::assertSame([1190.0, 1790.0], $volumes(new FlatBlade($plane, kerf: 0.2)));
        self::assertSame([1200.0, 1780.0], $volumes(new FlatBlade($plane, kerf: 0.2, kerfSide: KerfSide::Ahead)));
        self::assertSame([1180.0, 1800.0], $volumes(new FlatBlade($plane, kerf: 0.2, kerfSide: KerfSide::Behind)));
        $open = FlatCut::of($box, new FlatBlade($plane, seal: Seal::Open), 3)->bodies ?? [];
        self::assertSame([4, 4], array_map(static fn (Mesh $body): int => EdgeCheck::of($body)->openEdges - 4, $open));
        $sheet = FlatCut::of($box, new FlatBlade($plane, Keep::Outline), 3)->bodies ?? [];
        self::assertCount(1, $sheet);
        self::assertSame([10.0, 10.0, 0.0], Box::of($sheet[0]->xyz)->size());
        self::assertEqualsWithDelta(100.0, Volume::measure($sheet[0])->area, 1e-9);
        self::assertSame([3], array_values(array_unique($sheet[0]->tags)));
    }

    public function test_a_blade_that_misses_or_merely_touches_cuts_nothing(): void
    {
        $box = Solids::box(10, 10, 10);
        foreach ([[0.0, 0.0, 11.0], [0.0, 0.0, 10.0], [0.0, 0.0, 0.0], [0.0, 0.0, -1.0]] as $through) {
            foreach ([1.0, -1.0] as $z) {
                self::assertNull(FlatCut::of($box, new FlatBlade(Plane::through($through, [0.0, 0.0, $z])), 1));
            }
        }
        self::assertNull(FlatCut::of($box, new FlatBlade(Plane::through([0.0, 0.0, 0.0], [1.0, 1.0, 1.0])), 1), 'in a corner');
        self::assertNull(FlatCut::of($box, new FlatBlade(Plane::through([0.0, 0.0, 0.0], [1.0, 1.0, 0.0])), 1), 'along an edge');
    }

    /** A lid that lies on the blade turned over, as rounding can turn a very small one: no body is made of it and its cap. */
    public function test_a_face_on_the_blade_makes_no_body_of_two_faces(): void
    {
        $mesh = Mesh::of(
            [0.0, 0.0, -3.0, 4.0, 0.0, -3.0, 0.0, 4.0, -3.0, 0.0, 0.0, 0.0, 0.0, 0.1, 0.0, 0.1, 0.0, 0.0],
            [0, 2, 1, 3, 4, 5, 0, 1, 4, 0, 4, 3, 1, 2, 5, 1, 5, 4, 2, 0, 3, 2, 3, 5],
        );
        self::assertTrue(EdgeCheck::of($mesh)->isWatertight());
        foreach ([1.0, -1.0] as $z) {
            self::assertNull(FlatCut::of($mesh, new FlatBlade(Plane::through([0.0, 0.0, 0.0], [0.0, 0.0, $z])), 1));
        }
        // A sheet with two sides is kept, though it has no volume either.
        $sheet = Mesh::of([0.0, 0.0, 0.0, 4.0, 0.0, 0.0, 0.0, 4.0, 0.0], [0, 1, 2, 0, 2, 1]);
        self::assertCount(2, FlatCut::of($sheet, new FlatBlade(Plane::through([1.0, 0.0, 0.0], [1.0, 0.0, 0.0])), 1)->bodies ?? []);
    }

    public function test_an_open_mesh_is_cut_and_told_where_it_stays_open(): void
    {
        $box = Solids::box(10, 10, 10);
        // Without one of the two triangles of the side y = 0.
        $open = Mesh::of($box->xyz, [...array_slice($box->corners, 0, 12), ...array_slice($box->corners, 15)]);
        $outcome = FlatCut::of($open, new FlatBlade(Plane::through([0.0, 0.0, 5.0], [0.0, 0.0, 1.0])), 1);
        self::assertNotNull($outcome);
        self::assertCount(1, $outcome->unclosed);
        self::assertCount(2, $outcome->bodies);
        foreach ($outcome->bodies as $body) {
            self::assertFalse(EdgeCheck::of($body)->isWatertight());
        }
        $section = Section::of($open, Plane::through([0.0, 0.0, 5.0], [0.0, 0.0, 1.0]));
        self::assertCount(1, $section->lines);
        // Away from the gap the cut closes: sideways only one half has open edges.
        $with = Solids::together($open, Solids::box(4, 4, 20, [20.0, 0.0, 0.0]));
        $outcome = FlatCut::of($with, new FlatBlade(Plane::through([0.0, 0.0, 15.0], [0.0, 0.0, 1.0])), 1);
        self::assertNotNull($outcome);
        self::assertSame([], $outcome->unclosed);
    }

    public function test_blocks_give_the_mesh_back_and_its_section_from_the_blocks_that_are_touched(): void
    {
        foreach ([Solids::torus(20, 7, 60, 40), Solids::box(1, 2, 3), Solids::nest(4)] as $mesh) {
            $blocks = Blocks::of($mesh);
            $payloads = array_column($blocks, 'payload');
            self::assertEquals($mesh, Blocks::whole($payloads, $mesh->vertexCount(), $mesh->triangleCount()));
            self::assertEquals($mesh, Blocks::whole(array_reverse($payloads), $mesh->vertexCount(), $mesh->triangleCount()));
            $extent = max(max($mesh->xyz), -min($mesh->xyz));
            $blades = new Blades($mesh, 9);
            for ($n = 0; $n < 30; $n++) {
                $plane = $n % 2 ? $blades->anywhere() : $blades->unlucky();
                $touched = array_filter($blocks, static function (array $block) use ($plane): bool {
                    [$x0, $x1, $y0, $y1, $z0, $z1] = $block['box'];
                    $middle = $plane->nx * ($x0 + $x1) + $plane->ny * ($y0 + $y1) + $plane->nz * ($z0 + $z1) - 2 * $plane->offset;
                    $half = abs($plane->nx) * ($x1 - $x0) + abs($plane->ny) * ($y1 - $y0) + abs($plane->nz) * ($z1 - $z0);

                    return abs($middle) <= $half + 1e-9;
                });
                $part = Section::of(Blocks::touching(array_column($touched, 'payload'), $plane, $extent), $plane, $extent);
                $whole = Section::of($mesh, $plane, $extent);
                self::assertEqualsWithDelta($whole->area, $part->area, 1e-9 * $extent * $extent);
                self::assertEqualsWithDelta($whole->perimeter, $part->perimeter, 1e-9 * $extent);
                self::assertSame(count($whole->outlines), count($part->outlines));
            }
        }
    }
}
