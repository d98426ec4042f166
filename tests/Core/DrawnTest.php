<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Crossings;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Cut\Outcome;
use Isotome\Drawn\BentBlade;
use Isotome\Drawn\Division;
use Isotome\Drawn\DrawnBlade;
use Isotome\Drawn\DrawnCut;
use Isotome\Drawn\FlatSheet;
use Isotome\Drawn\Shape;
use Isotome\Drawn\Sight;
use Isotome\Drawn\Smooth;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Plane;
use Isotome\Mend\Thicken;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Nearest;
use Isotome\Mesh\TriangleAreas;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** Cuts along lines drawn across the view, and with bent blades. */
final class DrawnTest extends TestCase
{
    private const TAG = 7;

    /**
     * Volumes, after it is checked that all pieces are solid and share the triangles where they part.
     *
     * @return list<float>
     */
    private static function volumes(?Outcome $made, bool $hasKerf = false): array
    {
        self::assertNotNull($made);
        self::assertTrue($made->sound);
        $volumes = $walls = [];
        foreach ($made->bodies as $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
            $volumes[] = Volume::of($body);
            foreach ($body->tags as $t => $tag) {
                if ($tag !== self::TAG) {
                    continue;
                }
                $places = array_map(static fn (int $k): string => pack('e3', ...array_map(static fn (float $c): float => $c == 0.0 ? 0.0 : $c, array_slice($body->xyz, 3 * $body->corners[3 * $t + $k], 3))), [0, 1, 2]);
                $first = (int) array_search(min($places), $places, true);
                [$a, $b, $c] = [$places[$first], $places[($first + 1) % 3], $places[($first + 2) % 3]];
                $walls[$a.$b.$c] = ($walls[$a.$b.$c] ?? 0) + 1;
                $walls[$a.$c.$b] = ($walls[$a.$c.$b] ?? 0) - 1;
            }
        }
        $hasKerf || self::assertCount(0, array_filter($walls), 'both sides of a wall have the same triangles');

        return $volumes;
    }

    /** @param  list<array{float, float, float}>  $points */
    private static function stroke(array $points, float $kerf = 0.0, Keep $keep = Keep::Both): DrawnBlade
    {
        return new DrawnBlade(Shape::Stroke, [$points], Sight::along([0, 1, 0]), kerf: $kerf, keep: $keep);
    }

    /** @return list<array{float, float, float}> */
    private static function round(float $radius, int $corners, float $u = 0.0, float $v = 0.0): array
    {
        $points = [];
        for ($k = 0; $k < $corners; $k++) {
            $points[] = [$u + $radius * cos(2 * M_PI * $k / $corners), 0.0, $v + $radius * sin(2 * M_PI * $k / $corners)];
        }

        return $points;
    }

    public function test_a_stroke_parts_what_it_crosses(): void
    {
        $box = Solids::box(4, 2, 3);
        // A roof: 1 at the sides, 2 in the middle; what is ahead lies above it.
        $roof = [[-1.0, 0.0, 1.0], [0.0, 0.0, 1.0], [2.0, 0.0, 2.0], [4.0, 0.0, 1.0], [5.0, 0.0, 1.0]];
        self::assertEqualsWithDelta([12.0, 12.0], self::volumes(DrawnCut::of($box, self::stroke($roof), self::TAG)), 1e-12);
        $above = DrawnCut::of($box, self::stroke($roof, keep: Keep::Ahead), self::TAG)->bodies ?? [];
        self::assertCount(1, $above);
        self::assertSame(3.0, Box::of($above[0]->xyz)->max[2]);
        // Drawn the other way, the other side is ahead.
        $below = DrawnCut::of($box, self::stroke(array_reverse($roof), keep: Keep::Ahead), self::TAG)->bodies ?? [];
        self::assertSame(0.0, Box::of($below[0]->xyz)->min[2]);
        self::assertCount(1, $below);
    }

    public function test_a_stroke_that_ends_within_leaves_no_trace(): void
    {
        $box = Solids::box(4, 2, 3);
        self::assertNull(DrawnCut::of($box, self::stroke([[-1, 0, 1], [2, 0, 1]]), self::TAG));
        self::assertNull(DrawnCut::of($box, self::stroke([[1, 0, 1], [2, 0, 2]]), self::TAG));
        self::assertNull(DrawnCut::of($box, self::stroke([[-1, 0, 5], [9, 0, 5]]), self::TAG));
        // Through one side of a ring, from its hole outwards: it still hangs together on the other.
        self::assertNull(DrawnCut::of(Solids::moved(Solids::torus(10, 3, 24, 12), M_PI / 2, 0, 0), self::stroke([[0, 0, 0.1], [20, 0, 0.2]]), self::TAG));
        // Across the ring: two halves, and what ends within it divides neither.
        $ring = Solids::moved(Solids::torus(10, 3, 24, 12), M_PI / 2, 0, 0);
        $halves = self::volumes(DrawnCut::of($ring, new DrawnBlade(Shape::Grid, [[[-20, 0, 0.1], [20, 0, 0.2]], [[9.5, 0, 3], [30, 0, 30]]], Sight::along([0, 1, 0])), self::TAG));
        self::assertCount(2, $halves);
        self::assertEqualsWithDelta(Volume::of($ring), array_sum($halves), 1e-9);
    }

    public function test_one_finger_is_cut_from_gap_to_gap(): void
    {
        // A comb of three teeth; the line runs from one gap round the corner of the middle tooth to the other.
        $comb = Solids::cells(5, 1, 4, static fn (int $x, int $y, int $z): bool => $z === 0 || $x % 2 === 0);
        $box = Box::of($comb->xyz);
        self::assertSame([5.0, 1.0, 4.0], [$box->max[0] - $box->min[0], $box->max[1] - $box->min[1], $box->max[2] - $box->min[2]]);
        self::assertEqualsWithDelta([14.0 - 1.25, 1.25], self::volumes(DrawnCut::of($comb, self::stroke([[1.5, 0, 2], [2.5, 0, 3], [3.5, 0, 2]]), self::TAG)), 1e-12);
        // A gap that is closed above, but for a way that turns twice.
        $bag = Solids::cells(5, 1, 5, static fn (int $x, int $y, int $z): bool => ! ($x === 1 && $z > 0 && $z < 4) && ! ($z === 3 && $x === 0) && ! ($x === 3 && $z > 0));
        self::assertCount(2, self::volumes(DrawnCut::of($bag, self::stroke([[1.5, 0, 1.3], [3.5, 0, 1.2]]), self::TAG)));
    }

    public function test_outlines_cut_out_prisms_and_cylinders(): void
    {
        $plate = Solids::box(40, 6, 40, [-20, -3, -20]);
        foreach ([3, 4, 7, 64, 200] as $corners) {
            $area = $corners / 2 * sin(2 * M_PI / $corners) * 81;
            $made = DrawnCut::of($plate, new DrawnBlade(Shape::Outline, [self::round(9, $corners, 1.25, -2.5)], Sight::along([0, 1, 0])), self::TAG);
            self::assertEqualsWithDelta([6 * $area, 6 * (1600 - $area)], self::volumes($made), 1e-9 * 9600);
            $within = DrawnCut::of($plate, new DrawnBlade(Shape::Outline, [self::round(9, $corners)], Sight::along([0, 1, 0]), keep: Keep::Behind), self::TAG);
            self::assertEqualsWithDelta([6 * $area], self::volumes($within, true), 1e-9 * 9600);
        }
        // An outline in an outline is a hole; one more is an island.
        $rings = DrawnCut::of($plate, new DrawnBlade(Shape::Outline, [self::round(9, 48), self::round(6, 48), self::round(3, 48)], Sight::along([0, 1, 0]), keep: Keep::Behind), self::TAG);
        $disc = static fn (float $r): float => 6 * 24 * sin(2 * M_PI / 48) * $r * $r;
        self::assertEqualsWithDelta([$disc(9) - $disc(6), $disc(3)], self::volumes($rings, true), 1e-9 * 9600);
        // A star drawn in one go goes round its middle twice: that lies around it.
        $star = array_map(static fn (int $k): array => self::round(10, 5)[(2 * $k) % 5], range(0, 4));
        $made = self::volumes(DrawnCut::of($plate, new DrawnBlade(Shape::Outline, [$star], Sight::along([0, 1, 0])), self::TAG));
        self::assertCount(7, $made);
        self::assertEqualsWithDelta(9600.0, array_sum($made), 1e-9 * 9600);
    }

    public function test_down_to_a_depth_a_pocket_stays(): void
    {
        $plate = Solids::box(40, 40, 8, [-20, -20, 0]);
        $square = [[-5.0, -5.0, 8.0], [5.0, -5.0, 8.0], [5.0, 5.0, 8.0], [-5.0, 5.0, 8.0]];
        $down = Sight::along([0, 0, -1]);
        self::assertEqualsWithDelta([300.0, 12500.0], self::volumes(DrawnCut::of($plate, new DrawnBlade(Shape::Outline, [$square], $down, depth: 3.0), self::TAG)), 1e-9 * 12800);
        self::assertEqualsWithDelta([12500.0], self::volumes(DrawnCut::of($plate, new DrawnBlade(Shape::Outline, [$square], $down, depth: 3.0, keep: Keep::Ahead), self::TAG), true), 1e-9 * 12800);
        self::assertEqualsWithDelta([800.0, 12000.0], self::volumes(DrawnCut::of($plate, new DrawnBlade(Shape::Outline, [$square], $down, depth: 30.0), self::TAG)), 1e-9 * 12800);
        self::assertNull(DrawnCut::of($plate, new DrawnBlade(Shape::Outline, [array_map(static fn (array $p): array => [$p[0], $p[1], 50.0], $square)], $down, depth: 3.0), self::TAG));
        // A groove 2 wide and 3 deep from side to side.
        $groove = new DrawnBlade(Shape::Stroke, [[[-30.0, 1.0, 8.0], [30.0, 1.0, 8.0]]], $down, depth: 3.0, kerf: 2.0);
        self::assertEqualsWithDelta([12800.0 - 240.0], self::volumes(DrawnCut::of($plate, $groove, self::TAG), true), 1e-9 * 12800);
        $this->expectException(BadBlade::class);
        new DrawnBlade(Shape::Stroke, [[[-30.0, 1.0, 8.0], [30.0, 1.0, 8.0]]], $down, depth: 3.0);
    }

    public function test_a_kerf_keeps_both_sides_apart_by_its_width(): void
    {
        $ball = Solids::sphere(20, 4);
        /** @var list<array{float, float, float}> $bend */
        $bend = [[-40.0, 0.0, 0.0], [-8.0, 0.0, 6.0], [3.0, 0.0, -5.0], [9.0, 0.0, -5.5], [40.0, 0.0, 4.0]];
        foreach ([0.2, 3.0, 9.0] as $kerf) {
            $made = DrawnCut::of($ball, self::stroke($bend, $kerf), self::TAG);
            self::assertCount(2, self::volumes($made, true));
            // Every corner that one side's wall has is half a kerf from the line, but for what rounds a corner: within a hundredth.
            foreach ($made->bodies ?? [] as $n => $body) {
                $wall = $body->tags === [] ? [] : array_keys($body->tags, self::TAG, true);
                self::assertNotSame([], $wall);
                foreach ($wall as $t) {
                    foreach ([0, 1, 2] as $k) {
                        $at = array_slice($body->xyz, 3 * $body->corners[3 * $t + $k], 3);
                        $away = INF;
                        for ($i = 0; $i < 4; $i++) {
                            [$x, $z] = [$bend[$i + 1][0] - $bend[$i][0], $bend[$i + 1][2] - $bend[$i][2]];
                            [$u, $v] = [$at[0] - $bend[$i][0], $at[2] - $bend[$i][2]];
                            $s = max(0.0, min(1.0, ($u * $x + $v * $z) / hypot($x, $z) ** 2));
                            $away = min($away, hypot($u - $s * $x, $v - $s * $z));
                        }
                        self::assertEqualsWithDelta($kerf / 2, $away, 0.01 * $kerf);
                    }
                }
                $other = $made->bodies[1 - $n];
                $nearest = new Nearest($other);
                $least = INF;
                foreach ($wall as $t) {
                    foreach ([0, 1, 2] as $k) {
                        /** @var array{float, float, float} $at */
                        $at = array_slice($body->xyz, 3 * $body->corners[3 * $t + $k], 3);
                        $least = min($least, $nearest->to(...$at)[0]);
                    }
                }
                self::assertGreaterThan(0.98 * $kerf, $least);
                self::assertLessThan(1.02 * $kerf, $least);
            }
        }
        // What is taken out of a plate by a straight line, in closed form; and by a ring.
        $plate = Solids::box(40, 6, 40, [-20, -3, -20]);
        self::assertEqualsWithDelta(9600.0 - 6 * 40 * 1.5, array_sum(self::volumes(DrawnCut::of($plate, self::stroke([[-30, 0, 1], [30, 0, 1]], 1.5), self::TAG), true)), 1e-9);
        $ring = DrawnCut::of($plate, new DrawnBlade(Shape::Outline, [self::round(10, 400)], Sight::along([0, 1, 0]), kerf: 2.0), self::TAG);
        $disc = static fn (float $r): float => 6 * 200 * sin(2 * M_PI / 400) * $r * $r;
        self::assertEqualsWithDelta([$disc(9), 9600 - $disc(11)], self::volumes($ring, true), 0.2);
    }

    public function test_from_an_eye_it_widens(): void
    {
        // A square 2 wide seen at distance 10 is 2.2 wide at 11: a frustum.
        $plate = Solids::box(40, 1, 40, [-20, 0, -20]);
        $eye = Sight::from([0, -10, 0], [0, 0, 0]);
        $made = DrawnCut::of($plate, new DrawnBlade(Shape::Outline, [[[-1, 0, -1], [1, 0, -1], [1, 0, 1], [-1, 0, 1]]], $eye, keep: Keep::Behind), self::TAG);
        self::assertEqualsWithDelta([(4.0 + 4.84 + 4.4) / 3], self::volumes($made, true), 1e-9 * 1600);
        $this->expectException(BadBlade::class);
        DrawnCut::of($plate, new DrawnBlade(Shape::Outline, [[[-1, 5, -1], [1, 5, -1], [1, 5, 1]]], Sight::from([0, 0.5, 0], [0, 5, 0])), self::TAG);
    }

    public function test_flat_material_is_cut_flat_and_gets_its_thickness_afterwards(): void
    {
        // A sheet of 40 by 30 in the plane y = 2.
        $sheet = Mesh::of([0, 2, 0, 40, 2, 0, 40, 2, 30, 0, 2, 30], [0, 1, 2, 0, 2, 3]);
        self::assertTrue(FlatSheet::is($sheet));
        self::assertFalse(FlatSheet::is(Solids::sphere(5, 1)));
        $blade = new DrawnBlade(Shape::Outline, [self::round(9, 60, 15, 15), self::round(4, 60, 15, 15)], Sight::along([0, 1, 0]));
        $pieces = DrawnCut::of($sheet, $blade, self::TAG, isSheet: true)->bodies ?? [];
        $area = static fn (float $r): float => 30 * sin(2 * M_PI / 60) * $r * $r;
        self::assertEqualsWithDelta([$area(9) - $area(4), 1200 - $area(9), $area(4)], array_map(static fn (Mesh $one): float => array_sum(TriangleAreas::of($one)), $pieces), 1e-7);
        $thick = array_map(static fn (Mesh $one): Mesh => Thicken::of($one, 3.0), $pieces);
        self::assertEqualsWithDelta([3 * ($area(9) - $area(4)), 3 * (1200 - $area(9)), 3 * $area(4)], array_map(static fn (Mesh $one): float => Volume::of($one), $thick), 1e-6);
        foreach ($thick as $one) {
            self::assertTrue(EdgeCheck::of($one)->isWatertight());
        }
    }

    public function test_a_grid_gives_all_that_lies_between_its_lines(): void
    {
        $plate = Solids::box(40, 6, 40, [-20, -3, -20]);
        $lines = [];
        foreach ([-10.0, 0.0, 5.0] as $at) {
            $lines[] = [[-30.0, 0.0, $at], [30.0, 0.0, $at]];
            $lines[] = [[$at, 0.0, -30.0], [$at, 0.0, 30.0]];
        }
        $made = self::volumes(DrawnCut::of($plate, new DrawnBlade(Shape::Grid, $lines, Sight::along([0, 1, 0])), self::TAG));
        $widths = [10.0, 10.0, 5.0, 15.0];
        $expected = [];
        foreach ($widths as $x) {
            foreach ($widths as $y) {
                $expected[] = 6 * $x * $y;
            }
        }
        rsort($expected);
        self::assertEqualsWithDelta($expected, $made, 1e-9);
        // Another order, the same pieces.
        $other = self::volumes(DrawnCut::of($plate, new DrawnBlade(Shape::Grid, array_reverse($lines), Sight::along([0, 1, 0])), self::TAG));
        self::assertEqualsWithDelta($made, $other, 1e-9);
    }

    /** @return iterable<string, array{string}> */
    public static function bodies(): iterable
    {
        foreach (Bodies::names() as $name) {
            yield $name => [$name];
        }
    }

    #[DataProvider('bodies')]
    public function test_straight_it_cuts_as_a_flat_blade(string $name): void
    {
        $body = Bodies::named($name);
        $box = Box::of($body->xyz);
        $middle = array_map(static fn (float $low, float $high): float => ($low + $high) / 2, $box->min, $box->max);
        $far = 3 * max(array_map(static fn (float $low, float $high): float => $high - $low, $box->min, $box->max)) + 1;
        $chance = new Chance(crc32($name));
        for ($n = 0; $n < 3; $n++) {
            $angle = $n === 0 ? 0.0 : 7 * $chance->uniform();
            [$c, $s] = [cos($angle), sin($angle)];
            // On what the body is made of, as often as beside it.
            $at = $n === 2 ? array_slice($body->xyz, 0, 3) : [$middle[0] + 0.1 * $chance->uniform(), $middle[1], $middle[2] + 0.1 * $chance->uniform()];
            $flat = FlatCut::of($body, new FlatBlade(Plane::through([$at[0], $at[1], $at[2]], [-$s, 0, $c])), 1);
            $line = [[$at[0] - $far * $c, $at[1], $at[2] - $far * $s], [$at[0] + $far * $c, $at[1], $at[2] + $far * $s]];
            $drawn = DrawnCut::of($body, self::stroke($line), self::TAG);
            $bent = DrawnCut::of($body, BentBlade::of([$at[0], $at[1], $at[2]], [-$s, 0, $c], [0, 1, 0], [[-0.3, 0.0], [0.2, 0.0], [0.9, 0.0]], false, 0.0, Keep::Both), self::TAG);
            $sides = static function (?Outcome $made) use ($at, $s, $c): array {
                $sums = [0.0, 0.0];
                foreach ($made->bodies ?? [] as $one) {
                    $mid = array_sum(array_map(static fn (int $i): float => -$s * ($one->xyz[3 * $i] - $at[0]) + $c * ($one->xyz[3 * $i + 2] - $at[2]), array_keys(array_fill(0, $one->vertexCount(), 0))));
                    $sums[$mid > 0 ? 1 : 0] += Volume::of($one);
                }

                return $sums;
            };
            if ($flat === null) {
                self::assertNull($drawn, "$name, $n");
                self::assertNull($bent, "$name, $n");

                continue;
            }
            $whole = abs(Volume::of($body));
            self::assertEqualsWithDelta($sides($flat), $sides($drawn), 1e-9 * $whole + 1e-12, "$name, $n");
            self::assertEqualsWithDelta($sides($flat), $sides($bent), 1e-9 * $whole + 1e-12, "$name, $n");
        }
    }

    #[DataProvider('bodies')]
    public function test_whatever_is_drawn_the_pieces_are_solid(string $name): void
    {
        $body = Bodies::named($name);
        $whole = Volume::of($body);
        $box = Box::of($body->xyz);
        $span = max(array_map(static fn (float $low, float $high): float => $high - $low, $box->min, $box->max));
        $chance = new Chance(crc32($name) ^ 5);
        $vertex = static function () use ($body, $chance): array {
            $v = (int) ($chance->uniform() * $body->vertexCount());

            return [$body->xyz[3 * $v], $body->xyz[3 * $v + 1], $body->xyz[3 * $v + 2]];
        };
        $anywhere = static fn (): array => [$box->min[0] + $span * (1.4 * $chance->uniform() - 0.2), $box->min[1] + $span * (1.4 * $chance->uniform() - 0.2), $box->min[2] + $span * (1.4 * $chance->uniform() - 0.2)];
        for ($n = 0; $n < 8; $n++) {
            // Corners on vertices of the body, and anywhere; along an axis, and along any direction.
            $sight = Sight::along([[0, 1, 0], [0, 0, -1], [1, 0, 0], $chance->direction()][$n % 4]);
            $points = [];
            for ($k = 0, $count = 3 + $n % 5; $k < $count; $k++) {
                $points[] = $k > 2 && $chance->uniform() < 0.7 ? $vertex() : $anywhere();
            }
            $blade = match ($n % 3) {
                0 => new DrawnBlade(Shape::Outline, [$points], $sight, isSmooth: $n % 2 === 1),
                1 => new DrawnBlade(Shape::Grid, [$points, [$vertex(), $vertex()], [$anywhere(), $vertex(), $anywhere()]], $sight),
                default => new DrawnBlade(Shape::Stroke, [$points], $sight, runsOn: true),
            };
            $made = DrawnCut::of($body, $blade, self::TAG);
            if ($made === null) {
                continue;
            }
            foreach ($made->bodies as $one) {
                self::assertTrue(EdgeCheck::of($one)->isWatertight(), "$name, $n");
            }
            self::assertEqualsWithDelta($whole, array_sum(array_map(Volume::of(...), $made->bodies)), 1e-9 * $whole, "$name, $n");
        }
    }

    public function test_a_bent_blade_goes_round(): void
    {
        // An L: the blade comes in level at 2, rises past the corner and leaves level at 5.
        $body = Solids::cells(6, 2, 6, static fn (int $x, int $y, int $z): bool => $x < 3 || $z < 3);
        $blade = BentBlade::of([0, 0, 0], [0, 0, 1], [0, 1, 0], [[-1, 2], [2, 2], [2.5, 5], [9, 5]], false, 0.0, Keep::Both);
        $below = 2 * (2.0 * 2 + 0.5 * 3.5 + 0.5 * 5 + 3 * 3);
        self::assertEqualsWithDelta([$below, 54.0 - $below], self::volumes(DrawnCut::of($body, $blade, self::TAG)), 1e-8 * 54);
        // Beyond its ends it runs straight on, rising.
        $slope = BentBlade::of([3, 1, 3], [0, 0, 1], [0, 1, 0], [[-0.1, -0.1], [0.1, 0.1]], false, 0.0, Keep::Behind);
        self::assertEqualsWithDelta([2 * (18.0 - 0.0)], self::volumes(DrawnCut::of(Solids::box(6, 2, 6), $slope, self::TAG), true), 1e-8 * 54);
    }

    public function test_a_bent_blade_that_crosses_itself_is_told_the_height_that_does_not(): void
    {
        $profile = [[-10.0, 0.0], [-1.0, 9.0], [1.0, 9.0], [10.0, 0.0]];
        self::assertFalse(BentBlade::crossesItself($profile));
        // Its ends rise towards each other and cross high above.
        $leaning = [[-2.0, 0.0], [-1.0, -3.0], [1.0, -3.0], [2.0, 1.0]];
        self::assertFalse(BentBlade::crossesItself($leaning));
        $closing = [[-3.0, 2.0], [-4.0, -1.0], [0.0, -3.0], [4.0, -1.0], [3.0, 2.0]];
        self::assertTrue(BentBlade::crossesItself($closing));
        try {
            BentBlade::of([0, 0, 0], [0, 0, 1], [0, 1, 0], $closing, false, 0.0, Keep::Both);
            self::fail('It was not refused.');
        } catch (BadBlade $refusal) {
            self::assertStringContainsString('whatever its heights are', $refusal->getMessage());
        }
        // A smooth one through steep corners close to each other swings over itself; lower it does not, and the height that is told is the last that does not.
        $steep = [[-10.0, 0.0], [-2.0, 0.0], [-1.8, 40.0], [-1.6, 0.0], [-1.5, 40.0], [10.0, 0.0]];
        self::assertFalse(BentBlade::crossesItself($steep));
        $lower = static fn (float $times): array => array_map(static fn (array $corner): array => [$corner[0], $times * $corner[1]], $steep);
        self::assertTrue(BentBlade::crossesItself(Smooth::of($lower(0.04), false)));
        self::assertFalse(BentBlade::crossesItself(Smooth::of($lower(0.03), false)));
        $this->expectException(BadBlade::class);
        $this->expectExceptionMessage('at most 0.03 times these it does not');
        BentBlade::of([0, 0, 0], [0, 0, 1], [0, 1, 0], $steep, true, 0.0, Keep::Both);
    }

    public function test_a_division_covers_its_rectangle_whatever_lines_are_laid_in(): void
    {
        $chance = new Chance(11);
        for ($n = 0; $n < 60; $n++) {
            $segments = [];
            $places = [];
            for ($k = 0; $k < 14; $k++) {
                // Some corners of a coarse grid, so that lines meet in corners and lie on each other.
                $places[] = $n % 2 === 0 ? [floor(7 * $chance->uniform()), floor(7 * $chance->uniform())] : [7 * $chance->uniform(), 7 * $chance->uniform()];
            }
            for ($k = 0; $k + 1 < 14; $k++) {
                $segments[] = [$places[$k], $places[$k + 1]];
            }
            $division = Division::of($segments, [-1.0, 8.0, -2.0, 9.0]);
            $area = 0.0;
            foreach ($division->polygons as $polygon) {
                $own = 0.0;
                foreach ($polygon as $k => $p) {
                    $q = $polygon[($k + 1) % count($polygon)];
                    $own += $division->points[$p][0] * $division->points[$q][1] - $division->points[$p][1] * $division->points[$q][0];
                }
                self::assertGreaterThan(0.0, $own);
                $area += $own / 2;
            }
            self::assertEqualsWithDelta(99.0, $area, 1e-9);
            // A closed line and all that it encloses obey Euler's formula: so many regions as crossings and loops make.
            self::assertGreaterThan(0, $division->regions());
            foreach ($division->sides as [$segment]) {
                self::assertArrayHasKey($segment, $segments);
            }
        }
    }

    public function test_a_scribble_without_end_is_refused_before_it_takes_long(): void
    {
        $chance = new Chance(3);
        $points = array_map(static fn (): array => [100 * $chance->uniform(), 0.0, 100 * $chance->uniform()], range(1, 2000));
        try {
            DrawnCut::of(Solids::box(100, 10, 100), new DrawnBlade(Shape::Outline, [$points], Sight::along([0, 1, 0])), self::TAG);
            self::fail('It was not refused.');
        } catch (BadBlade $refusal) {
            self::assertSame('Lines of the drawing cross more than 12,000 times; draw fewer of them at once.', $refusal->getMessage());
        }
    }
}
