<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\FaceCheck;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Exception\BadMesh;
use Isotome\Format\Rounded;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\TestCase;
use Tests\Support\Blades;
use Tests\Support\Solids;

/** Vertices that fall together in 32-bit floats neither open nor fold a body. */
final class RoundedTest extends TestCase
{
    private function assertHolds(Mesh $mesh, string $what): void
    {
        self::assertTrue($mesh->isEmpty() || EdgeCheck::of($mesh)->isWatertight(), "$what: watertight");
        self::assertSame(0, FaceCheck::of($mesh)->doubled, "$what: folded");
        $places = [];
        foreach (array_chunk($mesh->xyz, 3) as $place) {
            foreach ($place as $c) {
                self::assertSame($c, unpack('g', pack('g', $c))[1]);
            }
            $places[implode(' ', $place)] = true;
        }
        self::assertCount($mesh->vertexCount(), $places, "$what: vertices at one place");
    }

    public function test_a_mesh_of_32_bit_floats_comes_back_as_it_is(): void
    {
        $mesh = Rounded::of(Solids::sphere(10, 3));
        self::assertEquals($mesh, Rounded::of($mesh));
    }

    /** Two boxes a hair apart: in the file their edge is one, shared by four faces, unless it is told apart. */
    public function test_bodies_whose_edges_fall_together_keep_an_edge_each(): void
    {
        $mesh = Solids::together(Solids::box(1, 1, 1), Solids::box(1, 1, 1, [1 + 1e-12, 1 + 1e-12, 0.0]));
        $file = Rounded::of($mesh);
        $this->assertHolds($file, 'edge to edge');
        self::assertEqualsWithDelta(2.0, Volume::of($file), 1e-6);
    }

    /** Face on face: the two coinciding faces are back to back and cancel, the boxes become one. */
    public function test_faces_that_fall_together_cancel(): void
    {
        $mesh = Solids::together(Solids::box(1, 1, 1), Solids::moved(Solids::box(1, 1, 1), 0, 0, 0, 1.0, [1 + 1e-12, 0.0, 0.0]));
        $file = Rounded::of($mesh);
        $this->assertHolds($file, 'face to face');
        self::assertEqualsWithDelta(2.0, Volume::of($file), 1e-6);
        self::assertCount(1, Bodies::of($file));
    }

    public function test_a_body_thinner_than_the_numbers_vanishes(): void
    {
        self::assertTrue(Rounded::of(Solids::box(1, 1, 1e-12, [5.0, 5.0, 5.0]))->isEmpty());
        self::assertTrue(Rounded::of(Solids::moved(Solids::sphere(1e-9, 2), 0, 0, 0, 1.0, [1000.0, 0.0, 0.0]))->isEmpty());
    }

    /** Bodies squeezed until most of their vertices fall together, in many ways. */
    public function test_squeezed_bodies_stay_closed(): void
    {
        $collapsed = 0;
        foreach ([2e-7, 5e-7, 1e-6, 2e-6, 3e-6, 1e-5] as $scale) {
            foreach ([Solids::torus(20, 7, 24, 16), Solids::sphere(20, 3), Solids::cells(4, 4, 4, static fn (int $x, int $y, int $z): bool => $x + $y + $z < 5), Solids::nest(3)] as $n => $body) {
                $far = Solids::moved($body, 0.3, 0.2, 0.1, $scale, [100.0, 57.0, 12.0]);
                $file = Rounded::of($far);
                $this->assertHolds($file, "body $n at $scale");
                $collapsed += $file->triangleCount() < $far->triangleCount() ? 1 : 0;
            }
        }
        self::assertGreaterThan(8, $collapsed, 'bodies of which something fell together');
    }

    public function test_pieces_cut_a_hair_beside_vertices_stay_closed(): void
    {
        $mesh = Rounded::of(Solids::moved(Solids::torus(20, 7, 30, 20), 0.3, 0.2, 0.1, 1.0, [300.0, 0.0, 0.0]));
        $merged = 0;
        for ($n = 0; $n < 60; $n++) {
            $x = $mesh->xyz[3 * $n * 7];
            foreach ([1e-12, 1e-9, 1e-7, 1e-6, 1e-5] as $hair) {
                $plane = Plane::through([$x + $hair, 0.0, 0.0], [1.0, $n % 2 ? 0.0 : 1e-7, 0.0]);
                foreach (FlatCut::of($mesh, new FlatBlade($plane), 1)->bodies ?? [] as $b => $body) {
                    $file = Rounded::of($body);
                    $this->assertHolds($file, "blade $n at $hair, body $b");
                    $merged += $file->vertexCount() < $body->vertexCount() ? 1 : 0;
                }
            }
        }
        self::assertGreaterThan(50, $merged, 'pieces in which vertices fell together');
    }

    public function test_coordinates_beyond_the_range_are_refused(): void
    {
        $this->expectException(BadMesh::class);
        $this->expectExceptionMessage('3.4e38');
        Rounded::of(Solids::box(1e39, 1, 1));
    }

    public function test_random_cuts_of_random_cuts_hold_in_the_file(): void
    {
        $bodies = [Rounded::of(Solids::moved(Solids::sphere(20, 2), 0.1, 0.2, 0.3))];
        for ($round = 0; $round < 4; $round++) {
            $next = [];
            foreach ($bodies as $n => $body) {
                $outcome = FlatCut::of($body, new FlatBlade((new Blades($body, 31 * $round + $n))->unlucky()), $round + 1);
                $next = [...$next, ...($outcome->bodies ?? [$body])];
            }
            $bodies = array_slice($next, 0, 24);
        }
        self::assertGreaterThan(8, count($bodies));
        foreach ($bodies as $n => $body) {
            $this->assertHolds(Rounded::of($body), "body $n");
        }
    }
}
