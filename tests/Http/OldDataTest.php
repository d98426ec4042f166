<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Meshes\MeshStore;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Support\Facades\DB;
use Isotome\Mesh\Volume;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;

/**
 * The database of a data folder of November 2026, before pieces could have several parents, opens, replays and undoes as before.
 *
 * The fixture was made by the program of that time: a post cut with a kerf, in a series and into cells, one part mirrored, another named; a copy of it; and an
 * open ring, mended, whose cut was undone. Beside it lies what that program answered of these projects.
 */
final class OldDataTest extends HttpTestCase
{
    private const FIXTURE = __DIR__.'/../fixtures/data-of-november-2026';

    /** @var array<string, array<string, mixed>> what was answered then, by the project's name */
    private array $then;

    protected function prepareDatabase(): void
    {
        file_put_contents($this->path('old.sqlite'), (string) gzdecode((string) file_get_contents(self::FIXTURE.'.sqlite.gz')));
        config(['database.connections.sqlite.database' => $this->path('old.sqlite')]);
        DB::purge('sqlite');
        $this->then = json_decode((string) gzdecode((string) file_get_contents(self::FIXTURE.'.json.gz')), true, flags: JSON_THROW_ON_ERROR);
    }

    public function test_everything_is_there_as_it_was(): void
    {
        self::assertEqualsCanonicalizing(array_keys($this->then), array_column($this->getJson('/api/v1/projects')->assertOk()->json(), 'name'));
        foreach ($this->then as $name => $then) {
            self::assertSame([], self::missing($then, $this->getJson("/api/v1/projects/{$then['id']}")->assertOk()->json()), $name);
        }
        // The parent of then is the first of the parents of now.
        foreach (Piece::query()->get() as $piece) {
            self::assertSame($piece->parent_id === null ? [] : [$piece->parent_id], $piece->parentIds());
        }
    }

    public function test_its_recipe_gives_the_same_pieces(): void
    {
        foreach ($this->then as $name => $then) {
            $stock = Piece::query()->where('project_id', $then['id'])->whereNull('parent_id')->firstOrFail();
            $runner = Runner::on($stock->name, (new MeshStore)->get($stock->mesh));
            foreach (Recipe::fromArray($this->getJson("/api/v1/projects/{$then['id']}/recipe.json")->assertOk()->json())->steps as $step) {
                $runner->run($step);
            }
            $living = array_column(array_filter($then['pieces'], static fn (array $piece): bool => ! $piece['spent']), 'volume', 'name');
            self::assertEqualsCanonicalizing(array_keys($living), array_keys($runner->pieces()), $name);
            foreach ($runner->pieces() as $piece) {
                self::assertEqualsWithDelta($living[$piece->name], Volume::of($piece->mesh), 1e-9 * abs($living[$piece->name]) + 1e-9, $piece->name);
            }
        }
    }

    public function test_what_could_be_undone_and_done_again_can_be(): void
    {
        $post = $this->then['Gate post']['id'];
        $pieces = $this->postJson("/api/v1/projects/$post/undo")->assertOk()->json('project.pieces');
        self::assertNotContains('Hinge side', array_column($pieces, 'title'));
        // The name, the mirror, the cells, the series and the cut: then it is as it was brought in.
        for ($n = 0; $n < 4; $n++) {
            $this->postJson("/api/v1/projects/$post/undo")->assertOk();
        }
        $this->getJson("/api/v1/projects/$post")->assertJsonCount(1, 'pieces')->assertJsonCount(0, 'steps')->assertJsonPath('history.undo', null);
        for ($n = 0; $n < 5; $n++) {
            $this->postJson("/api/v1/projects/$post/redo")->assertOk();
        }
        self::assertEquals(array_column($this->then['Gate post']['pieces'], 'volume', 'name'), array_column($this->getJson("/api/v1/projects/$post")->json('pieces'), 'volume', 'name'));

        $ring = $this->then['Worn ring']['id'];
        $this->postJson("/api/v1/projects/$ring/redo")->assertOk()->assertJsonCount(2, 'project.steps');
        $this->postJson("/api/v1/projects/$ring/undo")->assertOk();
        $this->postJson("/api/v1/projects/$ring/undo")->assertOk()->assertJsonCount(0, 'project.steps');
    }

    public function test_it_is_worked_on_as_if_it_were_of_today(): void
    {
        $post = $this->then['Gate post']['id'];
        [$cut, , $cells] = $this->then['Gate post']['steps'];
        // One branch is taken back, the first step edited, the rest run again, and a step of today follows.
        $this->postJson("/api/v1/projects/$post/rejoin", ['step' => $cells['id']])->assertOk();
        self::assertContains('gate-post-B', $this->living($post));
        $run = $this->putJson("/api/v1/projects/$post/steps/{$cut['id']}", self::asCut(['through' => [0, 0, 8], 'facing' => [0, 0, 1]]))->assertAccepted()->json('id');
        self::assertSame('done', $this->getJson("/api/v1/runs/$run")->json('status'));
        self::assertEqualsWithDelta(40 * 30 * 12, (float) Piece::query()->with('mesh')->where(['project_id' => $post, 'name' => 'gate-post-B'])->firstOrFail()->mesh->volume, 1e-6);
        self::assertContains('gate-post-A-B', $this->living($post));
        $run = $this->postJson("/api/v1/projects/$post/steps", ['step' => ['do' => 'turn', 'about' => [1, 0, 0], 'degrees' => 90]])->assertAccepted()->json('id');
        self::assertSame('done', $this->getJson("/api/v1/runs/$run")->json('status'));
        // The copy is its own.
        self::assertSame([], self::missing($this->then['Gate post 2'], $this->getJson("/api/v1/projects/{$this->then['Gate post 2']['id']}")->json()));
        self::assertSame(3, Project::query()->count());
    }

    /** @return list<string> */
    private function living(int $project): array
    {
        return Piece::query()->where('project_id', $project)->whereNull('spent_by')->pluck('name')->all();
    }

    /**
     * What was told then and is not told now, by its place in the answer; what is new is no matter.
     *
     * @param  array<mixed>  $then
     * @return list<string>
     */
    private static function missing(array $then, mixed $now, string $at = ''): array
    {
        $missing = [];
        foreach ($then as $key => $value) {
            $other = is_array($now) ? $now[$key] ?? null : null;
            if (is_array($value)) {
                array_push($missing, ...self::missing($value, $other, "$at/$key"));
            } elseif (is_float($value) || is_float($other) ? abs((float) $value - (float) $other) > 1e-12 * abs((float) $value) : $value !== $other) {
                $missing[] = "$at/$key: ".json_encode($value).' is now '.json_encode($other);
            }
        }

        return $missing;
    }
}
