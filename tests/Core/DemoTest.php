<?php

declare(strict_types=1);

namespace Tests\Core;

use Demo\Heron;
use Demo\ImplicitSurface;
use Demo\Millstone;
use Demo\Shape;
use Isotome\Check\EdgeCheck;
use Isotome\Check\FaceCheck;
use Isotome\Measure\Box;
use Isotome\Measure\Volume;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Packing;
use PHPUnit\Framework\TestCase;

final class DemoTest extends TestCase
{
    public function test_the_heron_is_one_watertight_body_420_mm_tall_and_always_the_same(): void
    {
        $heron = Heron::mesh(6.0);
        self::assertTrue(EdgeCheck::of($heron)->isWatertight());
        self::assertCount(1, Bodies::of($heron));
        self::assertSame(0.0, Box::of($heron)->min[2]);
        self::assertEqualsWithDelta(420.0, Box::of($heron)->max[2], 1e-4);
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
        self::assertEqualsWithDelta([480.0, 480.0, 70.0], Box::of($stone)->size(), 0.1);
        $disc = M_PI * (240 ** 2 - 46 ** 2) * 70;
        self::assertLessThan($disc, Volume::of($stone));
        self::assertGreaterThan(0.97 * $disc, Volume::of($stone));
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
}
