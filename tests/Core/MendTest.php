<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Crossings;
use Isotome\Check\Rims;
use Isotome\Exception\BadMesh;
use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Turn;
use Isotome\Mend\CloseRims;
use Isotome\Mend\JoinVertices;
use Isotome\Mend\Mend;
use Isotome\Mend\Orient;
use Isotome\Mend\RemoveDoubled;
use Isotome\Mend\RemoveFaces;
use Isotome\Mend\RemoveSlivers;
use Isotome\Mend\SmallestSurface;
use Isotome\Mend\Thicken;
use Isotome\Mend\Uncross;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use Isotome\Mesh\Volume;
use Isotome\Solid\Combined;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use RuntimeException;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** Each single mend does its one thing, and mending makes faulty bodies solid and leaves sound ones alone. */
final class MendTest extends TestCase
{
    /** Bodies of the tests that cross themselves. */
    private const CROSSED = ['heron', 'column whose lids overlap'];

    /** @return iterable<string, array{string, int}> */
    public static function bodies(): iterable
    {
        $seed = 50;
        foreach (Bodies::names() as $name) {
            yield $name => [$name, $seed++];
        }
    }

    #[DataProvider('bodies')]
    public function test_a_watertight_body_comes_back_as_it_is(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        $mend = Mend::of($mesh);
        if (in_array($name, self::CROSSED, true)) {
            // But for those that cross themselves.
            self::assertSame([1, true, []], [$mend->did['uncrossed'], $mend->after->isWatertight(), Uncross::pairs($mend->mesh)]);
            self::assertSame($mend->mesh, Mend::of($mend->mesh)->mesh);

            return;
        }
        self::assertSame($mesh, $mend->mesh);
        self::assertFalse($mend->changed);
    }

    /** What was sound stays where it was, to the bit; overlapping bodies are kept apart, and each is made solid for itself. */
    public function test_a_body_that_crosses_itself_is_made_solid(): void
    {
        $heron = Bodies::named('heron');
        $mend = Mend::of($heron);
        $places = static fn (Mesh $mesh): array => array_map(static fn (array $p): string => pack('d3', ...$p), array_chunk($mesh->xyz, 3));
        self::assertGreaterThan(0.99 * $heron->vertexCount(), count(array_intersect($places($heron), $places($mend->mesh))));
        self::assertEqualsWithDelta(Volume::of($heron), Volume::of($mend->mesh), 1e-4 * Volume::of($heron));
        // A bow of two boxes that share a vertex and cross: one body; and another box through both of them.
        $crossed = Solids::together(Solids::box(2, 2, 2), Solids::box(2, 2, 2, [1.0, 1.0, 1.0]));
        $corners = array_map(static fn (int $v): int => $v === 8 ? 0 : $v, $crossed->corners);
        $bow = Mesh::of($crossed->xyz, $corners);
        self::assertCount(1, \Isotome\Mesh\Bodies::of($bow));
        $mend = Mend::of(Solids::together($bow, Solids::box(1, 1, 9, [1.2, 1.2, -3.0])));
        self::assertSame(1, $mend->did['uncrossed']);
        self::assertTrue($mend->after->isWatertight());
        $volumes = array_map(Volume::of(...), \Isotome\Mesh\Bodies::of($mend->mesh));
        sort($volumes);
        self::assertEqualsWithDelta(9.0, $volumes[0], 1e-12);
        self::assertSame(['2 bodies', '1 uncrossed'], [count($volumes).' bodies', $mend->did['uncrossed'].' uncrossed']);
        self::assertStringContainsString('bodies that overlap are not united by mending', implode(' ', $mend->left()));
    }

    public function test_making_a_body_solid_tells_how_far_it_is_and_can_be_stopped(): void
    {
        $heron = Bodies::named('heron');
        $shares = [];
        Mend::of($heron, 0, static function (float $share) use (&$shares): void {
            $shares[] = $share;
        });
        $sorted = $shares;
        sort($sorted);
        self::assertSame($sorted, $shares);
        self::assertGreaterThan(10, count(array_filter($shares, static fn (float $share): bool => $share > 0.3 && $share < 1.0)));
        $this->expectExceptionMessage('stopped');
        Mend::of($heron, 0, static fn (float $share) => $share > 0.5 ? throw new RuntimeException('stopped') : null);
    }

    /** Single faces missing, some turned over, some doubled: all of it is undone, and the volume comes back. */
    #[DataProvider('bodies')]
    public function test_scattered_damage_is_mended(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        $random = new Randomizer(new Mt19937($seed));
        $corners = $mesh->corners;
        $count = $mesh->triangleCount();
        $gone = [];
        for ($n = 0; $n < max(1, intdiv($count, 100)); $n++) {
            $t = 3 * $random->getInt(0, $count - 1);
            [$corners[$t + 1], $corners[$t + 2]] = [$corners[$t + 2], $corners[$t + 1]];
            $t = 3 * $random->getInt(0, $count - 1);
            array_push($corners, $corners[$t], $corners[$t + 1], $corners[$t + 2]);
            $gone[$random->getInt(0, $count - 1)] = true;
        }
        $mend = Mend::of(RemoveFaces::of(Mesh::of($mesh->xyz, array_values($corners)), $gone));
        self::assertTrue($mend->after->isWatertight());
        self::assertGreaterThan(0, $mend->did['rims_closed'] + $mend->did['doubled'] + $mend->did['turned']);
        // Holes are filled by flat faces: what they bulged out is lost. In a box of twelve faces a missing one is half a side.
        $count > 100 && self::assertEqualsWithDelta(Volume::of($mesh), Volume::of($mend->mesh), 0.06 * Volume::of($mesh));
    }

    public function test_a_soup_of_triangles_is_joined(): void
    {
        $sphere = Solids::sphere(10, 2);
        $random = new Randomizer(new Mt19937(3));
        $xyz = $corners = [];
        foreach ($sphere->corners as $n => $v) {
            for ($k = 0; $k < 3; $k++) {
                $xyz[] = $sphere->xyz[3 * $v + $k] + 1e-6 * $random->getInt(-5, 5);
            }
            $corners[] = $n;
        }
        $mend = Mend::of(Mesh::of($xyz, $corners));
        self::assertTrue($mend->after->isWatertight());
        self::assertSame(162, $mend->mesh->vertexCount());
        self::assertSame(960 - 162, $mend->did['joined']);
    }

    public function test_joining_never_spans_more_than_the_distance(): void
    {
        // Ten vertices in a row, each within the distance of the next: they must not creep into one.
        $xyz = $corners = [];
        for ($n = 0; $n < 10; $n++) {
            array_push($xyz, 0.8 * $n, 0.0, 0.0, 0.8 * $n, 50.0 + 7 * $n, 0.0, 0.8 * $n, 0.0, 50.0 + 7 * $n);
            array_push($corners, 3 * $n, 3 * $n + 1, 3 * $n + 2);
        }
        $joined = JoinVertices::of(Mesh::of($xyz, $corners), 1.0)['mesh'];
        self::assertLessThan(30, $joined->vertexCount());
        $at = [];
        foreach (array_chunk($joined->xyz, 3) as [$x, $y, $z]) {
            if ($y === 0.0 && $z === 0.0) {
                $at[] = $x;
            }
        }
        self::assertGreaterThanOrEqual(5, count($at));
    }

    public function test_doubled_faces_go_and_a_pair_back_to_back_goes_wholly(): void
    {
        $box = Solids::box(1, 1, 1);
        $doubled = Mesh::of($box->xyz, [...$box->corners, ...array_slice($box->corners, 0, 6)]);
        self::assertEquals($box, RemoveDoubled::of($doubled)['mesh']);
        $pair = Mesh::of([...$box->xyz, 5.0, 0.0, 0.0, 6.0, 0.0, 0.0, 5.0, 1.0, 0.0], [...$box->corners, 8, 9, 10, 8, 10, 9]);
        self::assertEquals($box, RemoveDoubled::of($pair)['mesh']);
    }

    public function test_a_sliver_on_an_edge_goes_without_opening_the_mesh(): void
    {
        // The box with a vertex in the middle of one edge on one side only: a triangle without area closes the gap.
        $box = Solids::box(2, 2, 2);
        [$a, $b, $c] = array_slice($box->corners, 0, 3);
        $m = 8;
        $xyz = [...$box->xyz, ($box->xyz[3 * $a] + $box->xyz[3 * $b]) / 2, ($box->xyz[3 * $a + 1] + $box->xyz[3 * $b + 1]) / 2, ($box->xyz[3 * $a + 2] + $box->xyz[3 * $b + 2]) / 2];
        $mesh = Mesh::of($xyz, [...array_slice($box->corners, 3), $a, $m, $c, $m, $b, $c, $a, $b, $m]);
        self::assertTrue(EdgeCheck::of($mesh)->isWatertight());
        $step = RemoveSlivers::of($mesh);
        self::assertSame(1, $step['removed']);
        self::assertTrue(EdgeCheck::of($step['mesh'])->isWatertight());
        self::assertEqualsWithDelta(8.0, Volume::of($step['mesh']), 1e-12);
        self::assertSame(0, \Isotome\Check\FaceCheck::of($step['mesh'])->slivers);
    }

    public function test_directions_are_made_to_agree_and_to_look_outward(): void
    {
        $torus = Solids::torus(20, 7, 30, 20);
        $corners = $torus->corners;
        for ($t = 0; $t < 500; $t++) {
            [$corners[3 * $t + 1], $corners[3 * $t + 2]] = [$corners[3 * $t + 2], $corners[3 * $t + 1]];
        }
        $step = Orient::of(Mesh::of($torus->xyz, array_values($corners)));
        self::assertSame(500, $step['turned']);
        self::assertEqualsWithDelta(Volume::of($torus), Volume::of($step['mesh']), 1e-9);
        $nest = Solids::together(Solids::insideOut(Solids::sphere(10, 2)), Solids::torus(30, 2, 20, 10));
        self::assertGreaterThan(4000.0, Volume::of(Orient::of($nest)['mesh']));
        // A cavity looks inward rightly.
        $hollow = Solids::together(Solids::sphere(10, 2), Solids::insideOut(Solids::sphere(5, 2)));
        self::assertSame(0, Orient::of($hollow)['turned']);
    }

    public function test_a_one_sided_band_is_said_to_be_one(): void
    {
        // A band of eight quads whose last is joined with a half turn (A. F. Möbius).
        $xyz = $corners = [];
        for ($n = 0; $n < 8; $n++) {
            $angle = $n * M_PI / 4;
            foreach ([-1.0, 1.0] as $side) {
                array_push($xyz, (5 + $side * cos($angle / 2)) * cos($angle), (5 + $side * cos($angle / 2)) * sin($angle), $side * sin($angle / 2));
            }
            [$a, $b, $c, $d] = [2 * $n, 2 * $n + 1, $n === 7 ? 1 : 2 * $n + 2, $n === 7 ? 0 : 2 * $n + 3];
            array_push($corners, $a, $c, $d, $a, $d, $b);
        }
        self::assertGreaterThan(0, EdgeCheck::of(Orient::of(Mesh::of($xyz, $corners))['mesh'])->flippedEdges);
    }

    public function test_a_planar_rim_is_closed_exactly_with_its_own_points(): void
    {
        $prism = Solids::prism([[0.0, 0.0], [10.0, 0.0], [10.0, 5.0], [7.0, 5.0], [5.0, 1.0], [3.0, 5.0], [0.0, 5.0]], 8.0);
        $top = [];
        foreach ($prism->tags as $t => $_) {
            if (min($prism->xyz[3 * $prism->corners[3 * $t] + 2], $prism->xyz[3 * $prism->corners[3 * $t + 1] + 2], $prism->xyz[3 * $prism->corners[3 * $t + 2] + 2]) > 7.9) {
                $top[$t] = true;
            }
        }
        $step = CloseRims::of(RemoveFaces::of($prism, $top));
        self::assertSame([1, 5, 0], [$step['closed'], $step['added'], $step['left']]);
        self::assertTrue(EdgeCheck::of($step['mesh'])->isWatertight());
        self::assertEqualsWithDelta(Volume::of($prism), Volume::of($step['mesh']), 1e-12);
        self::assertSame([], Crossings::of(Mesh::of($prism->xyz, array_slice($step['mesh']->corners, -15)))->pairs);
    }

    public function test_planar_rims_are_closed_whichever_way_they_face(): void
    {
        $prism = Solids::prism([[0.0, 0.0], [10.0, 0.0], [10.0, 5.0], [7.0, 5.0], [5.0, 1.0], [3.0, 5.0], [0.0, 5.0]], 8.0);
        foreach ([[[1.0, 0.0, 0.0], 90.0], [[1.0, 0.0, 0.0], -90.0], [[0.0, 1.0, 0.0], 90.0], [[0.0, 1.0, 0.0], 270.0], [[1.0, 0.0, 0.0], 180.0], [[1.0, 2.0, 3.0], 40.0]] as [$axis, $degrees]) {
            $turned = Mesh::of(Turn::about($axis, $degrees)->of($prism->xyz), $prism->corners, $prism->tags);
            $top = array_filter($prism->tags, static fn (int $t): bool => min(array_map(static fn (int $v): float => $prism->xyz[3 * $v + 2], array_slice($prism->corners, 3 * $t, 3))) > 7.9, ARRAY_FILTER_USE_KEY);
            $step = CloseRims::of(RemoveFaces::of($turned, array_map(static fn (): bool => true, $top)));
            self::assertSame([1, 5, 0], [$step['closed'], $step['added'], $step['left']], implode(' ', $axis));
            self::assertEqualsWithDelta(Volume::of($prism), Volume::of($step['mesh']), 1e-9);
        }
    }

    public function test_the_end_of_a_tube_is_closed_as_a_ring(): void
    {
        $tube = Solids::together(Solids::box(10, 10, 20), Solids::insideOut(Solids::box(6, 6, 20)));
        $ends = [];
        foreach ($tube->tags as $t => $_) {
            $z = array_map(static fn (int $v): float => $tube->xyz[3 * $v + 2], array_slice($tube->corners, 3 * $t, 3));
            if (max($z) - min($z) < 1e-9) {
                $ends[$t] = true;
            }
        }
        $step = CloseRims::of(RemoveFaces::of($tube, $ends));
        self::assertSame(4, $step['closed']);
        self::assertTrue(EdgeCheck::of($step['mesh'])->isWatertight());
        self::assertEqualsWithDelta(20.0 * (100 - 36), abs(Volume::of($step['mesh'])), 1e-9);
    }

    public function test_a_chosen_rim_is_closed_and_the_other_stays(): void
    {
        $mesh = RemoveFaces::of(Solids::sphere(10, 3), [5 => true, 700 => true]);
        $step = CloseRims::of($mesh, [1]);
        self::assertSame(1, $step['closed']);
        self::assertCount(1, Rims::of($step['mesh'])->list);
    }

    public function test_a_curved_hole_is_filled_at_the_edge_length_around_it(): void
    {
        $sphere = Solids::sphere(10, 4);
        $gone = [];
        foreach ($sphere->tags as $t => $_) {
            $v = 3 * $sphere->corners[3 * $t];
            if ($sphere->xyz[$v + 2] + 0.3 * $sphere->xyz[$v] > 7.0) {
                $gone[$t] = true;
            }
        }
        $step = CloseRims::of(RemoveFaces::of($sphere, $gone));
        self::assertTrue(EdgeCheck::of($step['mesh'])->isWatertight());
        self::assertSame([], Crossings::of($step['mesh'])->pairs);
        // About as many faces as were cut out, not a fan of long ones.
        self::assertGreaterThan(0.4 * count($gone), $step['added']);
        self::assertLessThan(2.5 * count($gone), $step['added']);
    }

    /** Source: closed form; a skew square's two triangulations have the areas 2·√(…) computed below, the smaller is taken. */
    public function test_the_smallest_surface_of_a_skew_square(): void
    {
        $xyz = [0.0, 0.0, 0.0, 4.0, 0.0, 1.0, 4.0, 4.0, 0.0, 0.0, 4.0, 3.0];
        $triangles = SmallestSurface::of($xyz, [0, 1, 2, 3], []);
        self::assertNotNull($triangles);
        $area = Volume::measure(Mesh::of($xyz, $triangles))->area;
        $one = Volume::measure(Mesh::of($xyz, [0, 1, 2, 0, 2, 3]))->area;
        $other = Volume::measure(Mesh::of($xyz, [1, 2, 3, 1, 3, 0]))->area;
        self::assertEqualsWithDelta(min($one, $other), $area, 1e-12);
        // When the better diagonal is an edge of the mesh already, the other is taken; when both are, none.
        $better = $one < $other ? [0, 2] : [1, 3];
        $worse = $one < $other ? [1, 3] : [0, 2];
        $edges = [$better[0] => [$better[1] => true], $better[1] => [$better[0] => true]];
        self::assertEqualsWithDelta(max($one, $other), Volume::measure(Mesh::of($xyz, SmallestSurface::of($xyz, [0, 1, 2, 3], $edges) ?? []))->area, 1e-12);
        $edges[$worse[0]][$worse[1]] = $edges[$worse[1]][$worse[0]] = true;
        self::assertNull(SmallestSurface::of($xyz, [0, 1, 2, 3], $edges));
    }

    public function test_a_long_rim_is_closed(): void
    {
        $cone = Solids::torus(20, 7, 600, 8);
        $gone = [];
        for ($t = 0; $t < $cone->triangleCount(); $t++) {
            $z = array_map(static fn (int $v): float => $cone->xyz[3 * $v + 2], array_slice($cone->corners, 3 * $t, 3));
            if (min($z) > 4.0) {
                $gone[$t] = true;
            }
        }
        $open = RemoveFaces::of($cone, $gone);
        self::assertGreaterThan(500, max(array_map(static fn (array $rim): int => count($rim['vertices']), Rims::of($open)->list)));
        self::assertTrue(EdgeCheck::of(CloseRims::of($open)['mesh'])->isWatertight());
    }

    public function test_an_inner_wall_and_loose_scraps_go(): void
    {
        $sphere = Solids::sphere(10, 4);
        $scrap = [20.0, 0.0, 0.0, 21.0, 0.0, 0.0, 20.0, 1.0, 0.0];
        $n = $sphere->vertexCount();
        $mend = Mend::of(Mesh::of([...$sphere->xyz, ...$scrap], [...$sphere->corners, $n, $n + 1, $n + 2]));
        self::assertTrue($mend->after->isWatertight());
        self::assertSame(1, $mend->did['scraps']);
        self::assertEqualsWithDelta(Volume::of($sphere), Volume::of($mend->mesh), 1e-9);
    }

    /** Bodies of unit cells with one vertex a place: edges of four faces everywhere. Whole numbers tell how much there is. */
    public function test_edges_of_four_faces_are_told_apart(): void
    {
        $chance = new Chance(31);
        $crowded = 0;
        for ($round = 0; $round < 25; $round++) {
            $full = array_map(static fn (): bool => $chance->uniform() < 0.5, range(0, 26));
            $cells = Places::joined(Solids::cells(3, 3, 3, static fn (int $x, int $y, int $z): bool => $full[9 * $x + 3 * $y + $z]));
            $crowded += EdgeCheck::of($cells)->nonmanifoldEdges > 0 ? 1 : 0;
            $mend = Mend::of($cells);
            self::assertTrue($mend->after->isWatertight());
            self::assertSame([], $mend->left());
            self::assertEqualsWithDelta(count(array_filter($full)), Volume::of($mend->mesh), 1e-8);
        }
        self::assertGreaterThan(15, $crowded);
    }

    public function test_an_inner_wall_at_edges_of_three_faces_goes(): void
    {
        $cells = Solids::cells(2, 1, 1, static fn (int $x, int $y, int $z): bool => true);
        $ring = [];
        for ($v = 0; $v < $cells->vertexCount(); $v++) {
            if (abs($cells->xyz[3 * $v] - 1) < 1e-9) {
                $ring[$v] = atan2($cells->xyz[3 * $v + 2] - 0.5, $cells->xyz[3 * $v + 1] - 0.5);
            }
        }
        asort($ring);
        $ring = array_keys($ring);
        $mend = Mend::of(Mesh::of($cells->xyz, [...$cells->corners, $ring[0], $ring[1], $ring[2], $ring[0], $ring[2], $ring[3]]));
        self::assertTrue($mend->after->isWatertight());
        self::assertSame($cells->triangleCount(), $mend->mesh->triangleCount());
        self::assertEqualsWithDelta(2.0, Volume::of($mend->mesh), 1e-12);
    }

    /** A tray with a tower of its own that reaches through where the lid has to be. */
    public function test_a_rim_whose_lid_must_cross_the_rest_is_closed_and_resolved(): void
    {
        $box = Solids::box(6, 6, 2);
        $tower = Solids::box(1, 1, 5, [2.0, 2.0, -1.0]);
        $shared = Places::joined(Solids::together($box, Mesh::of([...$tower->xyz], $tower->corners)));
        // One of the tower's corners is one of the tray's, so that both are one body.
        $from = $to = -1;
        foreach (array_chunk($shared->xyz, 3) as $v => $place) {
            $from = $place === [2.0, 2.0, -1.0] ? $v : $from;
            $to = $place === [0.0, 0.0, 0.0] ? $v : $to;
        }
        $corners = array_map(static fn (int $v): int => $v === $from ? $to : $v, $shared->corners);
        $open = [];
        foreach (array_chunk($corners, 3) as $t => $three) {
            $tops = array_filter($three, static fn (int $v): bool => $shared->xyz[3 * $v + 2] === 2.0);
            if (count($tops) === 3) {
                $open[$t] = true;
            }
        }
        self::assertCount(2, $open);
        // The lid lies where it was: the same as before it was taken off, both made one.
        $whole = array_sum(array_map(static fn (array $body): float => Volume::of($body[0]), Combined::unite([Mesh::of($shared->xyz, $corners)])));
        $mend = Mend::of(RemoveFaces::of(Mesh::of($shared->xyz, $corners), $open));
        self::assertTrue($mend->after->isWatertight());
        self::assertSame([], $mend->left());
        self::assertEqualsWithDelta($whole, Volume::of($mend->mesh), 1e-9);
    }

    public function test_a_flat_sheet_is_left_as_it_is_and_said_to_be_one(): void
    {
        $xyz = $corners = [];
        for ($i = 0; $i <= 6; $i++) {
            for ($j = 0; $j <= 6; $j++) {
                array_push($xyz, (float) $i, (float) $j, 0.0);
                if ($i > 0 && $j > 0) {
                    array_push($corners, 7 * $i - 7 + $j - 1, 7 * $i + $j - 1, 7 * $i + $j, 7 * $i - 7 + $j - 1, 7 * $i + $j, 7 * $i - 7 + $j);
                }
            }
        }
        $sheet = Mesh::of($xyz, $corners);
        $mend = Mend::of($sheet);
        self::assertSame($sheet, $mend->mesh);
        self::assertSame(['24 open edges stay: it is a sheet that encloses nothing; give it a thickness instead.'], $mend->left());
    }

    public function test_what_could_not_be_done_is_said(): void
    {
        $box = Solids::box(10, 10, 10);
        $mend = Mend::of(RemoveFaces::of(Solids::together($box, Solids::box(10, 10, 10, [5.0, 5.0, 5.0])), [0 => true]));
        self::assertTrue($mend->after->isWatertight());
        self::assertCount(1, $mend->left());
        self::assertStringContainsString('not united', $mend->left()[0]);
    }

    /** @return iterable<string, array{string, float, float}> */
    public static function sides(): iterable
    {
        yield 'both' => ['both', -0.6, 0.6];
        yield 'front' => ['front', 0.0, 1.2];
        yield 'back' => ['back', -1.2, 0.0];
    }

    #[DataProvider('sides')]
    public function test_a_flat_sheet_gets_its_thickness_exactly(string $side, float $low, float $high): void
    {
        $xyz = $corners = [];
        for ($y = 0; $y <= 4; $y++) {
            for ($x = 0; $x <= 6; $x++) {
                array_push($xyz, (float) $x, (float) $y, 0.0);
                if ($x < 6 && $y < 4 && ! ($x === 2 && $y === 1)) {
                    $v = 7 * $y + $x;
                    array_push($corners, $v, $v + 1, $v + 8, $v, $v + 8, $v + 7);
                }
            }
        }
        $solid = Thicken::of(Mesh::of($xyz, $corners), 1.2, $side);
        self::assertTrue(EdgeCheck::of($solid)->isWatertight());
        self::assertEqualsWithDelta(23 * 1.2, Volume::of($solid), 1e-9);
        $box = Box::of($solid->xyz);
        self::assertEqualsWithDelta($low, $box->min[2], 1e-12);
        self::assertEqualsWithDelta($high, $box->max[2], 1e-12);
    }

    public function test_a_bent_sheet_keeps_its_thickness_and_a_closed_body_is_refused(): void
    {
        $sphere = Solids::sphere(10, 4);
        $below = [];
        foreach ($sphere->tags as $t => $_) {
            if ($sphere->xyz[3 * $sphere->corners[3 * $t] + 2] < 0) {
                $below[$t] = true;
            }
        }
        $dome = RemoveFaces::of($sphere, $below);
        $solid = Thicken::of($dome, 0.4);
        self::assertTrue(EdgeCheck::of($solid)->isWatertight());
        self::assertEqualsWithDelta(0.4 * Volume::measure($dome)->area, Volume::of($solid), 0.005 * Volume::of($solid));
        $this->expectException(BadMesh::class);
        Thicken::of(Solids::box(1, 1, 1), 1.0);
    }
}
