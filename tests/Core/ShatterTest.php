<?php

declare(strict_types=1);

namespace Tests\Core;

use Demo\ScannedCrock;
use Demo\WheelBracket;
use Demo\WheelSilhouette;
use Isotome\Cells\CellsBlade;
use Isotome\Cells\Chop;
use Isotome\Cells\Contacts;
use Isotome\Cells\Shatter;
use Isotome\Cells\ShatterSettings;
use Isotome\Cut\Outcome;
use Isotome\Cut\Seal;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadMesh;
use Isotome\Format\Rounded;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** Watertight in, watertight out, neighbours match, nothing lost: for every body and every kind of cells. Seeds are fixed. */
final class ShatterTest extends TestCase
{
    /** @return iterable<string, array{string}> */
    public static function bodies(): iterable
    {
        foreach (Bodies::names() as $name) {
            yield $name => [$name];
        }
    }

    #[DataProvider('bodies')]
    public function test_every_shard_is_watertight_and_neighbours_match(string $name): void
    {
        $mesh = Bodies::named($name);
        $size = max(Box::of($mesh->xyz)->size());
        $vertex = [$mesh->xyz[0], $mesh->xyz[1], $mesh->xyz[2]];
        $corners = [];
        for ($v = 0, $n = $mesh->vertexCount(); $v < min(24, $n); $v++) {
            $at = 3 * intdiv($v * $n, min(24, $n));
            $corners[$mesh->xyz[$at].' '.$mesh->xyz[$at + 1].' '.$mesh->xyz[$at + 2]] = [$mesh->xyz[$at], $mesh->xyz[$at + 1], $mesh->xyz[$at + 2]];
        }
        $blades = [
            'few' => new CellsBlade('uniform', 3, 1),
            'many' => new CellsBlade('uniform', 120, 2),
            'even' => new CellsBlade('even', 25, 3),
            'gathered' => new CellsBlade('gathered', 30, 4, [$vertex], 0.1 * $size),
            'splinters' => new CellsBlade('uniform', 25, 5, along: [1.0, 1.0, 2.0], stretch: 6.0),
            // In the very vertices: cells end in edges and faces of the body, and in its corners.
            'its own vertices' => new CellsBlade('points', points: array_merge(...array_values($corners))),
            'blocks' => new CellsBlade('blocks', blocks: [4, 2, 3]),
            'bricks by size, wandering' => new CellsBlade('blocks', seed: 6, size: [$size / 5, $size / 4, $size / 3], brick: true, wander: 0.3),
            'turned blocks' => new CellsBlade('blocks', blocks: [3, 4, 2], turned: [10.0, 20.0, 30.0]),
            'rings' => new CellsBlade('rings', seed: 7, wander: 0.2, axis: [1.0, 2.0, 3.0], rings: 3, sectors: 5, layers: 2),
        ];
        foreach ($blades as $kind => $blade) {
            $this->checkSum($mesh, Shatter::of($mesh, $blade, new ShatterSettings, 1), "$name, $kind", ! str_contains($name, 'overlap'));
        }
    }

    private function checkSum(Mesh $mesh, ?Outcome $outcome, string $what, bool $isMatching): void
    {
        self::assertNotNull($outcome, $what);
        $whole = Volume::measure($mesh);
        $volume = $skin = $inside = $shared = 0.0;
        foreach ($outcome->bodies as $b => $body) {
            if (! EdgeCheck::of($body)->isWatertight()) {
                self::fail("$what: body $b is not watertight");
            }
            $file = Rounded::of($body);
            if (! $file->isEmpty() && ! EdgeCheck::of($file)->isWatertight()) {
                self::fail("$what: body $b is not watertight as a file holds it");
            }
            $volume += Volume::of($body);
            [$outer, $inner] = self::areas($body);
            $skin += $outer;
            $inside += $inner;
        }
        self::assertEqualsWithDelta(1.0, $volume / $whole->volume, 1e-9, "$what: volume");
        // Where lids fold, faces of one shard that lie back to back bound nothing and go.
        self::assertEqualsWithDelta(1.0, $skin / $whole->area, str_contains($what, 'vertices') ? 1e-3 : (str_contains($what, 'lids') ? 1e-3 : 1e-9), "$what: skin");
        if ($isMatching) {
            // A shard that touches itself along an edge has points of its own there: then its faces still lie on the neighbour's.
            $named = [];
            foreach ($outcome->bodies as $b => $body) {
                $named["piece $b"] = $body;
            }
            foreach (str_contains($what, 'vertices') ? Contacts::named($named) : [] as $others) {
                $shared += array_sum($others);
            }
            foreach (str_contains($what, 'vertices') ? [] : Contacts::areas($outcome->bodies) as $others) {
                $shared += 2 * array_sum($others);
            }
            self::assertEqualsWithDelta($inside, $shared, 1e-6 * $whole->area, "$what: faces made by cutting that two pieces have in common, corner for corner");
        }
    }

    /** @return array{float, float} skin and inside */
    private static function areas(Mesh $mesh): array
    {
        $lists = [[], []];
        foreach ($mesh->tags as $t => $tag) {
            array_push($lists[$tag === 0 ? 0 : 1], $mesh->corners[3 * $t], $mesh->corners[3 * $t + 1], $mesh->corners[3 * $t + 2]);
        }

        return [Volume::measure(Mesh::of($mesh->xyz, $lists[0]))->area, Volume::measure(Mesh::of($mesh->xyz, $lists[1]))->area];
    }

    /** @return iterable<string, array{string}> without one whose kerf would be counted where its parts overlap */
    public static function united(): iterable
    {
        foreach (self::bodies() as $name => $body) {
            if (! str_contains($name, 'overlap')) {
                yield $name => $body;
            }
        }
    }

    #[DataProvider('united')]
    public function test_a_kerf_takes_its_width_and_leaves_watertight_shards(string $name): void
    {
        $mesh = Bodies::named($name);
        $size = max(Box::of($mesh->xyz)->size());
        foreach (['cells' => new CellsBlade('even', 12, 3), 'blocks' => new CellsBlade('blocks', blocks: [2, 3, 2], brick: true), 'rings' => new CellsBlade('rings', rings: 3, sectors: 4, layers: 2)] as $kind => $blade) {
            $without = Shatter::of($mesh, $blade, new ShatterSettings, 1);
            $faces = 0.0;
            foreach ($without->bodies ?? [] as $body) {
                $faces += self::areas($body)[1] / 2;
            }
            $kerf = 0.002 * $size;
            $with = Shatter::of($mesh, $blade, new ShatterSettings(kerf: $kerf), 1);
            self::assertNotNull($with, "$name, $kind");
            $volume = 0.0;
            foreach ($with->bodies as $body) {
                self::assertTrue(EdgeCheck::of($body)->isWatertight(), "$name, $kind");
                $volume += Volume::of($body);
            }
            // Where walls meet, the widths overlap: a term of the second order.
            self::assertEqualsWithDelta(1.0, (Volume::of($mesh) - $volume) / ($kerf * $faces), 0.1, "$name, $kind: the kerf's volume is its width times the faces");
            self::assertSame([], Contacts::of($with->bodies), "$name, $kind: nothing touches");
        }
    }

    public function test_the_same_seed_gives_the_same_bytes_and_another_does_not(): void
    {
        $mesh = Bodies::named('torus, one handle');
        $hash = static fn (int $seed): string => implode(' ', array_map(Packing::hash(...), Shatter::of($mesh, new CellsBlade('uniform', 20, $seed), new ShatterSettings, 1)->bodies ?? []));
        self::assertSame($hash(5), $hash(5));
        self::assertNotSame($hash(5), $hash(6));
    }

    /** Eight cells of a 2 × 2 × 2 lattice: every wall in closed form, and four cells along every edge. */
    public function test_a_lattice_of_points_gives_cubes_without_splinters(): void
    {
        $points = [];
        foreach ([-1.0, 1.0] as $x) {
            foreach ([-1.0, 1.0] as $y) {
                foreach ([-1.0, 1.0] as $z) {
                    array_push($points, $x, $y, $z);
                }
            }
        }
        $bodies = Shatter::of(Solids::box(4, 4, 4, [-2.0, -2.0, -2.0]), new CellsBlade('points', points: $points), new ShatterSettings, 1)->bodies ?? [];
        self::assertCount(8, $bodies);
        foreach ($bodies as $body) {
            self::assertEqualsWithDelta(8.0, Volume::of($body), 1e-12);
            self::assertLessThanOrEqual(14, $body->vertexCount(), 'corners, and where the skin\'s diagonals are cut');
        }
    }

    public function test_blocks_and_rings_in_closed_form(): void
    {
        $bodies = Shatter::of(Solids::box(60, 40, 20), new CellsBlade('blocks', size: [20.0, 10.0, 10.0], brick: true), new ShatterSettings, 1)->bodies ?? [];
        $sizes = array_map(static fn (Mesh $body): float => round(Volume::of($body), 6), $bodies);
        // Rows of three whole bricks, and rows of two between two halves.
        self::assertSame([1000.0, 2000.0], array_values(array_unique(array_sort($sizes))));
        self::assertCount(4 * 3 + 4 * 4, $bodies);
        $rings = Shatter::of(Solids::box(40, 40, 10, [-20.0, -20.0, -5.0]), new CellsBlade('rings', rings: 4, sectors: 6, layers: 2), new ShatterSettings, 1)->bodies ?? [];
        $farthest = 20 * sqrt(2);
        // The innermost: a 24-gon in six sectors and two layers.
        $inner = 12 * ($farthest / 4) ** 2 * sin(2 * M_PI / 24) * 10 / 12;
        $second = 12 * ($farthest / 2) ** 2 * sin(2 * M_PI / 24) * 10 / 12 - $inner;
        $volumes = array_map(static fn (Mesh $body): float => Volume::of($body), $rings);
        foreach ([$inner, $second] as $expected) {
            self::assertCount(12, array_filter($volumes, static fn (float $volume): bool => abs($volume - $expected) < 1e-9 * $expected));
        }
    }

    public function test_small_shards_join_the_neighbour_with_the_largest_common_face(): void
    {
        foreach (['torus, one handle', 'table on nine legs', 'millstone'] as $name) {
            $mesh = Bodies::named($name);
            $least = 0.02;
            $blade = new CellsBlade('uniform', 60, 8);
            $before = Shatter::of($mesh, $blade, new ShatterSettings, 1)->bodies ?? [];
            $outcome = Shatter::of($mesh, $blade, new ShatterSettings(smallest: $least), 1);
            $this->checkSum($mesh, $outcome, $name, true);
            $after = $outcome->bodies ?? [];
            self::assertLessThan(count($before), count($after));
            foreach ($after as $body) {
                self::assertGreaterThanOrEqual($least * Volume::of($mesh), Volume::of($body), $name);
            }
        }
    }

    /** Points in the corners of a staircase make shards that touch themselves along edges; those get points of their own there. */
    public function test_shards_are_joined_without_a_wall_between_them_where_one_side_is_divided_further(): void
    {
        $mesh = Bodies::named('staircase');
        $whole = Volume::measure($mesh);
        foreach ([9, 19, 20, 37, 58] as $seed) {
            mt_srand($seed);
            $points = [];
            for ($n = 0, $count = mt_rand(2, 40); $n < $count; $n++) {
                $at = array_slice($mesh->xyz, 3 * mt_rand(0, $mesh->vertexCount() - 1), 3);
                $points[implode(' ', $at)] = $at;
            }
            $outcome = Shatter::of($mesh, new CellsBlade('points', points: array_merge(...array_values($points))), new ShatterSettings(smallest: 0.02), 1);
            $area = $volume = 0.0;
            $named = [];
            foreach ($outcome->bodies ?? [] as $b => $body) {
                self::assertTrue(EdgeCheck::of($body)->isWatertight(), "$seed");
                $area += Volume::measure($body)->area;
                $volume += Volume::of($body);
                $named["piece $b"] = $body;
            }
            self::assertEqualsWithDelta(1.0, $volume / $whole->volume, 1e-9);
            // All that was made by cutting lies against another piece: none of it is left within one.
            self::assertEqualsWithDelta(array_sum(array_map(array_sum(...), Contacts::named($named))), $area - $whole->area, 1e-6 * $whole->area, "$seed");
        }
    }

    public function test_a_body_far_from_the_origin_shatters_as_it_would_there(): void
    {
        $near = Solids::torus(20, 7, 24, 16);
        // A binary step, so that the moved body has the same digits.
        $by = [2.0 ** 17, -(2.0 ** 18), 2.0 ** 17];
        $snapped = Mesh::of(array_map(static fn (float $c): float => round($c * 2 ** 20) / 2 ** 20, $near->xyz), $near->corners);
        $blade = new CellsBlade('rings', seed: 7, wander: 0.2, through: [3.0, 1.0, 0.0], axis: [1.0, 2.0, 3.0], rings: 3, sectors: 5, layers: 2);
        $settings = new ShatterSettings(kerf: 0.5, smallest: 0.0);
        $here = Shatter::of($snapped, $blade, $settings, 1);
        $there = Shatter::of(Solids::moved($snapped, 0.0, 0.0, 0.0, 1.0, $by), $blade->movedBy($by), $settings, 1);
        self::assertNotNull($here);
        self::assertNotNull($there);
        self::assertCount(count($here->bodies), $there->bodies);
        foreach ($there->bodies as $b => $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
            self::assertEqualsWithDelta(Volume::of($here->bodies[$b]), Volume::of($body), 1e-6 * Volume::of($snapped));
        }
    }

    /** Two or three sectors that wander would be wider than half a turn: their walls could not be moved apart. */
    public function test_a_kerf_between_few_wandering_sectors(): void
    {
        foreach (['torus, one handle', 'hollow ball with a ball in the cavity', 'millstone'] as $name) {
            $mesh = Bodies::named($name);
            for ($seed = 1; $seed <= 8; $seed++) {
                $blade = new CellsBlade('rings', seed: $seed, wander: 0.45, axis: [1.0, 0.0, 0.0], rings: 3, sectors: 2 + $seed % 2, layers: 2);
                $outcome = Shatter::of($mesh, $blade, new ShatterSettings(kerf: 0.01 * max(Box::of($mesh->xyz)->size())), 1);
                self::assertGreaterThan(5, count($outcome->bodies ?? []));
                foreach ($outcome->bodies ?? [] as $body) {
                    self::assertTrue(EdgeCheck::of($body)->isWatertight(), "$name, seed $seed");
                }
            }
        }
    }

    public function test_small_blocks_and_sectors_are_joined_before_a_kerf_parts_them(): void
    {
        // A wedge 40 mm long in four blocks: the thin end has a sixteenth of it.
        $wedge = Solids::prism([[0.0, 0.0], [40.0, 0.0], [0.0, 10.0]], 20.0);
        $blocks = new CellsBlade('blocks', blocks: [4, 1, 1]);
        $volumes = static fn (?Outcome $outcome): array => array_map(static fn (Mesh $body): float => Volume::of($body), $outcome->bodies ?? []);
        self::assertCount(4, $volumes(Shatter::of($wedge, $blocks, new ShatterSettings(kerf: 1.0), 1)));
        // What is left from 0 to 9.5, from 10.5 to 19.5, and from 20.5 to 40 mm; the section at x is 10 − x/4 wide.
        $upTo = static fn (float $x): float => 20 * (10 * $x - $x * $x / 8);
        $joined = $volumes(Shatter::of($wedge, $blocks, new ShatterSettings(kerf: 1.0, smallest: 0.1), 1));
        self::assertEqualsWithDelta([$upTo(9.5), $upTo(19.5) - $upTo(10.5), $upTo(40) - $upTo(20.5)], $joined, 1e-6);

        // A block of a wall turned about all axes is joined in its own directions.
        $turned = new CellsBlade('blocks', seed: 3, size: [30.0, 30.0, 30.0], turned: [10.0, 20.0, 30.0], brick: true, wander: 0.2);
        foreach (['torus, one handle', 'millstone', 'frame with five handles'] as $name) {
            $mesh = Bodies::named($name);
            $size = max(Box::of($mesh->xyz)->size());
            foreach ([new CellsBlade('blocks', seed: 3, size: [$size / 5, $size / 6, $size / 7], turned: $turned->turned, brick: true, wander: 0.2), new CellsBlade('rings', seed: 4, rings: 3, sectors: 9, layers: 3, wander: 0.3, through: [0.1 * $size, 0.0, 0.0])] as $blade) {
                $all = Shatter::of($mesh, $blade, new ShatterSettings(kerf: 0.01 * $size), 1);
                $few = Shatter::of($mesh, $blade, new ShatterSettings(kerf: 0.01 * $size, smallest: 0.01), 1);
                self::assertLessThan(count($all->bodies ?? []), count($few->bodies ?? []), $name);
                foreach ($few->bodies ?? [] as $body) {
                    self::assertTrue(EdgeCheck::of($body)->isWatertight(), $name);
                }
                // Fewer kerfs take less away.
                self::assertGreaterThan(array_sum($volumes($all)), array_sum($volumes($few)));
                self::assertLessThan(Volume::of($mesh), array_sum($volumes($few)));
                self::assertLessThan(count(array_filter($volumes($all), static fn (float $volume): bool => $volume < 0.005 * Volume::of($mesh))), count(array_filter($volumes($few), static fn (float $volume): bool => $volume < 0.005 * Volume::of($mesh))));
            }
        }
    }

    /** At a sharp corner of a cell, places far on its other side are near the planes of its facets: they are not in it. */
    public function test_a_wide_kerf_about_the_axis_of_thin_sectors(): void
    {
        $body = Solids::torus(20, 7, 200, 120);
        foreach ([[[18.0, -1.0, -7.0], [0.0, 0.0, 1.0]], [[-5.0, 26.0, 1.0], [1.0, 0.0, 0.0]], [[-1.0, -15.0, -5.0], [1.0, 0.0, 0.0]], [[-10.0, 13.0, 6.0], [0.0, 0.0, 1.0]]] as [$through, $axis]) {
            $outcome = Shatter::of($body, new CellsBlade('rings', through: $through, axis: $axis, rings: 2, sectors: 9, layers: 2), new ShatterSettings(kerf: 1.6), 1);
            self::assertNotNull($outcome);
            self::assertTrue($outcome->sound);
            foreach ($outcome->bodies as $shard) {
                self::assertTrue(EdgeCheck::of($shard)->isWatertight());
            }
        }
    }

    public function test_connected_bodies_of_a_cell_stay_together_when_asked(): void
    {
        $mesh = Bodies::named('table on nine legs');
        $blade = new CellsBlade('blocks', blocks: [1, 1, 2]);
        self::assertCount(10, Shatter::of($mesh, $blade, new ShatterSettings, 1)->bodies ?? []);
        self::assertCount(2, Shatter::of($mesh, $blade, new ShatterSettings(apart: false), 1)->bodies ?? []);
    }

    public function test_an_even_seal_matches_and_has_edges_of_the_length(): void
    {
        $mesh = Solids::box(40, 40, 40);
        $outcome = Shatter::of($mesh, new CellsBlade('even', 8, 2), new ShatterSettings(seal: Seal::Even, edge: 3.0), 1);
        $this->checkSum($mesh, $outcome, 'even', true);
        $long = 0;
        $all = 0;
        foreach ($outcome->bodies ?? [] as $body) {
            foreach ($body->tags as $t => $tag) {
                for ($k = 0; $tag > 0 && $k < 3; $k++) {
                    $p = 3 * $body->corners[3 * $t + $k];
                    $q = 3 * $body->corners[3 * $t + ($k + 1) % 3];
                    $all++;
                    $long += ($body->xyz[$p] - $body->xyz[$q]) ** 2 + ($body->xyz[$p + 1] - $body->xyz[$q + 1]) ** 2 + ($body->xyz[$p + 2] - $body->xyz[$q + 2]) ** 2 > 4.6 ** 2 ? 1 : 0;
                }
            }
        }
        self::assertGreaterThan(2000, $all);
        self::assertLessThan(0.02 * $all, $long);
    }

    public function test_hollow_shards_have_a_wall(): void
    {
        $ball = Solids::sphere(20, 4);
        $outcome = Shatter::of($ball, new CellsBlade('even', 10, 3), new ShatterSettings(wall: 2.0), 1);
        self::assertNotNull($outcome);
        $volume = 0.0;
        foreach ($outcome->bodies as $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
            $volume += Volume::of($body);
        }
        self::assertEqualsWithDelta(4 / 3 * M_PI * (20 ** 3 - 18 ** 3), $volume, 0.02 * $volume);
        $this->expectException(BadMesh::class);
        $this->expectExceptionMessage('thinner wall');
        Shatter::of(Bodies::named('table on nine legs'), new CellsBlade('even', 10, 3), new ShatterSettings(wall: 3.0), 1);
    }

    /** A torus thicker than it is wide passes through itself about its middle. */
    public function test_a_body_that_overlaps_itself_shatters_and_says_so(): void
    {
        $spindle = Solids::torus(10, 14, 48, 36);
        $outcome = Shatter::of($spindle, new CellsBlade('uniform', 20, 3), new ShatterSettings, 1);
        self::assertNotNull($outcome);
        self::assertFalse($outcome->sound);
        $volume = 0.0;
        foreach ($outcome->bodies as $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
            $volume += Volume::of($body);
        }
        self::assertEqualsWithDelta(1.0, $volume / Volume::of($spindle), 1e-6);
    }

    public function test_an_open_mesh_is_divided_open_and_refused_sealed(): void
    {
        foreach (['sign' => WheelSilhouette::mesh(), 'bracket' => WheelBracket::mesh(), 'scan' => ScannedCrock::mesh()] as $name => $mesh) {
            $outcome = Shatter::of($mesh, new CellsBlade('uniform', 12, 3), new ShatterSettings(seal: Seal::Open), 1);
            self::assertGreaterThan(5, count($outcome->bodies ?? []), $name);
            self::assertEqualsWithDelta(1.0, array_sum(array_map(static fn (Mesh $body): float => Volume::measure($body)->area, $outcome->bodies ?? [])) / Volume::measure($mesh)->area, 1e-9, $name);
            try {
                Shatter::of($mesh, new CellsBlade('uniform', 12, 3), new ShatterSettings, 1);
                self::fail("$name was sealed");
            } catch (BadMesh $refusal) {
                self::assertStringContainsString('mend it first, give it a wall, or leave the shards open', $refusal->getMessage());
            }
        }
        // A wall makes a body of a sheet.
        $walled = Shatter::of(WheelSilhouette::mesh(), new CellsBlade('uniform', 12, 3), new ShatterSettings(wall: 3.0), 1);
        foreach ($walled->bodies ?? [] as $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
        }
        self::assertGreaterThan(5, count($walled->bodies ?? []));
    }

    public function test_one_cell_cuts_nothing_and_impossible_settings_are_refused(): void
    {
        self::assertNull(Shatter::of(Solids::box(1, 1, 1), new CellsBlade('blocks', blocks: [1, 1, 1]), new ShatterSettings, 1));
        foreach ([
            static fn () => new CellsBlade('cracks'),
            static fn () => Shatter::of(Solids::box(1, 1, 1), new CellsBlade('uniform', 1), new ShatterSettings, 1),
            static fn () => Shatter::of(Solids::box(1, 1, 1), new CellsBlade('points', points: [0.5, 0.5, 0.5, 0.5, 0.5, 0.5]), new ShatterSettings, 1),
            static fn () => Shatter::of(Solids::box(1, 1, 1), new CellsBlade('blocks', size: [1e-5, 1.0, 1.0]), new ShatterSettings, 1),
            static fn () => new ShatterSettings(smallest: 0.7),
        ] as $n => $refused) {
            try {
                $refused();
                self::fail("call $n was not refused");
            } catch (BadBlade $refusal) {
                self::assertStringContainsString(';', $refusal->getMessage(), 'what, and what to do');
            }
        }
    }

    public function test_a_chop_keeps_what_is_on_one_side_together_when_asked(): void
    {
        $table = Bodies::named('table on nine legs');
        $along = [[1.0, 0.0, 0.0], [0.0, 0.0, 1.0]];
        self::assertGreaterThan(4, count(Chop::of($table, 2, $along, 0.0, 0.0, 1, new ShatterSettings, 1)->bodies ?? []));
        $together = Chop::of($table, 2, $along, 0.0, 0.0, 1, new ShatterSettings(apart: false), 1)->bodies ?? [];
        self::assertCount(4, $together);
        $volume = 0.0;
        foreach ($together as $piece) {
            self::assertTrue(EdgeCheck::of($piece)->isWatertight());
            $volume += Volume::of($piece);
        }
        self::assertEqualsWithDelta(Volume::of($table), $volume, 1e-6);
    }

    public function test_a_chop_halves_every_piece_in_every_round(): void
    {
        $bodies = Chop::of(Solids::box(64, 64, 64), 6, [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]], 0.0, 0.0, 1, new ShatterSettings, 1)->bodies ?? [];
        self::assertCount(64, $bodies);
        foreach ($bodies as $body) {
            self::assertEqualsWithDelta(4096.0, Volume::of($body), 1e-6);
        }
        $mesh = Bodies::named('torus, one handle');
        $askew = Chop::of($mesh, 4, [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0]], 0.2, 25.0, 9, new ShatterSettings(smallest: 0.01), 1);
        $volume = 0.0;
        foreach ($askew->bodies ?? [] as $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
            self::assertGreaterThan(0.01 * Volume::of($mesh), Volume::of($body));
            $volume += Volume::of($body);
        }
        self::assertEqualsWithDelta(1.0, $volume / Volume::of($mesh), 1e-9);
        // Faces divided further on one side still count as common.
        $named = [];
        foreach ($bodies as $b => $body) {
            $named["piece $b"] = $body;
        }
        self::assertEqualsWithDelta(2 * 9 * 64 * 64, array_sum(array_map(array_sum(...), Contacts::named($named))), 1e-6);
    }
}

/**
 * @param  list<float>  $list
 * @return list<float>
 */
function array_sort(array $list): array
{
    sort($list);

    return $list;
}
