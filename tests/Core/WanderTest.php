<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\Seal;
use Isotome\Cut\Series;
use Isotome\Cut\Wander;
use Isotome\Cut\WanderCut;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Faces;
use Tests\Support\Solids;

/** Blades that wander: within their bounds, the same for a seed, and as watertight as straight ones. */
final class WanderTest extends TestCase
{
    public function test_blades_stay_within_shift_and_tilt_and_depend_on_nothing_but_the_seed(): void
    {
        $box = Solids::box(30, 20, 100);
        $series = Series::parts([0.0, 0.0, 1.0], 10);
        $straight = $series->planes($box);
        $most = 0.0;
        foreach (range(1, 40) as $seed) {
            $wander = new Wander(0.02, 7.0, $seed);
            $planes = $series->wandering($wander)->planes($box);
            self::assertEquals($planes, $series->wandering(new Wander(0.02, 7.0, $seed))->planes($box));
            foreach ($planes as $n => $plane) {
                $lean = rad2deg(acos(min(1.0, $plane->nz)));
                $most = max($most, $lean);
                self::assertLessThanOrEqual(7.0 + 1e-9, $lean);
                // Where it crosses the upright through the middle of the box.
                $at = ($plane->offset - $plane->nx * 15 - $plane->ny * 10) / $plane->nz;
                self::assertEqualsWithDelta($straight[$n]->offset, $at, 2.0 + 1e-9);
            }
        }
        self::assertGreaterThan(6.0, $most);
        self::assertNotEquals($series->wandering(new Wander(0.02, 7.0, 1))->planes($box), $series->wandering(new Wander(0.02, 7.0, 2))->planes($box));
        // A stop more does not change the ones before it.
        $few = (new Wander(0.0, 9.0, 3))->over([Plane::at(10, [0, 0, 1]), Plane::at(20, [0, 0, 1])], $box);
        $more = (new Wander(0.0, 9.0, 3))->over([Plane::at(10, [0, 0, 1]), Plane::at(20, [0, 0, 1]), Plane::at(30, [0, 0, 1])], $box);
        self::assertEquals($few, array_slice($more, 0, 2));
        // Without shift and tilt nothing moves.
        self::assertEquals($straight, $series->wandering(new Wander(0.0, 0.0, 3))->planes($box));
    }

    /** @return iterable<string, array{string, int}> */
    public static function bodies(): iterable
    {
        $seed = 40;
        foreach (Bodies::names() as $name) {
            yield $name => [$name, $seed++];
        }
    }

    #[DataProvider('bodies')]
    public function test_every_slab_is_watertight_nothing_is_lost_and_neighbours_match(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        $facing = [[1.0, 0.0, 0.0], [0.3, -0.5, 0.8]][$seed % 2];
        // Tilts so large that blades cross inside the body.
        $planes = Series::parts($facing, 5)->wandering(new Wander(0.08, 25.0, $seed))->planes($mesh);
        $outcome = WanderCut::of($mesh, $planes, new FlatBlade($planes[0]), 4);
        self::assertNotNull($outcome);
        foreach ($outcome->bodies as $n => $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight(), "body $n");
        }
        $whole = Volume::of($mesh);
        self::assertEqualsWithDelta($whole, array_sum(array_map(Volume::of(...), $outcome->bodies)), 1e-9 * abs($whole));
        self::assertEquals($planes, Series::parts($facing, 5)->wandering(new Wander(0.08, 25.0, $seed))->planes($mesh));
    }

    public function test_slabs_lie_between_their_blades_and_progress_is_told(): void
    {
        $box = Solids::box(30, 20, 100);
        $planes = Series::parts([0.0, 0.0, 1.0], 4)->wandering(new Wander(0.01, 4.0, 5))->planes($box);
        $shares = [];
        $bodies = WanderCut::of($box, $planes, new FlatBlade($planes[0], seal: Seal::Even), 2, static function (float $share) use (&$shares): void {
            $shares[] = $share;
        })->bodies ?? [];
        self::assertCount(4, $bodies);
        self::assertSame(0, Faces::withoutTwin($bodies, 2));
        self::assertEqualsWithDelta([1 / 3, 2 / 3, 1.0], $shares, 1e-12);
        foreach ($bodies as $k => $body) {
            for ($i = 0; $i < count($body->xyz); $i += 3) {
                foreach ([[$k - 1, -1], [$k, 1]] as [$n, $sign]) {
                    if (isset($planes[$n])) {
                        $d = $planes[$n]->nx * $body->xyz[$i] + $planes[$n]->ny * $body->xyz[$i + 1] + $planes[$n]->nz * $body->xyz[$i + 2] - $planes[$n]->offset;
                        self::assertLessThan(1e-9, $sign * $d);
                    }
                }
            }
        }
    }

    public function test_the_recipe_writes_and_reads_it_and_refuses_what_makes_no_sense(): void
    {
        $step = ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [0, 0, 1], 'parts' => 3, 'wander' => ['shift' => 0.05, 'tilt' => 6, 'seed' => 9]]];
        $read = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [$step]])->steps[0];
        self::assertEquals($step['blade'], $read->toArray()['blade']);
        $runner = Runner::on('post', Solids::box(10, 10, 90));
        $runner->run($read);
        self::assertSame(['post-A', 'post-B', 'post-C'], array_keys($runner->pieces()));
        self::assertNotEqualsWithDelta(30.0, Box::of($runner->pieces()['post-A']->mesh->xyz)->size()[2], 1e-3);
        foreach ([['shift' => 0.6], ['tilt' => 50], ['tilt' => -1], ['seed' => 1.5], ['roll' => 3], 'much'] as $wrong) {
            try {
                Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [[...$step, 'blade' => [...$step['blade'], 'wander' => $wrong]]]]);
                self::fail('taken: '.json_encode($wrong));
            } catch (BadRecipe $refusal) {
                self::assertStringStartsWith('steps[0].blade', $refusal->getMessage());
            }
        }
        $this->expectException(BadRecipe::class);
        Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [[...$step, 'keep' => 'ahead']]]);
    }

    public function test_a_wander_out_of_bounds_is_refused(): void
    {
        $this->expectException(BadBlade::class);
        new Wander(0.1, 90.0, 1);
    }

    public function test_blades_that_all_miss_cut_nothing(): void
    {
        self::assertNull(WanderCut::of(Mesh::of([], []), [], new FlatBlade(Plane::at(0.0, [0.0, 0.0, 1.0])), 1));
        $planes = [Plane::at(500.0, [0.0, 0.1, 1.0])];
        self::assertNull(WanderCut::of(Solids::box(1, 1, 1), $planes, new FlatBlade($planes[0]), 1));
    }
}
