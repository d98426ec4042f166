<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Mesh;
use App\Models\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Tests\Support\Solids;

/** Change of mind: rejoin on a branch, edit in the middle, undo and redo, recipes on other stock. */
final class LineageTest extends HttpTestCase
{
    /** @return array<string, mixed> the run */
    private function cut(int $id, array $through, array $facing, ?array $names = null, array $more = []): array
    {
        $pieces = $names === null ? null : array_map(fn (string $name): int => $this->piece($id, $name)['id'], $names);
        $run = $this->postJson("/api/v1/projects/$id/steps", self::asCut(['through' => $through, 'facing' => $facing, 'pieces' => $pieces, ...$more]))->assertAccepted()->json();
        $run = $this->getJson('/api/v1/runs/'.$run['id'])->json();
        self::assertSame('done', $run['status'], (string) $run['message']);

        return $run;
    }

    /** @return array<string, mixed> */
    private function piece(int $id, string $name): array
    {
        foreach ($this->getJson("/api/v1/projects/$id")->json('pieces') as $piece) {
            if ($piece['name'] === $name && ! $piece['spent']) {
                return $piece;
            }
        }
        self::fail("no living $name");
    }

    /** @return array<string, string> hash by name of the living pieces */
    private function living(int $id): array
    {
        return Piece::query()->where('project_id', $id)->whereNull('spent_by')->orderBy('place')->pluck('mesh_hash', 'name')->all();
    }

    /** A torus cut in half, then either half cut, then one quarter cut. */
    private function branched(): int
    {
        $id = $this->project();
        $this->cut($id, [0, 0, 0.5], [0, 0, 1]);
        $this->cut($id, [1, 0, 0], [1, 0, 0], ['torus-A']);
        $this->cut($id, [0, 2, 0], [0, 1, 0], ['torus-B']);
        $this->cut($id, [0, 1, 0], [0, 1, 0], ['torus-A-A']);

        return $id;
    }

    /** The exported recipe, run by the core alone, gives what the project shows. */
    private function assertReplays(int $id): void
    {
        $runner = Runner::on('torus', \Isotome\Format\StlReader::read($this->path('torus.stl'))->mesh);
        foreach (Recipe::fromArray($this->get("/api/v1/projects/$id/recipe.json")->json())->steps as $step) {
            $runner->run($step);
        }
        $volumes = [];
        foreach ($runner->pieces() as $name => $piece) {
            $volumes[$name] = \Isotome\Mesh\Volume::of($piece->mesh);
        }
        self::assertEqualsCanonicalizing(array_keys($this->living($id)), array_keys($volumes));
        foreach (Piece::query()->with('mesh')->where('project_id', $id)->whereNull('spent_by')->get() as $piece) {
            self::assertEqualsWithDelta($piece->mesh->volume, $volumes[$piece->name], 1e-9 * abs($piece->mesh->volume));
        }
    }

    protected function setUp(): void
    {
        parent::setUp();
        \Isotome\Format\StlWriter::write(Solids::torus(20, 7, 40, 24), $this->path('torus.stl'));
    }

    public function test_one_branch_of_two_is_rejoined_and_the_other_stays(): void
    {
        $id = $this->branched();
        $before = $this->living($id);
        $steps = $this->getJson("/api/v1/projects/$id")->json('steps');
        $answer = $this->postJson("/api/v1/projects/$id/rejoin", ['step' => $steps[1]['id']])->assertOk();
        // With what was made of its pieces: step 4 goes as well.
        self::assertSame('Rejoined: Torus A is whole again; 2 steps were taken back.', $answer->json('said'));
        self::assertSame([1, 3], array_column($answer->json('project.steps'), 'number'));
        $after = $this->living($id);
        self::assertSame(['torus-A'], array_keys(array_diff_key($after, $before)));
        self::assertSame(array_filter($before, static fn (string $name): bool => str_starts_with($name, 'torus-B'), ARRAY_FILTER_USE_KEY), array_diff_key($after, ['torus-A' => 1]));
        $this->assertReplays($id);

        // Undone: everything is there as it was, and nothing was computed.
        $this->postJson("/api/v1/projects/$id/undo")->assertOk()->assertJsonPath('said', 'Undone: the rejoining of Torus A.');
        self::assertSame($before, $this->living($id));
        $this->postJson("/api/v1/projects/$id/redo")->assertOk();
        self::assertSame($after, $this->living($id));
    }

    public function test_a_piece_is_rejoined_out_of_a_step_that_took_several_and_the_recipe_still_gives_what_is_there(): void
    {
        $id = $this->project();
        $this->cut($id, [0, 0, 0.5], [0, 0, 1]);
        $this->cut($id, [1, 0, 0], [1, 0, 0]);
        $spent = collect($this->getJson("/api/v1/projects/$id")->json('pieces'))->firstWhere('name', 'torus-B');
        $answer = $this->postJson("/api/v1/projects/$id/rejoin", ['piece' => $spent['id']])->assertOk();
        self::assertSame(['torus-A-A', 'torus-A-B', 'torus-B'], array_keys($this->living($id)));
        // "All" would take torus-B again: the step names what it took.
        self::assertSame(['torus-A'], $answer->json('project.steps.1.settings.of'));
        $this->assertReplays($id);
    }

    public function test_a_step_in_the_middle_is_edited_and_its_descendants_run_again(): void
    {
        $id = $this->branched();
        $before = $this->living($id);
        $step = $this->getJson("/api/v1/projects/$id")->json('steps.1');
        $run = $this->putJson("/api/v1/projects/$id/steps/{$step['id']}", self::asCut(['through' => [5, 0, 0], 'facing' => [1, 0, 0], 'kerf' => 0.5]))->assertAccepted()->json('id');
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'done')->assertJsonPath('message', '2 steps run again.');
        $after = $this->living($id);
        self::assertSame(array_keys($before), array_keys($after));
        foreach ($before as $name => $hash) {
            self::assertSame(str_starts_with($name, 'torus-B'), $hash === $after[$name], $name);
        }
        self::assertEquals(0.5, $this->getJson("/api/v1/projects/$id")->json('steps.1.settings.kerf'));
        $this->assertReplays($id);
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertSame($before, $this->living($id));
    }

    public function test_what_comes_out_the_same_is_kept_with_all_that_was_made_of_it(): void
    {
        $id = $this->project();
        $series = ['series' => ['stops' => [-3, 0, 3]]];
        $this->cut($id, [0, 0, 0], [0, 0, 1], null, $series);
        $this->cut($id, [1, 0, 0], [1, 0, 0], ['torus-A']);
        $this->cut($id, [1, 0, 0], [1, 0, 0], ['torus-D']);
        $before = Piece::query()->where('project_id', $id)->pluck('id', 'name')->all();
        $step = $this->getJson("/api/v1/projects/$id")->json('steps.0.id');
        // Only the last stop moves: the two slabs below it stay, and so do their descendants.
        $run = $this->putJson("/api/v1/projects/$id/steps/$step", self::asCut(['through' => [0, 0, 0], 'facing' => [0, 0, 1], 'series' => ['stops' => [-3, 0, 4]]]))->assertAccepted()->json('id');
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('message', '2 steps run again; 4 pieces were unchanged and kept.');
        $after = Piece::query()->where('project_id', $id)->pluck('id', 'name')->all();
        self::assertSame(['torus', 'torus-A', 'torus-A-A', 'torus-A-B', 'torus-B'], self::sorted(array_keys(array_intersect_assoc($after, $before))));
        $this->assertReplays($id);
    }

    public function test_a_later_step_that_has_nothing_left_to_take_is_left_out_and_undo_brings_it_back(): void
    {
        $id = $this->branched();
        $before = $this->living($id);
        $step = $this->getJson("/api/v1/projects/$id")->json('steps.0.id');
        $run = $this->putJson("/api/v1/projects/$id/steps/$step", self::asCut(['through' => [0, 0, 0.5], 'facing' => [0, 0, 1], 'keep' => 'ahead']))->assertAccepted()->json('id');
        $message = $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'done')->json('message');
        self::assertStringContainsString('step 3 had nothing to take any more and was left out', $message);
        $this->assertReplays($id);
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertSame($before, $this->living($id));
        // A blade that misses everything is refused, and nothing has changed.
        $run = $this->putJson("/api/v1/projects/$id/steps/$step", self::asCut(['through' => [0, 0, 99], 'facing' => [0, 0, 1]]))->assertAccepted()->json('id');
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'failed');
        self::assertSame($before, $this->living($id));
    }

    public function test_undo_and_redo_go_through_everything_and_a_new_step_ends_the_redo(): void
    {
        $id = $this->project();
        $states = [$this->living($id)];
        $this->cut($id, [0, 0, 0.5], [0, 0, 1]);
        $states[] = $this->living($id);
        $this->patchJson("/api/v1/projects/$id/pieces", ['pieces' => [$this->piece($id, 'torus-A')['id']], 'title' => 'Base', 'colour' => '#AA5500'])->assertOk();
        self::assertSame(['Base', '#aa5500'], [$this->piece($id, 'torus-A')['title'], $this->piece($id, 'torus-A')['colour']]);
        $this->cut($id, [1, 0, 0], [1, 0, 0]);
        $states[] = $this->living($id);
        foreach ([1, 1, 0] as $state) {
            $this->postJson("/api/v1/projects/$id/undo")->assertOk();
            self::assertSame($states[$state], $this->living($id));
        }
        $this->postJson("/api/v1/projects/$id/undo")->assertUnprocessable()->assertJsonPath('message', 'There is nothing to undo; this project is as it was brought in.');
        $this->postJson("/api/v1/projects/$id/redo")->assertOk()->assertJsonPath('project.history', ['undo' => 'the cut', 'redo' => 'the new name of Torus A']);
        $this->postJson("/api/v1/projects/$id/redo")->assertOk();
        $this->postJson("/api/v1/projects/$id/redo")->assertOk()->assertJsonPath('project.history.redo', null);
        self::assertSame($states[2], $this->living($id));
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        $this->cut($id, [0, 3, 0], [0, 1, 0]);
        $this->postJson("/api/v1/projects/$id/redo")->assertUnprocessable()->assertJsonPath('message', 'There is nothing to do again.');
        // The meshes of the step that was undone are gone with it.
        self::assertSame([], Mesh::query()->whereIn('hash', array_diff($states[2], $states[1]))->pluck('hash')->all());
    }

    public function test_a_recipe_runs_on_other_stock_under_its_own_names_and_is_one_step_of_undo_each(): void
    {
        $recipe = $this->get('/api/v1/projects/'.$this->branched().'/recipe.json')->json();
        $id = $this->project(Solids::torus(24, 8, 36, 20), 'Mill ring');
        $run = $this->postJson("/api/v1/projects/$id/recipe", $recipe)->assertAccepted()->json('id');
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'done')->assertJsonPath('message', '4 steps run: 5 pieces, all watertight, 0.000 % volume lost.');
        self::assertSame(['mill-ring-A-A-A', 'mill-ring-A-A-B', 'mill-ring-A-B', 'mill-ring-B-A', 'mill-ring-B-B'], array_keys($this->living($id)));
        $this->postJson("/api/v1/projects/$id/undo")->assertJsonPath('said', 'Undone: the recipe.');
        self::assertSame(['mill-ring'], array_keys($this->living($id)));
        // A step that fails leaves none of the others behind.
        $recipe['steps'][3]['blade']['through'] = [0, 500, 0];
        $run = $this->postJson("/api/v1/projects/$id/recipe", $recipe)->assertAccepted()->json('id');
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'failed');
        self::assertSame(['mill-ring'], array_keys($this->living($id)));
        $this->postJson("/api/v1/projects/$id/recipe", ['steps' => []])->assertUnprocessable();
    }

    /**
     * @param  list<string>  $names
     * @return list<string>
     */
    private static function sorted(array $names): array
    {
        sort($names);

        return $names;
    }
}
