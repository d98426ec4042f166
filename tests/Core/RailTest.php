<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Fit\BuildSpace;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Measure\EitherSide;
use Isotome\Measure\GoodPlaces;
use Isotome\Measure\NarrowestWidth;
use Isotome\Measure\Simplified;
use Isotome\Mesh\Blocks;
use Isotome\Mesh\FlatRegion;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Blades;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** What is told before a cut: either side, good places, the printer, simpler outlines, flat regions. */
final class RailTest extends TestCase
{
    /** @return iterable<string, array{string}> */
    public static function bodies(): iterable
    {
        foreach (Bodies::names() as $name) {
            yield $name => [$name];
        }
    }

    /** All blocks, or only those that the plane may touch with the others as sums: the volume and box that a cut gives. */
    #[DataProvider('bodies')]
    public function test_either_side_is_what_a_cut_gives(string $name): void
    {
        $mesh = Bodies::named($name);
        $whole = Box::of($mesh->xyz);
        $size = max($whole->size());
        $centre = [($whole->min[0] + $whole->max[0]) / 2, ($whole->min[1] + $whole->max[1]) / 2, ($whole->min[2] + $whole->max[2]) / 2];
        $volume = abs(Volume::of($mesh));
        $blocks = Blocks::of($mesh);
        $blades = new Blades($mesh, 77);
        foreach ([$blades->anywhere(), $blades->anywhere(), $blades->unlucky(), $blades->unlucky()] as $plane) {
            $sides = new EitherSide($plane, $centre);
            $touched = [];
            $sums = [[0.0, 0.0, 0.0, 0.0], [0.0, 0.0, 0.0, 0.0]];
            foreach ($blocks as ['box' => $box, 'sums' => $sum, 'payload' => $payload]) {
                $d = $plane->nx * ($box[0] + $box[1]) / 2 + $plane->ny * ($box[2] + $box[3]) / 2 + $plane->nz * ($box[4] + $box[5]) / 2 - $plane->offset;
                $reach = abs($plane->nx) * ($box[1] - $box[0]) / 2 + abs($plane->ny) * ($box[3] - $box[2]) / 2 + abs($plane->nz) * ($box[5] - $box[4]) / 2;
                if (abs($d) <= $reach + 1e-9 * $size) {
                    $touched[] = $payload;
                } else {
                    $sides->whole($d > 0, $sum, $box);
                }
            }
            $sides->touched($touched);
            $found = $sides->sides();
            foreach (['behind' => Keep::Behind, 'ahead' => Keep::Ahead] as $side => $keep) {
                $bodies = FlatCut::of($mesh, new FlatBlade($plane, $keep), 1)?->bodies;
                if ($bodies === null) {
                    continue;
                }
                self::assertNotNull($found[$side]);
                self::assertEqualsWithDelta(array_sum(array_map(Volume::of(...), $bodies)), $found[$side]['volume'], 1e-9 * ($volume + $size ** 3), $side);
                foreach ([0, 1, 2] as $k) {
                    self::assertEqualsWithDelta(min(array_map(static fn ($body): float => Box::of($body->xyz)->min[$k], $bodies)), $found[$side]['min'][$k], 1e-9 * ($size + abs($centre[$k])));
                    self::assertEqualsWithDelta(max(array_map(static fn ($body): float => Box::of($body->xyz)->max[$k], $bodies)), $found[$side]['max'][$k], 1e-9 * ($size + abs($centre[$k])));
                }
            }
        }
    }

    public function test_good_places_are_waists_that_stand_out(): void
    {
        $x = range(0.0, 20.0);
        $flat = array_fill(0, 21, 50.0);
        self::assertSame([], GoodPlaces::of($x, $flat));
        $one = array_map(static fn (float $at): float => 100 - 40 * exp(-(($at - 8) ** 2) / 6), $x);
        self::assertSame([8.0], GoodPlaces::of($x, $one));
        // A dent of two percent is none; the middle of a flat valley counts once.
        $two = array_map(static fn (float $at): float => $at >= 5 && $at <= 9 ? 40.0 : ($at === 15.0 ? 98.0 : 100.0), $x);
        self::assertSame([7.0], GoodPlaces::of($x, $two));
        // Ends are no places for a cut, and where there is nothing there is none.
        self::assertSame([], GoodPlaces::of($x, array_map(static fn (float $at): float => 10 + $at, $x)));
        self::assertSame([], GoodPlaces::of([0.0, 1.0, 2.0], [5.0, 0.0, 5.0]));
    }

    public function test_a_box_fits_as_it_stands_turned_laid_down_or_not(): void
    {
        $bed = new BuildSpace(200, 200, 200);
        self::assertSame(['fits' => true, 'how' => 'stands', 'over_mm' => 0.0], $bed->holds([200.0, 200.0, 200.0]));
        // The diagonal of the bed is 282.8 mm: 250 × 20 goes in turned by 45° or so, 250 × 60 does not.
        self::assertSame('turned', $bed->holds([250.0, 20.0, 100.0])['how']);
        self::assertSame(['fits' => false, 'how' => 'too large', 'over_mm' => 50.0], $bed->holds([250.0, 60.0, 100.0]));
        self::assertSame('laid down', (new BuildSpace(300, 100, 50))->holds([40.0, 90.0, 290.0])['how']);
        self::assertSame('too large', $bed->holds([210.0, 210.0, 10.0])['how']);
        self::assertFalse($bed->holds([290.0, 1.0, 1.0])['fits']);
        // J. E. Wetzel, "Rectangles in Rectangles" (2000): p × q goes into a × b aslant iff b ≥ (2pqa + (p² − q²)√(p² + q² − a²)) / (p² + q²).
        // A square of 200 takes a rectangle of 240 mm up to the width w with 200√2 = 240 + w, turned by exactly 45°.
        $w = 200 * sqrt(2) - 240;
        self::assertTrue($bed->holds([240.0, $w - 1e-9, 100.0])['fits']);
        self::assertFalse($bed->holds([240.0, $w + 1e-6, 100.0])['fits']);
    }

    public function test_simpler_outlines_stay_within_the_tolerance_and_keep_corners_and_widths(): void
    {
        $circle = [];
        for ($n = 0; $n < 5000; $n++) {
            $circle[] = [80 * cos(2 * M_PI * $n / 5000), 80 * sin(2 * M_PI * $n / 5000)];
        }
        $simple = Simplified::of($circle, 0.02, true);
        self::assertLessThan(300, count($simple));
        self::assertGreaterThan(60, count($simple));
        foreach ($circle as $n => [$x, $y]) {
            $best = INF;
            foreach ($simple as $k => [$ax, $ay]) {
                [$bx, $by] = $simple[($k + 1) % count($simple)];
                $t = max(0.0, min(1.0, (($x - $ax) * ($bx - $ax) + ($y - $ay) * ($by - $ay)) / (($bx - $ax) ** 2 + ($by - $ay) ** 2)));
                $best = min($best, hypot($x - $ax - $t * ($bx - $ax), $y - $ay - $t * ($by - $ay)));
            }
            if ($n % 50 === 0) {
                self::assertLessThanOrEqual(0.02 + 1e-9, $best);
            }
        }
        self::assertEqualsWithDelta(160.0, NarrowestWidth::of([$simple]), 0.1);
        $square = [[0.0, 0.0], [5.0, 0.0], [10.0, 0.0], [10.0, 10.0], [0.0, 10.0]];
        self::assertSame([[0.0, 0.0], [10.0, 0.0], [10.0, 10.0], [0.0, 10.0]], Simplified::of($square, 1e-6, true));
        self::assertSame([[0.0, 0.0], [10.0, 0.0], [10.0, 5.0]], Simplified::of([[0.0, 0.0], [4.0, 0.0], [10.0, 0.0], [10.0, 5.0]], 1e-6, false));
        self::assertSame([[[1.0, 2.0]]], Simplified::all([[[1.0, 2.0]]], 0.1));
        self::assertSame([], Simplified::all([], 0.1));
    }

    public function test_a_flat_region_is_the_side_of_a_box_and_does_not_creep_around_a_ball(): void
    {
        $box = Solids::box(10, 20, 30);
        foreach (range(0, 11) as $face) {
            $region = FlatRegion::of($box, $face);
            self::assertCount(2, $region);
            self::assertContains($face, $region);
        }
        self::assertEqualsWithDelta(1.0, array_sum(array_map(abs(...), FlatRegion::normal($box, 0))), 1e-12);
        $ball = Solids::sphere(10, 4);
        $count = count(FlatRegion::of($ball, 0, 10.0));
        self::assertGreaterThan(1, $count);
        // A cap of 10° has (1 − cos 10°) / 2 of a ball's surface.
        self::assertLessThan(2 * 0.0076 * $ball->triangleCount(), $count);
    }
}
