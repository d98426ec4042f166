<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Piece;
use App\Models\Run;
use App\Models\Upload;
use Illuminate\Support\Facades\Queue;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Tests\Support\Solids;

/** A further mesh brought into a project that is open. */
final class FurtherMeshTest extends HttpTestCase
{
    /** @return array<string, mixed> the run */
    private function further(int $id, Mesh $mesh, string $file, string $up = 'z'): array
    {
        $upload = $this->upload($mesh, $file)->assertCreated()->json('id');
        $run = $this->postJson("/api/v1/projects/$id/meshes", ['uploads' => [$upload], 'up' => $up])->assertAccepted()->json('id');

        return $this->getJson("/api/v1/runs/$run")->json();
    }

    /** @return array<string, float> volume by name of the living pieces, in their order */
    private static function living(int $id): array
    {
        $living = [];
        foreach (Piece::query()->with('mesh')->where('project_id', $id)->whereNull('spent_by')->orderBy('place')->get() as $piece) {
            $living[$piece->name] = round($piece->mesh->volume, 6);
        }

        return $living;
    }

    /** @param  array<string, mixed>  $step */
    private function step(int $id, array $step, ?int $edited = null): void
    {
        $answer = $edited === null ? $this->postJson("/api/v1/projects/$id/steps", ['step' => $step, 'pieces' => null]) : $this->putJson("/api/v1/projects/$id/steps/$edited", ['step' => $step, 'pieces' => null]);
        self::assertSame('done', $this->getJson('/api/v1/runs/'.$answer->assertAccepted()->json('id'))->json('status'));
    }

    public function test_it_stands_beside_what_is_there_and_steps_before_it_never_take_it(): void
    {
        $beam = Solids::box(40, 10, 10);
        $id = $this->project($beam, 'Beam');
        $cut = static fn (float $at): array => ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [$at, 0, 0], 'facing' => [1, 0, 0]]];
        $this->step($id, $cut(10));
        $peg = Solids::box(20, 2, 2, [5.0, 4.0, 4.0]);
        $run = $this->further($id, $peg, 'Peg.stl');
        self::assertSame(['done', 'Brought in, watertight.'], [$run['status'], $run['message']]);
        self::assertSame(['beam-A' => 1000.0, 'beam-B' => 3000.0, 'peg' => 80.0], self::living($id));
        self::assertSame(0, Upload::query()->count());
        // Another colour than the stock has.
        self::assertCount(3, array_unique(Piece::query()->where('project_id', $id)->whereNull('spent_by')->pluck('colour')->all()));

        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertSame(['beam-A' => 1000.0, 'beam-B' => 3000.0], self::living($id));
        self::assertSame(['*'], $this->getJson("/api/v1/projects/$id")->json('steps.0.settings.of'));
        $this->postJson("/api/v1/projects/$id/redo")->assertOk();
        self::assertSame(['beam*'], $this->getJson("/api/v1/projects/$id")->json('steps.0.settings.of'));

        // The step before it is changed: the peg lies across its plane, and is not cut. A step after it takes all.
        $this->step($id, $cut(20), $this->getJson("/api/v1/projects/$id")->json('steps.0.id'));
        self::assertSame(['beam-A' => 2000.0, 'beam-B' => 2000.0, 'peg' => 80.0], self::living($id));
        $this->step($id, $cut(15));
        $all = ['beam-A-A' => 1500.0, 'beam-A-B' => 500.0, 'beam-B' => 2000.0, 'peg-A' => 40.0, 'peg-B' => 40.0];
        self::assertSame($all, self::living($id));
        $runner = Runner::on('beam', $beam, ['beam' => $beam, 'peg' => $peg]);
        foreach (Recipe::fromArray($this->getJson("/api/v1/projects/$id/recipe.json")->json())->steps as $step) {
            $runner->run($step);
        }
        self::assertEqualsCanonicalizing($all, array_map(static fn ($piece): float => round(Volume::of($piece->mesh), 6), $runner->pieces()));
    }

    public function test_names_are_told_apart_also_where_one_reads_like_a_part_of_another(): void
    {
        $id = $this->project(Solids::box(10, 10, 10), 'Mill');
        $this->step($id, ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [5, 0, 0], 'facing' => [1, 0, 0]]]);
        $this->further($id, Solids::box(1, 1, 1), 'mill.stl');
        $this->further($id, Solids::box(2, 2, 2), 'mill.stl');
        self::assertSame(['mill-A' => 500.0, 'mill-B' => 500.0, 'mill2' => 1.0, 'mill3' => 8.0], self::living($id));
        $this->further($id, Solids::box(8, 3, 3, [1.0, 0.0, 0.0]), 'mill-door.stl');
        $step = $this->getJson("/api/v1/projects/$id")->json('steps.0');
        self::assertSame(['mill'], $step['settings']['of']);
        $this->step($id, ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [4, 0, 0], 'facing' => [1, 0, 0]]], $step['id']);
        self::assertSame(['mill-A' => 400.0, 'mill-B' => 600.0, 'mill2' => 1.0, 'mill3' => 8.0, 'mill-door' => 72.0], self::living($id));
    }

    public function test_a_mesh_with_y_up_is_stood_upright_and_goes_by_one_undo(): void
    {
        $id = $this->project(Solids::box(10, 10, 10), 'Base');
        $run = $this->further($id, Solids::box(1, 2, 3), 'post.stl', 'y');
        self::assertSame(['done', 'Brought in and stood upright, watertight.'], [$run['status'], $run['message']]);
        $piece = collect($this->getJson("/api/v1/projects/$id")->json('pieces'))->firstWhere(static fn (array $piece): bool => $piece['name'] === 'post' && ! $piece['spent']);
        self::assertSame([1, 3, 2], array_map(static fn (int|float $high, int|float $low): int => (int) round($high - $low), $piece['max'], $piece['min']));
        self::assertSame(['base' => 1000.0, 'post' => 6.0], self::living($id));
        self::assertSame(['post'], $this->getJson("/api/v1/projects/$id")->json('steps.0.settings.of'));
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertSame(['base' => 1000.0], self::living($id));
        self::assertSame([], $this->getJson("/api/v1/projects/$id")->json('steps'));
    }

    public function test_it_waits_for_no_step_and_what_is_gone_is_refused(): void
    {
        $id = $this->project(Solids::box(10, 10, 10), 'Base');
        $upload = $this->upload(Solids::box(1, 2, 3), 'post.stl')->json('id');
        Queue::fake();
        $run = $this->postJson("/api/v1/projects/$id/steps", ['step' => ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [5, 0, 0], 'facing' => [1, 0, 0]]], 'pieces' => null])->assertAccepted()->json('id');
        $this->postJson("/api/v1/projects/$id/meshes", ['uploads' => [$upload]])->assertStatus(422)
            ->assertJsonPath('message', 'Another step of this project is still at work; wait for it, or stop it first.');
        Run::query()->where('id', $run)->update(['status' => 'cancelled']);
        $this->deleteJson("/api/v1/uploads/$upload")->assertNoContent();
        $this->postJson("/api/v1/projects/$id/meshes", ['uploads' => [$upload]])->assertStatus(422)->assertJsonPath('message', 'The file that was brought in is not there any more; bring it in again.');
        $this->postJson("/api/v1/projects/$id/meshes", ['uploads' => []])->assertStatus(422);
    }
}
