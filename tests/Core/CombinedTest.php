<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Crossings;
use Isotome\Exception\BadMesh;
use Isotome\Geometry\Chance;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use Isotome\Mesh\Volume;
use Isotome\Solid\Arrangement;
use Isotome\Solid\Combined;
use Isotome\Solid\Film;
use Isotome\Solid\Partition;
use Isotome\Solid\Snapped;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use RuntimeException;
use Tests\Support\SolidPairs;
use Tests\Support\Solids;

/** Bodies united, subtracted and what they have in common, in lucky and unlucky positions. */
final class CombinedTest extends TestCase
{
    /** @return array<string, list<array{Mesh, list<int>}>> */
    private static function all(Mesh $one, Mesh $other): array
    {
        return ['united' => Combined::unite([$one, $other]), 'common' => Combined::common([$one, $other]), 'subtracted' => Combined::subtract([$one, $other], 5)];
    }

    /** @param  list<array{Mesh, list<int>}>  $bodies */
    private static function volume(array $bodies): float
    {
        $volume = 0.0;
        foreach ($bodies as [$body]) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
            self::assertSame([], Crossings::of(Places::joined($body))->pairs);
            $own = Volume::measure($body)->volume;
            self::assertGreaterThan(0.0, $own);
            $volume += $own;
        }

        return $volume;
    }

    /** @return iterable<string, array{Mesh, array{float, float, float}, array{int, int, int}}> a second box; volumes and bodies of what is united, common, subtracted */
    public static function boxes(): iterable
    {
        $box = static fn (float $x0, float $y0, float $z0, float $x1, float $y1, float $z1): Mesh => Solids::box($x1 - $x0, $y1 - $y0, $z1 - $z0, [$x0, $y0, $z0]);
        yield 'corners within each other' => [$box(1, 1, 1, 3, 3, 3), [15.0, 1.0, 7.0], [1, 1, 1]];
        yield 'flush, face to face' => [$box(2, 0, 0, 4, 2, 2), [16.0, 0.0, 8.0], [1, 0, 1]];
        yield 'the same' => [$box(0, 0, 0, 2, 2, 2), [8.0, 8.0, 0.0], [1, 1, 0]];
        yield 'inside' => [$box(0.5, 0.5, 0.5, 1, 1, 1), [8.0, 0.125, 7.875], [1, 1, 1]];
        yield 'inside, flush in a corner' => [$box(0, 0, 0, 1, 1, 1), [8.0, 1.0, 7.0], [1, 1, 1]];
        yield 'touching along an edge' => [$box(2, 2, 0, 4, 4, 2), [16.0, 0.0, 8.0], [2, 0, 1]];
        yield 'touching in a corner' => [$box(2, 2, 2, 3, 3, 3), [9.0, 0.0, 8.0], [2, 0, 1]];
        yield 'right through' => [$box(0.5, 0.5, -1, 1.5, 1.5, 3), [10.0, 2.0, 6.0], [1, 1, 1]];
        yield 'right through, in two' => [$box(0.5, -1, -1, 1.5, 3, 3), [20.0, 4.0, 4.0], [1, 1, 2]];
        yield 'apart' => [$box(5, 5, 5, 6, 6, 6), [9.0, 0.0, 8.0], [2, 0, 1]];
        yield 'a smaller face on a larger one' => [$box(2, 0.5, 0.5, 3, 1.5, 1.5), [9.0, 0.0, 8.0], [1, 0, 1]];
        yield 'one layer off' => [$box(0, 0, 1, 2, 2, 3), [12.0, 4.0, 4.0], [1, 1, 1]];
    }

    /**
     * @param  array{float, float, float}  $volumes
     * @param  array{int, int, int}  $bodies
     */
    #[DataProvider('boxes')]
    public function test_two_boxes(Mesh $other, array $volumes, array $bodies): void
    {
        $one = Solids::box(2, 2, 2);
        $made = self::all($one, $other);
        self::assertEqualsWithDelta($volumes, array_values(array_map(self::volume(...), $made)), 1e-12);
        self::assertSame($bodies, array_values(array_map(count(...), $made)));
    }

    /** Bodies of unit cells: whole numbers tell how much is left. Faces, edges and corners lie on each other everywhere. */
    public function test_bodies_of_cells_have_exactly_the_cells_that_they_should(): void
    {
        $chance = new Chance(77);
        $crowded = 0;
        for ($round = 0; $round < 25; $round++) {
            $full = [];
            foreach ([0, 1] as $which) {
                for ($cell = 0; $cell < 27; $cell++) {
                    $full[$which][$cell] = $chance->uniform() < 0.55;
                }
            }
            $mesh = static fn (int $which): Mesh => Solids::cells(3, 3, 3, static fn (int $x, int $y, int $z): bool => $full[$which][9 * $x + 3 * $y + $z]);
            $count = static fn (callable $rule): float => (float) count(array_filter(range(0, 26), static fn (int $cell): bool => $rule($full[0][$cell], $full[1][$cell])));
            $made = array_map(static fn (array $bodies): float => self::volume($bodies), self::all($mesh(0), $mesh(1)));
            self::assertEqualsWithDelta([$count(static fn (bool $a, bool $b): bool => $a || $b), $count(static fn (bool $a, bool $b): bool => $a && $b), $count(static fn (bool $a, bool $b): bool => $a && ! $b)], array_values($made), 1e-9, "round $round");
            $crowded += $made['common'] > 3 ? 1 : 0;
        }
        self::assertGreaterThan(20, $crowded);
    }

    /** Any bodies in any position; as many as one likes: bench/fuzz-solid.php. */
    public function test_volumes_add_up(): void
    {
        $pairs = new SolidPairs(20);
        for ($n = 0; $n < 40; $n++) {
            [$one, $other] = $pairs->next();
            self::assertSame([], SolidPairs::faults($one, $other), "pair $n");
        }
    }

    public function test_a_body_that_crosses_itself_is_one_without_inner_walls(): void
    {
        $crossed = Solids::together(Solids::box(2, 2, 2), Solids::box(2, 2, 2, [1.0, 1.0, 1.0]), Solids::box(2, 2, 2));
        [[$body]] = $bodies = Combined::unite([$crossed]);
        self::assertCount(1, $bodies);
        self::assertEqualsWithDelta(15.0, self::volume($bodies), 1e-12);
        self::assertSame(36, $body->triangleCount());
        // An inside-out shell is a hole in what is around it, and nothing by itself.
        self::assertEqualsWithDelta(64.0 - 8.0, self::volume(Combined::unite([Solids::together(Solids::box(4, 4, 4), Solids::insideOut(Solids::box(2, 2, 2, [1.0, 1.0, 1.0])))])), 1e-12);
        self::assertSame([], Combined::unite([Solids::insideOut(Solids::box(2, 2, 2))]));
    }

    public function test_what_was_not_crossed_stays_as_it_is(): void
    {
        $one = Solids::sphere(10, 3);
        $drill = Solids::moved(Solids::prism([[-1.0, -1.0], [1.0, -1.0], [1.0, 1.0], [-1.0, 1.0]], 30.0), 0.1, 0.2, 0.3, 1.0, [0.5, 0.2, -15.0]);
        [[$body, $of]] = Combined::subtract([$one, $drill], 9);
        self::assertSame([0, 1], $of);
        $places = array_flip(array_map(static fn (array $p): string => pack('d3', ...$p), array_chunk($one->xyz, 3)));
        $kept = count(array_filter(array_chunk($body->xyz, 3), static fn (array $p): bool => isset($places[pack('d3', ...$p)])));
        self::assertGreaterThan(0.9 * $one->vertexCount(), $kept);
        // The drill leaves inside faces, the ball keeps its skin.
        self::assertEqualsCanonicalizing([0, 9], array_values(array_unique($body->tags)));
        foreach ($body->tags as $t => $tag) {
            $far = 0.0;
            for ($k = 0; $k < 3; $k++) {
                $v = 3 * $body->corners[3 * $t + $k];
                $far = max($far, sqrt($body->xyz[$v] ** 2 + $body->xyz[$v + 1] ** 2 + $body->xyz[$v + 2] ** 2));
            }
            self::assertTrue($tag === 9 || $far > 9.5);
        }
    }

    public function test_many_at_once(): void
    {
        $parts = [];
        for ($n = 0; $n < 12; $n++) {
            $parts[] = Solids::moved(Solids::box(2, 1, 1), 0, 0, 0.3 * $n, 1.0, [1.4 * $n, 0.2 * $n, 0.0]);
        }
        $bodies = Combined::unite($parts);
        self::assertCount(1, $bodies);
        self::assertSame(range(0, 11), $bodies[0][1]);
        $volume = self::volume($bodies);
        // One after the other comes to the same.
        $whole = $parts[0];
        foreach (array_slice($parts, 1) as $part) {
            $whole = Combined::unite([$whole, $part])[0][0];
        }
        self::assertEqualsWithDelta($volume, Volume::measure($whole)->volume, 1e-9);
    }

    /** What is left between a body and itself, moved by less than doubles tell, is no body. */
    public function test_a_film_is_nothing(): void
    {
        $cone = Solids::moved(Solids::cone(3, 5, 7), 0.0, M_PI / 2, M_PI / 2, 1.0, [2.0, 0.0, 0.5]);
        $beside = Solids::moved($cone, 0, 0, 0, 1.0, [1e-12, 0.0, -1e-12]);
        self::assertSame([], Combined::subtract([$cone, $beside], 1));
        self::assertSame([], Combined::subtract([$beside, $cone], 1));
        self::assertTrue(Combined::solid([$cone, $beside], static fn (array $w): bool => $w[0] > 0 && $w[1] <= 0)->isEmpty());
        self::assertFalse(Film::is($cone));
        self::assertFalse(Film::is(Solids::box(1000, 1000, 1e-6)));
        self::assertTrue(Film::is(Solids::box(1000, 1000, 1e-9)));
        $ball = Solids::moved(Solids::sphere(3, 1), M_PI / 2, 3 * M_PI / 2, M_PI / 2, 1.0, [0.0, 0.0, 0.5]);
        $parts = Partition::by($ball, [Solids::moved($ball, 0, 0, 0, 1.0, [1e-12, 0.0, -1e-12])], 1)->bodies;
        self::assertEqualsWithDelta(Volume::of($ball), array_sum(array_map(Volume::of(...), $parts)), 1e-9 * Volume::of($ball));
        foreach ($parts as $part) {
            self::assertSame([], Crossings::of(Places::joined($part))->pairs);
        }
    }

    /** Two rings whose faces meet in places that doubles cannot tell apart, as the fuzz command found them. */
    public function test_what_is_moved_to_a_grid_keeps_its_volume(): void
    {
        $rings = [Solids::moved(Solids::torus(4, 1.5, 10, 6), 0, 0, 0, 1.0, [1.0, -2.0, -1.0]), Solids::moved(Solids::torus(4, 1.5, 10, 6), 0, 0, 0, 1.0, [2.0, -1.0, -1.0])];
        self::assertSame([], SolidPairs::faults(...$rings));
        $all = Arrangement::of($rings);
        foreach (Combined::GRIDS as $lines) {
            foreach (Snapped::of($rings, $all, $lines) as $n => $moved) {
                $farthest = max(array_map(static fn (float $a, float $b): float => abs($a - $b), $moved->xyz, $rings[$n]->xyz));
                self::assertLessThanOrEqual(8 / $lines, $farthest, 'the largest coordinate is between 4 and 8');
            }
        }
    }

    public function test_it_can_be_stopped_at_any_time_and_does_not_take_on_too_much(): void
    {
        $balls = [Solids::sphere(10, 3), Solids::sphere(10, 3, 7.0, 2.0, 1.0)];
        foreach ([0.1, 0.5, 0.7, 0.9] as $at) {
            $told = [];
            try {
                Combined::unite($balls, static function (float $share) use (&$told, $at): void {
                    $told[] = $share;
                    $share < $at ?: throw new RuntimeException('stopped');
                });
                self::fail('It went on.');
            } catch (RuntimeException $stopped) {
                self::assertSame('stopped', $stopped->getMessage());
            }
            $sorted = $told;
            sort($sorted);
            self::assertSame($sorted, $told);
        }
        $this->expectException(BadMesh::class);
        $this->expectExceptionMessage('More than 20 pairs of faces cross each other; simplify the meshes, or take fewer at once.');
        Arrangement::of($balls, null, 20);
    }
}
