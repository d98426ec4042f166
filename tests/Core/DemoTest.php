<?php

declare(strict_types=1);

namespace Tests\Core;

use Demo\Cistern;
use Demo\Heron;
use Demo\ImplicitSurface;
use Demo\MillFigure;
use Demo\Millstone;
use Demo\ScannedCrock;
use Demo\Shape;
use Demo\SluiceBeam;
use Demo\WheelBracket;
use Demo\WheelSilhouette;
use Isotome\Check\FaceCheck;
use Isotome\Check\Report;
use Isotome\Check\Rims;
use Isotome\Geometry\Box;
use Isotome\Mend\Mend;
use Isotome\Mend\Thicken;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Volume;
use Isotome\Solid\Combined;
use PHPUnit\Framework\TestCase;

final class DemoTest extends TestCase
{
    public function test_the_heron_is_one_watertight_body_420_mm_tall_and_always_the_same(): void
    {
        $heron = Heron::mesh(6.0);
        self::assertTrue(EdgeCheck::of($heron)->isWatertight());
        self::assertCount(1, Bodies::of($heron));
        self::assertSame(0.0, Box::of($heron->xyz)->min[2]);
        self::assertEqualsWithDelta(420.0, Box::of($heron->xyz)->max[2], 1e-4);
        self::assertGreaterThan(0, Volume::of($heron));
        self::assertSame(Packing::hash($heron), Packing::hash(Heron::mesh(6.0)));
    }

    public function test_the_millstone_has_an_eye_and_hard_furrows(): void
    {
        $stone = Millstone::mesh();
        self::assertTrue(EdgeCheck::of($stone)->isWatertight());
        self::assertSame([0, 0], [FaceCheck::of($stone)->doubled, FaceCheck::of($stone)->slivers]);
        // One handle: V − E + F = 0.
        self::assertSame(0, $stone->vertexCount() - intdiv($stone->triangleCount(), 2));
        self::assertEqualsWithDelta([480.0, 480.0, 70.0], Box::of($stone->xyz)->size(), 0.1);
        $disc = M_PI * (240 ** 2 - 46 ** 2) * 70;
        self::assertLessThan($disc, Volume::of($stone));
        self::assertGreaterThan(0.97 * $disc, Volume::of($stone));
    }

    public function test_the_cistern_is_one_body_with_two_cavities(): void
    {
        $cistern = Cistern::mesh();
        $report = Report::of($cistern);
        self::assertTrue($report->isSound());
        self::assertSame([2, 3], [$report->notes()['cavities'], $report->shells->count]);
        self::assertCount(1, Bodies::of($cistern));
    }

    public function test_the_beam_is_too_long_in_one_direction_only(): void
    {
        self::assertTrue(Report::of(SluiceBeam::mesh())->isSound());
        self::assertEqualsWithDelta([640.0, 56.0, 84.0], Box::of(SluiceBeam::mesh()->xyz)->size(), 1e-4);
    }

    public function test_the_half_bracket_is_open_along_the_middle_by_at_most_0_4_mm(): void
    {
        $half = WheelBracket::mesh();
        $rims = Rims::of($half)->list;
        self::assertNotSame([], $rims);
        $most = 0.0;
        foreach ($rims as $rim) {
            self::assertTrue($rim['closed']);
            foreach ($rim['vertices'] as $v) {
                $most = max($most, abs($half->xyz[3 * $v]));
            }
        }
        self::assertGreaterThan(0.2, $most);
        self::assertLessThanOrEqual(0.4 + 1e-6, $most);
    }

    public function test_the_sign_is_a_sheet_with_a_hub_and_eight_windows(): void
    {
        $sign = WheelSilhouette::mesh();
        self::assertSame([10, 0], [count(Rims::of($sign)->list), EdgeCheck::of($sign)->nonmanifoldEdges]);
        self::assertSame(0.0, Box::of($sign->xyz)->size()[1]);
        self::assertTrue(EdgeCheck::of(Thicken::of($sign, 3.0))->isWatertight());
    }

    public function test_the_scan_has_every_fault_and_mends_to_watertight(): void
    {
        $counts = Report::of(ScannedCrock::mesh())->toArray()['faults'];
        foreach (['open_edges', 'nonmanifold_edges', 'flipped_edges', 'doubled_faces', 'crossing_faces', 'inner_faces'] as $fault) {
            self::assertGreaterThan(0, $counts[$fault], $fault);
        }
        self::assertTrue(Mend::of(ScannedCrock::mesh())->after->isWatertight());
    }

    /** The polygoniser against a ball: every vertex on it, volume and Euler's number right. */
    public function test_an_implicit_ball_becomes_a_ball(): void
    {
        $ball = new class implements Shape
        {
            public function distance(float $x, float $y, float $z): float
            {
                return sqrt($x * $x + $y * $y + $z * $z) - 20.0;
            }

            public function box(): array
            {
                return [[-25.0, -25.0, -25.0], [25.0, 25.0, 25.0]];
            }
        };
        $mesh = ImplicitSurface::of($ball, 2.0);
        self::assertTrue(EdgeCheck::of($mesh)->isWatertight());
        self::assertSame(2, $mesh->vertexCount() - intdiv($mesh->triangleCount(), 2));
        self::assertEqualsWithDelta(4 * M_PI * 8000 / 3, Volume::of($mesh), 0.01 * Volume::of($mesh));
        foreach (array_chunk($mesh->xyz, 3) as [$x, $y, $z]) {
            self::assertEqualsWithDelta(20.0, sqrt($x * $x + $y * $y + $z * $z), 0.02);
        }
    }

    public function test_the_mill_figure_is_of_twelve_parts_that_overlap_and_one_of_them_is_open(): void
    {
        $parts = MillFigure::parts();
        $open = array_keys(array_filter($parts, static fn (Mesh $part): bool => ! EdgeCheck::of($part)->isWatertight()));
        self::assertSame([12, ['sack']], [count($parts), $open]);
        foreach ($parts as $name => $part) {
            self::assertSame([1, 0], [Bodies::shellCount($part), FaceCheck::of($part)->slivers], $name);
        }
        $parts['sack'] = Mend::of($parts['sack'])->mesh;
        $together = array_sum(array_map(Volume::of(...), $parts));
        $united = Combined::unite(array_values($parts));
        self::assertSame([1, range(0, 11)], [count($united), $united[0][1]]);
        self::assertTrue(Report::of($united[0][0])->isSound());
        self::assertLessThan(0.95 * $together, Volume::of($united[0][0]));
        self::assertEqualsWithDelta(190.0, Box::of($united[0][0]->xyz)->size()[2], 1e-4);
    }
}
