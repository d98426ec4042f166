<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Jobs\TakeSteps;
use App\Models\Mesh;
use App\Models\Piece;
use App\Models\Run;
use App\Models\Step;
use App\Runs\Lease;
use Illuminate\Support\Facades\Queue;
use Isotome\Format\StlReader;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh as CoreMesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Tests\Support\Solids;
use ZipArchive;

final class CutTest extends HttpTestCase
{
    /** @return array<string, mixed> */
    private function cut(int $id, array $more = []): array
    {
        $run = $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade($more)))->assertAccepted()->json();

        return $this->getJson('/api/v1/runs/'.$run['id'])->assertOk()->json();
    }

    /** @return list<string> */
    private function living(int $id): array
    {
        return Piece::query()->where('project_id', $id)->whereNull('spent_by')->orderBy('place')->pluck('name')->all();
    }

    public function test_the_section_is_that_of_the_core(): void
    {
        $id = $this->project();
        $answer = $this->postJson("/api/v1/projects/$id/section", $this->flatBlade(['through' => [0, 0, 0]]))->assertOk();
        $gon = 40 * sin(2 * M_PI / 40) / 2;
        self::assertEqualsWithDelta($gon * (27 ** 2 - 13 ** 2), $answer->json('area'), 1e-3);
        $answer->assertJsonCount(2, 'pieces.0.outlines')->assertJsonPath('pieces.0.cuts', true);
        $this->postJson("/api/v1/projects/$id/section", $this->flatBlade(['through' => [0, 0, 50]]))->assertJsonPath('pieces.0.cuts', false)->assertJsonPath('area', 0);
        // Touching the lowest ring of vertices cuts nothing.
        $this->postJson("/api/v1/projects/$id/section", $this->flatBlade(['through' => [0, 0, -7]]))->assertJsonPath('pieces.0.cuts', false);
    }

    public function test_a_drawing_holds_the_picked_pieces_and_says_its_length(): void
    {
        $id = $this->project();
        $this->cut($id);
        $picked = Piece::query()->where('project_id', $id)->whereNull('spent_by')->where('name', 'torus-B')->firstOrFail()->id;
        $address = static fn (string $format, array $pieces): string => "/api/v1/projects/$id/section.$format?".http_build_query(['through' => [0, 0, 3], 'facing' => [0, 0, 1], ...($pieces === [] ? [] : ['pieces' => $pieces])]);
        foreach (['svg' => '<svg', 'dxf' => 'POLYLINE'] as $format => $words) {
            $answer = $this->get($address($format, [$picked]))->assertOk();
            self::assertStringContainsString($words, (string) $answer->getContent());
            self::assertSame((string) strlen((string) $answer->getContent()), $answer->headers->get('Content-Length'));
            // What lies behind the first cut is not met at 3 mm.
            self::assertSame((string) $answer->getContent(), (string) $this->get($address($format, []))->assertOk()->getContent());
        }
        $this->getJson($address('svg', [9999]))->assertUnprocessable()->assertJsonPath('message', 'There is no piece for this blade to take; show or pick at least one piece.');
        $this->getJson($address('svg', ['x']))->assertUnprocessable()->assertJsonPath('message', 'The picked pieces are not a list of pieces; pick them again.');
    }

    public function test_a_cut_makes_named_coloured_watertight_pieces_and_keeps_the_lineage(): void
    {
        $id = $this->project();
        $run = $this->cut($id);
        self::assertSame(['done', '2 pieces, both watertight, 0.000 % volume lost.', 1.0], [$run['status'], $run['message'], (float) $run['progress']]);
        self::assertSame(['torus-A', 'torus-B'], $this->living($id));
        $project = $this->getJson("/api/v1/projects/$id")->json();
        self::assertSame([true, false, false], array_column($project['pieces'], 'spent'));
        self::assertSame([null, $project['pieces'][0]['id'], $project['pieces'][0]['id']], array_column($project['pieces'], 'parent'));
        self::assertCount(3, array_unique(array_column($project['pieces'], 'colour')));
        self::assertSame(['torus'], $project['steps'][0]['report']['took']);

        $this->cut($id, ['through' => [0, 0, 0], 'facing' => [1, 0, 0], 'pieces' => [$project['pieces'][2]['id']]]);
        self::assertSame(['torus-A', 'torus-B-A', 'torus-B-B'], $this->living($id));
    }

    public function test_the_last_cut_is_rejoined(): void
    {
        $id = $this->project();
        $this->cut($id);
        $first = $this->getJson("/api/v1/projects/$id")->json();
        $this->cut($id, ['through' => [0, 0, 0], 'facing' => [1, 0, 0]]);
        self::assertSame(7, Mesh::query()->count());
        $this->postJson("/api/v1/projects/$id/rejoin")->assertOk()->assertJsonCount(1, 'project.steps');
        self::assertSame($first['pieces'], $this->getJson("/api/v1/projects/$id")->json('pieces'));
        $this->postJson("/api/v1/projects/$id/rejoin")->assertOk();
        self::assertSame([['torus'], 0], [$this->living($id), Step::query()->count()]);
        $this->postJson("/api/v1/projects/$id/rejoin")->assertUnprocessable()->assertJsonPath('message', 'There is no cut to take back; this project is as it was brought in.');
    }

    public function test_the_zip_holds_what_its_manifest_says_and_the_recipe_repeats_it(): void
    {
        $id = $this->project();
        $this->cut($id, ['facing' => [0.2, 0.1, 1], 'kerf' => 0.3]);
        $this->cut($id, ['through' => [0, 1, 0], 'facing' => [1, 0, 0]]);
        $this->get("/api/v1/projects/$id/pieces.zip")->assertOk()->assertDownload('Torus.zip');
        $zip = new ZipArchive;
        self::assertTrue($zip->open($this->takenOut("/api/v1/projects/$id/pieces.zip")));
        $manifest = json_decode((string) $zip->getFromName('manifest.json'), true);
        self::assertSame(['torus-A-A', 'torus-A-B', 'torus-B-A', 'torus-B-B'], array_column($manifest['pieces'], 'name'));
        self::assertSame(5, $zip->numFiles);
        $bytes = [];
        foreach ($manifest['pieces'] as $piece) {
            $bytes[$piece['name']] = (string) $zip->getFromName($piece['file']);
            $mesh = StlReader::read($this->file('piece.stl', $bytes[$piece['name']]))->mesh;
            self::assertTrue(EdgeCheck::of($mesh)->isWatertight());
            self::assertTrue($piece['watertight']);
            self::assertSame($piece['triangles'], $mesh->triangleCount());
            self::assertEqualsWithDelta($piece['volume_mm3'], Volume::of($mesh), 1e-9 * $piece['volume_mm3']);
        }
        $recipe = $this->get("/api/v1/projects/$id/recipe.json")->assertOk()->json();
        self::assertSame($recipe, $manifest['recipe']);
        // The same recipe, run by the core alone on the same file, gives the same bytes.
        \Isotome\Format\StlWriter::write(Solids::torus(20, 7, 40, 24), $this->path('torus.stl'));
        $runner = Runner::on('torus', StlReader::read($this->path('torus.stl'))->mesh);
        foreach (Recipe::fromArray($recipe)->steps as $step) {
            $runner->run($step);
        }
        $colours = [];
        foreach ($runner->pieces() as $name => $piece) {
            \Isotome\Format\StlWriter::write($piece->mesh, $this->path('alone.stl'));
            self::assertSame(md5($bytes[$name]), md5_file($this->path('alone.stl')));
            $colours[] = $piece->colour;
        }
        self::assertSame(array_column($manifest['pieces'], 'colour'), $colours);
    }

    public function test_blades_that_cannot_cut_are_refused_and_change_nothing(): void
    {
        $id = $this->project();
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade(['facing' => [0, 0, 0]])))->assertUnprocessable()
            ->assertJsonPath('message', 'The blade has no direction (its facing is 0, 0, 0); give a facing with at least one number that is not zero.');
        foreach ([['through' => [0, 0]], ['through' => [0, 0, 'x']], ['facing' => 'up'], ['keep' => 'all'], ['seal' => 'tight'], ['kerf' => -1], ['pieces' => 'all'], ['through' => [0, 0, 1e99]]] as $wrong) {
            $message = $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade($wrong)))->assertUnprocessable()->json('message');
            self::assertMatchesRegularExpression('/; .*\.( \(and \d more errors?\))?$/', $message);
        }
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade(['pieces' => [999]])))->assertUnprocessable()
            ->assertJsonPath('message', 'There is no piece to take; show or pick at least one piece.');
        $run = $this->cut($id, ['through' => [0, 0, 99]]);
        self::assertSame('failed', $run['status']);
        self::assertStringContainsString('cuts nothing: torus lies from', $run['message']);
        self::assertSame([['torus'], 0, 1], [$this->living($id), Step::query()->count(), Mesh::query()->count()]);
    }

    public function test_an_even_seal_is_cut_as_well(): void
    {
        $run = $this->cut($this->project(), ['seal' => 'even']);
        self::assertSame('done', $run['status'], $run['message']);
        self::assertStringContainsString('watertight', $run['message']);
    }

    public function test_an_open_mesh_is_cut_and_its_open_outline_told(): void
    {
        $box = Solids::box(10, 10, 10);
        $id = $this->project(CoreMesh::of($box->xyz, [...array_slice($box->corners, 0, 12), ...array_slice($box->corners, 15)]));
        $this->postJson("/api/v1/projects/$id/section", $this->flatBlade(['through' => [0, 0, 5]]))->assertJsonCount(1, 'pieces.0.lines');
        $run = $this->cut($id, ['through' => [0, 0, 5]]);
        self::assertSame('done', $run['status']);
        self::assertStringContainsString('none watertight; 1 outline could not be closed', $run['message']);
    }

    public function test_a_run_that_is_stopped_changes_nothing(): void
    {
        Queue::fake();
        $id = $this->project();
        Queue::assertPushed(\App\Jobs\BringIn::class, 1);
        (new \App\Jobs\BringIn(Run::query()->value('id')))->handle();
        $run = $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))->assertAccepted()->json('id');
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))->assertUnprocessable();
        $this->postJson("/api/v1/projects/$id/rejoin")->assertUnprocessable();
        $this->postJson("/api/v1/runs/$run/cancel")->assertOk();
        (new TakeSteps($run))->handle();
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'cancelled')->assertJsonPath('over', true)->assertJsonPath('message', 'Stopped; nothing was changed.');
        self::assertSame([['torus'], 0, 1], [$this->living($id), Step::query()->count(), Mesh::query()->count()]);
        // And the next cut goes through; a worker that takes it up twice does it once.
        $run = $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))->assertAccepted()->json('id');
        (new TakeSteps($run))->handle();
        (new TakeSteps($run))->handle();
        self::assertSame(['torus-A', 'torus-B'], $this->living($id));
    }

    public function test_work_that_died_half_way_is_taken_up_again_from_its_beginning(): void
    {
        Queue::fake();
        $id = $this->project();
        (new \App\Jobs\BringIn(Run::query()->value('id')))->handle();
        $run = $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))->json('id');
        // As a killed worker leaves it.
        Run::query()->whereKey($run)->update(['status' => 'running', 'phase' => 'cutting and checking', 'progress' => 0.5]);
        (new TakeSteps($run))->handle();
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'done');
        self::assertSame(['torus-A', 'torus-B'], $this->living($id));
        // Not for ever: work that ends a worker each time is given up.
        $again = $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))->json('id');
        Run::query()->whereKey($again)->update(['status' => 'running', 'starts' => Lease::MOST_STARTS]);
        (new TakeSteps($again))->handle();
        $this->getJson("/api/v1/runs/$again")->assertJsonPath('status', 'failed');
        self::assertStringContainsString('nothing was changed', $this->getJson("/api/v1/runs/$again")->json('message'));
    }

    public function test_the_demo_shelf_is_watertight_and_of_the_size_that_is_told(): void
    {
        $this->seed();
        $shelf = $this->getJson('/api/v1/projects')->assertJsonCount(11)->json();
        self::assertSame(['Heron', 'Mill figure', 'Millstone fragment', 'Millstone', 'Sluice beam', 'Flour crock', 'Cistern', 'Half wheel bracket', 'Clay jar', 'Sign lettering', 'Museum sign'], array_column($shelf, 'name'));
        self::assertSame([true, false, true, true, true, false, true, false, true, true, false], array_column($shelf, 'watertight'));
        $heron = $shelf[0]['largest'];
        self::assertTrue($heron['watertight']);
        self::assertSame(1, $heron['shells']);
        self::assertEqualsWithDelta(420.0, $heron['max'][2] - $heron['min'][2], 1e-3);
        self::assertGreaterThan(60_000, $heron['triangles']);
        self::assertLessThan(120_000, $heron['triangles']);
        // Of several pieces the largest, the others for the picture, and the size of all.
        self::assertSame(['coat', 12, 11], [$shelf[1]['largest']['name'], $shelf[1]['pieces'], count($shelf[1]['beside'])]);
        self::assertEqualsWithDelta([92.0, 92.0, 190.0], $shelf[1]['size'], 0.5);
        self::assertGreaterThan($shelf[1]['largest']['volume'], $shelf[1]['volume']);
        // What steps were made of is shown as it is now: a stone broken on two sides, and letters cut out of a sheet and thickened.
        self::assertSame(['millstone-fragment-A-A', 1, []], [$shelf[2]['largest']['name'], $shelf[2]['pieces'], $shelf[2]['beside']]);
        self::assertLessThan(0.3 * $shelf[3]['volume'], $shelf[2]['volume']);
        self::assertSame([8, 7], [$shelf[9]['pieces'], count($shelf[9]['beside'])]);
        self::assertEqualsWithDelta([276.0, 4.0, 48.0], $shelf[9]['size'], 1e-3);
    }
}
