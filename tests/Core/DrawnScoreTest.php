<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Crossings;
use Isotome\Drawn\DrawnBlade;
use Isotome\Drawn\DrawnScore;
use Isotome\Drawn\Shape;
use Isotome\Drawn\Sight;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** Drawn lines that are laid into the skin only. */
final class DrawnScoreTest extends TestCase
{
    /** Length of the edges that lie on the plane z = height with y on one side, mm. */
    private static function along(Mesh $mesh, float $height, bool $front): float
    {
        $length = 0.0;
        $seen = [];
        foreach ($mesh->corners as $i => $p) {
            $q = $mesh->corners[$i % 3 === 2 ? $i - 2 : $i + 1];
            if (isset($seen["$q $p"])) {
                continue;
            }
            $seen["$p $q"] = true;
            [$a, $b] = [array_slice($mesh->xyz, 3 * $p, 3), array_slice($mesh->xyz, 3 * $q, 3)];
            if (abs($a[2] - $height) < 1e-9 && abs($b[2] - $height) < 1e-9 && ($a[1] + $b[1] < 0.0) === $front) {
                $length += hypot(hypot($a[0] - $b[0], $a[1] - $b[1]), $a[2] - $b[2]);
            }
        }

        return $length;
    }

    public function test_only_what_is_seen_or_all_round(): void
    {
        $box = Solids::box(40, 20, 30, [-20, -10, 0]);
        $line = new DrawnBlade(Shape::Stroke, [[[-60, 0, 12], [60, 0, 12]]], Sight::along([0, 1, 0]));
        $round = DrawnScore::of($box, $line, false) ?? $box;
        // Round all four sides.
        self::assertEqualsWithDelta(120.0, self::along($round, 12.0, true) + self::along($round, 12.0, false), 1e-9);
        $seen = DrawnScore::of($box, $line, true) ?? $box;
        self::assertEqualsWithDelta([40.0, 0.0], [self::along($seen, 12.0, true), self::along($seen, 12.0, false)], 1e-9);
        foreach ([$round, $seen] as $scored) {
            self::assertTrue(EdgeCheck::of($scored)->isWatertight());
            self::assertSame([], Crossings::of($scored)->pairs);
            self::assertEqualsWithDelta(24000.0, Volume::of($scored), 1e-8);
        }
        // Behind a first wall there is a second one, which is not seen; from the other side it is.
        $two = Solids::together(Solids::box(40, 2, 30, [-20, -10, 0]), Solids::box(40, 2, 30, [-20, 8, 0]));
        $front = DrawnScore::of($two, $line, true) ?? $two;
        self::assertEqualsWithDelta([40.0, 0.0], [self::along($front, 12.0, true), self::along($front, 12.0, false)], 1e-9);
        $back = DrawnScore::of($two, new DrawnBlade(Shape::Stroke, [[[-60, 0, 12], [60, 0, 12]]], Sight::from([0, 300, 12], [0, 0, 12])), true) ?? $two;
        self::assertEqualsWithDelta([0.0, 40.0], [self::along($back, 12.0, true), self::along($back, 12.0, false)], 1e-9);
        self::assertNull(DrawnScore::of($box, new DrawnBlade(Shape::Stroke, [[[-60, 0, 40], [60, 0, 40]]], Sight::along([0, 1, 0])), true));
    }

    /** @return iterable<string, array{string}> */
    public static function bodies(): iterable
    {
        foreach (Bodies::names() as $name) {
            yield $name => [$name];
        }
    }

    #[DataProvider('bodies')]
    public function test_every_body_keeps_its_shape(string $name): void
    {
        $body = Bodies::named($name);
        $box = Box::of($body->xyz);
        $at = static fn (float $x, float $z): array => [$box->min[0] + $x * ($box->max[0] - $box->min[0]), $box->min[1], $box->min[2] + $z * ($box->max[2] - $box->min[2])];
        foreach ([
            new DrawnBlade(Shape::Stroke, [[$at(-0.3, 0.43), $at(0.5, 0.61), $at(1.3, 0.38)]], Sight::along([0, 1, 0])),
            new DrawnBlade(Shape::Outline, [[$at(0.21, 0.2), $at(0.83, 0.31), $at(0.55, 0.87)]], Sight::along([0, 1, 0]), isSmooth: true),
        ] as $line) {
            foreach ([true, false] as $isSeen) {
                $scored = DrawnScore::of($body, $line, $isSeen);
                if ($scored === null) {
                    continue;
                }
                self::assertTrue(EdgeCheck::of($scored)->isWatertight(), $name);
                self::assertGreaterThan($body->triangleCount(), $scored->triangleCount());
                self::assertEqualsWithDelta(Volume::of($body), Volume::of($scored), 1e-9 * Volume::of($body), $name);
            }
        }
    }
}
