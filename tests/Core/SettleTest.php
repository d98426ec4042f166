<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Motion\Actor;
use Isotome\Motion\Movement;
use Isotome\Motion\Poses;
use Isotome\Operation\Kinds;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Pieces are taken over as a movement leaves them. */
final class SettleTest extends TestCase
{
    /**
     * @param  list<array<string, mixed>>  $layers
     * @param  array<string, mixed>  $more
     * @return array<string, mixed>
     */
    private static function step(array $layers, int $frame, array $more = []): array
    {
        return ['do' => 'settle', 'movement' => ['isotome_movement' => 1, 'frames' => 30, 'layers' => $layers], 'frame' => $frame, ...$more];
    }

    /** @return array<string, Mesh> two boxes, 20 mm apart along X */
    private static function boxes(): array
    {
        return ['left' => Solids::box(2, 4, 6, [0.0, 0.0, 10.0]), 'right' => Solids::box(2, 4, 6, [20.0, 0.0, 10.0])];
    }

    public function test_pieces_stand_where_the_movement_has_them_at_that_frame(): void
    {
        $runner = Runner::on('two', Solids::box(1, 1, 1), self::boxes());
        $before = $runner->pieces();
        $record = $runner->run(Kinds::read(self::step([['do' => 'keys', 'of' => ['right'], 'ease' => 'even', 'keys' => [['frame' => 0], ['frame' => 20, 'shift' => [0, 10, 4], 'about' => [0, 0, 1], 'degrees' => 90]]]], 20), 'step'));
        // What did not move is the piece it was.
        self::assertSame([['right'], ['right']], [$record->took, $record->gave]);
        self::assertSame($before['left'], $runner->pieces()['left']);
        $right = $runner->pieces()['right'];
        self::assertEqualsWithDelta([21.0, 12.0, 17.0], Volume::measure($right->mesh)->centroid, 1e-12);
        self::assertEqualsWithDelta([4.0, 2.0, 6.0], Box::of($right->mesh->xyz)->size(), 1e-12);
        self::assertTrue(EdgeCheck::of($right->mesh)->isWatertight());
        self::assertSame($before['right']->mesh->corners, $right->mesh->corners);
    }

    public function test_what_fell_lies_on_the_floor_and_the_rest_of_the_movement_is_not_worked_out(): void
    {
        $runner = Runner::on('two', Solids::box(1, 1, 1), self::boxes());
        $shares = [];
        $step = ['do' => 'settle', 'movement' => ['isotome_movement' => 1, 'frames' => 9000, 'layers' => [['do' => 'drop', 'bounce' => 0]]], 'frame' => 40];
        $runner->run(Kinds::read($step, 'step'), static function (float $share) use (&$shares): void {
            $shares[] = $share;
        });
        foreach ($runner->pieces() as $piece) {
            $box = Box::of($piece->mesh->xyz);
            self::assertEqualsWithDelta(0.0, $box->min[2], 0.06);
            self::assertEqualsWithDelta(6.0, $box->max[2], 0.06);
        }
        self::assertLessThan(60, count($shares));
        $sorted = $shares;
        sort($sorted);
        self::assertSame($sorted, $shares);
    }

    public function test_shards_with_a_round_skin_lie_on_the_floor_and_not_in_it(): void
    {
        $runner = Runner::on('ball', Solids::sphere(60, 5));
        $runner->run(Kinds::read(['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'uniform', 'count' => 5, 'seed' => 1]], 'step'));
        $runner->run(Kinds::read(self::step([['do' => 'drop', 'floor' => -70, 'bounce' => 0]], 29), 'step'));
        foreach ($runner->pieces() as $piece) {
            self::assertGreaterThan(-70.2, Box::of($piece->mesh->xyz)->min[2]);
        }
    }

    public function test_what_is_known_of_the_movement_already_is_taken(): void
    {
        $runner = Runner::on('box', Solids::box(1, 1, 1));
        $asked = null;
        $runner->run(Kinds::read(self::step([['do' => 'drop']], 3), 'step'), null, static function (Movement $movement, array $actors) use (&$asked): Poses {
            $asked = [$movement->frames, array_map(static fn (Actor $actor): string => $actor->name, $actors)];
            $poses = new Poses($actors, $movement->frames, $movement->fps);
            $poses->add(0, 3, [5.0, 0.0, 0.0]);

            return $poses;
        });
        self::assertSame([30, ['box']], $asked);
        self::assertSame([5.0, 0.0, 0.0], Box::of($runner->pieces()['box']->mesh->xyz)->min);
    }

    public function test_the_recipe_writes_it_as_it_was_and_gives_the_same_bytes_again(): void
    {
        $step = Kinds::read(self::step([['do' => 'spread', 'distance_mm' => 7], ['do' => 'drop', 'floor' => -9]], 22), 'step');
        $again = Recipe::fromArray(['isotome_recipe' => 1, 'units' => 'mm', 'steps' => [$step->toArray()]])->steps[0];
        $made = [];
        foreach ([$step, $again] as $one) {
            $runner = Runner::on('two', Solids::box(1, 1, 1), self::boxes());
            $runner->run($one);
            $made[] = array_map(static fn (Piece $piece): array => $piece->mesh->xyz, $runner->pieces());
        }
        self::assertSame($made[0], $made[1]);
    }

    public function test_a_piece_that_is_scaled_to_nothing_is_refused_and_nothing_is_changed(): void
    {
        $runner = Runner::on('two', Solids::box(1, 1, 1), self::boxes());
        $before = $runner->pieces();
        try {
            $runner->run(Kinds::read(self::step([['do' => 'wave', 'of' => ['left'], 'scale' => 0, 'length' => 5, 'width' => 1]], 29), 'step'));
            self::fail('It was done.');
        } catch (BadBlade $refusal) {
            self::assertSame('left is scaled to nothing at frame 29; choose a frame at which it is there, or leave it out.', $refusal->getMessage());
        }
        self::assertSame($before, $runner->pieces());
    }

    public function test_a_frame_at_which_nothing_has_moved_yet_is_refused(): void
    {
        $this->expectException(BadBlade::class);
        $this->expectExceptionMessage('At frame 0 every piece is where it stands; choose a later frame, or add a layer to the movement.');
        Runner::on('two', Solids::box(1, 1, 1), self::boxes())->run(Kinds::read(self::step([['do' => 'spread']], 0), 'step'));
    }

    public function test_what_is_no_movement_or_no_frame_of_it_is_refused_with_its_place(): void
    {
        foreach ([
            'step.movement: layers[0].do is "hop"; choose "spread", "wave", "scatter", "keys", "drop".' => self::step([['do' => 'hop']], 0),
            'step.frame is 30, but the last frame of the movement is 29; give one of its frames.' => self::step([], 30),
            'step.movement is "down"; write a movement, {"isotome_movement": 1, "layers": […]}.' => ['do' => 'settle', 'movement' => 'down', 'frame' => 1],
        ] as $message => $step) {
            try {
                Kinds::read($step, 'step');
                self::fail($message);
            } catch (BadRecipe $refusal) {
                self::assertSame($message, $refusal->getMessage());
            }
        }
    }
}
