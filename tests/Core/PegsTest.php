<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Crossings;
use Isotome\Exception\Refusal;
use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Join\Carved;
use Isotome\Join\CommonFaces;
use Isotome\Join\Peg;
use Isotome\Join\Pegs;
use Isotome\Join\PegWishes;
use Isotome\Join\Shape;
use Isotome\Join\Style;
use Isotome\Mesh\Bodies as Shells;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mark;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Nearest;
use Isotome\Mesh\Volume;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** Pegs: where they go, what they leave, and what is refused. */
final class PegsTest extends TestCase
{
    /** @param  array<string, mixed>  ...$steps */
    private static function ran(Mesh $mesh, array ...$steps): Runner
    {
        $runner = Runner::on('mill', $mesh);
        foreach (Recipe::fromJson(json_encode(['isotome_recipe' => 1, 'steps' => $steps], JSON_THROW_ON_ERROR))->steps as $step) {
            $runner->run($step);
        }

        return $runner;
    }

    /**
     * @param  list<float>  $facing
     * @return array<string, mixed>
     */
    private static function halved(float $at, array $facing = [0, 0, 1], float $kerf = 0.0): array
    {
        return ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => array_map(static fn (float|int $part): float => $at * $part, $facing), 'facing' => $facing], 'kerf' => $kerf];
    }

    /** @return list<array<string, mixed>> what the last step said of every common face */
    private static function faces(Runner $runner): array
    {
        $records = $runner->records();

        /** @var list<array<string, mixed>> */
        return end($records)->report->toArray()['faces'] ?? [];
    }

    private static function sound(Mesh $mesh, string $what): void
    {
        self::assertTrue(EdgeCheck::of($mesh)->isWatertight(), "$what is open");
        self::assertSame([], Crossings::of($mesh)->pairs, "$what crosses itself");
        self::assertCount(1, Shells::of($mesh), "$what is not one body");
    }

    /** @return iterable<string, array{Style, Shape, float, array{float, float, float}}> */
    public static function sorts(): iterable
    {
        foreach (Style::cases() as $style) {
            foreach (Shape::cases() as $shape) {
                yield "$style->value, $shape->value" => [$style, $shape, 0.0, [0.0, 0.0, 0.0]];
                yield "$style->value, $shape->value, a kerf, askew" => [$style, $shape, 0.4, [0.3, 0.5, 0.2]];
            }
        }
    }

    /**
     * Areas of regular polygons and volumes of prisms and frustums in closed form.
     *
     * @param  array{float, float, float}  $turn
     */
    #[DataProvider('sorts')]
    public function test_what_is_added_and_taken_out_has_its_volume(Style $style, Shape $shape, float $gap, array $turn): void
    {
        $below = Solids::moved(Solids::box(40, 30, 20), ...$turn);
        $above = Solids::moved(Solids::box(40, 30, 20, [0.0, 0.0, 20.0 + $gap]), ...$turn);
        [$face] = CommonFaces::between($below, $above, 1.0);
        self::assertEqualsWithDelta(1200.0, $face->area, 1e-9);
        $made = Pegs::on($face, $below, $above, new PegWishes(style: $style, shape: $shape, diameter: 6.0, length: 5.0, count: 2, clearance: 0.3, taper: 0.5, isOneWay: false));
        self::assertCount(2, $made->pegs);
        $area = static function (float $corner) use ($shape): float {
            $n = match ($shape) {
                Shape::Round => 48, Shape::Square => 4, Shape::Hexagon => 6, Shape::Dovetail => 0
            };

            return $n > 0 ? $n / 2 * $corner ** 2 * sin(2 * M_PI / $n)
                // A trapezium between corners at 30° and 55° from the middle line.
                : $corner ** 2 * (cos(deg2rad(30)) + cos(deg2rad(55))) * (sin(deg2rad(30)) + sin(deg2rad(55)));
        };
        // Sides of regular polygons move out with their corners.
        $wide = match ($shape) {
            Shape::Round => 3.3 / cos(M_PI / 48), Shape::Square => 3.0 + 0.3 / cos(M_PI / 4), Shape::Hexagon => 3.0 + 0.3 / cos(M_PI / 6), Shape::Dovetail => null
        };
        $hollow = $wide === null ? null : 5.3 * $area($wide);
        // The tip: (1 + s + s²) / 3 of the prism, s being how large the end is.
        $tip = 0.5 * (1 + (5 / 6) + (5 / 6) ** 2) / 3;
        $pin = $area(3.0) * (4.5 + $tip);
        $changes = [
            Volume::of(Carved::of($below, array_map(static fn (Peg $peg) => $peg->atFirst(), $made->pegs), 7)[0]) - 24000,
            Volume::of(Carved::of($above, array_map(static fn (Peg $peg) => $peg->atSecond(), $made->pegs), 7)[0]) - 24000,
        ];
        if ($style === Style::Pin) {
            self::assertEqualsWithDelta(2 * $pin, $changes[0], 1e-6);
        } else {
            self::assertEqualsWithDelta($changes[1], $changes[0], 1e-6);
        }
        if ($hollow !== null) {
            self::assertEqualsWithDelta(-2 * $hollow, $changes[1], 1e-6);
        }
        if ($style === Style::Dowel) {
            self::assertEqualsWithDelta($area(3.0) * 2 * (4.5 + $tip), Volume::of($made->pegs[0]->dowel()), 1e-6);
        }
    }

    /**
     * 0.3 mm and 0.5 mm: common practice.
     *
     * @param  array{float, float, float}  $turn
     */
    #[DataProvider('sorts')]
    public function test_assembled_there_is_the_clearance_all_round(Style $style, Shape $shape, float $gap, array $turn): void
    {
        foreach ([0.3, 0.5] as $clearance) {
            $below = Solids::moved(Solids::box(40, 30, 20), ...$turn);
            $above = Solids::moved(Solids::box(40, 30, 20, [0.0, 0.0, 20.0]), ...$turn);
            [$face] = CommonFaces::between($below, $above, 1.0);
            $made = Pegs::on($face, $below, $above, new PegWishes(style: $style, shape: $shape, diameter: 6.0, length: 5.0, count: 1, clearance: $clearance, taper: 0.0, isOneWay: false));
            $peg = $made->pegs[0];
            $hollow = Carved::of($above, [$peg->atSecond()], 7)[0];
            $nearest = new Nearest($hollow);
            $body = $style === Style::Pin ? $peg->atFirst()->mesh() : $peg->dowel();
            $least = INF;
            $most = 0.0;
            for ($i = 0; $i < count($body->xyz); $i += 3) {
                [, , $height] = $face->onPage($body->xyz[$i], $body->xyz[$i + 1], $body->xyz[$i + 2]);
                if ($height > $face->high + 1.0) {
                    $distance = $nearest->to($body->xyz[$i], $body->xyz[$i + 1], $body->xyz[$i + 2])[0];
                    $least = min($least, $distance);
                    $most = max($most, $distance);
                }
            }
            // Corners of a round peg are on its circle, sides of a round socket are nowhere within theirs; 0.5 % are between.
            self::assertEqualsWithDelta($clearance, $least, 1e-9);
            self::assertLessThan($clearance + 0.01, $most);
        }
    }

    public function test_both_ways_of_carving_agree(): void
    {
        $whole = new \ReflectionMethod(Carved::class, 'whole');
        $bodies = ['box' => Solids::box(40, 30, 50), 'ball' => Solids::sphere(25, 4), 'torus' => Solids::torus(30, 12, 60, 40)];
        foreach ($bodies as $name => $body) {
            foreach ([[0, 0, 1], [0.3, 0.4, 1]] as $facing) {
                [$one, $two] = array_values(self::ran($body, self::halved($name === 'box' ? 20.0 : 1.0, $facing))->pieces());
                foreach (CommonFaces::between($one->mesh, $two->mesh, 1.0) as $face) {
                    foreach (Pegs::on($face, $one->mesh, $two->mesh, new PegWishes)->pegs as $peg) {
                        foreach ([[$one->mesh, $peg->atFirst()], [$two->mesh, $peg->atSecond()]] as [$mesh, $tool]) {
                            $made = Carved::of($mesh, [$tool], 9);
                            $other = $whole->invoke(null, $mesh, [$tool], 9, null);
                            self::sound($made[0], $name);
                            self::assertEqualsWithDelta(Volume::of($other[0]), Volume::of($made[0]), 1e-7 * Volume::of($mesh), $name);
                            self::assertEqualsWithDelta(Volume::measure($other[0])->area, Volume::measure($made[0])->area, 1e-7 * Volume::measure($mesh)->area, $name);
                            // What the peg left is inside, and so is what it was put on; the skin is as it was.
                            $skin = static fn (Mesh $of): int => count(array_filter($of->tags, static fn (int $tag): bool => ! Mark::isInside($tag)));
                            self::assertSame($skin($mesh), $skin($made[0]), $name);
                        }
                    }
                }
            }
        }
    }

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function blades(): iterable
    {
        $flat = ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0.0, 0.0, 3.0], 'facing' => [0.2, 0.1, 1.0]]];
        yield 'flat' => [$flat];
        yield 'kerf' => [[...$flat, 'kerf' => 0.4]];
        yield 'rough' => [[...$flat, 'grain' => ['height' => 1.0, 'size' => 8, 'seed' => 3]]];
        yield 'rough, kerf' => [[...$flat, 'grain' => ['height' => 1.0, 'size' => 8, 'seed' => 3], 'kerf' => 0.3]];
        yield 'drawn' => [['do' => 'cut', 'blade' => ['kind' => 'drawn', 'shape' => 'stroke', 'points' => [[-60, 0, 2], [-20, 0, 8], [0, 0, 0], [25, 0, 6], [60, 0, 0]], 'along' => [0, 1, 0]]]];
        yield 'drawn, smooth' => [['do' => 'cut', 'blade' => ['kind' => 'drawn', 'shape' => 'stroke', 'points' => [[-60, 0, 2], [-20, 0, 8], [0, 0, 0], [25, 0, 6], [60, 0, 0]], 'along' => [0, 1, 0], 'smooth' => true]]];
        yield 'bent' => [['do' => 'cut', 'blade' => ['kind' => 'bent', 'through' => [0, 0, 1], 'facing' => [0, 0, 1], 'along' => [0, 1, 0], 'profile' => [[-20, 0], [0, 4], [12, -3]], 'smooth' => false]]];
        yield 'bent, smooth' => [['do' => 'cut', 'blade' => ['kind' => 'bent', 'through' => [0, 0, 1], 'facing' => [0, 0, 1], 'along' => [0, 1, 0], 'profile' => [[-20, 0], [0, 4], [12, -3]], 'smooth' => true]]];
        yield 'cells' => [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'uniform', 'count' => 6, 'seed' => 4]]];
    }

    /** @param  array<string, mixed>  $cut */
    #[DataProvider('blades')]
    public function test_every_blade_leaves_faces_that_take_pegs(array $cut): void
    {
        try {
            $runner = self::ran(Solids::moved(Solids::sphere(30, 5), 0.1, 0.2, 0.3), $cut, ['do' => 'pegs', 'diameter_mm' => 4, 'length_mm' => 4, 'rim_mm' => 0.5]);
        } catch (Refusal $refusal) {
            self::fail($refusal->getMessage());
        }
        $before = self::ran(Solids::moved(Solids::sphere(30, 5), 0.1, 0.2, 0.3), $cut)->pieces();
        $sum = static fn (array $pieces): float => array_sum(array_map(static fn (Piece $piece): float => Volume::of($piece->mesh), $pieces));
        $pegs = array_merge(...array_column(self::faces($runner), 'pegs'));
        self::assertNotSame([], $pegs);
        foreach ($runner->pieces() as $piece) {
            self::assertTrue($piece->watertight);
            self::sound($piece->mesh, $piece->name);
        }
        // A socket is a little larger than its pin. On faces that are not flat both also bridge what the face rises within them.
        $less = ($sum($before) - $sum($runner->pieces())) / count($pegs);
        self::assertGreaterThan(3.0, $less);
        self::assertLessThan(70.0, $less);
    }

    /** How near sockets come to the skin, measured with another method than the one that places them: to corners of their own, on bodies that are thin behind the face. */
    public function test_no_socket_comes_nearer_to_the_skin_than_the_wall(): void
    {
        $chance = new Chance(12);
        $grazing = $none = 0;
        for ($n = 0; $n < 36; $n++) {
            // A ball cut near its pole, a cone, a wedge: behind the face there is less and less.
            $body = match ($n % 3) {
                0 => Solids::sphere(20, 3),
                1 => Solids::moved(Solids::cone(20, 30, 60), 0, 0, 0),
                default => Solids::prism([[0.0, 0.0], [50.0, 0.0], [50.0, 6.0]], 30.0),
            };
            [$at, $facing] = match ($n % 3) {
                0 => [8.0 + 11.0 * $chance->uniform(), [0, 0, 1]],
                1 => [5.0 + 20.0 * $chance->uniform(), [0, 0, 1]],
                default => [10.0 + 20.0 * $chance->uniform(), [0, 0, 1]],
            };
            $pieces = array_values(self::ran($body, self::halved($at, $facing))->pieces());
            if (count($pieces) < 2) {
                continue;
            }
            $wall = 0.4 + 1.5 * $chance->uniform();
            foreach (CommonFaces::between($pieces[0]->mesh, $pieces[1]->mesh, 1.0) as $face) {
                $made = Pegs::on($face, $pieces[0]->mesh, $pieces[1]->mesh, new PegWishes(style: Style::Dowel, diameter: 2.0 + 4.0 * $chance->uniform(), length: 3.0 + 9.0 * $chance->uniform(), rim: 0.4, wall: $wall));
                $none += $made->pegs === [] ? 1 : 0;
                foreach ($made->pegs as $peg) {
                    foreach ([[$pieces[0]->mesh, $peg->atFirst(), 0], [$pieces[1]->mesh, $peg->atSecond(), 1]] as [$mesh, $tool, $side]) {
                        $isFace = array_fill_keys($face->faces[$side], true);
                        $corners = [];
                        foreach (array_keys($mesh->tags) as $t) {
                            if (! isset($isFace[$t])) {
                                array_push($corners, ...array_slice($mesh->corners, 3 * $t, 3));
                            }
                        }
                        $nearest = new Nearest(Mesh::of($mesh->xyz, $corners));
                        $least = INF;
                        $levels = $tool->levels;
                        [$from, $to] = $side === 0 ? [$face->high, $levels[0][0]] : [$face->low, $levels[1][0]];
                        for ($step = 0; $step <= 20; $step++) {
                            $ring = $tool->ring($from + ($to - $from) * $step / 20, 1.0);
                            for ($i = 0; $i < count($ring); $i += 3) {
                                // Near the face its rim is what is near.
                                $least = $step > 4 ? min($least, $nearest->to($ring[$i], $ring[$i + 1], $ring[$i + 2])[0]) : $least;
                            }
                        }
                        self::assertGreaterThan(0.85 * $wall, $least, "body $n");
                        $grazing += $least < 1.3 * $wall ? 1 : 0;
                        self::sound(Carved::of($mesh, [$tool], 5)[0], "body $n");
                    }
                }
            }
        }
        // Some were close, some did not go at all.
        self::assertGreaterThan(10, $grazing);
        self::assertGreaterThan(2, $none);
    }

    public function test_a_face_goes_together_in_one_way(): void
    {
        foreach ([Shape::Round, Shape::Square, Shape::Hexagon, Shape::Dovetail] as $shape) {
            foreach ([1, 2, 3, 4, 5] as $count) {
                [$one, $two] = array_map(static fn (float $z): Mesh => Solids::box(80, 60, 20, [0.0, 0.0, $z]), [0.0, 20.0]);
                [$face] = CommonFaces::between($one, $two, 1.0);
                $made = Pegs::on($face, $one, $two, new PegWishes(shape: $shape, diameter: 6.0, length: 5.0, count: $count));
                self::assertCount($count, $made->pegs);
                self::assertSame(1, $made->ways, "$count of $shape->value");
                self::assertSame($count === 1 ? Shape::Dovetail : $shape, $made->pegs[0]->shape);
                $alone = Pegs::on($face, $one, $two, new PegWishes(shape: $shape, diameter: 6.0, length: 5.0, count: 1, isOneWay: false));
                self::assertSame($shape->ways(), $alone->ways);
                // Alike, two go in the wrong way round as well, if their own shape does.
                $alike = Pegs::on($face, $one, $two, new PegWishes(shape: $shape, diameter: 6.0, length: 5.0, count: 2, isOneWay: false));
                self::assertSame($shape === Shape::Dovetail ? 1 : 2, $alike->ways);
                foreach ($made->pegs as $n => $peg) {
                    foreach (array_slice($made->pegs, $n + 1) as $other) {
                        self::assertGreaterThan(6.0, hypot($peg->x - $other->x, $peg->y - $other->y));
                    }
                }
            }
        }
    }

    /** A ring, two legs, a face that is partly covered, a face of another cut beside it. */
    public function test_common_faces_are_what_both_have(): void
    {
        $area = static fn (Runner $runner): array => array_map(static fn (array $face): array => [...$face['between'], round($face['area_mm2'], 6)], self::faces($runner));
        $pegs = ['do' => 'pegs', 'diameter_mm' => 2, 'length_mm' => 2, 'rim_mm' => 0.5, 'wall_mm' => 0.5];
        // The legs of a table: each its own face.
        $table = Solids::moved(Solids::cells(5, 5, 3, static fn (int $x, int $y, int $z): bool => $z === 2 || ($x % 4 === 0 && $y % 4 === 0)), 0, 0, 0, 8.0);
        $faces = $area(self::ran($table, self::halved(10.0), $pegs));
        self::assertCount(4, $faces);
        self::assertSame([64.0], array_values(array_unique(array_column($faces, 2))));
        // One half halved again: each quarter shares half of the first cut's face with the other half, and a face with the other quarter.
        $runner = self::ran(Solids::box(40, 40, 40), self::halved(20.0), [...self::halved(20.0, [1, 0, 0]), 'of' => ['mill-A']], $pegs);
        self::assertEqualsCanonicalizing([['mill-A-A', 'mill-A-B', 800.0], ['mill-A-A', 'mill-B', 800.0], ['mill-A-B', 'mill-B', 800.0]], $area($runner));
        // Pegs between two of them stay in what both have.
        foreach (self::faces($runner) as $face) {
            $box = Box::of($runner->pieces()[$face['between'][0]]->mesh->xyz);
            foreach ($face['pegs'] as $peg) {
                self::assertGreaterThan($box->min[0] - 0.5, $peg['at'][0]);
                self::assertLessThan($box->max[0] + 0.5, $peg['at'][0]);
            }
        }
        // Pins and their sockets are no faces of their own: a second step finds the same faces, and room beside the first pegs.
        $twice = self::ran(Solids::box(40, 40, 40), self::halved(20.0), ['do' => 'pegs', 'diameter_mm' => 12, 'length_mm' => 12], $pegs);
        self::assertCount(1, $area($twice));
        self::assertEqualsWithDelta(1600.0 - M_PI * (6.3 ** 2 + 4.8 ** 2), $area($twice)[0][2], 1.0);
        // Pieces that were never cut: boxes that stand on each other.
        $runner = Runner::on('stack', Solids::box(10, 10, 10), ['low' => Solids::box(20, 20, 10), 'high' => Solids::box(10, 10, 10, [5.0, 5.0, 10.0]), 'aside' => Solids::box(5, 5, 5, [50.0, 0.0, 0.0])]);
        $runner->run(Recipe::fromJson((string) json_encode(['isotome_recipe' => 1, 'steps' => [$pegs]]))->steps[0]);
        self::assertSame([['low', 'high', 100.0]], $area($runner));
    }

    public function test_dowels_are_pieces_of_their_own_and_pins_can_change_sides(): void
    {
        $box = Solids::box(40, 40, 40);
        $runner = self::ran($box, self::halved(20.0), ['do' => 'pegs', 'style' => 'dowel', 'count' => 2]);
        self::assertSame(['mill-A', 'dowel-2-1', 'dowel-2-2', 'mill-B'], array_keys($runner->pieces()));
        $records = $runner->records();
        self::assertSame(['mill-A', 'mill-B'], $records[1]->parents['dowel-2-1']);
        self::assertSame(['mill-A', 'mill-B'], $runner->pieces()['dowel-2-2']->parents());
        $volumes = static fn (Runner $runner): array => array_map(static fn (Piece $piece): int => Volume::of($piece->mesh) <=> 32000.0, $runner->pieces());
        self::assertSame(['mill-A' => -1, 'mill-B' => -1], array_intersect_key($volumes($runner), ['mill-A' => 1, 'mill-B' => 1]));
        self::assertSame(['mill-A' => 1, 'mill-B' => -1], $volumes(self::ran($box, self::halved(20.0), ['do' => 'pegs'])));
        self::assertSame(['mill-A' => -1, 'mill-B' => 1], $volumes(self::ran($box, self::halved(20.0), ['do' => 'pegs', 'swap' => true])));
        self::assertSame(['mill-A' => -1, 'mill-B' => 1], $volumes(self::ran($box, self::halved(20.0), ['do' => 'pegs', 'between' => ['mill-B', 'mill-A']])));
    }

    /** Who works for days must not keep every mesh that pegs were ever looked for in. */
    public function test_meshes_are_let_go(): void
    {
        [$one, $two] = [Solids::box(40, 30, 20), Solids::box(40, 30, 20, [0.0, 0.0, 20.0])];
        $seen = [\WeakReference::create($one), \WeakReference::create($two)];
        [$face] = CommonFaces::between($one, $two, 1.0);
        self::assertCount(2, Pegs::on($face, $one, $two, new PegWishes)->pegs);
        unset($one, $two, $face);
        gc_collect_cycles();
        self::assertSame([null, null], array_map(static fn (\WeakReference $mesh): mixed => $mesh->get(), $seen));
    }

    public function test_pegs_go_where_they_are_put(): void
    {
        $runner = self::ran(Solids::box(40, 40, 40), self::halved(20.0), ['do' => 'pegs', 'at' => [[10, 12, 20], [30, 12, 20.4]], 'diameter_mm' => 5]);
        [$face] = self::faces($runner);
        self::assertEqualsWithDelta([[10.0, 12.0, 20.0], [30.0, 12.0, 20.0]], array_column($face['pegs'], 'at'), 1e-9);
        self::assertSame([5.0, 5.0], array_column($face['pegs'], 'diameter_mm'));
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function refused(): iterable
    {
        yield 'too wide' => [['diameter_mm' => 60], 'a peg of 60.0 mm needs a circle of 31.6 mm radius, with its clearance and its distance from the rim, and their common face at (20.0, 20.0, 20.0) takes one of 20.0; give a smaller'];
        yield 'too long' => [['length_mm' => 300], 'a peg 300.0 mm long would come nearer than 1.2 mm to the skin behind their common face, at ('];
        yield 'at no face' => [['at' => [[10, 10, 30]]], 'steps[1].at: (10.0, 10.0, 30.0) lies on no common face, the nearest is 10.0 mm away; give a place on one.'];
        yield 'too near to the rim' => [['at' => [[1, 10, 20]], 'diameter_mm' => 4], 'the place (1.0, 10.0, 20.0) is 1.0 mm from the rim of their common face, and the peg needs 3.5;'];
        yield 'both' => [['between' => ['mill-A', 'mill-B'], 'of' => ['mill-A']], 'steps[1] has both between and of; leave one of them out.'];
        yield 'one alone' => [['of' => ['mill-A']], 'steps[1]: mill-A share no face across 1 mm or less; name pieces that lie against each other, or give a larger reach_mm.'];
        yield 'nothing' => [['diameter_mm' => 0], 'steps[1].diameter_mm'];
        yield 'many' => [['count' => 10_000], 'steps[1].count'];
    }

    /** @param  array<string, mixed>  $wishes */
    #[DataProvider('refused')]
    public function test_what_cannot_be_is_refused_in_one_sentence(array $wishes, string $says): void
    {
        try {
            self::ran(Solids::box(40, 40, 40), self::halved(20.0), ['do' => 'pegs', ...$wishes]);
            self::fail('taken');
        } catch (Refusal $refusal) {
            self::assertStringContainsString($says, $refusal->getMessage());
            self::assertDoesNotMatchRegularExpression('/[.!?] [A-Z]/', $refusal->getMessage());
        }
    }

    /** Whatever the body and the blade: closed, one body each, nothing crosses. */
    public function test_pegs_keep_every_body_whole(): void
    {
        $chance = new Chance(5);
        $placed = 0;
        foreach (['box', 'sphere', 'torus, one handle', 'cone of needle triangles', 'staircase, turned', 'frame with five handles', 'millstone', 'hollow ball with a ball in the cavity'] as $name) {
            $body = Bodies::named($name);
            $box = Box::of($body->xyz);
            for ($n = 0; $n < 3; $n++) {
                $facing = [$chance->uniform() - 0.5, $chance->uniform() - 0.5, $chance->uniform() - 0.5];
                $through = array_map(static fn (float $low, float $high): float => $low + ($high - $low) * (0.3 + 0.4 * $chance->uniform()), $box->min, $box->max);
                $size = $box->diagonal() / 50;
                $cut = ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => $through, 'facing' => $facing], 'kerf' => $n === 1 ? $size / 5 : 0.0];
                $wishes = ['style' => Style::cases()[$n]->value, 'shape' => Shape::cases()[($n + strlen($name)) % 4]->value, 'diameter_mm' => $size, 'length_mm' => $size, 'clearance_mm' => $size / 10, 'rim_mm' => max(0.2, $size / 5), 'wall_mm' => max(0.2, $size / 5), 'taper_mm' => $size / 10];
                try {
                    $runner = self::ran($body, $cut, ['do' => 'pegs', ...$wishes]);
                } catch (Refusal $refusal) {
                    self::assertMatchesRegularExpression('/no room for a peg|share no face/', $refusal->getMessage());

                    continue;
                }
                foreach (self::faces($runner) as $face) {
                    $placed += count($face['pegs']);
                }
                // The cut itself may leave faces that touch where it grazes an edge.
                $before = array_map(static fn (Piece $piece): int => count(Crossings::of($piece->mesh)->pairs), self::ran($body, $cut)->pieces());
                foreach ($runner->pieces() as $piece) {
                    self::assertTrue($piece->watertight, "$name, $piece->name");
                    self::assertCount($before[$piece->name] ?? 0, Crossings::of($piece->mesh)->pairs, "$name, $piece->name");
                }
            }
        }
        self::assertGreaterThan(50, $placed);
    }
}
