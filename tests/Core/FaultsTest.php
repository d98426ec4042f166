<?php

declare(strict_types=1);

namespace Tests\Core;

use Demo\Heron;
use Isotome\Check\Crossings;
use Isotome\Check\EdgePlaces;
use Isotome\Check\InnerFaces;
use Isotome\Check\NearVertices;
use Isotome\Check\Report;
use Isotome\Check\Rims;
use Isotome\Check\Shells;
use Isotome\Check\TrianglePair;
use Isotome\Geometry\Orientation3;
use Isotome\Mesh\Mesh;
use Isotome\Process\SideBySide;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** Every kind of fault is found, with its place, and nothing is found where nothing is. */
final class FaultsTest extends TestCase
{
    private static function without(Mesh $mesh, int ...$triangles): Mesh
    {
        return \Isotome\Mend\RemoveFaces::of($mesh, array_fill_keys($triangles, true));
    }

    /** @return iterable<string, array{string, int, int, int, int}> shells, cavities, handles, crossing faces */
    public static function sound(): iterable
    {
        yield 'box' => ['box', 1, 0, 0, 0];
        yield 'torus' => ['torus, one handle', 1, 0, 1, 0];
        yield 'nest' => ['five boxes, two of them cavities', 5, 2, 0, 0];
        yield 'hollow ball' => ['hollow ball with a ball in the cavity', 3, 1, 0, 0];
        yield 'frame' => ['frame with five handles', 1, 0, 5, 0];
        yield 'far torus' => ['torus a kilometre away', 1, 0, 1, 0];
        yield 'needles' => ['cone of needle triangles', 1, 0, 0, 0];
        yield 'staircase' => ['staircase', 1, 0, 0, 0];
        yield 'overlap' => ['two shells that overlap', 2, 0, 0, 12];
    }

    #[DataProvider('sound')]
    public function test_shells_cavities_handles_and_crossings(string $name, int $shells, int $cavities, int $handles, int $crossing): void
    {
        $report = Report::of(Bodies::named($name));
        self::assertSame([$shells, $cavities, $handles, $crossing], [$report->shells->count, count($report->shells->cavities), $report->shells->handles, count($report->crossings->faces ?? [])]);
        self::assertSame($crossing === 0, $report->isSound());
        self::assertSame([0, 0], [count($report->innerFaces ?? []), count($report->rims->list)]);
    }

    public function test_the_demo_has_no_crossing_face(): void
    {
        self::assertSame([], Crossings::of(Heron::mesh())->pairs);
    }

    public function test_a_hole_is_a_rim_with_its_length_and_place(): void
    {
        $box = Solids::box(10, 20, 30);
        $rims = Rims::of(self::without($box, 0, 1))->list;
        self::assertCount(1, $rims);
        self::assertCount(4, $rims[0]['vertices']);
        self::assertTrue($rims[0]['closed']);
        $open = EdgePlaces::of(self::without($box, 0))->open;
        self::assertCount(3, $open);
        foreach ($open as [$a, $b, $t]) {
            $mesh = self::without($box, 0);
            $three = array_slice($mesh->corners, 3 * $t, 3);
            self::assertContains($a, $three);
            self::assertContains($b, $three);
        }
        $two = Rims::of(self::without(Solids::sphere(10, 3), 5, 700))->list;
        self::assertCount(2, $two);
        self::assertGreaterThanOrEqual($two[1]['length_mm'], $two[0]['length_mm']);
    }

    public function test_an_inner_wall_is_found_and_the_skin_is_not(): void
    {
        $mesh = self::walled();
        $report = Report::of($mesh);
        self::assertSame(4, $report->edges->nonmanifoldEdges);
        self::assertSame([20, 21], $report->innerFaces);
    }

    /** Two cells side by side as one body, and the wall between them. */
    private static function walled(): Mesh
    {
        $mesh = Solids::cells(2, 1, 1, static fn (int $x, int $y, int $z): bool => true);
        self::assertSame(20, $mesh->triangleCount());
        $ring = [];
        for ($v = 0; $v < $mesh->vertexCount(); $v++) {
            if (abs($mesh->xyz[3 * $v] - 1) < 1e-9) {
                $ring[$v] = atan2($mesh->xyz[3 * $v + 2] - 0.5, $mesh->xyz[3 * $v + 1] - 0.5);
            }
        }
        asort($ring);
        $ring = array_keys($ring);

        return Mesh::of($mesh->xyz, [...$mesh->corners, $ring[0], $ring[1], $ring[2], $ring[0], $ring[2], $ring[3]]);
    }

    public function test_a_body_inside_a_body_is_inner_and_a_cavity_is_not(): void
    {
        $inner = Solids::together(Solids::sphere(10, 2), Solids::sphere(5, 2));
        self::assertCount(320, Report::of($inner)->innerFaces ?? []);
        $cavity = Solids::together(Solids::sphere(10, 2), Solids::insideOut(Solids::sphere(5, 2)));
        self::assertSame([], Report::of($cavity)->innerFaces);
    }

    public function test_what_lies_inside_of_overlapping_bodies_is_inner(): void
    {
        $mesh = Solids::together(Solids::torus(50, 20, 60, 30), Solids::moved(Solids::torus(50, 20, 60, 30), 0.3, 0.2, 0.1, 1.0, [20.0, 0.0, 0.0]));
        $crossings = Crossings::of($mesh);
        $inner = InnerFaces::of($mesh, Shells::of($mesh), EdgePlaces::of($mesh), $crossings->faces);
        self::assertNotSame([], $crossings->pairs);
        $half = Solids::torus(50, 20, 60, 30)->triangleCount();
        $ofFirst = count(array_filter($inner, static fn (int $t): bool => $t < $half));
        self::assertGreaterThan(500, $ofFirst);
        self::assertGreaterThan(500, count($inner) - $ofFirst);
    }

    public function test_a_body_turned_inside_out_is_told(): void
    {
        $report = Report::of(Solids::together(Solids::sphere(5, 2), Solids::insideOut(Solids::sphere(5, 2, 20.0))));
        self::assertCount(1, $report->shells->inverted);
        self::assertFalse($report->isSound());
    }

    public function test_near_vertices_are_paired_and_joined_ones_are_not(): void
    {
        $mesh = Mesh::of([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1e-4, 1.0, 0.0, 1e-4, 5.0, 0.0, 0.0], [0, 1, 2, 3, 4, 5]);
        self::assertSame([[0, 3], [1, 4]], NearVertices::of($mesh, 2e-4));
        self::assertSame([], NearVertices::of($mesh, 0.5e-4));
        // An edge of 1e-4 is an edge, not two vertices that were forgotten.
        self::assertSame([], NearVertices::of(Mesh::of([0.0, 0.0, 0.0, 1e-4, 0.0, 0.0, 0.0, 1.0, 0.0], [0, 1, 2]), 1e-3));
    }

    public function test_isolated_vertices_are_counted(): void
    {
        $box = Solids::box(1, 1, 1);
        self::assertSame(2, Report::of(Mesh::of([...$box->xyz, 7.0, 7.0, 7.0, 8.0, 8.0, 8.0], $box->corners))->notes()['isolated_vertices']);
    }

    /**
     * Against every pair: the tree and the filters lose nothing. Source of the definition: closed triangles meet when no plane through one of
     * them, or through an edge of each, separates them; here by the exact test on all pairs.
     */
    public function test_the_tree_finds_what_trying_all_pairs_finds(): void
    {
        $random = new Randomizer(new Mt19937(5));
        for ($round = 0; $round < 6; $round++) {
            $xyz = [];
            $corners = [];
            for ($t = 0; $t < 120; $t++) {
                $o = [$random->getInt(0, 12), $random->getInt(0, 12), $random->getInt(0, 12)];
                for ($k = 0; $k < 3; $k++) {
                    // On a coarse grid in some rounds: touching, coplanar and shared places are common there.
                    $step = $round % 2 === 0 ? 1.0 : 0.123456789 + 0.01 * $random->getInt(0, 99);
                    array_push($xyz, ($o[0] + $random->getInt(0, 3)) * $step, ($o[1] + $random->getInt(0, 3)) * $step, ($o[2] + $random->getInt(0, 3)) * $step);
                    $corners[] = 3 * $t + $k;
                }
            }
            $mesh = Mesh::of($xyz, $corners);
            $all = [];
            for ($s = 0; $s < 120; $s++) {
                for ($t = $s + 1; $t < 120; $t++) {
                    if (TrianglePair::meets($xyz, [9 * $s, 9 * $s + 3, 9 * $s + 6], [9 * $t, 9 * $t + 3, 9 * $t + 6])) {
                        $all[] = [$s, $t];
                    }
                }
            }
            self::assertSame($all, Crossings::of($mesh)->pairs, "round $round");
            self::assertNotSame([], $all);
        }
    }

    /** @return iterable<string, array{list<float>, bool}> */
    public static function pairs(): iterable
    {
        $floor = [0.0, 0.0, 0.0, 4.0, 0.0, 0.0, 0.0, 4.0, 0.0];
        yield 'through the middle' => [[...$floor, 1.0, 1.0, -1.0, 1.0, 1.0, 1.0, 2.0, 2.0, 3.0], true];
        yield 'above' => [[...$floor, 1.0, 1.0, 0.5, 1.0, 2.0, 1.0, 2.0, 2.0, 3.0], false];
        yield 'touching with a corner' => [[...$floor, 1.0, 1.0, 0.0, 1.0, 2.0, 1.0, 2.0, 2.0, 3.0], true];
        yield 'beside, in the plane' => [[...$floor, 5.0, 5.0, 0.0, 6.0, 5.0, 0.0, 5.0, 6.0, 0.0], false];
        yield 'overlapping in the plane' => [[...$floor, 1.0, 1.0, 0.0, 6.0, 1.0, 0.0, 1.0, 6.0, 0.0], true];
        yield 'inside, in the plane' => [[...$floor, 0.5, 0.5, 0.0, 1.0, 0.5, 0.0, 0.5, 1.0, 0.0], true];
        yield 'plane crossed outside the triangle' => [[...$floor, 5.0, 5.0, -1.0, 5.0, 5.0, 1.0, 6.0, 5.0, 0.5], false];
        yield 'edge against edge' => [[...$floor, 2.0, -1.0, 0.0, 2.0, -1.0, 1.0, 2.0, 1.0, -0.5], true];
    }

    /** @param  list<float>  $xyz */
    #[DataProvider('pairs')]
    public function test_two_triangles(array $xyz, bool $meets): void
    {
        self::assertSame($meets, TrianglePair::meets($xyz, [0, 3, 6], [9, 12, 15]));
        self::assertSame($meets, TrianglePair::meets($xyz, [9, 15, 12], [6, 0, 3]));
        self::assertSame($meets ? 1 : 0, count(Crossings::of(Mesh::of($xyz, [0, 1, 2, 3, 4, 5]))->pairs));
    }

    public function test_two_processes_find_what_one_finds(): void
    {
        $ring = Solids::torus(40, 14, 280, 100);
        $mesh = Solids::together($ring, Solids::moved($ring, 0.4, 0.7, 0.2, 1.0, [11.0, 7.0, 3.0]), Solids::box(5, 5, 5, [38.0, 0.0, 0.0]));
        // One face is there twice.
        $mesh = Mesh::of($mesh->xyz, [...$mesh->corners, ...array_slice($mesh->corners, 3000, 3)]);
        $shares = [];
        $found = static fn (int $most): array => (array) Crossings::of($mesh, most: $most);
        $two = (array) Crossings::of($mesh, progress: static function (float $share) use (&$shares): void {
            $shares[] = $share;
        }, most: 500);
        // Within work that is done side by side there is one process for each.
        $one = SideBySide::all([static fn (): array => [serialize($found(500))], static fn (): array => [serialize($found(100_000))]], [60_000, 60_000]);
        self::assertSame([serialize($two)], $one[0]);
        self::assertSame([serialize($found(100_000))], $one[1]);
        self::assertCount(500, $two['pairs']);
        self::assertCount(1, $two['doubled']);
        self::assertGreaterThan(1000, count($two['faces']));
        $sorted = $shares;
        sort($sorted);
        self::assertSame($sorted, $shares);
        self::assertSame(1.0, end($shares));
    }

    public function test_faces_folded_onto_each_other_cross_and_smooth_ones_do_not(): void
    {
        $fold = [0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.2, 0.7, 0.0];
        self::assertCount(1, Crossings::of(Mesh::of($fold, [0, 1, 2, 1, 0, 3]))->pairs);
        self::assertCount(0, Crossings::of(Mesh::of([...array_slice($fold, 0, 9), 0.2, -0.7, 0.0], [0, 1, 2, 1, 0, 3]))->pairs);
        // A needle so thin that its normal, computed in doubles, looks the wrong way: it lies on the other one.
        $needle = [5.9825072895808535, 1.893460913971851, 0.0, 3.6141634409481993, 3.6141634409433645, 0.0, 17.000000000005834, 17.000000000000998, 0.0, 4.1542314371470388, 3.2217810736902703, 0.0];
        self::assertCount(1, Crossings::of(Mesh::of($needle, [0, 1, 2, 3, 1, 0]))->pairs);
        self::assertCount(0, Crossings::of(Mesh::of([...array_slice($needle, 0, 9), 4.154231437147038, 3.2217810736902690, 0.0], [0, 1, 2, 1, 0, 3]))->pairs);
    }

    /** A needle that has no area in doubles on any page still lies on the triangle that it shares a corner with. */
    public function test_a_needle_over_a_triangle_in_its_plane_meets_it(): void
    {
        $x = 2.0000000000025691;
        $xyz = [
            $x, 3.0000000000010001, 0.99999999999999967, $x, 2.0000000000010001, 0.99999999999999978, $x, 2.0000000000010001, 0.0,
            $x, 1.0000000000010001, 0.99999999999999989, $x, 1e-12, 1.0,
        ];
        self::assertTrue(TrianglePair::meets($xyz, [0, 3, 6], [9, 0, 12]));
        self::assertTrue(TrianglePair::meets($xyz, [9, 0, 12], [0, 3, 6]));
        self::assertSame([[0, 1]], Crossings::of(Mesh::of($xyz, [0, 1, 2, 3, 0, 4]))->pairs);
    }

    /** The same determinant in whole numbers, where PHP's integers are exact. */
    public function test_the_orientation_in_space_is_exact(): void
    {
        $random = new Randomizer(new Mt19937(8));
        $zeros = 0;
        for ($n = 0; $n < 4000; $n++) {
            $p = [];
            for ($k = 0; $k < 12; $k++) {
                $p[] = $random->getInt(-3, 3);
            }
            [$a, $b, $c] = [[$p[0] - $p[9], $p[1] - $p[10], $p[2] - $p[11]], [$p[3] - $p[9], $p[4] - $p[10], $p[5] - $p[11]], [$p[6] - $p[9], $p[7] - $p[10], $p[8] - $p[11]]];
            $det = $a[0] * ($b[1] * $c[2] - $b[2] * $c[1]) - $a[1] * ($b[0] * $c[2] - $b[2] * $c[0]) + $a[2] * ($b[0] * $c[1] - $b[1] * $c[0]);
            $zeros += $det === 0 ? 1 : 0;
            // Moved far away by a power of two and scaled by one third of one: sums and products get long, signs stay.
            foreach ([[1.0, 0.0], [2.0 ** -20, 2.0 ** 20]] as [$scale, $move]) {
                $xyz = array_map(static fn (int $c): float => $c * $scale + $move, $p);
                self::assertSame(-($det <=> 0), Orientation3::of($xyz, 0, 3, 6, 9));
            }
        }
        self::assertGreaterThan(100, $zeros);
    }
}
