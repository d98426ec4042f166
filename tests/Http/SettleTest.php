<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Answers\Answer;
use App\Answers\HowItMoves;
use App\Answers\Questions;
use App\Jobs\WorkOutAnswer;
use App\Models\Project;
use App\Models\Run;
use App\Models\Step;
use Illuminate\Support\Facades\Storage;
use Isotome\Geometry\Box;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Tests\Support\Solids;

/** Pieces as a movement leaves them, in the application. */
final class SettleTest extends HttpTestCase
{
    /**
     * @param  list<array<string, mixed>>  $layers
     * @return array<string, mixed>
     */
    private static function movement(array $layers): array
    {
        return ['isotome_movement' => 1, 'fps' => 20, 'frames' => 21, 'layers' => $layers];
    }

    private function halves(): int
    {
        $id = $this->project(Solids::box(40, 20, 20), 'Chest');
        $this->done($this->postJson("/api/v1/projects/$id/steps", ['step' => self::cut(2), 'pieces' => null])->assertAccepted()->json('id'));

        return $id;
    }

    /** @return array<string, mixed> */
    private static function cut(int $parts): array
    {
        return ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'parts' => $parts]];
    }

    private function done(string $run): string
    {
        $told = $this->getJson("/api/v1/runs/$run")->json();
        self::assertSame('done', $told['status'], $told['message'] ?? '');

        return $told['message'] ?? '';
    }

    /**
     * @param  list<array<string, mixed>>  $layers
     * @return array<string, mixed>
     */
    private static function settle(array $layers, int $frame): array
    {
        return ['do' => 'settle', 'movement' => self::movement($layers), 'frame' => $frame];
    }

    /** @return array<string, list<float>> lowest corner of each living piece */
    private function places(int $id): array
    {
        $places = [];
        foreach ($this->getJson("/api/v1/projects/$id")->assertOk()->json('pieces') as $piece) {
            if (! $piece['spent']) {
                $places[$piece['name']] = $piece['min'];
            }
        }

        return $places;
    }

    public function test_pieces_are_taken_over_set_anew_undone_and_replayed(): void
    {
        $id = $this->halves();
        $before = $this->places($id);
        $layers = [['do' => 'keys', 'of' => ['chest-B'], 'ease' => 'even', 'keys' => [['frame' => 0], ['frame' => 20, 'shift' => [0, 0, 40]]]]];
        $said = $this->done($this->postJson("/api/v1/projects/$id/steps", ['step' => self::settle($layers, 10), 'pieces' => null])->assertAccepted()->json('id'));
        self::assertSame('As they are at frame 10: 1 piece, watertight.', $said);
        self::assertEquals(['chest-A' => $before['chest-A'], 'chest-B' => [$before['chest-B'][0], $before['chest-B'][1], $before['chest-B'][2] + 20]], $this->places($id));

        $step = (int) Step::query()->where('project_id', $id)->where('number', 2)->value('id');
        $this->done($this->putJson("/api/v1/projects/$id/steps/$step", ['step' => self::settle($layers, 15), 'pieces' => null])->assertAccepted()->json('id'));
        self::assertEquals($before['chest-B'][2] + 30, $this->places($id)['chest-B'][2]);

        // The recipe tells it on the command line as well.
        $recipe = $this->getJson("/api/v1/projects/$id/recipe.json")->assertOk()->json();
        $runner = Runner::on('chest', Solids::box(40, 20, 20));
        foreach (Recipe::fromArray($recipe)->steps as $one) {
            $runner->run($one);
        }
        self::assertEquals($this->places($id), array_map(static fn (Piece $piece): array => Box::of($piece->mesh->xyz)->min, $runner->pieces()));

        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertEquals($before['chest-B'][2] + 20, $this->places($id)['chest-B'][2]);
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertEquals($before, $this->places($id));
    }

    /** When an earlier step is changed, all pieces move anew, those too that did not move before. */
    public function test_an_earlier_step_that_is_changed_lets_all_of_them_move_anew(): void
    {
        $id = $this->halves();
        $layers = [['do' => 'wave', 'front' => 'order', 'shift' => [0, 0, 8], 'length' => 10, 'width' => 2]];
        $this->done($this->postJson("/api/v1/projects/$id/steps", ['step' => self::settle($layers, 20), 'pieces' => null])->assertAccepted()->json('id'));
        self::assertEqualsWithDelta([8.0, 8.0], array_column(array_values($this->places($id)), 2), 1e-9);
        $step = (int) Step::query()->where('project_id', $id)->where('number', 1)->value('id');
        $this->done($this->putJson("/api/v1/projects/$id/steps/$step", ['step' => self::cut(4), 'pieces' => [Project::query()->findOrFail($id)->pieces()->whereNull('made_by')->value('id')]])->assertAccepted()->json('id'));
        self::assertEqualsWithDelta([8.0, 8.0, 8.0, 8.0], array_column(array_values($this->places($id)), 2), 1e-9);
    }

    /** A fall that was worked out to be looked at is not worked out a second time. */
    public function test_what_was_worked_out_already_is_taken(): void
    {
        $id = $this->halves();
        $layers = [['do' => 'drop', 'floor' => -30, 'bounce' => 0.2]];
        // Settings that are left out are the same ones as those that are written.
        $this->done($this->postJson("/api/v1/projects/$id/movement/poses", ['movement' => self::movement($layers)])->assertAccepted()->json('id'));
        $answer = Answer::query()->where('name', 'movement.poses')->sole();
        $bytes = (string) Storage::disk('answers')->get($answer->file);
        $from = 4 + unpack('V', $bytes)[1];
        $numbers = array_values(unpack('e*', substr($bytes, $from)));
        // So that one sees where it came from.
        $numbers[8 * (2 * 5 + 1)] += 1000.0;
        Storage::disk('answers')->put($answer->file, substr($bytes, 0, $from).pack('e*', ...$numbers));
        $this->done($this->postJson("/api/v1/projects/$id/steps", ['step' => self::settle([['do' => 'drop', 'floor' => -30.0, 'bounce' => 0.2, 'friction' => 0.6]], 5), 'pieces' => null])->assertAccepted()->json('id'));
        self::assertGreaterThan(900, $this->places($id)['chest-B'][0]);
        self::assertLessThan(100, $this->places($id)['chest-A'][0]);
    }

    /** Nor is it for a file, which is written by a run of its own. */
    public function test_a_file_is_written_from_what_was_worked_out_already(): void
    {
        $id = $this->halves();
        $movement = self::movement([['do' => 'drop', 'floor' => -30, 'density' => 2]]);
        $run = $this->postJson("/api/v1/projects/$id/movement/poses", ['movement' => $movement])->assertAccepted()->json('id');
        $this->done($run);
        $answer = Answer::query()->where('name', 'movement.poses')->sole();
        // The run knew itself under the same key, under which its frames are read while it works.
        self::assertSame($answer->question, Run::query()->findOrFail($run)->question);
        $bytes = (string) Storage::disk('answers')->get($answer->file);
        Storage::disk('answers')->put($answer->file, substr($bytes, 0, -64).pack('e*', 1, 2, 3, 0, 0, 0, 1, 1));
        $this->done($this->postJson("/api/v1/projects/$id/movement/files", ['movement' => $movement, 'as' => 'json'])->assertAccepted()->json('id'));
        $told = Answer::query()->where('name', 'like', '%.json')->sole();
        self::assertEquals([1, 2, 3, 0, 0, 0, 1, 1], json_decode((string) Storage::disk('answers')->get($told->file), true)['pieces']['chest-B'][20]);
    }

    /** The frames of a fall can be read under the key of its run, as the worker that reads it from the database knows it. */
    public function test_what_is_stored_has_the_key_that_it_had(): void
    {
        $id = $this->halves();
        $pieces = Project::query()->findOrFail($id)->pieces()->with('mesh')->whereNull('spent_by')->get();
        $asked = HowItMoves::of($pieces, self::movement([['do' => 'drop', 'floor' => -30, 'gravity' => 10], ['do' => 'wave', 'shift' => [0, 0, 5]]]));
        $run = Run::ask(Project::query()->findOrFail($id), $asked, $asked->key(), WorkOutAnswer::class)->fresh();
        self::assertInstanceOf(Run::class, $run);
        self::assertSame($asked->key(), Questions::read($run->settings)->key());
    }

    /** While a step is edited, what it took moves, which lives no more. */
    public function test_poses_of_spent_pieces_are_worked_out_when_they_are_named(): void
    {
        $id = $this->halves();
        $stock = (int) Project::query()->findOrFail($id)->pieces()->whereNull('made_by')->value('id');
        $told = $this->postJson("/api/v1/projects/$id/movement/poses", ['movement' => self::movement([['do' => 'spread']]), 'pieces' => [$stock]])->assertOk()->json();
        $bytes = (string) Storage::disk('answers')->get(Answer::query()->findOrFail(basename($told['url']))->file);
        self::assertSame(['chest'], json_decode(substr($bytes, 4, unpack('V', $bytes)[1]), true, flags: JSON_THROW_ON_ERROR)['pieces']);
        $other = $this->project(Solids::box(5, 5, 5), 'Other');
        self::assertSame('There is no piece that could move.', $this->postJson("/api/v1/projects/$other/movement/poses", ['movement' => self::movement([['do' => 'spread']]), 'pieces' => [$stock]])->assertUnprocessable()->json('message'));
    }
}
