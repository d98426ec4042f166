<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Motion\Actor;
use Isotome\Motion\Movement;
use Isotome\Motion\Poses;
use Isotome\Motion\Quaternion;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\TestCase;
use Tests\Support\Dropped;
use Tests\Support\Solids;

/** Falling as a layer of a movement. */
final class DropLayerTest extends TestCase
{
    /**
     * @param  array<string, Mesh>  $pieces
     * @param  list<array<string, mixed>>  $layers
     */
    private static function poses(array $pieces, array $layers, int $frames = 50, int $fps = 25): Poses
    {
        $actors = [];
        foreach ($pieces as $name => $mesh) {
            $actors[] = new Actor($name, Volume::measure($mesh)->centroid, $mesh);
        }

        return Movement::fromArray(['isotome_movement' => 1, 'frames' => $frames, 'fps' => $fps, 'layers' => $layers])->poses($actors);
    }

    public function test_it_falls_from_where_it_is_when_it_begins_and_later_layers_add_up(): void
    {
        $box = Solids::box(20, 20, 20, [0.0, 0.0, 490.0]);
        $lift = ['do' => 'keys', 'ease' => 'step', 'keys' => [['frame' => 5, 'shift' => [30, 0, 100], 'degrees' => 45]]];
        $poses = self::poses(['box' => $box], [$lift, ['do' => 'drop', 'start' => 10]]);
        self::assertEqualsWithDelta([40.0, 10.0, 600.0], array_slice($poses->at(0, 10), 0, 3), 1e-9);
        // A free fall from there, frame by frame.
        foreach ([11, 15, 17] as $frame) {
            self::assertEqualsWithDelta(600 - 0.5 * 9810 * (($frame - 10) / 25) ** 2, $poses->at(0, $frame)[2], 1e-6);
        }
        self::assertEqualsWithDelta(10.0, $poses->at(0, 49)[2], 0.1);
        self::assertEqualsWithDelta(Quaternion::about([0.0, 0.0, 1.0], 45), $poses->turn(0, 49), 0.03);
        $more = self::poses(['box' => $box], [$lift, ['do' => 'drop', 'start' => 10], ['do' => 'keys', 'keys' => [['frame' => 0, 'shift' => [0, 7, 0]]]]]);
        self::assertEqualsWithDelta($poses->at(0, 49)[1] + 7.0, $more->at(0, 49)[1], 1e-9);
    }

    public function test_pieces_fall_on_what_stays_and_beside_it_on_the_floor(): void
    {
        $pieces = ['table' => Solids::box(100, 100, 10, [-50.0, -50.0, 90.0]), 'cup' => Solids::box(20, 20, 20, [-10.0, -10.0, 200.0]), 'beside' => Solids::box(20, 20, 20, [200.0, 0.0, 200.0])];
        $poses = self::poses($pieces, [['do' => 'drop', 'of' => ['cup', 'beside'], 'stay' => ['table']]]);
        self::assertEqualsWithDelta([95.0, 110.0, 10.0], [$poses->at(0, 49)[2], $poses->at(1, 49)[2], $poses->at(2, 49)[2]], 0.2);
        self::assertSame([0.0, 0.0, 0.0], array_slice($poses->shifts[0], 3 * 49, 3));
    }

    public function test_shards_of_a_ball_burst_on_the_floor_and_stay_on_it(): void
    {
        $ball = Solids::sphere(30, 3, 0.0, 0.0, 200.0);
        foreach ([1, 2, 3] as $seed) {
            $runner = Runner::on('ball', $ball);
            foreach (Recipe::fromArray(['isotome_recipe' => 1, 'units' => 'mm', 'steps' => [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'even', 'count' => 8, 'seed' => $seed]]]])->steps as $step) {
                $runner->run($step);
            }
            $pieces = [];
            foreach ($runner->pieces() as $piece) {
                $pieces[$piece->name] = $piece->mesh;
            }
            $chance = new Chance($seed);
            $layer = ['do' => 'drop', 'spin' => [200 * $chance->uniform(), 200 * $chance->uniform(), 0], 'bounce' => 0.2];
            $poses = self::poses($pieces, [$layer], 60);
            $lowest = [INF, INF];
            foreach (array_values($pieces) as $n => $mesh) {
                $centre = Volume::measure($mesh)->centroid;
                for ($frame = 0; $frame < 60; $frame++) {
                    $at = $poses->at($n, $frame);
                    for ($i = 0; $i < count($mesh->xyz); $i += 3) {
                        $to = Quaternion::turned([$at[3], $at[4], $at[5], $at[6]], [$mesh->xyz[$i] - $centre[0], $mesh->xyz[$i + 1] - $centre[1], $mesh->xyz[$i + 2] - $centre[2]]);
                        $lowest[$frame < 50 ? 0 : 1] = min($lowest[$frame < 50 ? 0 : 1], $at[2] + $to[2]);
                    }
                }
            }
            // Hulls of eighty corners leave out 0.36 mm of these shards. Then nothing is deeper than a hundredth of the ball's size; in the moment when it hits, a fortieth.
            self::assertGreaterThan(-0.36 - 0.6, $lowest[1]);
            self::assertGreaterThan(-1.5, $lowest[0]);
            self::assertSame($poses->shifts, self::poses($pieces, [$layer], 60)->shifts);
        }
    }

    /** More of them: bench/fuzz-drop.php. In the moment of a hit some are a thirtieth of their size in each other, for a frame. */
    public function test_shards_are_not_in_each_other_nor_in_the_floor_and_come_to_rest(): void
    {
        foreach ([2, 3, 5, 7, 8] as $seed) {
            $found = Dropped::at($seed);
            self::assertLessThan(0.012, $found['deep'], "seed $seed");
            self::assertLessThan(0.01, $found['below'], "seed $seed");
            self::assertSame($found['pieces'], $found['resting'], "seed $seed");
        }
    }

    /** Without gravity pieces go on at the speed that they were pushed with: 100 mm/s next to the place, evenly down to nothing 40 mm away. */
    public function test_pieces_are_pushed_away_from_a_place(): void
    {
        $pieces = ['near' => Solids::box(4, 4, 4, [8, -2, -2]), 'beyond' => Solids::box(4, 4, 4, [-2, 58, -2]), 'above' => Solids::box(4, 4, 4, [-2, -2, 18])];
        $poses = self::poses($pieces, [['do' => 'drop', 'gravity' => 0, 'floor' => -500, 'speed' => [0, 7, 0], 'push' => 100, 'push_from' => [0, 0, 0], 'push_reach' => 40]], 26);
        foreach ([[10.0 + 75.0, 7.0, 0.0], [0.0, 67.0, 0.0], [0.0, 7.0, 20.0 + 50.0]] as $n => $place) {
            self::assertEqualsWithDelta($place, array_slice($poses->at($n, 25), 0, 3), 1e-6);
        }
        // From the middle of them when no place is said: 30 mm from each.
        $middle = self::poses(['left' => Solids::box(4, 4, 4, [-32, -2, -2]), 'right' => Solids::box(4, 4, 4, [28, -2, -2])], [['do' => 'drop', 'gravity' => 0, 'floor' => -500, 'push' => 100, 'push_reach' => 40]], 26);
        self::assertEqualsWithDelta([-55.0, 55.0], [$middle->at(0, 25)[0], $middle->at(1, 25)[0]], 1e-6);
    }

    public function test_what_cannot_fall_is_refused(): void
    {
        $box = Solids::box(20, 20, 20);
        foreach ([
            ['box is scaled when it begins to fall; let it fall first, and scale it in a layer after that.', [['do' => 'keys', 'keys' => [['frame' => 0, 'scale' => 2]]], ['do' => 'drop']], $box],
            ['sheet encloses no volume, so it weighs nothing and cannot fall; mend it first, or leave it out.', [['do' => 'drop']], Mesh::of([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0], [0, 1, 2])],
        ] as $n => [$sentence, $layers, $mesh]) {
            try {
                self::poses([$n === 0 ? 'box' : 'sheet' => $mesh], $layers);
                self::fail($sentence);
            } catch (BadRecipe $refused) {
                self::assertSame($sentence, $refused->getMessage());
            }
        }
    }
}
