<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Chance;
use Isotome\Join\Joints;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Motion\Actor;
use Isotome\Motion\Channels;
use Isotome\Motion\Ease;
use Isotome\Motion\Movement;
use Isotome\Motion\Neighbours;
use Isotome\Motion\Poses;
use Isotome\Motion\Quaternion;
use Isotome\Operation\Kinds;
use Isotome\Operation\Piece;
use Isotome\Operation\Runner;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Layers of a movement in closed form, and the keys that are kept of them. */
final class MovementTest extends TestCase
{
    /**
     * @param  list<array<string, mixed>>  $layers
     * @param  list<array{float, float, float}>  $centres
     */
    private static function poses(array $layers, array $centres, int $frames = 60): Poses
    {
        return Movement::fromArray(['isotome_movement' => 1, 'frames' => $frames, 'layers' => $layers])->poses(array_map(static fn (array $centre, int $n): Actor => new Actor("piece-$n", $centre), $centres, array_keys($centres)));
    }

    /** @return list<float> */
    private static function shift(Poses $poses, int $piece, int $frame): array
    {
        return array_slice($poses->shifts[$piece], 3 * $frame, 3);
    }

    public function test_eases_begin_at_0_end_at_1_and_are_what_they_are_called(): void
    {
        foreach (Ease::cases() as $ease) {
            self::assertSame([0.0, 0.0], [$ease->at(-1.0), $ease->at(0.0)]);
            self::assertEqualsWithDelta([1.0, 1.0], [$ease->at(1.0), $ease->at(2.0)], 1e-12);
        }
        self::assertEqualsWithDelta([0.5, 0.15625, 0.875], [Ease::Smooth->at(0.5), Ease::Smooth->at(0.25), Ease::Out->at(0.5)], 1e-12);
        // Falls in 1 of 2.75 parts of the time, then comes back to a quarter of the height in the middle of the next part.
        self::assertEqualsWithDelta([0.25, 1.0, 0.75, 1.0, 1 - 1 / 16, 1 - 1 / 64], array_map(static fn (float $time): float => Ease::Bounce->at($time / 2.75), [0.5, 1.0, 1.5, 2.0, 2.25, 2.625]), 1e-12);
    }

    public function test_turns_follow_each_other_as_matrices_do(): void
    {
        $chance = new Chance(4);
        for ($n = 0; $n < 50; $n++) {
            [$a, $b] = [Quaternion::about($chance->direction(), 360 * $chance->uniform()), Quaternion::about($chance->direction(), 360 * $chance->uniform())];
            $v = $chance->direction();
            self::assertEqualsWithDelta(Quaternion::turned($b, Quaternion::turned($a, $v)), Quaternion::turned(Quaternion::then($a, $b), $v), 1e-12);
            self::assertEqualsWithDelta(1.0, array_sum(array_map(static fn (float $c): float => $c * $c, Quaternion::between($a, $b, $chance->uniform()))), 1e-12);
        }
        self::assertEqualsWithDelta([0.0, 1.0, 0.0], Quaternion::turned(Quaternion::about([0.0, 0.0, 2.0], 90.0), [1.0, 0.0, 0.0]), 1e-15);
        self::assertEqualsWithDelta(Quaternion::about([0.0, 0.0, 1.0], 30.0), Quaternion::between(Quaternion::NONE, Quaternion::about([0.0, 0.0, 1.0], 90.0), 1 / 3), 1e-12);
    }

    public function test_spreading_moves_the_farthest_by_the_distance_and_the_others_in_proportion(): void
    {
        $centres = [[10.0, 0.0, 0.0], [-20.0, 0.0, 0.0], [0.0, 40.0, 5.0]];
        $poses = self::poses([['do' => 'spread', 'from' => [0, 0, 0], 'distance_mm' => 80, 'start' => 10, 'length' => 20, 'ease' => 'even']], $centres);
        $far = hypot(40, 5);
        foreach ([[5, 0.0], [10, 0.0], [15, 0.25], [25, 0.75], [30, 1.0], [59, 1.0]] as [$frame, $share]) {
            self::assertEqualsWithDelta([80 * 10 / $far * $share, 0.0, 0.0], self::shift($poses, 0, $frame), 1e-9);
            self::assertEqualsWithDelta([-80 * 20 / $far * $share, 0.0, 0.0], self::shift($poses, 1, $frame), 1e-9);
            self::assertEqualsWithDelta([0.0, 80 * 40 / $far * $share, 80 * 5 / $far * $share], self::shift($poses, 2, $frame), 1e-9);
        }
        // From an axis, square to it; all alike; from the middle of them.
        $axis = self::poses([['do' => 'spread', 'from' => [0, 0, 0], 'along' => [0, 0, 3], 'distance_mm' => 40, 'length' => 1]], $centres);
        self::assertEqualsWithDelta([0.0, 40.0, 0.0], self::shift($axis, 2, 5), 1e-9);
        $alike = self::poses([['do' => 'spread', 'from' => [0, 0, 0], 'alike' => true, 'distance_mm' => 7, 'length' => 1]], $centres);
        self::assertEqualsWithDelta([[7.0, 0.0, 0.0], [-7.0, 0.0, 0.0]], [self::shift($alike, 0, 5), self::shift($alike, 1, 5)], 1e-9);
        $middle = self::poses([['do' => 'spread', 'distance_mm' => 30, 'length' => 1]], [[0.0, 0.0, 0.0], [6.0, 0.0, 0.0]]);
        self::assertEqualsWithDelta([[-30.0, 0.0, 0.0], [30.0, 0.0, 0.0]], [self::shift($middle, 0, 5), self::shift($middle, 1, 5)], 1e-9);
    }

    public function test_a_wave_sets_each_piece_going_when_its_front_is_there(): void
    {
        $centres = [[0.0, 0.0, 30.0], [0.0, 0.0, 0.0], [0.0, 0.0, 10.0]];
        $poses = self::poses([['do' => 'wave', 'front' => 'plane', 'facing' => [0, 0, 2], 'start' => 3, 'length' => 30, 'width' => 10, 'softness' => 0, 'shift' => [5, 0, 0], 'about' => [1, 0, 0], 'degrees' => 90, 'scale' => 0.5]], $centres);
        foreach ([[1, 3.0], [2, 13.0], [0, 33.0]] as [$piece, $start]) {
            for ($frame = 0; $frame < 60; $frame++) {
                $share = max(0.0, min(1.0, ($frame - $start) / 10));
                self::assertEqualsWithDelta([5 * $share, 0.0, 0.0], self::shift($poses, $piece, $frame), 1e-9);
                self::assertEqualsWithDelta(Quaternion::about([1.0, 0.0, 0.0], 90 * $share), $poses->turn($piece, $frame), 1e-12);
                self::assertEqualsWithDelta(1 - 0.5 * $share, $poses->scales[$piece][$frame], 1e-12);
            }
        }
        // A ball from the lowest, the order, and softness.
        $ball = self::poses([['do' => 'wave', 'front' => 'ball', 'from' => [0, 0, 0], 'length' => 30, 'width' => 10, 'shift' => [1, 0, 0]]], $centres);
        self::assertEqualsWithDelta(Ease::Smooth->at(0.5), self::shift($ball, 2, 15)[0], 1e-9);
        $order = self::poses([['do' => 'wave', 'front' => 'order', 'length' => 20, 'width' => 10, 'softness' => 0, 'shift' => [1, 0, 0]]], $centres);
        self::assertEqualsWithDelta([0.5, 0.0, 1.0, 0.5, 0.5], [self::shift($order, 0, 5)[0], self::shift($order, 1, 5)[0], self::shift($order, 1, 20)[0], self::shift($order, 1, 15)[0], self::shift($order, 2, 25)[0]], 1e-9);
        // At random: late by no more than the share, and the same every time.
        $late = [['do' => 'wave', 'front' => 'order', 'length' => 20, 'width' => 1, 'softness' => 0, 'random' => 0.5, 'seed' => 9, 'shift' => [1, 0, 0]]];
        [$one, $other] = [self::poses($late, $centres), self::poses($late, $centres)];
        self::assertSame($one->shifts, $other->shifts);
        foreach ([0, 1, 2] as $piece) {
            $starts = array_search(true, array_map(static fn (int $frame): bool => self::shift($one, $piece, $frame)[0] > 0.0, range(0, 59)), true);
            self::assertTrue($starts >= 10 * $piece && $starts <= 10 * $piece + 11);
        }
    }

    public function test_scattering_stays_within_its_bounds_and_drift_goes_on(): void
    {
        $centres = array_fill(0, 200, [0.0, 0.0, 0.0]);
        $layer = ['do' => 'scatter', 'distance_mm' => 10, 'degrees' => 30, 'seed' => 3, 'length' => 20];
        $poses = self::poses([$layer], $centres, 50);
        $sum = 0.0;
        foreach (array_keys($centres) as $n) {
            $far = sqrt(array_sum(array_map(static fn (float $c): float => $c * $c, self::shift($poses, $n, 49))));
            self::assertLessThanOrEqual(10.0 + 1e-9, $far);
            self::assertLessThanOrEqual(30.0 + 1e-9, rad2deg(2 * acos(min(1.0, $poses->turn($n, 49)[3]))));
            self::assertSame(self::shift($poses, $n, 20), self::shift($poses, $n, 49));
            $sum += $far / 200;
        }
        // The mean distance within a ball is three quarters of its radius.
        self::assertEqualsWithDelta(7.5, $sum, 0.4);
        $drift = self::poses([[...$layer, 'drift' => true]], $centres, 50);
        self::assertEqualsWithDelta(array_map(static fn (float $c): float => 2 * $c, self::shift($drift, 0, 20)), self::shift($drift, 0, 40), 1e-9);
    }

    public function test_keys_move_several_pieces_as_a_group(): void
    {
        $centres = [[10.0, 0.0, 0.0], [-10.0, 0.0, 0.0], [100.0, 0.0, 0.0]];
        $keys = ['do' => 'keys', 'of' => ['piece-0', 'piece-1'], 'ease' => 'even', 'keys' => [['frame' => 30, 'degrees' => 720, 'shift' => [0, 0, 8], 'scale' => 2], ['frame' => 10]]];
        $poses = self::poses([$keys], $centres);
        // Half a turn after 15 of 20 frames of two turns, three quarters of the way.
        self::assertEqualsWithDelta([-10 - 10 * 1.75, 0.0, 6.0], self::shift($poses, 0, 25), 1e-9);
        self::assertEqualsWithDelta([10 + 10 * 1.75, 0.0, 6.0], self::shift($poses, 1, 25), 1e-9);
        self::assertSame([0.0, 0.0, 0.0], self::shift($poses, 2, 25));
        self::assertEqualsWithDelta([[0.0, 0.0, 0.0], [10.0, 0.0, 8.0], [10.0, 0.0, 8.0]], [self::shift($poses, 0, 5), self::shift($poses, 0, 30), self::shift($poses, 0, 50)], 1e-9);
        $step = self::poses([[...$keys, 'ease' => 'step']], $centres);
        self::assertSame([[0.0, 0.0, 0.0], 1.0, 2.0], [self::shift($step, 0, 29), $step->scales[0][29], $step->scales[0][30]]);
    }

    public function test_layers_add_up_and_can_be_left_out(): void
    {
        $spread = ['do' => 'spread', 'from' => [0, 0, 0], 'distance_mm' => 10, 'length' => 1];
        $turn = ['do' => 'keys', 'through' => [0, 0, 0], 'keys' => [['frame' => 0, 'degrees' => 90]]];
        $both = self::poses([$spread, $turn], [[5.0, 0.0, 0.0]]);
        self::assertEqualsWithDelta([10 - 5.0, 5.0, 0.0], self::shift($both, 0, 9), 1e-9);
        $one = self::poses([[...$spread, 'off' => true], $turn], [[5.0, 0.0, 0.0]]);
        self::assertEqualsWithDelta([-5.0, 5.0, 0.0], self::shift($one, 0, 9), 1e-9);
        self::assertEqualsWithDelta([0.0, 5.0, 0.0, 0.0, 0.0, M_SQRT1_2, M_SQRT1_2, 1.0], $one->at(0, 9), 1e-9);
    }

    public function test_only_keys_that_are_needed_are_kept_and_they_give_every_frame(): void
    {
        $centres = [];
        $chance = new Chance(2);
        for ($n = 0; $n < 20; $n++) {
            $centres[] = [100 * $chance->uniform(), 100 * $chance->uniform(), 100 * $chance->uniform()];
        }
        $poses = self::poses([
            ['do' => 'wave', 'length' => 40, 'width' => 30, 'shift' => [0, 0, 50], 'about' => [1, 1, 0], 'degrees' => 400, 'seed' => 1], ['do' => 'scatter', 'start' => 50, 'seed' => 2], ['do' => 'spread', 'ease' => 'bounce', 'start' => 20],
        ], $centres, 120);
        foreach ($centres as $n => $_) {
            $kept = Channels::of($poses, $n);
            self::assertLessThan(110, count($kept['shift'][0]));
            for ($frame = 0; $frame < 120; $frame++) {
                [$a, $b, $share] = self::around($kept['shift'][0], $frame);
                foreach ([0, 1, 2] as $k) {
                    self::assertEqualsWithDelta($poses->shifts[$n][3 * $frame + $k], (1 - $share) * $kept['shift'][1][3 * $a + $k] + $share * $kept['shift'][1][3 * $b + $k], 1.1e-3);
                }
                [$a, $b, $share] = self::around($kept['turn'][0], $frame);
                $turn = Quaternion::between(array_slice($kept['turn'][1], 4 * $a, 4), array_slice($kept['turn'][1], 4 * $b, 4), $share);
                $dot = array_sum(array_map(static fn (float $p, float $q): float => $p * $q, $turn, $poses->turn($n, $frame)));
                self::assertEqualsWithDelta(1.0, abs($dot), 1e-8);
            }
            self::assertSame([[], []], $kept['scale']);
        }
        // An even turn needs few: one for each sixth of the way round.
        $even = self::poses([['do' => 'keys', 'ease' => 'even', 'keys' => [['frame' => 0], ['frame' => 100, 'degrees' => 350]]]], [[0.0, 0.0, 0.0]], 101);
        self::assertLessThanOrEqual(9, count(Channels::of($even, 0)['turn'][0]));
        self::assertSame([[], []], Channels::of(self::poses([], [[1.0, 2.0, 3.0]]), 0)['shift']);
    }

    /**
     * @param  list<int>  $keys
     * @return array{int, int, float}
     */
    private static function around(array $keys, int $frame): array
    {
        $n = 0;
        while ($n + 2 < count($keys) && $keys[$n + 1] <= $frame) {
            $n++;
        }

        return [$n, $n + 1, ($frame - $keys[$n]) / ($keys[$n + 1] - $keys[$n])];
    }

    public function test_what_is_no_movement_is_refused_in_one_sentence(): void
    {
        foreach ([
            ['isotome_movement is missing; write "isotome_movement": 1.', ['layers' => []]],
            ['fps is 0; give frames a second, a whole number from 1 to 240, such as 25.', ['isotome_movement' => 1, 'fps' => 0, 'layers' => []]],
            ['frames is 20000; give a whole number from 1 to 10,000.', ['isotome_movement' => 1, 'frames' => 20000, 'layers' => []]],
            ['"speed" is not known in a movement; it has fps, frames and layers.', ['isotome_movement' => 1, 'speed' => 2, 'layers' => []]],
            ['layers[0].do is "jump"; choose "spread", "wave", "scatter", "keys", "drop".', ['isotome_movement' => 1, 'layers' => [['do' => 'jump']]]],
            ['layers[0].facing is no direction; give three numbers that are not all 0.', ['isotome_movement' => 1, 'layers' => [['do' => 'wave', 'facing' => [0, 0, 0]]]]],
        ] as [$sentence, $given]) {
            try {
                Movement::fromArray($given);
                self::fail($sentence);
            } catch (BadRecipe $refused) {
                self::assertSame($sentence, $refused->getMessage());
            }
        }
        foreach ([['do' => 'spread', 'length' => 0], ['do' => 'spread', 'ease' => 'wild'], ['do' => 'keys'], ['do' => 'keys', 'keys' => []], ['do' => 'scatter', 'degrees' => 200], ['do' => 'wave', 'height' => 3]] as $layer) {
            try {
                Movement::fromArray(['isotome_movement' => 1, 'layers' => [$layer]]);
                self::fail(json_encode($layer) ?: '');
            } catch (BadRecipe $refused) {
                self::assertStringStartsWith('layers[0]', $refused->getMessage());
            }
        }
    }

    /** Frames are told one after the other while something falls, with what layers after it add; they are those that come out in the end. */
    public function test_frames_are_told_as_soon_as_they_stay(): void
    {
        $movement = Movement::fromArray(['isotome_movement' => 1, 'frames' => 12, 'layers' => [
            ['do' => 'spread', 'distance_mm' => 5, 'length' => 3], ['do' => 'drop', 'start' => 4, 'floor' => -50], ['do' => 'wave', 'shift' => [0, 7, 0], 'degrees' => 30, 'length' => 6], ['do' => 'keys', 'off' => true, 'keys' => [['frame' => 0]]],
        ]]);
        self::assertTrue($movement->falls());
        $actors = [new Actor('low', [5.0, 5.0, 5.0], Solids::box(10, 10, 10)), new Actor('high', [5.0, 5.0, 25.0], Solids::box(10, 10, 10, [0, 0, 20]))];
        $told = [];
        $poses = $movement->poses($actors, static function (int $frame, Poses $poses) use (&$told): void {
            $told[$frame] = [$poses->at(0, $frame), $poses->at(1, $frame)];
        });
        self::assertSame(range(0, 11), array_keys($told));
        foreach ($told as $frame => $two) {
            self::assertSame($two, [$poses->at(0, $frame), $poses->at(1, $frame)]);
        }
        $times = $movement->inTime($poses);
        self::assertSame([4.0, 4.0], $times[1]['starts']);
        self::assertSame([0.0, 6.0], $times[2]['starts']);
        self::assertSame(['starts' => [], 'curve' => []], $times[3]);
        self::assertSame([1.0, 0.0], [$times[1]['curve'][0], min($times[1]['curve'])]);
        self::assertEqualsWithDelta([0.0, 0.2592, 1.0, 1.0], array_map(static fn (int $frame): float => $times[0]['curve'][$frame], [0, 1, 3, 11]), 1e-4);
        self::assertFalse(Movement::fromArray(['isotome_movement' => 1, 'layers' => [['do' => 'drop', 'off' => true]]])->falls());
    }

    /** Neighbours part along the faces that they share: of slabs and blocks in closed form. */
    public function test_neighbours_part_along_their_common_faces(): void
    {
        $spread = ['do' => 'spread', 'from' => 'faces', 'distance_mm' => 6, 'length' => 10, 'ease' => 'even'];
        foreach (['slabs' => [['kind' => 'series', 'facing' => [1, 0, 0], 'parts' => 4], [4, 1, 1]], 'blocks' => [['kind' => 'cells', 'by' => 'blocks', 'count' => [3, 2, 2]], [3, 2, 2]]] as $what => [$blade, [$nx, $ny, $nz]]) {
            $runner = Runner::on('box', Solids::box(60, 40, 20));
            $runner->run(Kinds::read(['do' => 'cut', 'blade' => $blade], 'step'));
            $actors = array_map(static fn (Piece $piece): Actor => new Actor($piece->name, Volume::measure($piece->mesh)->centroid, $piece->mesh), array_values($runner->pieces()));
            self::assertCount($nx * $ny * $nz, $actors);
            $poses = Movement::fromArray(['isotome_movement' => 1, 'frames' => 12, 'layers' => [$spread]])->poses($actors);
            foreach ($actors as $n => $actor) {
                // Each row of blocks is 6 mm from the next, about the middle.
                $expected = [6 * $nx * ($actor->centre[0] - 30) / 60, 6 * $ny * ($actor->centre[1] - 20) / 40, 6 * $nz * ($actor->centre[2] - 10) / 20];
                self::assertEqualsWithDelta($expected, self::shift($poses, $n, 11), 1e-6, "$what: $actor->name");
                self::assertEqualsWithDelta(array_map(static fn (float $c): float => $c / 2, $expected), self::shift($poses, $n, 5), 1e-6);
            }
        }
    }

    /** Of shards no way is right for all faces at once; those of the least squares keep the middle where it is and are less off than ways from the middle. */
    public function test_shards_part_as_nearly_as_it_goes(): void
    {
        $runner = Runner::on('ball', Solids::sphere(30, 3));
        $runner->run(Kinds::read(['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'even', 'count' => 14, 'seed' => 3]], 'step'));
        $meshes = array_map(static fn (Piece $piece): Mesh => $piece->mesh, array_values($runner->pieces()));
        $shared = [];
        foreach (Joints::of($meshes, Neighbours::pairs($meshes, 1.0), 1.0) as [$a, $b, $faces]) {
            foreach ($faces as $face) {
                $shared[] = [$a, $b, $face->axis, $face->area];
            }
        }
        $off = static function (array $ways) use ($shared): float {
            $sum = 0.0;
            foreach ($shared as [$a, $b, $way, $area]) {
                foreach ([0, 1, 2] as $k) {
                    $sum += $area * ($ways[$b][$k] - $ways[$a][$k] - 5 * $way[$k]) ** 2;
                }
            }

            return $sum;
        };
        $ways = Neighbours::parted(count($meshes), $shared, 5.0);
        self::assertEqualsWithDelta([0.0, 0.0, 0.0], array_map(static fn (int $k): float => array_sum(array_column($ways, $k)), [0, 1, 2]), 1e-6);
        $least = $off($ways);
        self::assertLessThan(0.2 * $off(array_fill(0, count($meshes), [0.0, 0.0, 0.0])), $least);
        $chance = new Chance(1);
        for ($n = 0; $n < 50; $n++) {
            self::assertGreaterThan($least, $off(array_map(static fn (array $way): array => array_map(static fn (float $c): float => $c + 0.2 * $chance->uniform() - 0.1, $way), $ways)));
        }
    }

    public function test_a_spread_by_faces_needs_shapes_and_says_so(): void
    {
        $this->expectException(BadRecipe::class);
        $this->expectExceptionMessage('piece-0 has no shape, so its neighbours are not known.');
        self::poses([['do' => 'spread', 'from' => 'faces']], [[0.0, 0.0, 0.0], [1.0, 0.0, 0.0]]);
    }
}
