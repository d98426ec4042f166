<?php

declare(strict_types=1);

namespace Tests\Core;

use Demo\Heron;
use Isotome\Cells\CellsBlade;
use Isotome\Cells\Chop;
use Isotome\Cells\Forecast;
use Isotome\Cells\PartingLines;
use Isotome\Cells\Shatter;
use Isotome\Cells\ShatterSettings;
use Isotome\Cells\StandIn;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Palette;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** What is foreseen of cells is what comes: exactly of a small body, nearly of a large one. */
final class ForecastTest extends TestCase
{
    public function test_a_small_body_is_foreseen_exactly(): void
    {
        foreach (['torus, one handle', 'staircase', 'frame with five handles'] as $name) {
            $mesh = Bodies::named($name);
            foreach ([0.0, 0.03] as $smallest) {
                $blade = new CellsBlade('uniform', 30, 4);
                $forecast = Forecast::of(StandIn::of($mesh), $blade->complex($mesh), $smallest);
                self::assertTrue($forecast->isExact);
                $volumes = array_map(static fn (Mesh $body): float => Volume::of($body), Shatter::of($mesh, $blade, new ShatterSettings(smallest: $smallest, apart: $smallest > 0.0), 1)->bodies ?? []);
                rsort($volumes);
                if ($smallest === 0.0) {
                    self::assertEqualsWithDelta($volumes, $forecast->volumes, 1e-9 * Volume::of($mesh), $name);
                }
                self::assertEqualsWithDelta(array_sum($volumes), array_sum($forecast->volumes), 1e-9 * Volume::of($mesh), $name);
            }
        }
    }

    public function test_a_large_body_is_foreseen_nearly_from_far_fewer_triangles(): void
    {
        $mesh = Heron::mesh(4.0);
        $standIn = StandIn::of($mesh);
        self::assertFalse($standIn->isItself);
        self::assertLessThan(0.5 * $mesh->triangleCount(), $standIn->mesh->triangleCount());
        $blade = new CellsBlade('even', 30, 4);
        $forecast = Forecast::of($standIn, $blade->within($standIn));
        $volumes = array_map(static fn (Mesh $body): float => Volume::of($body), Shatter::of($mesh, $blade, new ShatterSettings(apart: false), 1)->bodies ?? []);
        rsort($volumes);
        self::assertEqualsWithDelta(count($volumes), count($forecast->volumes), 2);
        self::assertEqualsWithDelta(array_sum($volumes), array_sum($forecast->volumes), 1e-6 * array_sum($volumes));
        self::assertEqualsWithDelta($volumes[0], $forecast->volumes[0], 0.1 * $volumes[0]);
    }

    public function test_pieces_tell_where_they_part(): void
    {
        $length = static function (array $lines): float {
            $sum = 0.0;
            foreach (array_chunk($lines, 6) as [$a, $b, $c, $d, $e, $f]) {
                $sum += sqrt(($d - $a) ** 2 + ($e - $b) ** 2 + ($f - $c) ** 2);
            }

            return $sum;
        };
        $box = Solids::box(30, 20, 10);
        // Walls across and along: their perimeters on the skin, and the edges in which they meet, each once.
        foreach ([[[3, 1, 1], 2 * 60.0, 0.0], [[2, 2, 1], 60.0 + 80.0, 10.0], [[2, 2, 2], 60.0 + 80.0 + 100.0, 10.0 + 20.0 + 30.0]] as [$blocks, $onSkin, $within]) {
            [$skin, $inner] = PartingLines::of(Shatter::of($box, new CellsBlade('blocks', blocks: $blocks), new ShatterSettings, 7)->bodies ?? [], 7);
            self::assertEqualsWithDelta($onSkin, $length($skin), 1e-9);
            self::assertEqualsWithDelta($within, $length($inner), 1e-9);
        }
        // And as outlines foresee them without making any piece.
        foreach (['torus, one handle', 'frame with five handles'] as $name) {
            $mesh = Bodies::named($name);
            $blade = new CellsBlade('uniform', 9, 2);
            $made = Forecast::ofPieces(Shatter::of($mesh, $blade, new ShatterSettings, 7)->bodies ?? [], 7, true);
            $foreseen = Forecast::of(StandIn::of($mesh), $blade->complex($mesh));
            self::assertEqualsWithDelta($length($foreseen->skin), $length($made->skin), 1e-6);
            self::assertEqualsWithDelta($length($foreseen->inner), $length($made->inner), 1e-6);
            self::assertEqualsWithDelta(Volume::of($mesh), array_sum($made->volumes), 1e-6);
        }
        // With a kerf either side has lines of its own.
        $pieces = Shatter::of($box, new CellsBlade('blocks', blocks: [2, 1, 1]), new ShatterSettings(kerf: 1.0), 7)->bodies ?? [];
        self::assertEqualsWithDelta(2 * 60.0, $length(PartingLines::of($pieces, 7)[0]), 1e-9);
    }

    public function test_a_chop_is_foreseen_from_what_stands_in(): void
    {
        $mesh = Heron::mesh(4.0);
        $standIn = StandIn::of($mesh);
        $along = [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]];
        $made = Chop::of($mesh, 3, $along, 0.1, 10.0, 5, new ShatterSettings, 7)->bodies ?? [];
        $foreseen = Forecast::ofPieces(Chop::of($standIn->mesh, 3, $along, 0.1, 10.0, 5, new ShatterSettings, 7)->bodies ?? [], 7, false);
        self::assertEqualsWithDelta(count($made), count($foreseen->volumes), 0.4 * count($made));
        self::assertEqualsWithDelta(max(array_map(Volume::of(...), $made)), $foreseen->volumes[0], 0.2 * $foreseen->volumes[0]);
        self::assertNotSame([], $foreseen->skin);
    }

    public function test_every_colour_is_told_from_every_other(): void
    {
        $colours = array_map(Palette::colour(...), range(0, 19_999));
        self::assertCount(20_000, array_unique($colours));
        self::assertSame(Palette::colour(7), $colours[7]);
    }
}
