<?php

declare(strict_types=1);

namespace Tests\Core;

use Demo\Heron;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Exception\BadBed;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Turn;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Kind\FlatStep;
use Isotome\Operation\Names;
use Isotome\Operation\PlannedCuts;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Isotome\Plan\Alternative;
use Isotome\Plan\Cut;
use Isotome\Plan\FewestPieces;
use Isotome\Plan\Plans;
use Isotome\Plan\Wishes;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\SlicedByBed;
use Tests\Support\Solids;

/** Plans against closed forms and against slicing by hand, and what they promise: every piece fits. */
final class PlanTest extends TestCase
{
    /**
     * Runs an alternative's recipe and measures every piece in the turn that is told.
     *
     * @param  array{float, float, float}  $bed
     * @return list<Mesh> the pieces
     */
    private static function carriedOut(Mesh $mesh, Alternative $alternative, array $bed, float $gap = 0.0): array
    {
        $runner = Runner::on('body', $mesh);
        $steps = PlannedCuts::steps($alternative, 'body', $gap);
        foreach ($steps === [] ? [] : Recipe::fromArray(['isotome_recipe' => 1, 'units' => 'mm', 'steps' => $steps])->steps as $step) {
            $runner->run($step);
        }
        $pieces = [];
        foreach ($runner->pieces() as $piece) {
            $pieces[$piece->name] = $piece->mesh;
        }
        $told = PlannedCuts::pieces($alternative, 'body');
        self::assertEqualsCanonicalizing(array_column($told, 'name'), array_keys($pieces));
        foreach ($told as $one) {
            $piece = $pieces[$one['name']];
            self::assertTrue(EdgeCheck::of($piece)->isWatertight());
            self::assertEqualsWithDelta($one['volume_mm3'], Volume::of($piece), 1e-6 * $one['volume_mm3']);
            $turned = Turn::about($one['turn']['axis'], $one['turn']['degrees'])->of($piece->xyz);
            foreach ($bed as $k => $side) {
                $along = array_column(array_chunk($turned, 3), $k);
                self::assertLessThanOrEqual($side + 1e-6, max($along) - min($along), $one['name']);
            }
        }

        return array_values($pieces);
    }

    /** @return array<string, array{array{float, float, float}, array{float, float, float}, int}> box, bed, pieces */
    public static function boxes(): array
    {
        return [
            'a cube twice as wide' => [[400.0, 400.0, 400.0], [200.0, 200.0, 200.0], 8],
            'exactly as large as the bed' => [[200.0, 150.0, 100.0], [100.0, 200.0, 150.0], 1],
            'a hair larger' => [[200.001, 200.0, 200.0], [200.0, 200.0, 200.0], 2],
            'a beam' => [[590.0, 190.0, 190.0], [200.0, 200.0, 200.0], 3],
            // Turned so that they run from corner to corner, √3 · 200 = 346 mm.
            'a rod that fits along the diagonal' => [[330.0, 2.0, 2.0], [200.0, 200.0, 200.0], 1],
            'a rod that does not' => [[347.0, 2.0, 2.0], [200.0, 200.0, 200.0], 2],
            'a rod of two diagonals' => [[660.0, 2.0, 2.0], [200.0, 200.0, 200.0], 2],
            'a plate' => [[390.0, 290.0, 3.0], [200.0, 200.0, 10.0], 4],
        ];
    }

    /**
     * @param  array{float, float, float}  $size
     * @param  array{float, float, float}  $bed
     */
    #[DataProvider('boxes')]
    public function test_a_box_becomes_as_few_pieces_as_can_be(array $size, array $bed, int $pieces): void
    {
        $box = Solids::box(...$size);
        $plans = Plans::of($box, Wishes::of($bed, alternatives: 3));
        self::assertSame($pieces, count($plans->alternatives[0]->pieces));
        self::assertLessThanOrEqual($pieces, $plans->least);
        self::assertGreaterThanOrEqual($pieces > 1 ? 2 : 1, $plans->least);
        foreach ($plans->alternatives as $alternative) {
            $made = self::carriedOut($box, $alternative, $bed);
            self::assertEqualsWithDelta($size[0] * $size[1] * $size[2], array_sum(array_map(Volume::of(...), $made)), 1e-6 * $size[0] * $size[1] * $size[2]);
        }
    }

    public function test_no_plan_has_more_pieces_than_slices_by_the_bed_or_fewer_than_the_bound(): void
    {
        // bench/fuzz-plan.php does the same for as many as one likes.
        for ($n = 0; $n < 12; $n++) {
            $chance = new Chance(7000 + $n);
            $mesh = SlicedByBed::body($chance);
            $bed = [90 + 160 * $chance->uniform(), 90 + 160 * $chance->uniform(), 90 + 160 * $chance->uniform()];
            $plans = Plans::of($mesh, Wishes::of($bed, alternatives: 2));
            $counts = array_map(static fn (Alternative $of): int => count($of->pieces), $plans->alternatives);
            self::assertLessThanOrEqual(SlicedByBed::fewest($mesh, $bed), min($counts), "$n");
            self::assertGreaterThanOrEqual($plans->least, min($counts), "$n");
            self::carriedOut($mesh, $plans->alternatives[0], $bed);
        }
    }

    public function test_the_bound_is_what_volume_and_far_places_prove(): void
    {
        $wishes = Wishes::of([200.0, 200.0, 200.0]);
        self::assertSame(8, FewestPieces::of(Solids::box(400, 400, 400), $wishes));
        self::assertSame(125, FewestPieces::of(Solids::box(1000, 1000, 1000), $wishes));
        // Rods crossing in the middle: six ends, neighbours 300 √2 = 424 mm apart, more than the 346 mm from corner to corner.
        $cross = Solids::moved(Solids::cells(61, 61, 61, static fn (int $x, int $y, int $z): bool => ($x === 30) + ($y === 30) + ($z === 30) >= 2), 0.0, 0.0, 0.0, 10.0);
        self::assertSame(6, FewestPieces::of($cross, $wishes));
        // Two bodies are two pieces at least, whatever their size, when they do not go in together.
        self::assertSame(2, FewestPieces::of(Solids::together(Solids::box(10, 10, 10), Solids::box(10, 10, 10, [500.0, 0.0, 0.0])), $wishes));
        self::assertSame(1, FewestPieces::of(Solids::together(Solids::box(10, 10, 10), Solids::box(10, 10, 10, [100.0, 0.0, 0.0])), $wishes));
    }

    public function test_a_gap_never_makes_the_bound_too_high(): void
    {
        // Three cuts of 4 mm take the 12 mm by which the box is longer than four slices.
        $box = Solids::box(812, 200, 200);
        $plans = Plans::of($box, Wishes::of([200.0, 200.0, 200.0], gap: 4.0, alternatives: 1));
        self::assertLessThanOrEqual(4, $plans->least);
        self::carriedOut($box, $plans->alternatives[0], [200.0, 200.0, 200.0], 4.0);
        // A rod so thin that one cut along it takes its end off altogether: only two pieces can be proved.
        self::assertSame(2, FewestPieces::of(Solids::box(1000, 0.2, 0.2), Wishes::of([200.0, 200.0, 200.0], gap: 0.3)));
        self::assertSame(3, FewestPieces::of(Solids::box(1000, 20, 20), Wishes::of([200.0, 200.0, 200.0], gap: 0.3)));
    }

    public function test_places_that_must_stay_whole_are_not_cut(): void
    {
        $heron = Heron::mesh(8.0);
        // The middle of the body, and the head.
        $whole = [[0.0, 0.0, 225.0, 30.0], [110.0, 0.0, 390.0, 25.0]];
        $plans = Plans::of($heron, Wishes::of([200.0, 200.0, 200.0], alternatives: 3, whole: $whole));
        foreach ($plans->alternatives as $alternative) {
            self::assertNotSame([], $alternative->cuts);
            foreach ($alternative->cuts as $made) {
                foreach ($whole as [$x, $y, $z, $radius]) {
                    [$fx, $fy, $fz] = $made->cut->facing;
                    self::assertGreaterThanOrEqual($radius, abs($fx * $x + $fy * $y + $fz * $z - $made->cut->offset));
                }
            }
            self::carriedOut($heron, $alternative, [200.0, 200.0, 200.0]);
        }
        $this->expectException(BadBed::class);
        $this->expectExceptionMessage('a place that must stay whole; mark smaller places');
        Plans::of(Solids::box(300, 300, 300), Wishes::of([200.0, 200.0, 200.0], whole: [[150.0, 150.0, 150.0, 300.0]]));
    }

    public function test_alternatives_differ_and_the_cheapest_comes_first(): void
    {
        $heron = Heron::mesh(8.0);
        $plans = Plans::of($heron, Wishes::of([150.0, 150.0, 150.0], margin: 5.0, gap: 0.3));
        self::assertGreaterThanOrEqual(3, count($plans->alternatives));
        foreach ($plans->alternatives as $n => $alternative) {
            self::assertEqualsWithDelta($alternative->cost(), array_sum($alternative->terms->toArray()), 1e-12);
            self::assertSame((float) count($alternative->pieces), $alternative->terms->pieces);
            self::assertGreaterThanOrEqual($plans->least, count($alternative->pieces));
            self::carriedOut($heron, $alternative, [140.0, 140.0, 150.0], 0.3);
            foreach (array_slice($plans->alternatives, 0, $n) as $other) {
                self::assertLessThanOrEqual($alternative->cost(), $other->cost());
                self::assertFalse($alternative->isLike($other, 560.0));
            }
        }
        self::assertEquals($plans, Plans::of($heron, Wishes::of([150.0, 150.0, 150.0], margin: 5.0, gap: 0.3)), 'the same every time');
    }

    public function test_a_symmetric_body_may_be_cut_in_its_plane_of_symmetry(): void
    {
        // A plate with two arms, the same on either side of x = 150.
        $body = Solids::moved(Solids::cells(30, 8, 8, static fn (int $x, int $y, int $z): bool => $z < 2 || ($y < 2 && abs($x - 14.5) > 9)), 0.0, 0.0, 0.0, 10.0);
        $plans = Plans::of($body, Wishes::of([200.0, 100.0, 100.0], alternatives: 4));
        $symmetric = array_filter($plans->alternatives, static fn (Alternative $of): bool => $of->terms->symmetry < 0.0);
        self::assertNotSame([], $symmetric);
        $cut = $symmetric[array_key_first($symmetric)]->cuts[0]->cut;
        self::assertEqualsWithDelta(150.0, abs($cut->offset), 1.0);
        self::assertSame([0.0, 0.0], [$cut->facing[1], $cut->facing[2]]);
    }

    public function test_cuts_that_are_set_by_hand_are_made_exactly_and_what_misses_is_told(): void
    {
        $beam = Solids::box(580, 190, 190);
        $wishes = Wishes::of([200.0, 200.0, 200.0], alternatives: 1);
        $plan = Plans::of($beam, $wishes)->alternatives[0];
        self::assertSame([0.0, 0.0, 0.0], array_column($plan->pieces, 'over'));
        $as = static fn (float ...$places): array => [[[], Cut::at([$places[0], 0.0, 0.0], [2.0, 0.0, 0.0])], [[1], Cut::at([$places[1], 0.0, 0.0], [1.0, 0.0, 0.0])]];
        $revised = Plans::revised($beam, $wishes, $as(195.0, 390.0));
        self::assertSame([[195.0, 390.0], [0.0, 0.0, 0.0]], [array_map(static fn ($made): float => $made->cut->offset, $revised->cuts), array_column($revised->pieces, 'over')]);
        self::carriedOut($beam, $revised, [200.0, 200.0, 200.0]);
        // The first piece is 230 mm long then: 30 mm too long, because it is too thick to be tilted.
        $revised = Plans::revised($beam, $wishes, $as(230.0, 390.0));
        $over = array_column($revised->pieces, 'over');
        self::assertGreaterThan(5.0, $over[0]);
        self::assertLessThanOrEqual(30.0, $over[0]);
        self::assertSame([0.0, 0.0], [$over[1], $over[2]]);
        // One cut more where it is needed, the others as they were set.
        $further = Plans::revised($beam, $wishes, $as(230.0, 390.0), true);
        self::assertSame([0.0, 0.0, 0.0, 0.0], array_column($further->pieces, 'over'));
        $offsets = array_map(static fn ($made): float => $made->cut->offset, $further->cuts);
        self::assertCount(3, $offsets);
        self::assertEmpty(array_diff([230.0, 390.0], $offsets));
        self::carriedOut($beam, $further, [200.0, 200.0, 200.0]);
        foreach ([
            ['Cut 2 of the plan misses its piece there; move it back.', $as(230.0, 100.0)],
            ['One of the cuts goes through a piece that is not there any more after the others were moved; move them back, or look for cuts again.', [[[4], Cut::at([100.0, 0.0, 0.0], [1.0, 0.0, 0.0])]]],
        ] as [$sentence, $cuts]) {
            try {
                Plans::revised($beam, $wishes, $cuts);
                self::fail($sentence);
            } catch (BadBed $refused) {
                self::assertSame($sentence, $refused->getMessage());
            }
        }
    }

    public function test_a_name_leads_to_the_same_piece_as_its_path(): void
    {
        self::assertSame([[], [0], [1, 25, 26], [701, 702]], [PlannedCuts::path('jar', 'jar'), PlannedCuts::path('jar', 'jar-A'), PlannedCuts::path('jar', 'jar-B-Z-AA'), PlannedCuts::path('jar', 'jar-ZZ-AAA')]);
        foreach ([[3, 0], [26], [51, 52], [701, 702]] as $path) {
            self::assertSame($path, PlannedCuts::path('jar', array_reduce($path, Names::child(...), 'jar')));
        }
        foreach (['jug-A', 'jar-', 'jar-a', 'jar-A-', 'jar A', 'jar-AAAA', 'jarA'] as $other) {
            self::assertNull(PlannedCuts::path('jar', $other));
        }
    }

    public function test_a_cut_and_its_recipe_are_the_same_plane(): void
    {
        $chance = new Chance(3);
        $mesh = Solids::sphere(50, 3);
        for ($n = 0; $n < 20; $n++) {
            $cut = new Cut($chance->direction(), 30 * $chance->uniform());
            $blade = Recipe::fromArray(['isotome_recipe' => 1, 'units' => 'mm', 'steps' => [['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => $cut->through(), 'facing' => $cut->facing]]]])->steps[0];
            self::assertInstanceOf(FlatStep::class, $blade);
            self::assertEquals(FlatCut::of($mesh, new FlatBlade($cut->plane()), 1), FlatCut::of($mesh, $blade->blade(), 1));
        }
    }

    public function test_what_cannot_be_planned_is_refused_in_one_sentence(): void
    {
        foreach ([
            ["The bed's depth is 0 mm; give one from 1 mm to 100 m.", [200.0, 0.0, 200.0], 0.0, 0.0, 4],
            ["The bed's height is no number; give one from 1 mm to 100 m.", [200.0, 200.0, NAN], 0.0, 0.0, 4],
            ['A margin of 100 mm leaves nothing of the bed; give less than half its width.', [200.0, 300.0, 200.0], 100.0, 0.0, 4],
            ['The margin is -1 mm; give 0 mm or more.', [200.0, 200.0, 200.0], -1.0, 0.0, 4],
            ['The gap is 60 mm; give one from 0 mm to a quarter of the bed, 50 mm.', [200.0, 200.0, 200.0], 0.0, 60.0, 4],
            ['9 alternatives cannot be made; ask for 1 to 8.', [200.0, 200.0, 200.0], 0.0, 0.0, 9],
        ] as [$sentence, $bed, $margin, $gap, $alternatives]) {
            try {
                Wishes::of($bed, $margin, $gap, $alternatives);
                self::fail($sentence);
            } catch (BadBed $refused) {
                self::assertSame($sentence, $refused->getMessage());
            }
        }
        // A triangle and its other side, as files of other programs have it, and a box inside out.
        $flat = Mesh::of([0.0, 0.0, 0.0, 300.0, 0.0, 0.0, 0.0, 300.0, 0.0], [0, 1, 2, 0, 2, 1]);
        foreach ([$flat, Solids::insideOut(Solids::box(300, 300, 300))] as $nothing) {
            try {
                Plans::of($nothing, Wishes::of([200.0, 200.0, 200.0]));
                self::fail('It encloses nothing.');
            } catch (BadBed $refused) {
                self::assertSame('The body encloses nothing: it is flat, or turned inside out; mend it first, or give it a thickness.', $refused->getMessage());
            }
        }
        $this->expectExceptionMessage('The body must become at least 1000 pieces, and plans have at most 500; choose a larger printer, or cut it into parts first.');
        Plans::of(Solids::box(1000, 1000, 1000), Wishes::of([100.0, 100.0, 100.0]));
    }
}
