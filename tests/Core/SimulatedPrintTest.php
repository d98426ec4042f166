<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadBed;
use Isotome\Fit\BuildSpace;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Plate\Layers;
use Isotome\Plate\Overhang;
use Isotome\Plate\Profile;
use Isotome\Plate\SimulatedPrint;
use Isotome\Plate\ThinParts;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** What the simulated printer says of a plate: against its stated model by hand, and of bodies made so that it must refuse. */
final class SimulatedPrintTest extends TestCase
{
    private static function profile(float $nozzle = 0.4, float $layer = 0.2): Profile
    {
        return new Profile(new BuildSpace(196, 196, 200), 2.0, 2.0, $nozzle, $layer);
    }

    /** @return array{name: string, mesh: Mesh, map: list<float>} */
    private static function at(Mesh $mesh, float $x, float $y, string $name = 'part'): array
    {
        return ['name' => $name, 'mesh' => $mesh, 'map' => [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, $x, $y, 0.0]];
    }

    public function test_time_and_material_follow_the_model(): void
    {
        $print = SimulatedPrint::of([self::at(Solids::box(30, 20, 10), 10, 10)], self::profile(), false);
        self::assertSame([], $print->troubles);
        self::assertCount(50, $print->layers);
        // Common practice for the numbers; worked out by hand: two walls of 100 mm at 40 mm/s, 600 − 80 mm² filled.
        $whole = 200 / 40 + 520 / 0.4 / 80 + 1.5;
        $some = 200 / 40 + 0.15 * 520 / 0.4 / 80 + 1.5;
        self::assertEqualsWithDelta($whole, $print->layers[0]['seconds'], 1e-9);
        self::assertEqualsWithDelta($some, $print->layers[20]['seconds'], 1e-9);
        self::assertEqualsWithDelta(8 * $whole + 42 * $some, $print->seconds(), 1e-6);
        self::assertEqualsWithDelta(0.2 * (8 * 600 + 42 * (80 + 0.15 * 520)), $print->material(), 1e-6);
        self::assertEqualsWithDelta(1.24, SimulatedPrint::grams(1000), 1e-12);
    }

    public function test_layers_of_several_pieces_lie_at_the_same_heights_and_add_up(): void
    {
        $one = Solids::box(30, 20, 10);
        $other = Solids::cone(15, 40, 64);
        $print = SimulatedPrint::of([self::at($one, 10, 10, 'one'), self::at($other, 80, 80, 'other')], self::profile(), false);
        self::assertSame([], $print->troubles);
        self::assertCount(200, $print->layers);
        self::assertEqualsWithDelta(Volume::of($one) + Volume::of($other), 0.2 * array_sum(array_column($print->layers, 'area')), 1.0);
        self::assertSame([50, 200], array_column($print->pieces, 'layers'));
        self::assertCount(2, $print->outlines[10]);
        self::assertCount(1, $print->outlines[100]);
        self::assertEqualsWithDelta($print->seconds(), array_sum(array_column($print->pieces, 'seconds')) + 200 * SimulatedPrint::PAUSE, 1e-6);
    }

    public function test_what_begins_in_the_air_is_refused_with_the_place_unless_it_is_supported(): void
    {
        // A gallows whose hook comes down from the beam.
        $gallows = Solids::cells(6, 1, 6, static fn (int $x, int $y, int $z): bool => $x === 0 || $z === 5 || ($x === 5 && $z >= 3));
        $gallows = Mesh::of(array_map(static fn (float $c): float => 5 * $c, $gallows->xyz), $gallows->corners);
        $print = SimulatedPrint::of([self::at($gallows, 10, 10)], self::profile(), false);
        self::assertSame(['air'], array_unique(array_column($print->troubles, 'what')));
        [$x, $y, $z] = $print->troubles[0]['at'];
        self::assertEqualsWithDelta(5 * 3 + 0.1, $z, 1e-6);
        self::assertTrue($x > 10 + 25 && $x < 10 + 30 && $y > 10 && $y < 15);
        $held = SimulatedPrint::of([self::at($gallows, 10, 10)], self::profile(), true);
        self::assertSame([], $held->troubles);
        // Below the hook 15 mm, below the rest of the beam 25 mm, on 25 mm² and 100 mm².
        self::assertEqualsWithDelta(0.15 * (25 * 15 + 100 * 25), $held->pieces[0]['supports_mm3'], 60);
        self::assertGreaterThan($print->seconds(), $held->seconds());
    }

    public function test_what_is_thinner_than_the_nozzle_is_refused_and_tips_are_not(): void
    {
        $wall = SimulatedPrint::of([self::at(Solids::box(0.3, 20, 10), 10, 10)], self::profile(), false);
        self::assertSame(['thin'], array_column($wall->troubles, 'what'));
        self::assertEqualsWithDelta(20, $wall->troubles[0]['mm'], 0.1);
        $needle = SimulatedPrint::of([self::at(Solids::box(0.3, 0.3, 10), 10, 10)], self::profile(), false);
        self::assertSame(['thin'], array_column($needle->troubles, 'what'));
        self::assertEqualsWithDelta(4.1, $needle->troubles[0]['mm'], 0.11);
        self::assertSame([], SimulatedPrint::of([self::at(Solids::box(0.45, 20, 10), 10, 10)], self::profile(), false)->troubles);
        self::assertSame([], SimulatedPrint::of([self::at(Solids::cone(10, 30, 48), 30, 30)], self::profile(), false)->troubles);
        // The same wall, for a finer nozzle.
        self::assertSame([], SimulatedPrint::of([self::at(Solids::box(0.3, 20, 10), 10, 10)], self::profile(0.25), false)->troubles);
    }

    public function test_thin_parts_are_those_without_room_for_a_circle(): void
    {
        // A ring 0.5 mm wide, and one with lobes whose area alone would not tell.
        $ring = Solids::torus(20, 0.25, 96, 24);
        $layer = iterator_to_array(Layers::of($ring, 0.5)->each())[0];
        self::assertSame([], ThinParts::of($layer, 0.4));
        self::assertCount(1, ThinParts::of($layer, 0.6));
        // A comb: thin teeth on a broad back are one part, which has room.
        $comb = Solids::prism([[0, 0], [20, 0], [20, 10], [19.8, 10], [19.8, 3], [10.2, 3], [10.2, 10], [10, 10], [10, 3], [0, 3]], 5);
        self::assertSame([], ThinParts::of(iterator_to_array(Layers::of($comb, 1)->each())[1], 0.4));
    }

    public function test_what_is_beyond_too_near_or_open_is_refused(): void
    {
        $box = Solids::box(30, 20, 10);
        $print = SimulatedPrint::of([self::at($box, 180, 10, 'a'), self::at($box, 50, 50, 'b'), self::at($box, 70, 60, 'c'), self::at(Mesh::of($box->xyz, array_slice($box->corners, 3)), 100, 100, 'd')], self::profile(), false);
        self::assertSame(['beyond', 'near', 'open'], array_column($print->troubles, 'what'));
        self::assertSame([['a'], ['b', 'c'], ['d']], array_column($print->troubles, 'pieces'));
        self::assertEqualsWithDelta(12, $print->troubles[0]['mm'], 1e-9);
    }

    public function test_overhang_of_a_table_and_of_cones(): void
    {
        // A top of 40 by 40 by 4 mm on a leg of 10 by 10 by 20 mm.
        $table = Solids::cells(4, 4, 6, static fn (int $x, int $y, int $z): bool => $z === 5 || ($x === 0 && $y === 0));
        $table = Mesh::of(array_map(static fn (float $c, int $i): float => $i % 3 === 2 ? 4 * $c : 10 * $c, $table->xyz, array_keys($table->xyz)), $table->corners);
        $over = Overhang::of($table);
        self::assertEqualsWithDelta(1500, $over->area, 1e-9);
        self::assertEqualsWithDelta(1500 * 20, $over->volume, 300);
        // On its tip, a cone hangs over when it opens by more than the limit.
        foreach ([[8.0, 20.0, false], [20.0, 8.0, true]] as [$radius, $height, $hangs]) {
            $cone = Solids::cone($radius, $height, 96);
            $onTip = Mesh::of(array_map(static fn (float $c, int $i): float => $i % 3 === 0 ? $c : ($i % 3 === 1 ? -$c : $height - $c), $cone->xyz, array_keys($cone->xyz)), $cone->corners);
            $over = Overhang::of($onTip);
            self::assertEqualsWithDelta($hangs ? M_PI * $radius * hypot($radius, $height) : 0.0, $over->area, 3.0);
            // What is below a cone on its tip is two thirds of the cylinder around it.
            self::assertEqualsWithDelta($hangs ? 2 / 3 * M_PI * $radius ** 2 * $height : 0.0, $over->volume, 70);
        }
        self::assertSame(0.0, Overhang::of(Solids::box(10, 10, 10))->area);
    }

    public function test_a_printer_that_cannot_be_is_refused(): void
    {
        foreach ([[0.0, 0.2, 'nozzle'], [0.4, 0.5, 'layers'], [0.4, 0.0, 'layers'], [NAN, 0.2, 'nozzle'], [0.4, NAN, 'layers']] as [$nozzle, $layer, $word]) {
            try {
                self::profile($nozzle, $layer);
                self::fail();
            } catch (BadBed $refused) {
                self::assertStringContainsString($word, $refused->getMessage());
            }
        }
    }
}
