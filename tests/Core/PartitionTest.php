<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Crossings;
use Isotome\Geometry\Chance;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use Isotome\Mesh\Volume;
use Isotome\Solid\Partition;
use PHPUnit\Framework\TestCase;
use Tests\Support\SolidPairs;
use Tests\Support\Solids;

/** Bodies divided by sheets and by closed surfaces. */
final class PartitionTest extends TestCase
{
    private const TAG = 9;

    /**
     * A sheet over a grid of the plane.
     *
     * @param  callable(float, float): array{float, float, float}  $at
     */
    private static function sheet(callable $at, float $low, float $high, int $steps = 1): Mesh
    {
        $xyz = $corners = [];
        for ($i = 0; $i <= $steps; $i++) {
            for ($j = 0; $j <= $steps; $j++) {
                array_push($xyz, ...$at($low + ($high - $low) * $i / $steps, $low + ($high - $low) * $j / $steps));
                if ($i < $steps && $j < $steps) {
                    $v = $i * ($steps + 1) + $j;
                    array_push($corners, $v, $v + $steps + 1, $v + $steps + 2, $v, $v + $steps + 2, $v + 1);
                }
            }
        }

        return Mesh::of($xyz, $corners);
    }

    /** @return list<float> volumes, after it is checked that all parts are solid and share their walls */
    private static function volumes(Partition $divided): array
    {
        $volumes = $walls = [];
        foreach ($divided->bodies as $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
            self::assertSame([], Crossings::of(Places::joined($body))->pairs);
            $volumes[] = Volume::of($body);
            foreach ($body->tags as $t => $tag) {
                if ($tag !== self::TAG) {
                    continue;
                }
                $places = array_map(static fn (int $k): string => pack('e3', ...array_map(static fn (float $c): float => $c + 0.0, array_slice($body->xyz, 3 * $body->corners[3 * $t + $k], 3))), [0, 1, 2]);
                $first = array_search(min($places), $places, true);
                $turned = [$places[$first], $places[($first + 1) % 3], $places[($first + 2) % 3]];
                // Seen from the other side the corners run the other way.
                $walls[implode('', $turned)] = ($walls[implode('', $turned)] ?? 0) + 1;
                $other = $turned[0].$turned[2].$turned[1];
                $walls[$other] = ($walls[$other] ?? 0) - 1;
            }
        }
        self::assertCount(0, array_filter($walls), 'both sides of a wall have the same triangles');
        self::assertGreaterThan(0.0, min($volumes));

        return $volumes;
    }

    public function test_a_sheet_that_reaches_through_gives_two_parts(): void
    {
        $box = Solids::box(4, 2, 3);
        $level = self::sheet(static fn (float $u, float $v): array => [$u, $v, 1.0], -9, 9);
        $made = Partition::by($box, [$level], self::TAG);
        self::assertEqualsWithDelta([16.0, 8.0], self::volumes($made), 1e-12);
        self::assertFalse($made->endsWithin);
        // Just as far as the skin, rim on skin.
        $just = Mesh::of([0, 0, 1, 4, 0, 1, 4, 2, 1, 0, 2, 1], [0, 1, 2, 0, 2, 3]);
        self::assertEqualsWithDelta([16.0, 8.0], self::volumes(Partition::by($box, [$just], self::TAG)), 1e-12);
        // Bent, and facing the other way.
        $bent = Mesh::of([-1, -1, 1, 2, -1, 2, 5, -1, 1, -1, 3, 1, 2, 3, 2, 5, 3, 1], [0, 3, 1, 1, 3, 4, 1, 4, 2, 2, 4, 5]);
        self::assertEqualsWithDelta(24.0, array_sum(self::volumes(Partition::by($box, [$bent], self::TAG))), 1e-12);
        self::assertEqualsWithDelta([4 * 2 * (4 / 3 + 2) / 2, 4 * 2 * 3 - 4 * 2 * (4 / 3 + 2) / 2], self::volumes(Partition::by($box, [$bent], self::TAG)), 1e-9);
    }

    public function test_what_ends_within_leaves_no_trace(): void
    {
        $box = Solids::box(4, 2, 3);
        $short = self::sheet(static fn (float $u, float $v): array => [$u, $v, 1.0], -9, 1.5);
        $made = Partition::by($box, [$short], self::TAG);
        self::assertSame([[$box], true, true], [$made->bodies, $made->endsWithin, $made->meets]);
        $far = self::sheet(static fn (float $u, float $v): array => [$u, $v, 7.0], -9, 9);
        $made = Partition::by($box, [$far], self::TAG);
        self::assertSame([[$box], false, false], [$made->bodies, $made->endsWithin, $made->meets]);
        // Lying on a face of it.
        $made = Partition::by($box, [self::sheet(static fn (float $u, float $v): array => [$u, $v, 3.0], -9, 9)], self::TAG);
        self::assertSame([[$box], false], [$made->bodies, $made->meets]);
        // One that goes through and another that ends at it.
        $through = self::sheet(static fn (float $u, float $v): array => [$u, $v, 1.0], -9, 9);
        $made = Partition::by($box, [$through, self::sheet(static fn (float $u, float $v): array => [1.5, $u, $v], 0.5, 9)], self::TAG);
        self::assertEqualsWithDelta([16.0, 8.0], self::volumes($made), 1e-12);
        self::assertTrue($made->endsWithin);
        // It reaches from the first sheet to the skin: it divides the upper part, and its lower end is gone.
        $made = Partition::by($box, [$through, self::sheet(static fn (float $u, float $v): array => [1.5, $u, 0.5 + ($v + 9) / 2], -9, 9)], self::TAG);
        self::assertEqualsWithDelta([10.0, 8.0, 6.0], self::volumes($made), 1e-12);
        self::assertTrue($made->endsWithin);
        // Half through a ring: it still hangs together on its other side.
        $ring = Solids::torus(10, 3, 24, 12);
        $made = Partition::by($ring, [self::sheet(static fn (float $u, float $v): array => [10.0 + $u, 0.3, $v], -8, 8)], self::TAG);
        self::assertSame([[$ring], true], [$made->bodies, $made->endsWithin]);
    }

    public function test_sheets_that_cross_give_all_that_lies_between_them(): void
    {
        $box = Solids::box(4, 4, 4);
        $sheets = [];
        foreach ([1.0, 2.5] as $at) {
            $sheets[] = self::sheet(static fn (float $u, float $v): array => [$at, $u, $v], -9, 9);
            $sheets[] = self::sheet(static fn (float $u, float $v): array => [$u, $v, $at], -9, 9);
        }
        $volumes = self::volumes(Partition::by($box, $sheets, self::TAG));
        self::assertEqualsWithDelta([9.0, 9.0, 9.0, 9.0, 6.0, 6.0, 6.0, 6.0, 4.0], [...$volumes], 1e-9);
    }

    public function test_closed_surfaces_leave_what_is_within_them_and_what_is_around(): void
    {
        $box = Solids::box(10, 10, 10);
        $ball = Solids::sphere(3, 3, 5.0, 5.0, 5.0);
        $volume = Volume::of($ball);
        self::assertEqualsWithDelta([1000 - $volume, $volume], self::volumes(Partition::by($box, [$ball], self::TAG)), 1e-9);
        self::assertEqualsWithDelta([1000 - $volume, $volume], self::volumes(Partition::by($box, [Solids::insideOut($ball)], self::TAG)), 1e-9);
        // Several, nested: shell after shell.
        $inner = Solids::sphere(2, 3, 5.0, 5.0, 5.0);
        self::assertEqualsWithDelta([1000 - $volume, $volume - Volume::of($inner), Volume::of($inner)], self::volumes(Partition::by($box, [$inner, $ball], self::TAG)), 1e-9);
        // The body itself divides nothing.
        self::assertSame([$box], Partition::by($box, [$box], self::TAG)->bodies);
    }

    /** Every body of the tests, by wavy sheets in any position and by other bodies: nothing is lost, all is solid. */
    public function test_random_bodies_and_surfaces(): void
    {
        $pairs = new SolidPairs(2026);
        $chance = new Chance(5);
        $parts = $snapped = 0;
        for ($n = 0; $n < 60; $n++) {
            [$body, $other] = $pairs->next();
            $whole = Volume::of(\Isotome\Solid\Combined::solid([$body], static fn (array $w): bool => $w[0] > 0));
            [$a, $b, $c, $d] = [$chance->uniform(), $chance->uniform(), $chance->uniform(), $chance->uniform()];
            $wavy = self::sheet(static fn (float $u, float $v): array => [$u, $v + 0.3 * $u * ($a - 0.5), 6 * ($d - 0.5) + $b * sin($u * $c) + 0.2 * $v], -60, 60, 9);
            foreach ([[$wavy], [$other], [$wavy, $other]] as $surfaces) {
                $made = Partition::by($body, $surfaces, self::TAG);
                $volumes = count($made->bodies) > 1 ? self::volumes($made) : [$whole];
                $error = abs($whole - array_sum($volumes)) / max(1.0, $whole);
                // Where surfaces are closer to each other than doubles tell, places move by a grid far finer than single numbers.
                self::assertLessThan(1e-8, $error, "pair $n");
                $snapped += $error > 1e-9 ? 1 : 0;
                $parts += count($volumes) - 1;
            }
        }
        self::assertGreaterThan(60, $parts);
        self::assertLessThan(4, $snapped);
    }

    public function test_a_large_body_is_divided_by_what_is_near_as_by_all_of_it(): void
    {
        $chance = new Chance(14);
        $local = 0;
        for ($n = 0; $n < 14; $n++) {
            $free = static fn (float $most): float => $most * (2 * $chance->uniform() - 1);
            $body = Solids::moved([Solids::sphere(9, 3), Solids::torus(8, 3, 40, 20), Solids::together(Solids::sphere(9, 3), Solids::insideOut(Solids::sphere(6, 3)))][$n % 3], $free(3), $free(3), $free(3));
            $surface = match ($n % 4) {
                0 => Solids::moved(Solids::sphere(4, 2), $free(3), $free(3), $free(3), 1.0, [$free(9), $free(6), $free(6)]),
                1 => Solids::moved(self::sheet(static fn (float $u, float $v): array => [$u, $v, 0.3 * sin($u)], -20, 20, 20), $free(3), $free(3), $free(3)),
                2 => Solids::moved(Solids::box(9, 30, 30), $free(3), $free(3), $free(3), 1.0, [$free(3), -15.0, -15.0]),
                // Ends within the body.
                default => Solids::moved(self::sheet(static fn (float $u, float $v): array => [$u, $v, 0.0], 0, 20, 6), $free(3), $free(3), $free(3)),
            };
            $near = Partition::near($body, [$surface], self::TAG, null, 0, 1.0);
            if ($near === null) {
                continue;
            }
            $local++;
            $whole = Partition::by($body, [$surface], self::TAG);
            self::assertSame([$whole->endsWithin, $whole->meets, count($whole->bodies)], [$near->endsWithin, $near->meets, count($near->bodies)], "round $n");
            $volumes = self::volumes($near);
            $wanted = array_map(static fn (Mesh $one): float => Volume::of($one), $whole->bodies);
            sort($volumes);
            sort($wanted);
            self::assertEqualsWithDelta($wanted, $volumes, 1e-9 * Volume::of($body), "round $n");
        }
        self::assertGreaterThan(10, $local);
    }

    public function test_a_large_body_keeps_its_tags_far_from_what_divides_it(): void
    {
        $ring = Solids::torus(40, 14, 120, 60);
        $ring = Mesh::of($ring->xyz, $ring->corners, array_map(static fn (int $t): int => $t % 7, array_keys($ring->tags)));
        $made = Partition::by($ring, [Solids::moved(Solids::torus(12, 4, 16, 8), 0.4, 0.7, 0.2, 1.0, [40.0, 5.0, 9.0])], self::TAG);
        self::assertGreaterThan(1, count($made->bodies));
        self::assertEqualsWithDelta(Volume::of($ring), array_sum(self::volumes($made)), 1e-9 * Volume::of($ring));
        $own = self::places($ring);
        $kept = array_merge(...array_map(self::places(...), $made->bodies));
        self::assertGreaterThan(0.9 * count($own), count(array_intersect_key($own, $kept)));
        foreach (array_intersect_key($own, $kept) as $place => $tag) {
            self::assertSame($tag, $kept[$place]);
        }
    }

    /** @return array<string, int> tags by where the triangles are */
    private static function places(Mesh $mesh): array
    {
        $places = [];
        foreach ($mesh->tags as $t => $tag) {
            $corners = array_map(static fn (int $k): string => pack('e3', ...array_slice($mesh->xyz, 3 * $mesh->corners[3 * $t + $k], 3)), [0, 1, 2]);
            sort($corners);
            $places[implode('', $corners)] = $tag;
        }

        return $places;
    }
}
