<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cells\Grain;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Cut\KerfSide;
use Isotome\Drawn\DrawnCut;
use Isotome\Drawn\RoughBlade;
use Isotome\Drawn\RoughSeriesCut;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Kinds;
use Isotome\Operation\Piece;
use Isotome\Operation\Work;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** Flat blades with a grain. */
final class RoughTest extends TestCase
{
    private const TAG = 7;

    public function test_the_noise_has_the_height_size_and_seed_it_says(): void
    {
        $grain = new Grain(2.0, 8.0, seed: 3);
        [$sum, $square, $most, $n] = [0.0, 0.0, 0.0, 200];
        $row = [];
        for ($i = 0; $i < $n; $i++) {
            for ($j = 0; $j < $n; $j++) {
                $h = $grain->at(0.9 * $i, 0.9 * $j);
                $sum += $h;
                $square += $h * $h;
                $most = max($most, abs($h));
                $row[$j][$i] = $h;
            }
        }
        self::assertLessThanOrEqual(2.0, $most);
        self::assertGreaterThan(1.2, $most);
        self::assertEqualsWithDelta(0.0, $sum / $n ** 2, 0.1);
        // About a third of the height on average, as gradient noise has (from memory).
        self::assertEqualsWithDelta(0.7, sqrt($square / $n ** 2), 0.15);
        // Heights a size apart have nothing to do with each other; those a tenth of it apart are nearly the same.
        $related = static function (int $apart) use ($row, $n): float {
            $product = $own = 0.0;
            foreach ($row as $heights) {
                for ($i = 0; $i + $apart < $n; $i++) {
                    $product += $heights[$i] * $heights[$i + $apart];
                    $own += $heights[$i] ** 2;
                }
            }

            return $product / $own;
        };
        self::assertGreaterThan(0.9, $related(1));
        self::assertEqualsWithDelta(0.0, $related(9), 0.2);
        self::assertEqualsWithDelta(0.0, $related(18), 0.2);
        // The same on every machine: the first values of this seed.
        self::assertSame($grain->at(3.3, -4.7), (new Grain(2.0, 8.0, seed: 3))->at(3.3, -4.7));
        self::assertNotSame($grain->at(3.3, -4.7), (new Grain(2.0, 8.0, seed: 4))->at(3.3, -4.7));
        // Continuous over the points of its grid, where it is 0.
        self::assertEqualsWithDelta(0.0, $grain->at(16.0, -8.0), 1e-12);
        self::assertEqualsWithDelta($grain->at(7.999999, 3.0), $grain->at(8.000001, 3.0), 1e-5);
        // A finer one is added.
        self::assertSame(2.5, (new Grain(2.0, 8.0, 0.5, 1.0))->reach());
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
    public function test_both_sides_are_solid_match_and_add_up(string $name): void
    {
        $body = Bodies::named($name);
        $box = Box::of($body->xyz);
        $middle = [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
        $size = max($box->max[0] - $box->min[0], $box->max[1] - $box->min[1], $box->max[2] - $box->min[2]);
        foreach ([[0, 0, 1], [1, 0.3, 0.2]] as $n => $facing) {
            $plane = Plane::through([$middle[0], $middle[1], $middle[2]], [(float) $facing[0], (float) $facing[1], (float) $facing[2]]);
            $blade = new RoughBlade($plane, new Grain(0.03 * $size, 0.2 * $size, 0.005 * $size, 0.08 * $size, 0.06 * $size, $n));
            $made = DrawnCut::of($body, $blade, self::TAG)->bodies ?? [];
            self::assertGreaterThan(1, count($made));
            $walls = [];
            foreach ($made as $one) {
                self::assertTrue(EdgeCheck::of($one)->isWatertight(), $name);
                foreach ($one->tags as $t => $tag) {
                    if ($tag === self::TAG) {
                        $three = array_map(static fn (int $k): string => pack('e3', ...array_map(static fn (float $c): float => $c == 0.0 ? 0.0 : $c, array_slice($one->xyz, 3 * $one->corners[3 * $t + $k], 3))), [0, 1, 2]);
                        sort($three);
                        $walls[implode('', $three)] = ($walls[implode('', $three)] ?? 0) + 1;
                    }
                }
            }
            // Where bodies overlap, each has its own.
            self::assertSame([], array_filter($walls, static fn (int $times): bool => $times % 2 === 1), 'both sides have the same triangles');
            self::assertGreaterThan(20, count($walls));
            self::assertEqualsWithDelta(Volume::of($body), array_sum(array_map(Volume::of(...), $made)), 1e-9 * Volume::of($body), $name);
        }
    }

    public function test_a_kerf_keeps_its_width_along_the_facing_everywhere(): void
    {
        $box = Solids::box(40, 30, 20);
        foreach ([[KerfSide::Centre, 2.0], [KerfSide::Ahead, 3.0], [KerfSide::Behind, 3.0]] as [$side, $kerf]) {
            $blade = static fn (Keep $keep, float $width): RoughBlade => new RoughBlade(Plane::through([0, 0, 10], [0, 0, 1]), new Grain(1.5, 7.0, 0.4, 2.0, 1.0, 5), $width, $side, $keep);
            $made = DrawnCut::of($box, $blade(Keep::Both, $kerf), self::TAG)->bodies ?? [];
            // What is removed is as much as of a flat blade: the same height everywhere.
            self::assertCount(2, $made);
            self::assertEqualsWithDelta(24000 - 1200 * $kerf, array_sum(array_map(Volume::of(...), $made)), 1e-9 * 24000);
            [$below, $above] = $made;
            $shift = $side === KerfSide::Ahead ? $kerf : ($side === KerfSide::Behind ? 0.0 : $kerf / 2);
            $whole = DrawnCut::of($box, $blade(Keep::Ahead, 0.0), self::TAG)->bodies ?? [];
            self::assertEqualsWithDelta(Volume::of($whole[0]) - 1200 * $shift, Volume::of($above), 1e-9 * 24000);
            self::assertSame([0.0, 20.0], [Box::of($below->xyz)->min[2], Box::of($above->xyz)->max[2]]);
        }
    }

    public function test_flat_where_the_grain_is_as_good_as_none_and_the_skin_is_rough_at_the_rim(): void
    {
        $ball = Solids::sphere(20, 4);
        $plane = Plane::through([1, 2, 3], [0.2, 0.1, 1]);
        $flat = array_map(Volume::of(...), FlatCut::of($ball, new FlatBlade($plane), 1)->bodies ?? []);
        $fine = array_map(Volume::of(...), DrawnCut::of($ball, new RoughBlade($plane, new Grain(1e-9, 5.0, edge: 4.0)), 1)->bodies ?? []);
        self::assertEqualsWithDelta($flat, $fine, 1e-6);
        // On the rim: places of the wall's edge on the skin depart from the plane, by at most the grain.
        [$below] = DrawnCut::of($ball, new RoughBlade($plane, new Grain(1.0, 5.0)), self::TAG)->bodies ?? [$ball];
        $faces = array_count_values(array_merge(...array_map(static fn (int $t): array => array_slice($below->corners, 3 * $t, 3), array_keys($below->tags, self::TAG, true))));
        $away = [];
        foreach (array_keys($faces) as $v) {
            [$x, $y, $z] = array_slice($below->xyz, 3 * $v, 3);
            if ($x * $x + $y * $y + $z * $z > 19.5 ** 2) {
                $away[] = $plane->nx * $x + $plane->ny * $y + $plane->nz * $z - $plane->offset;
            }
        }
        self::assertGreaterThan(20, count($away));
        self::assertGreaterThan(0.3, max($away));
        self::assertLessThan(-0.3, min($away));
        self::assertLessThanOrEqual(1.0 + 1e-9, max(array_map(abs(...), $away)));
    }

    public function test_what_passes_by_cuts_nothing_and_too_fine_a_grain_is_refused(): void
    {
        $box = Solids::box(40, 30, 20);
        self::assertNull(DrawnCut::of($box, new RoughBlade(Plane::through([0, 0, 25], [0, 0, 1]), new Grain(1.0, 5.0)), 1));
        $this->expectException(BadBlade::class);
        $this->expectExceptionMessage('give it edges of at least');
        DrawnCut::of($box, new RoughBlade(Plane::through([0, 0, 10], [0, 0, 1]), new Grain(1.0, 5.0, edge: 0.01)), 1);
    }

    public function test_a_body_that_the_blade_passes_by_stays_on_its_own_side(): void
    {
        // Two boxes in one piece, one below the blade and one above it, and one that it cuts.
        $two = Solids::together(Solids::box(10, 10, 5), Solids::box(10, 10, 7, [0, 0, 20]));
        $between = static fn (Keep $keep): RoughBlade => new RoughBlade(Plane::through([0, 0, 12], [0, 0, 1]), new Grain(1.0, 5.0), keep: $keep);
        self::assertEqualsWithDelta([500.0, 700.0], array_map(Volume::of(...), DrawnCut::of($two, $between(Keep::Both), 1)->bodies ?? []), 1e-9);
        self::assertEqualsWithDelta([500.0], array_map(Volume::of(...), DrawnCut::of($two, $between(Keep::Behind), 1)->bodies ?? []), 1e-9);
        self::assertEqualsWithDelta([700.0], array_map(Volume::of(...), DrawnCut::of($two, $between(Keep::Ahead), 1)->bodies ?? []), 1e-9);
        // A kerf that takes all of a piece leaves nothing to name.
        $this->expectException(BadBlade::class);
        $this->expectExceptionMessage('Nothing would be left of a piece');
        DrawnCut::of(Solids::box(10, 10, 4), new RoughBlade(Plane::through([0, 0, 2], [0, 0, 1]), new Grain(0.5, 5.0), 20.0), 1);
    }

    public function test_an_open_piece_is_refused_with_what_to_do(): void
    {
        $open = new Piece('trough', Mesh::of([0, 0, 0, 9, 0, 0, 0, 9, 0, 0, 0, 9], [0, 2, 1, 0, 1, 3]));
        foreach ([['kind' => 'flat', 'through' => [0, 0, 2], 'facing' => [0, 0, 1]], ['kind' => 'series', 'facing' => [0, 0, 1], 'stops' => [2, 5]]] as $blade) {
            try {
                Kinds::read(['do' => 'cut', 'blade' => $blade, 'grain' => ['height' => 0.5, 'size' => 3]], 'steps[0]')->apply([$open], new Work(1, 'steps[0]'));
                self::fail('It was not refused.');
            } catch (BadBlade $refusal) {
                self::assertSame('steps[0]: trough is not watertight (4 edges open), so nobody can say what is inside of it; mend it first.', $refusal->getMessage());
            }
        }
    }

    public function test_a_series_of_rough_blades(): void
    {
        $box = Solids::box(40, 30, 20);
        $planes = array_map(static fn (float $x): Plane => Plane::through([$x, 0, 0], [1, 0, 0]), [10.0, 20.0, 30.0]);
        $made = RoughSeriesCut::of($box, $planes, new Grain(1.0, 5.0, edge: 2.0), 0.0, KerfSide::Centre, self::TAG)->bodies ?? [];
        self::assertCount(4, $made);
        self::assertEqualsWithDelta(24000.0, array_sum(array_map(Volume::of(...), $made)), 1e-9 * 24000);
        // From behind to ahead, each within the grain of its stops, each surface its own.
        foreach ($made as $n => $one) {
            self::assertTrue(EdgeCheck::of($one)->isWatertight());
            self::assertEqualsWithDelta(10.0 * $n, Box::of($one->xyz)->min[0], 1.0);
            self::assertEqualsWithDelta(10.0 * $n + 10.0, Box::of($one->xyz)->max[0], 1.0);
        }
        self::assertNotEqualsWithDelta(Box::of($made[1]->xyz)->min[0] + 10, Box::of($made[2]->xyz)->min[0], 1e-6);
        self::assertNull(RoughSeriesCut::of($box, [Plane::through([50, 0, 0], [1, 0, 0])], new Grain(1.0, 5.0), 0.0, KerfSide::Centre, 1));
        // Blades that would cross are refused, with the height that does not.
        $this->expectException(BadRecipe::class);
        $this->expectExceptionMessage('with heights of less than 2 mm together they do not');
        Kinds::read(['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'stops' => [0, 5]], 'grain' => ['height' => 3, 'size' => 6], 'kerf' => 1], 'steps[0]');
    }
}
