<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Project;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Tests\Support\Solids;

/** A data folder of the version before keeps everything when it is brought up to date. */
final class UpgradeTest extends HttpTestCase
{
    public function test_an_older_database_gets_sums_sizes_and_a_printer_and_loses_nothing(): void
    {
        $id = $this->project(Solids::torus(20, 7, 120, 60));
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))->assertAccepted();
        $blocks = DB::table('mesh_blocks')->orderBy('id')->get(['id', 'mesh_hash', 'sv', 'sx', 'sy', 'sz'])->map(static fn (object $row): array => (array) $row)->all();
        $bytes = DB::table('meshes')->orderBy('hash')->pluck('bytes', 'hash')->all();
        self::assertGreaterThan(5000, min($bytes));
        $pieces = $this->getJson("/api/v1/projects/$id")->json('pieces');

        // All but the first.
        Artisan::call('migrate:rollback', ['--step' => DB::table('migrations')->count() - 1, '--force' => true]);
        self::assertFalse(DB::getSchemaBuilder()->hasTable('history'));
        self::assertFalse(DB::getSchemaBuilder()->hasColumn('mesh_blocks', 'sv'));
        self::assertSame(3, DB::table('pieces')->count());
        Artisan::call('migrate', ['--force' => true]);

        foreach (DB::table('mesh_blocks')->orderBy('id')->get(['id', 'mesh_hash', 'sv', 'sx', 'sy', 'sz']) as $n => $row) {
            self::assertEquals($blocks[$n], (array) $row);
        }
        self::assertEquals($bytes, DB::table('meshes')->orderBy('hash')->pluck('bytes', 'hash')->all());
        self::assertSame('Standard bed', Project::query()->findOrFail($id)->printer?->name);
        self::assertSame($pieces, $this->getJson("/api/v1/projects/$id")->json('pieces'));
        // And it works on: either side, undo, rejoin.
        $half = $this->postJson("/api/v1/projects/$id/section/sides", ['through' => [0, 0, 0], 'facing' => [1, 0, 0]])->assertOk();
        self::assertEqualsWithDelta($half->json('ahead.volume'), $half->json('behind.volume'), 1e-6);
        $this->postJson("/api/v1/projects/$id/rejoin")->assertOk();
        $this->postJson("/api/v1/projects/$id/undo")->assertOk()->assertJsonCount(3, 'project.pieces');
    }

    public function test_only_so_many_changes_can_be_undone_and_their_meshes_go_with_them(): void
    {
        $id = $this->project(Solids::box(10, 10, 10));
        $piece = $this->getJson("/api/v1/projects/$id")->json('pieces.0.id');
        for ($n = 0; $n < 65; $n++) {
            $this->patchJson("/api/v1/projects/$id/pieces", ['pieces' => [$piece], 'title' => "Post $n"])->assertOk();
        }
        self::assertSame(60, DB::table('history')->where('project_id', $id)->count());
        for ($n = 0; $n < 60; $n++) {
            $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        }
        $this->postJson("/api/v1/projects/$id/undo")->assertUnprocessable();
        $this->getJson("/api/v1/projects/$id")->assertJsonPath('pieces.0.title', 'Post 4');
        self::assertSame(60, DB::table('history')->where('project_id', $id)->where('redo', true)->count());
        $this->deleteJson("/api/v1/projects/$id")->assertNoContent();
        $this->deleteJson("/api/v1/projects/$id/for-good")->assertNoContent();
        self::assertSame([0, 0, 0], [DB::table('history')->count(), DB::table('history_meshes')->count(), DB::table('meshes')->count()]);
    }

    public function test_changes_that_name_nothing_or_nonsense_are_refused_with_one_sentence(): void
    {
        $id = $this->project(Solids::box(10, 10, 10));
        $piece = $this->getJson("/api/v1/projects/$id")->json('pieces.0.id');
        $refused = [
            ['patchJson', "projects/$id/pieces", ['pieces' => []]], ['patchJson', "projects/$id/pieces", ['pieces' => [$piece], 'colour' => 'red']],
            ['patchJson', "projects/$id/pieces", ['pieces' => [$piece], 'title' => str_repeat('x', 121)]], ['patchJson', "projects/$id/pieces", ['pieces' => [9999], 'title' => 'x']],
            ['patchJson', "projects/$id", ['name' => '   ']], ['postJson', "projects/$id/rejoin", ['step' => 99]], ['postJson', "projects/$id/rejoin", ['piece' => $piece]],
            ['postJson', "projects/$id/steps", self::asMend(['pieces' => [9999]])], ['postJson', "projects/$id/steps/foresee", self::asMend(['pieces' => [9999]])], ['postJson', "projects/$id/checks", ['pieces' => 'all']],
            ['postJson', "projects/$id/recipe", ['isotome_recipe' => 2, 'steps' => []]], ['postJson', "projects/$id/profile", ['through' => [0, 0, 0], 'facing' => [0, 0, 0]]],
            ['postJson', 'printers', ['name' => 'x', 'x' => 'wide', 'y' => 1, 'z' => 1]], ['getJson', "projects/$id/section.svg", []],
        ];
        foreach ($refused as [$method, $address, $body]) {
            $answer = $method === 'getJson' ? $this->getJson("/api/v1/$address") : $this->$method("/api/v1/$address", $body);
            $message = (string) $answer->assertUnprocessable()->json('message');
            self::assertMatchesRegularExpression('/^\w.*\.( \(and \d+ more errors?\))?$/', $message, $address);
        }
        $other = $this->project(Solids::box(10, 10, 12), 'Other');
        $this->postJson("/api/v1/projects/$other/steps", self::asCut($this->flatBlade(['through' => [0, 0, 5]])))->assertAccepted();
        $step = $this->getJson("/api/v1/projects/$other")->json('steps.0.id');
        // A step of another project is not there.
        $this->putJson("/api/v1/projects/$id/steps/$step", self::asCut($this->flatBlade()))->assertNotFound();
        self::assertSame(0, DB::table('history')->where('project_id', $id)->count());
    }
}
