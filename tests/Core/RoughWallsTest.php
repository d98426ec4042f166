<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cells\CellsBlade;
use Isotome\Cells\EvenFacet;
use Isotome\Cells\Grain;
use Isotome\Cells\Shatter;
use Isotome\Cells\ShatterSettings;
use Isotome\Check\Crossings;
use Isotome\Cut\Keep;
use Isotome\Cut\Outcome;
use Isotome\Drawn\BentBlade;
use Isotome\Drawn\DrawnBlade;
use Isotome\Drawn\DrawnCut;
use Isotome\Drawn\Shape;
use Isotome\Drawn\Sight;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Kinds;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Faces;
use Tests\Support\Solids;

/** A grain on walls that turn and meet: of drawn and bent blades, and between cells. */
final class RoughWallsTest extends TestCase
{
    private const TAG = 7;

    /**
     * Watertight pieces with the same triangles on both sides of every wall.
     *
     * @return list<float> their volumes, the smallest first
     */
    private static function volumes(?Outcome $outcome, bool $hasKerf = false): array
    {
        self::assertNotNull($outcome);
        foreach ($outcome->bodies as $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
        }
        $hasKerf || self::assertSame(0, Faces::withoutTwin($outcome->bodies, self::TAG));
        $volumes = array_map(Volume::of(...), $outcome->bodies);
        sort($volumes);

        return $volumes;
    }

    /** @param  list<array{float, float, float}>  $points */
    private static function stroke(array $points, Grain $grain, float $kerf = 0.0, ?float $depth = null): DrawnBlade
    {
        return new DrawnBlade(Shape::Stroke, [$points], Sight::along([0, 1, 0]), depth: $depth, kerf: $kerf, grain: $grain);
    }

    /** @return iterable<string, array{string}> */
    public static function bodies(): iterable
    {
        foreach (Bodies::names() as $name) {
            // Their sizes differ by eleven powers of ten; these are of some millimetres.
            if (! str_contains($name, 'metre') && ! str_contains($name, 'kilo')) {
                yield $name => [$name];
            }
        }
    }

    #[DataProvider('bodies')]
    public function test_on_every_body_both_sides_are_solid_match_and_add_up(string $name): void
    {
        $body = Bodies::named($name);
        $box = Box::of($body->xyz);
        $size = max($box->max[0] - $box->min[0], $box->max[1] - $box->min[1], $box->max[2] - $box->min[2]);
        $at = static fn (float $x, float $z): array => [$box->min[0] + $x * ($box->max[0] - $box->min[0]), $box->min[1], $box->min[2] + $z * ($box->max[2] - $box->min[2])];
        $grain = new Grain(0.02 * $size, 0.15 * $size, 0.005 * $size, 0.06 * $size, 0.04 * $size, 3);
        $whole = Volume::of($body);
        $stroke = DrawnCut::of($body, self::stroke([$at(-0.6, 0.5), $at(0.3, 0.5), $at(0.5, 0.62), $at(1.6, 0.45)], $grain), self::TAG);
        self::assertEqualsWithDelta($whole, array_sum(self::volumes($stroke)), 1e-9 * $whole);
        self::assertGreaterThan(1, count($stroke->bodies ?? []));
        $shards = Shatter::of($body, new CellsBlade('even', 6, 2), new ShatterSettings(grain: $grain), self::TAG);
        self::assertEqualsWithDelta($whole, array_sum(self::volumes($shards, str_contains($name, 'overlap'))), 1e-9 * $whole);
        self::assertGreaterThan(2, count($shards->bodies ?? []));
        // Where a body overlaps itself, outlines may cross, as with flat walls.
        self::assertTrue(($stroke->sound ?? false) && (($shards->sound ?? false) || str_contains($name, 'overlap')));
    }

    public function test_bodies_of_one_piece_on_either_side_of_a_rough_line_part(): void
    {
        $two = Solids::together(Solids::box(10, 10, 5), Solids::box(10, 10, 7, [0, 0, 20]));
        foreach ([Keep::Behind->value => 500.0, Keep::Ahead->value => 700.0] as $keep => $volume) {
            $blade = new DrawnBlade(Shape::Stroke, [[[-5, 0, 12], [15, 0, 12]]], Sight::along([0, 1, 0]), keep: Keep::from($keep), grain: new Grain(1.0, 5.0));
            self::assertEqualsWithDelta([$volume], self::volumes(DrawnCut::of($two, $blade, self::TAG)), 1e-9);
        }
    }

    public function test_walls_depart_by_the_grain_at_most_and_nothing_crosses(): void
    {
        $box = Solids::box(40, 30, 20);
        $grain = new Grain(1.2, 7.0, 0.3, 2.5, 1.0, 5);
        $made = DrawnCut::of($box, self::stroke([[-5, 0, 10], [20, 0, 10], [45, 0, 10]], $grain), self::TAG)->bodies ?? [];
        self::assertCount(2, $made);
        $away = [];
        foreach ($made as $body) {
            self::assertSame([], Crossings::of($body)->pairs);
            foreach (array_keys($body->tags, self::TAG, true) as $t) {
                for ($k = 0; $k < 3; $k++) {
                    $away[] = $body->xyz[3 * $body->corners[3 * $t + $k] + 2] - 10;
                }
            }
        }
        self::assertLessThanOrEqual(1.5, max($away));
        self::assertGreaterThanOrEqual(-1.5, min($away));
        self::assertGreaterThan(0.5, max($away));
        self::assertLessThan(-0.5, min($away));
        // As good as none: the flat cut's volumes.
        $fine = DrawnCut::of($box, self::stroke([[-5, 0, 8], [45, 0, 8]], new Grain(1e-9, 7.0)), self::TAG);
        self::assertEqualsWithDelta([9600.0, 14400.0], self::volumes($fine), 1e-4);
    }

    public function test_a_kerf_keeps_its_width_along_the_facing_everywhere(): void
    {
        $box = Solids::box(40, 30, 20);
        $made = DrawnCut::of($box, self::stroke([[-5, 0, 10], [45, 0, 10]], new Grain(1.5, 8.0, seed: 4), 0.6), self::TAG)->bodies ?? [];
        self::assertCount(2, $made);
        self::assertEqualsWithDelta(24000 - 1200 * 0.6, array_sum(array_map(Volume::of(...), $made)), 1e-9 * 24000);
        // Of each place within the wall there is one on the other side, the kerf above it.
        $places = array_map(static function (Mesh $body): array {
            $inner = [];
            foreach (array_keys($body->tags, self::TAG, true) as $t) {
                for ($k = 0; $k < 3; $k++) {
                    [$x, $y, $z] = array_slice($body->xyz, 3 * $body->corners[3 * $t + $k], 3);
                    if ($x > 3 && $x < 37 && $y > 3 && $y < 27) {
                        $inner[sprintf('%.6f %.6f', $x, $y)] = $z;
                    }
                }
            }

            return $inner;
        }, $made);
        self::assertGreaterThan(100, count($places[0]));
        [$low, $high] = max($places[0]) < max($places[1]) ? $places : [$places[1], $places[0]];
        foreach ($low as $at => $z) {
            self::assertEqualsWithDelta($z + 0.6, $high[$at] ?? NAN, 1e-9);
        }
    }

    public function test_outlines_pockets_grids_and_bent_blades(): void
    {
        $plate = Solids::box(40, 8, 40, [-20, -4, -20]);
        $whole = 40.0 * 8 * 40;
        $round = array_map(static fn (int $k): array => [9 * cos(2 * M_PI * $k / 40), -4.0, 9 * sin(2 * M_PI * $k / 40)], range(0, 39));
        $grain = new Grain(0.5, 4.0, edge: 1.0);
        $along = Sight::along([0, 1, 0]);
        foreach ([null, 5.0] as $depth) {
            $volumes = self::volumes(DrawnCut::of($plate, new DrawnBlade(Shape::Outline, [$round], $along, depth: $depth, grain: $grain), self::TAG));
            self::assertCount(2, $volumes);
            self::assertEqualsWithDelta($whole, array_sum($volumes), 1e-9 * $whole);
            self::assertEqualsWithDelta(40 / 2 * sin(2 * M_PI / 40) * 81 * ($depth ?? 8.0), $volumes[0], 0.06 * $whole);
        }
        $grid = self::volumes(DrawnCut::of($plate, new DrawnBlade(Shape::Grid, [[[-30, 0, 1], [30, 0, 2]], [[3, 0, -30], [2, 0, 30]]], $along, grain: $grain), self::TAG));
        self::assertCount(4, $grid);
        self::assertEqualsWithDelta($whole, array_sum($grid), 1e-9 * $whole);
        $bent = BentBlade::of([0, 0, 0], [0, 0, 1], [0, 1, 0], [[-10, 0], [0, 6], [10, 0]], true, 0.4, Keep::Both)->withGrain($grain);
        $bent = self::volumes(DrawnCut::of($plate, $bent, self::TAG), true);
        self::assertCount(2, $bent);
        self::assertLessThan($whole, array_sum($bent));
        self::assertGreaterThan($whole - 0.4 * 8 * 60, array_sum($bent));
        // A line that ends within leaves a slot, and one down to a depth a groove.
        foreach ([[[-30.0, 0.0, 1.0], [2.0, 0.0, 3.0]], [[-30.0, -4.0, 1.0], [30.0, -4.0, 3.0]]] as $n => $line) {
            $slot = self::volumes(DrawnCut::of($plate, self::stroke($line, $grain, 2.0, $n === 0 ? null : 3.0), self::TAG), true);
            self::assertCount(1, $slot);
            self::assertEqualsWithDelta($whole - ($n === 0 ? 22 * 8 * 2 : 40 * 3 * 2), $slot[0], 120);
        }
    }

    public function test_shards_with_a_kerf_keep_apart(): void
    {
        $ball = Solids::sphere(30, 4);
        foreach ([0.1, 0.5] as $kerf) {
            foreach ([1, 2] as $seed) {
                $made = Shatter::of($ball, new CellsBlade('even', 9, $seed), new ShatterSettings(kerf: $kerf, grain: new Grain(1.0, 8.0, edge: 2.5, seed: 7)), self::TAG);
                $flat = Shatter::of($ball, new CellsBlade('even', 9, $seed), new ShatterSettings(kerf: $kerf), self::TAG);
                $sum = array_sum(self::volumes($made, true));
                self::assertCount(count($flat->bodies ?? []), $made->bodies ?? []);
                // As much is removed as by flat walls, but for the skin, which rough walls meet elsewhere.
                $removed = Volume::of($ball) - array_sum(array_map(Volume::of(...), $flat->bodies ?? []));
                self::assertEqualsWithDelta($removed, Volume::of($ball) - $sum, 0.05 * $removed);
                // No two of them cross.
                self::assertSame([], Crossings::of(Solids::together(...($made->bodies ?? [])))->pairs);
            }
        }
    }

    public function test_blocks_and_rings_are_rough_too_and_the_same_settings_give_the_same_bytes(): void
    {
        $box = Solids::box(40, 30, 20);
        $grain = new Grain(0.8, 6.0, edge: 1.5);
        foreach ([new CellsBlade('blocks', seed: 3, blocks: [3, 2, 2], brick: true, wander: 0.1), new CellsBlade('rings', seed: 2, rings: 2, sectors: 5)] as $blade) {
            $made = Shatter::of($box, $blade, new ShatterSettings(grain: $grain), self::TAG);
            self::assertEqualsWithDelta(24000.0, array_sum(self::volumes($made)), 1e-9 * 24000);
            $again = Shatter::of($box, $blade, new ShatterSettings(grain: $grain), self::TAG);
            self::assertEquals($made, $again);
        }
        // Small ones join a neighbour along rough faces.
        $all = Shatter::of($box, new CellsBlade('uniform', 20, 5), new ShatterSettings(grain: $grain), self::TAG)->bodies ?? [];
        $joined = Shatter::of($box, new CellsBlade('uniform', 20, 5), new ShatterSettings(smallest: 0.03, grain: $grain), self::TAG);
        self::assertEqualsWithDelta(24000.0, array_sum(self::volumes($joined)), 1e-9 * 24000);
        self::assertLessThan(count($all), count($joined->bodies ?? []));
        self::assertGreaterThan(0.03 * 24000, min(array_map(Volume::of(...), $joined->bodies ?? [])));
    }

    public function test_what_no_wall_meets_is_in_the_shard_around_it(): void
    {
        // Small boxes in one piece: most lie wholly within a cell, some far from every wall.
        $boxes = [];
        foreach (range(0, 26) as $n) {
            $boxes[] = Solids::box(1, 1, 1, [10.0 * ($n % 3), 10.0 * (intdiv($n, 3) % 3), 10.0 * intdiv($n, 9)]);
        }
        $piece = Solids::together(...$boxes);
        $flat = Shatter::of($piece, new CellsBlade('even', 5, 1), new ShatterSettings(apart: false), self::TAG);
        $rough = Shatter::of($piece, new CellsBlade('even', 5, 1), new ShatterSettings(apart: false, grain: new Grain(0.05, 8.0, edge: 2.0)), self::TAG);
        self::assertEqualsWithDelta(27.0, array_sum(self::volumes($rough)), 1e-9 * 27);
        // Walls hardly move, so each shard has nearly what it had.
        self::assertEqualsWithDelta(array_map(Volume::of(...), $flat->bodies ?? []), array_map(Volume::of(...), $rough->bodies ?? []), 0.3);
    }

    public function test_walls_that_would_cross_are_refused_with_the_height_that_does_not(): void
    {
        $ball = Solids::sphere(20, 3);
        $of = static fn (float $height): ?Outcome => Shatter::of($ball, new CellsBlade('even', 12, 3), new ShatterSettings(grain: new Grain($height, 4.0, edge: 1.5)), self::TAG);
        try {
            $of(9.0);
            self::fail('It was not refused.');
        } catch (BadBlade $refusal) {
            self::assertMatchesRegularExpression('/^With this grain the blade crosses itself; with a height of at most ([\d.]+) mm it does not\.$/', $refusal->getMessage());
            preg_match('/most ([\d.]+) mm/', $refusal->getMessage(), $height);
        }
        self::assertGreaterThan(0.5, (float) $height[1]);
        self::assertGreaterThan(8, count(self::volumes($of((float) $height[1]))));
        // Too fine, too.
        $this->expectException(BadBlade::class);
        $this->expectExceptionMessage('give it edges of at least');
        Shatter::of($ball, new CellsBlade('even', 12, 3), new ShatterSettings(grain: new Grain(1.0, 4.0, edge: 0.05)), self::TAG);
    }

    public function test_it_says_how_far_it_is_and_can_be_stopped_while_walls_are_made(): void
    {
        $ball = Solids::sphere(20, 3);
        foreach ([
            static fn (\Closure $progress): ?Outcome => Shatter::of($ball, new CellsBlade('even', 12, 3), new ShatterSettings(grain: new Grain(0.5, 4.0)), self::TAG, $progress),
            static fn (\Closure $progress): ?Outcome => DrawnCut::of($ball, self::stroke([[-50, 0, 1], [0, 0, 3], [50, 0, -1]], new Grain(0.5, 4.0)), self::TAG, $progress),
        ] as $cut) {
            $told = [];
            $cut(static function (float $share) use (&$told): void {
                $told[] = $share;
            });
            $before = array_filter($told, static fn (float $share): bool => $share < 0.6);
            self::assertGreaterThan(3, count($before));
            self::assertEqualsWithDelta(1.0, max($told), 1e-9);
            $sorted = $told;
            sort($sorted);
            self::assertSame($sorted, $told);
            try {
                $cut(static fn (float $share) => $share > 0.2 ? throw new \RuntimeException('stopped') : null);
                self::fail('It was not stopped.');
            } catch (\RuntimeException $stopped) {
                self::assertSame('stopped', $stopped->getMessage());
            }
        }
    }

    public function test_recipes_say_what_has_no_grain(): void
    {
        $grain = ['height' => 1, 'size' => 5];
        foreach ([
            [['kind' => 'cells', 'by' => 'chop', 'rounds' => 2], [], 'grain'],
            [['kind' => 'cells', 'by' => 'even', 'count' => 5], ['seal' => 'even', 'edge_mm' => 2], 'leave out the even seal'],
        ] as [$blade, $more, $says]) {
            try {
                Kinds::read(['do' => 'cut', 'blade' => $blade, 'grain' => $grain, ...$more], 'steps[0]');
                self::fail('It was not refused.');
            } catch (BadRecipe $refusal) {
                self::assertStringContainsString('steps[0]', $refusal->getMessage());
                self::assertStringContainsString($says, $refusal->getMessage());
            }
        }
    }

    public function test_an_even_facet_covers_what_it_is_given(): void
    {
        $six = array_map(static fn (int $k): array => [10 * cos(M_PI * $k / 3), 6 * sin(M_PI * $k / 3)], range(0, 5));
        foreach ([[0.3, 0.5, 0.8], [-0.3, 0.5, -0.8], [0.0, 0.0, -1.0], [-1.0, 0.0, 0.0]] as $facing) {
            $length = sqrt(array_sum(array_map(static fn (float $c): float => $c * $c, $facing)));
            $n = array_map(static fn (float $c): float => $c / $length, $facing);
            $u = abs($n[0]) < 0.9 ? [0.0, -$n[2], $n[1]] : [$n[2], 0.0, -$n[0]];
            $size = sqrt($u[0] ** 2 + $u[1] ** 2 + $u[2] ** 2);
            $u = array_map(static fn (float $c): float => $c / $size, $u);
            $v = [$n[1] * $u[2] - $n[2] * $u[1], $n[2] * $u[0] - $n[0] * $u[2], $n[0] * $u[1] - $n[1] * $u[0]];
            $xyz = [];
            foreach ($six as [$a, $b]) {
                for ($k = 0; $k < 3; $k++) {
                    $xyz[] = 3 * $n[$k] + $a * $u[$k] + $b * $v[$k];
                }
            }
            $triangles = EvenFacet::of($xyz, [0, 1, 2, 3, 4, 5], [0, 1, 2, 3, 4, 5], [$n[0], $n[1], $n[2], 3.0], 1.0, [-20, -20, -20, 20, 20, 20]);
            $area = 0.0;
            for ($t = 0, $count = count($triangles); $t < $count; $t += 3) {
                [$a, $b, $c] = array_map(static fn (int $p): array => array_slice($xyz, 3 * $p, 3), array_slice($triangles, $t, 3));
                $part = 0.0;
                for ($k = 0; $k < 3; $k++) {
                    [$l, $m] = [($k + 1) % 3, ($k + 2) % 3];
                    $part += $n[$k] / 2 * (($b[$l] - $a[$l]) * ($c[$m] - $a[$m]) - ($b[$m] - $a[$m]) * ($c[$l] - $a[$l]));
                }
                self::assertGreaterThan(0.0, $part, 'each looks ahead');
                $area += $part;
            }
            self::assertEqualsWithDelta(3 * sqrt(3) / 2 * 60, $area, 1e-9);
            self::assertGreaterThan(150, $count / 3);
            // Where the grid is not needed, there are few.
            self::assertLessThan($count, count(EvenFacet::of($xyz, [0, 1, 2, 3, 4, 5], [0, 1, 2, 3, 4, 5], [$n[0], $n[1], $n[2], 3.0], 1.0, [8, 8, 8, 20, 20, 20])));
        }
    }

    public function test_the_way_in_space_is_as_long_as_it_says_and_of_its_size(): void
    {
        $grain = new Grain(2.0, 8.0, seed: 3);
        $most = 0.0;
        $square = [0.0, 0.0, 0.0];
        $product = ['near' => 0.0, 'far' => 0.0];
        for ($n = 0; $n < 4000; $n++) {
            [$x, $y, $z] = [fmod(7.31 * $n, 211.0), fmod(3.77 * $n, 173.0), fmod(5.13 * $n, 191.0)];
            $way = $grain->way($x, $y, $z);
            $most = max($most, sqrt($way[0] ** 2 + $way[1] ** 2 + $way[2] ** 2));
            foreach ($way as $k => $part) {
                $square[$k] += $part ** 2 / 4000;
            }
            $product['near'] += $way[0] * $grain->way($x + 0.8, $y, $z)[0] / 4000;
            $product['far'] += $way[0] * $grain->way($x + 8.0, $y, $z)[0] / 4000;
        }
        self::assertLessThanOrEqual(2.0, $most);
        self::assertGreaterThan(1.2, $most);
        // No axis is preferred, and each has about a quarter of the height on average, as gradient noise in space has (from memory).
        foreach ($square as $one) {
            self::assertEqualsWithDelta(0.5, sqrt($one), 0.15);
        }
        self::assertGreaterThan(0.9, $product['near'] / $square[0]);
        self::assertEqualsWithDelta(0.0, $product['far'] / $square[0], 0.15);
        self::assertSame($way, (new Grain(2.0, 8.0, seed: 3))->way($x, $y, $z));
        self::assertNotSame($way, (new Grain(2.0, 8.0, seed: 4))->way($x, $y, $z));
    }
}
