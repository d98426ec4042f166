<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\FaceCheck;
use Isotome\Check\Report;
use Isotome\Exception\BadMesh;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Compact;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Faults made on purpose are found and counted. */
final class ChecksTest extends TestCase
{
    /** @return array{int, int, int} open, crowded and flipped edges */
    private static function edges(Mesh $mesh): array
    {
        $check = EdgeCheck::of($mesh);

        return [$check->openEdges, $check->nonmanifoldEdges, $check->flippedEdges];
    }

    public function test_sound_bodies_have_no_fault(): void
    {
        foreach ([Solids::box(1, 2, 3), Solids::sphere(5, 3), Solids::torus(20, 7, 30, 20), Solids::nest(3), Solids::insideOut(Solids::box(1, 1, 1))] as $mesh) {
            self::assertSame([0, 0, 0], self::edges($mesh));
            self::assertTrue(EdgeCheck::of($mesh)->isWatertight());
            self::assertSame([0, 0], [FaceCheck::of($mesh)->doubled, FaceCheck::of($mesh)->slivers]);
        }
    }

    public function test_missing_triangles_leave_open_edges(): void
    {
        $box = Solids::box(1, 1, 1);
        self::assertSame([3, 0, 0], self::edges(Mesh::of($box->xyz, array_slice($box->corners, 3))));
        self::assertSame([4, 0, 0], self::edges(Mesh::of($box->xyz, array_slice($box->corners, 6))));
        self::assertSame([6, 0, 0], self::edges(Mesh::of($box->xyz, [...array_slice($box->corners, 3, 15), ...array_slice($box->corners, 21)])));
    }

    public function test_a_turned_triangle_disagrees_along_three_edges(): void
    {
        $box = Solids::box(1, 1, 1);
        [$a, $b, $c] = $box->corners;
        $turned = Mesh::of($box->xyz, [$a, $c, $b, ...array_slice($box->corners, 3)]);
        self::assertSame([0, 0, 3], self::edges($turned));
        self::assertFalse(EdgeCheck::of($turned)->isWatertight());
    }

    public function test_an_edge_of_four_faces_is_crowded(): void
    {
        // Two boxes with the upright edge x = 1, y = 1 in common.
        $mesh = Solids::cells(2, 2, 1, static fn (int $x, int $y, int $z): bool => $x === $y);
        self::assertSame([0, 1, 0], self::edges($mesh));
        self::assertFalse(EdgeCheck::of($mesh)->isWatertight());
    }

    public function test_doubled_and_sliver_faces_are_counted(): void
    {
        $box = Solids::box(1, 1, 1);
        [$a, $b, $c] = $box->corners;
        $doubled = Mesh::of($box->xyz, [...$box->corners, $b, $c, $a, $c, $b, $a]);
        self::assertSame(2, FaceCheck::of($doubled)->doubled);
        $thin = Mesh::of([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.5, 1e-7, 0.0, 0.5, 1e-3, 0.0], [0, 1, 2, 0, 1, 3]);
        self::assertSame(1, FaceCheck::of($thin)->slivers);
        self::assertSame(3, FaceCheck::of($thin, 2)->slivers);
    }

    public function test_an_empty_mesh_is_not_watertight(): void
    {
        self::assertFalse(EdgeCheck::of(Mesh::of([], []))->isWatertight());
        self::assertSame(0, Bodies::shellCount(Mesh::of([], [])));
        self::assertSame([], Bodies::of(Mesh::of([], [])));
    }

    /** A fan of 60,000 triangles around one vertex: a hash of keys with equal low bits would take minutes. */
    public function test_a_vertex_with_very_many_triangles_is_no_trap(): void
    {
        $cone = Solids::cone(10, 30, 30000);
        $start = hrtime(true);
        self::assertTrue(EdgeCheck::of($cone)->isWatertight());
        self::assertSame(0, FaceCheck::of($cone)->doubled);
        self::assertCount(1, Bodies::of($cone));
        // Not a speed test: quadratic work would take some hundred times as long.
        self::assertLessThan(20.0, (hrtime(true) - $start) / 1e9);
    }

    public function test_the_report_says_what_was_found(): void
    {
        $box = Solids::box(10, 10, 10);
        $report = Report::of(Mesh::of($box->xyz, array_slice($box->corners, 3)), 1);
        self::assertFalse($report->isSound());
        self::assertSame(['open_edges' => 3, 'nonmanifold_edges' => 0, 'flipped_edges' => 0, 'doubled_faces' => 0, 'sliver_faces' => 1, 'crossing_faces' => 0, 'inner_faces' => 0], $report->toArray()['faults']);
        self::assertStringContainsString('3 open edges', implode("\n", $report->sentences('box.stl')));
        self::assertTrue(Report::of($box)->isSound());
    }

    public function test_lists_that_do_not_fit_together_are_refused(): void
    {
        foreach ([[[0.0, 1.0], [], []], [[0.0, 0.0, 0.0], [0, 0], []], [[0.0, 0.0, 0.0], [0, 0, 0], [0, 0]]] as [$xyz, $corners, $tags]) {
            try {
                Mesh::of($xyz, $corners, $tags);
                self::fail('it was taken');
            } catch (BadMesh $refusal) {
                self::assertStringContainsString('do not fit together', $refusal->getMessage());
            }
        }
    }

    public function test_unused_vertices_are_left_out_in_order(): void
    {
        self::assertSame([[1.0, 1.0, 1.0, 3.0, 3.0, 3.0, 4.0, 4.0, 4.0], [2, 0, 1]], Compact::of([0.0, 0.0, 0.0, 1.0, 1.0, 1.0, 2.0, 2.0, 2.0, 3.0, 3.0, 3.0, 4.0, 4.0, 4.0], [4, 1, 3]));
    }

    public function test_edges_are_those_that_plain_counting_finds(): void
    {
        $ball = Solids::sphere(10, 3);
        $turned = $ball->corners;
        [$turned[300], $turned[301]] = [$turned[301], $turned[300]];
        $bodies = [
            'whole' => $ball,
            'without a face' => Mesh::of($ball->xyz, array_slice($ball->corners, 0, -3)),
            'a face turned over' => Mesh::of($ball->xyz, $turned),
            'a face twice' => Mesh::of($ball->xyz, [...$ball->corners, ...array_slice($ball->corners, 600, 3)]),
            // Every edge of these four faces closes twice.
            'a fold' => Mesh::of($ball->xyz, [...$ball->corners, 5, 9, 12, 5, 12, 9, 5, 9, 12, 5, 12, 9]),
        ];
        $chance = new Chance(77);
        $xyz = array_fill(0, 3 * 300, 0.0);
        // A disc of triangles, and two of them with one rim: a middle has many more edges than are looked through one by one; also with the middle numbered last, and with faces at random.
        foreach ([0, 250] as $middle) {
            $corners = [];
            for ($n = 0; $n < 200; $n++) {
                array_push($corners, $middle, 1 + $n, 1 + ($n + 1) % 200);
            }
            $bodies["disc about $middle"] = Mesh::of($xyz, $corners);
            $back = array_reverse(array_map(static fn (int $v): int => $v === $middle ? 251 : $v, $corners));
            $bodies["lens about $middle"] = Mesh::of($xyz, [...$corners, ...$back]);
            $bodies["disc about $middle, three times"] = Mesh::of($xyz, [...$corners, ...$corners, ...array_reverse($corners)]);
        }
        for ($n = 0; $n < 20; $n++) {
            $corners = [];
            for ($k = 0; $k < 400; $k++) {
                $a = (int) ($chance->uniform() * (3 + 10 * $n));
                $b = $a + 1 + (int) ($chance->uniform() * 4);
                array_push($corners, ...($chance->uniform() < 0.5 ? [$a, $b, $b + 1] : [$b + 1, $b, $a]));
            }
            $bodies["faces at random, $n"] = Mesh::of($xyz, $corners);
        }
        foreach ($bodies as $what => $mesh) {
            $check = EdgeCheck::of($mesh);
            self::assertSame(self::edgesCounted($mesh), [$check->openEdges, $check->nonmanifoldEdges, $check->flippedEdges], $what);
            self::assertSame(in_array($what, ['whole', 'lens about 0', 'lens about 250'], true), $check->isWatertight(), $what);
        }
    }

    /** @return array{int, int, int} edges with one face, with more than two, with two the same way round */
    private static function edgesCounted(Mesh $mesh): array
    {
        $ways = [];
        foreach (array_chunk($mesh->corners, 3) as $face) {
            foreach ([[0, 1], [1, 2], [2, 0]] as [$k, $l]) {
                $ways[min($face[$k], $face[$l]).' '.max($face[$k], $face[$l])][] = $face[$k] < $face[$l];
            }
        }

        return [
            count(array_filter($ways, static fn (array $of): bool => count($of) === 1)),
            count(array_filter($ways, static fn (array $of): bool => count($of) > 2)),
            count(array_filter($ways, static fn (array $of): bool => count($of) === 2 && $of[0] === $of[1])),
        ];
    }
}
