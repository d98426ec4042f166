<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Cut\KerfSide;
use Isotome\Cut\Seal;
use Isotome\Cut\Series;
use Isotome\Cut\SeriesCut;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use RuntimeException;
use Tests\Support\Blades;
use Tests\Support\Bodies;
use Tests\Support\Faces;
use Tests\Support\SeriesOfBlades;
use Tests\Support\Solids;

/** One pass with many planes is the same as one cut after another. */
final class SeriesTest extends TestCase
{
    /** @return iterable<string, array{string, int}> */
    public static function bodies(): iterable
    {
        $seed = 900;
        foreach (Bodies::names() as $name) {
            yield $name => [$name, $seed++];
        }
    }

    /** @return iterable<string, array{string, int}> without the column of 3,000 corners, which takes a minute for this alone */
    public static function bodiesButTheLargest(): iterable
    {
        foreach (self::bodies() as $name => $body) {
            if (! str_contains($name, '3,000')) {
                yield $name => $body;
            }
        }
    }

    #[DataProvider('bodies')]
    public function test_a_series_gives_what_single_cuts_give(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        $whole = Volume::of($mesh);
        $blades = new Blades($mesh, $seed);
        foreach ([$blades->anywhere(), $blades->unlucky(), $blades->unlucky()] as $n => $plane) {
            $planes = $n === 2 ? self::throughVertices($mesh, $plane) : Series::parts($plane->facing(), 7)->planes($mesh);
            $outcome = SeriesCut::of($mesh, $planes, new FlatBlade($plane), 3);
            $one = [$mesh];
            foreach ($planes as $each) {
                $next = [];
                foreach ($one as $body) {
                    array_push($next, ...(FlatCut::of($body, new FlatBlade($each), 3)->bodies ?? [$body]));
                }
                $one = $next;
            }
            $bodies = $outcome->bodies ?? [$mesh];
            self::assertCount(count($one), $bodies, "series $n");
            foreach ($bodies as $b => $body) {
                self::assertTrue(EdgeCheck::of($body)->isWatertight(), "series $n, body $b");
            }
            $volumes = array_map(Volume::of(...), $bodies);
            $single = array_map(Volume::of(...), $one);
            self::assertEqualsWithDelta($whole, array_sum($volumes), 1e-9 * $whole, "series $n: volumes");
            sort($volumes);
            sort($single);
            foreach ($volumes as $b => $volume) {
                self::assertEqualsWithDelta($single[$b], $volume, 1e-9 * $whole, "series $n, volume $b");
            }
            // Blades a hair beside a face leave what is nothing on one side, here at most as there.
            self::assertLessThanOrEqual(Faces::withoutTwin($one, 3), Faces::withoutTwin($bodies, 3), "series $n: faces without their twin");
            self::assertLessThanOrEqual(self::skin($one), self::skin($bodies), "series $n: triangles of the skin");
        }
    }

    /** @param  list<Mesh>  $bodies */
    private static function skin(array $bodies): int
    {
        return array_sum(array_map(static fn (Mesh $body): int => count(array_filter($body->tags, static fn (int $tag): bool => $tag !== 3)), $bodies));
    }

    /** @return list<Plane> */
    private static function throughVertices(Mesh $mesh, Plane $plane): array
    {
        [$nx, $ny, $nz] = $plane->facing();
        $distances = [];
        for ($i = 0; $i < count($mesh->xyz); $i += 3) {
            $distances[] = $nx * $mesh->xyz[$i] + $ny * $mesh->xyz[$i + 1] + $nz * $mesh->xyz[$i + 2];
        }
        // Planes a rounding error apart would have nothing between them.
        sort($distances);
        $last = -INF;
        $distances = array_values(array_filter($distances, static function (float $d) use (&$last): bool {
            $isApart = $d > $last + 1e-9 * (1 + abs($d));
            $last = $isApart ? $d : $last;

            return $isApart;
        }));
        $planes = [];
        for ($k = 0; $k < count($distances); $k += max(1, intdiv(count($distances), 6))) {
            $planes[] = Plane::at($distances[$k], $plane->facing());
        }

        return $planes;
    }

    public function test_a_kerf_is_taken_out_at_every_stop(): void
    {
        $box = Solids::box(10, 10, 30);
        foreach ([[KerfSide::Centre, [9.5, 9.0, 9.5]], [KerfSide::Ahead, [10.0, 9.0, 9.0]], [KerfSide::Behind, [9.0, 9.0, 10.0]]] as [$side, $heights]) {
            foreach ([Seal::Lean, Seal::Even] as $seal) {
                $outcome = SeriesCut::of($box, Series::at([0.0, 0.0, 1.0], [20.0, 10.0])->planes($box), new FlatBlade(Plane::at(0.0, [0.0, 0.0, 1.0]), Keep::Both, $seal, 1.0, $side), 1);
                self::assertNotNull($outcome);
                foreach ($heights as $k => $height) {
                    self::assertEqualsWithDelta(100 * $height, Volume::of($outcome->bodies[$k]), 1e-9, "{$side->value} $k");
                    self::assertTrue(EdgeCheck::of($outcome->bodies[$k])->isWatertight());
                }
            }
        }
    }

    /** Whatever the seal, the kerf, and the stops: watertight, and what is left is what lies between the blades' faces. */
    #[DataProvider('bodiesButTheLargest')]
    public function test_a_kerf_leaves_what_lies_between_the_faces(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        $whole = Volume::measure($mesh);
        $size = max(Box::of($mesh->xyz)->size());
        $extent = max(max($mesh->xyz), -min($mesh->xyz));
        $blades = new Blades($mesh, $seed + 50);
        mt_srand($seed);
        foreach ([Seal::Lean, Seal::Even, Seal::Lean] as $n => $seal) {
            $kerf = $size * mt_rand(1, 9) / 1000;
            $planes = SeriesOfBlades::apart(SeriesOfBlades::through($mesh, $n === 0 ? $blades->anywhere() : $blades->unlucky()), $kerf);
            if ($planes === []) {
                continue;
            }
            $outcome = SeriesCut::of($mesh, $planes, new FlatBlade($planes[0], seal: $seal, kerf: $kerf, edge: $size / 12), 9);
            $bodies = $outcome->bodies ?? [$mesh];
            foreach ($bodies as $b => $body) {
                self::assertTrue(EdgeCheck::of($body)->isWatertight(), "series $n, body $b");
            }
            // New vertices are rounded: far from the origin that alone moves the skin by this much.
            $slack = count($planes) * (1e-9 * $whole->volume + 1e-14 * $extent * $whole->area);
            self::assertEqualsWithDelta(SeriesOfBlades::left($mesh, $planes, $kerf), array_sum(array_map(Volume::of(...), $bodies)), $slack, "series $n");
        }
    }

    public function test_long_triangles_gain_nothing_from_the_slabs_behind(): void
    {
        // Four sides of a box, two triangles each, in every slab cut into a triangle and a face of four corners, or two of those.
        $box = Solids::box(20, 30, 1000, [0.0, 0.0, 500.0]);
        foreach ([[[0.0, 0.0, 1.0], 0.0], [[0.1, 0.2, 1.0], 0.0], [[0.1, 0.2, 1.0], 0.5]] as [$facing, $kerf]) {
            $planes = Series::parts($facing, 500)->planes($box);
            $bodies = SeriesCut::of($box, $planes, new FlatBlade($planes[0], kerf: $kerf), 3)->bodies ?? [];
            self::assertCount(500, $bodies);
            foreach (array_slice($bodies, 20, 460) as $k => $body) {
                self::assertTrue(EdgeCheck::of($body)->isWatertight(), "slab $k");
                // A diagonal of a side may pass a slab: then 3 + 4 corners, else 4 corners or two of them; the caps have 8 corners each.
                self::assertLessThanOrEqual(4 * 5 + 2 * 6, $body->triangleCount(), "slab $k");
            }
        }
    }

    public function test_points_of_an_even_seal_stay_in_their_slab(): void
    {
        $box = Solids::box(20, 30, 300, [0.0, 0.0, 150.0]);
        $planes = Series::parts([0.05, 0.0, 1.0], 60)->planes($box);
        $bodies = SeriesCut::of($box, $planes, new FlatBlade($planes[0], seal: Seal::Even, edge: 5.0), 3)->bodies ?? [];
        self::assertCount(60, $bodies);
        $skins = array_map(static fn (Mesh $body): int => self::skin([$body]), array_slice($bodies, 3, 54));
        self::assertLessThan(1.5 * min($skins), max($skins));
        foreach ($bodies as $k => $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight(), "slab $k");
        }
        self::assertEqualsWithDelta(180000.0, array_sum(array_map(Volume::of(...), $bodies)), 1e-6);
    }

    public function test_two_stops_that_rounding_cannot_part_are_one(): void
    {
        $box = Solids::box(10, 10, 30);
        foreach ([0.0, 0.25] as $kerf) {
            $stops = [10.0, 10.0 + $kerf + 1e-15, 20.0];
            $planes = Series::at([0.0, 0.0, 1.0], $stops)->planes($box);
            $bodies = SeriesCut::of($box, $planes, new FlatBlade($planes[0], kerf: $kerf), 3)->bodies ?? [];
            self::assertCount(3, $bodies);
            self::assertEqualsWithDelta(3000.0 - 300 * $kerf, array_sum(array_map(Volume::of(...), $bodies)), 1e-9);
            foreach ($bodies as $body) {
                self::assertTrue(EdgeCheck::of($body)->isWatertight());
            }
        }
    }

    public function test_what_to_keep(): void
    {
        $box = Solids::box(10, 10, 30);
        $planes = Series::steps([0.0, 0.0, 1.0], 10.0, 5.0, 3)->planes($box);
        $volumes = static fn (Keep $keep): array => array_map(static fn (Mesh $body): float => round(Volume::of($body), 6), SeriesCut::of($box, $planes, new FlatBlade($planes[0], $keep), 1)->bodies ?? []);
        self::assertSame([1000.0, 500.0, 500.0, 1000.0], $volumes(Keep::Both));
        self::assertSame([1000.0], $volumes(Keep::Behind));
        self::assertSame([1000.0], $volumes(Keep::Ahead));
        $sheets = SeriesCut::of($box, $planes, new FlatBlade($planes[0], Keep::Outline), 1)->bodies ?? [];
        self::assertSame([100.0, 100.0, 100.0], array_map(static fn (Mesh $sheet): float => round(Volume::measure($sheet)->area, 6), $sheets));
    }

    public function test_equal_parts_follow_each_mesh(): void
    {
        $planes = Series::parts([0.0, 0.0, 2.0], 3)->planes(Solids::box(1, 1, 6, [0.0, 0.0, 3.0]));
        self::assertSame([5.0, 7.0], array_map(static fn (Plane $plane): float => round($plane->offset, 12), $planes));
    }

    public function test_planes_that_miss_give_nothing(): void
    {
        self::assertNull(SeriesCut::of(Solids::box(1, 1, 1), Series::at([0.0, 0.0, 1.0], [-1.0, 2.0])->planes(Solids::box(1, 1, 1)), new FlatBlade(Plane::at(0.0, [0.0, 0.0, 1.0])), 1));
    }

    public function test_progress_is_told_and_may_cancel(): void
    {
        $box = Solids::box(1, 1, 10);
        $seen = [];
        $planes = Series::parts([0.0, 0.0, 1.0], 10)->planes($box);
        SeriesCut::of($box, $planes, new FlatBlade($planes[0]), 1, static function (float $share) use (&$seen): void {
            $seen[] = $share;
        });
        self::assertCount(9, $seen);
        self::assertSame($seen, array_values(array_filter($seen, static fn (float $share): bool => $share > 0 && $share <= 1)));
        $this->expectException(RuntimeException::class);
        SeriesCut::of($box, $planes, new FlatBlade($planes[0]), 1, static fn (float $share) => throw new RuntimeException('stop'));
    }

    /** @return iterable<string, array{\Closure(): Series}> */
    public static function refused(): iterable
    {
        yield 'no stop' => [static fn (): Series => Series::at([0.0, 0.0, 1.0], [])];
        yield 'too many' => [static fn (): Series => Series::steps([0.0, 0.0, 1.0], 0.0, 1.0, 1001)];
        yield 'no step' => [static fn (): Series => Series::steps([0.0, 0.0, 1.0], 0.0, 0.0, 3)];
        yield 'one part' => [static fn (): Series => Series::parts([0.0, 0.0, 1.0], 1)];
        yield 'no direction' => [static fn (): Series => Series::parts([0.0, 0.0, 0.0], 2)];
        yield 'not finite' => [static fn (): Series => Series::at([0.0, 0.0, 1.0], [NAN])];
    }

    /** @param  \Closure(): Series  $make */
    #[DataProvider('refused')]
    public function test_what_is_no_series_is_refused(\Closure $make): void
    {
        $this->expectException(BadBlade::class);
        $make();
    }
}
