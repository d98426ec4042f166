<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Project;
use Isotome\Format\StlReader;
use Isotome\Mend\RemoveFaces;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Tests\Support\Solids;

/** Turning pieces: told before, done, and asked for when a mesh is brought in. */
final class TurnTest extends HttpTestCase
{
    public function test_sizes_after_a_turn_are_told_before_it_and_come_true(): void
    {
        $id = $this->project(Solids::torus(60, 22, 80, 40));
        foreach ([
            ['about' => [1, 0, 0], 'degrees' => 90], ['about' => [1, 2, 3], 'degrees' => 37.5], ['face' => [1, 1, 0.2]], ['face' => [0, 0, 1], 'towards' => [0, 0, -1]],
            ['about' => [0, 1, 0], 'degrees' => -45, 'through' => [5, 5, 5]],
        ] as $turn) {
            $step = ['step' => ['do' => 'turn', ...$turn]];
            $told = $this->postJson("/api/v1/projects/$id/steps/foresee", $step)->assertOk()->json();
            $this->postJson("/api/v1/projects/$id/steps", $step)->assertAccepted();
            $pieces = array_values(array_filter($this->getJson("/api/v1/projects/$id")->json('pieces'), static fn (array $piece): bool => ! $piece['spent']));
            self::assertCount(1, $pieces);
            foreach ([0, 1, 2] as $k) {
                self::assertEqualsWithDelta($pieces[0]['max'][$k] - $pieces[0]['min'][$k], $told['size'][$k], 1e-9);
            }
            self::assertSame([1, $pieces[0]['fit']['fits'] ? 1 : 0], [$told['pieces'], $told['fits']]);
        }
        Project::query()->whereKey($id)->update(['printer_id' => null]);
        self::assertNull($this->postJson("/api/v1/projects/$id/steps/foresee", $step)->json('fits'));
    }

    public function test_how_a_piece_stands_is_told_before_it_is_laid_down_and_comes_true(): void
    {
        $mesh = Solids::moved(Solids::box(30, 20, 60), 0.3, 0.8, 0.1);
        $id = $this->project($mesh);
        foreach ([[], ['on' => 'best'], ['on' => [1.0, 0.2, -0.3]]] as $n => $on) {
            $step = ['step' => ['do' => 'lay', ...$on]];
            $told = $this->postJson("/api/v1/projects/$id/steps/foresee", $step)->assertOk()->json();
            self::assertSame([['pieces', 'open', 'faces', 'map', 'below_mm3', 'turned'], 1, [], 6, 12], [array_keys($told), count($told['pieces']), $told['open'], count($told['faces']), count($told['map'])]);
            // On the largest face, 60 × 30 mm and 20 mm high.
            self::assertEqualsWithDelta([1800.0, 20.0, rad2deg(atan2(15, 10)), 0.0], [$told['faces'][0]['footprint_mm2'], $told['faces'][0]['height_mm'], $told['faces'][0]['margin'], $told['faces'][0]['overhang_mm2']], 1e-4);
            self::assertSame([$n < 2, 0.0], [$told['faces'][0]['facing'] === $told['pieces'][0]['facing'], (float) $told['pieces'][0]['over_mm']]);
            $this->postJson("/api/v1/projects/$id/steps", $step)->assertAccepted();
            $piece = array_values(array_filter($this->getJson("/api/v1/projects/$id")->json('pieces'), static fn (array $piece): bool => ! $piece['spent']))[0];
            self::assertEqualsWithDelta([0.0, $told['pieces'][0]['height_mm']], [$piece['min'][2], $piece['max'][2]], 1e-9);
            $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        }
    }

    public function test_what_is_too_large_as_it_will_lie_is_told(): void
    {
        // The printer holds 200 mm along each side: lying it is too long, and standing too tall.
        $id = $this->project(Solids::box(260, 20, 30));
        foreach ([['best', 60.0], [[1, 0, 0], 60.0]] as [$on, $over]) {
            $told = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => ['do' => 'lay', 'on' => $on]])->assertOk()->json();
            self::assertEqualsWithDelta($over, $told['pieces'][0]['over_mm'], 1e-6);
            // From corner to corner of the space it fits: turned so, its box is no larger.
            self::assertTrue($told['turned']['fits']);
            $turn = ['step' => ['do' => 'turn', 'about' => $told['turned']['about'], 'degrees' => $told['turned']['degrees']]];
            self::assertLessThanOrEqual(200.0 + 1e-9, max($this->postJson("/api/v1/projects/$id/steps/foresee", $turn)->assertOk()->json('size')));
        }
        $long = $this->project(Solids::box(400, 20, 30));
        $told = $this->postJson("/api/v1/projects/$long/steps/foresee", ['step' => ['do' => 'lay']])->assertOk()->json('turned');
        self::assertSame([false, true], [$told['fits'], $told['least_mm'] > (400 - sqrt(3) * 200) / sqrt(3) - 0.2]);
        Project::query()->whereKey($id)->update(['printer_id' => null]);
        self::assertNull($this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => ['do' => 'lay']])->json('pieces.0.over_mm'));
    }

    public function test_a_large_piece_is_looked_at_aside_and_an_open_one_is_named(): void
    {
        $id = $this->project(Solids::torus(60, 22, 120, 60));
        $step = ['step' => ['do' => 'lay']];
        $this->postJson("/api/v1/projects/$id/steps/foresee", $step)->assertAccepted();
        $told = $this->postJson("/api/v1/projects/$id/steps/foresee", $step)->assertOk()->json();
        self::assertEqualsWithDelta(44.0, $told['pieces'][0]['height_mm'], 0.2);
        $open = $this->project(RemoveFaces::of(Solids::box(2, 2, 2), [0 => true]));
        $told = $this->postJson("/api/v1/projects/$open/steps/foresee", $step)->assertOk()->json();
        self::assertSame([0, 1, []], [count($told['pieces']), count($told['open']), $told['map']]);
    }

    public function test_a_mesh_with_y_up_is_brought_in_and_stood_upright_and_its_recipe_says_so(): void
    {
        $upload = $this->upload(Solids::box(10, 20, 30))->assertCreated();
        self::assertSame(12 * 9, strlen((string) base64_decode($upload->json('report.sketch'))));
        $id = $this->postJson('/api/v1/projects', ['upload' => $upload->json('id'), 'name' => 'Hopper', 'units' => 'mm', 'up' => 'y'])->assertAccepted()->json('id');
        $project = $this->getJson("/api/v1/projects/$id")->json();
        self::assertSame(['Brought in and stood upright, watertight.', 'the turn'], [$project['run']['message'], $project['history']['undo']['what'] ?? $project['history']['undo']]);
        [$stock, $stands] = $project['pieces'];
        self::assertSame([true, false, $stock['id']], [$stock['spent'], $stands['spent'], $stands['parent']]);
        foreach ([[10, 30, 20], [10.0, 30.0, 20.0]] as $size) {
            self::assertEqualsWithDelta($size, array_map(static fn (float|int $high, float|int $low): float => (float) ($high - $low), $stands['max'], $stands['min']), 1e-12);
        }
        // What was up in the file is up: y becomes z, z becomes −y.
        self::assertEquals([$stock['min'][0], -$stock['max'][2], $stock['min'][1]], $stands['min']);
        // The recipe, run by the core on the file itself, gives the same.
        $runner = Runner::on('hopper', StlReader::read($this->path('upload.stl'))->mesh);
        foreach (Recipe::fromArray($this->getJson("/api/v1/projects/$id/recipe.json")->json())->steps as $step) {
            $runner->run($step);
        }
        self::assertEquals($stands['min'], \Isotome\Geometry\Box::of($runner->pieces()['hopper']->mesh->xyz)->min);
        // Taken back, it lies as in the file; and forward again.
        $this->postJson("/api/v1/projects/$id/undo")->assertOk()->assertJsonCount(1, 'project.pieces')->assertJsonCount(0, 'project.steps');
        $this->postJson("/api/v1/projects/$id/redo")->assertOk()->assertJsonCount(2, 'project.pieces');
        $this->postJson('/api/v1/projects', ['upload' => $this->upload(Solids::box(1, 1, 1))->json('id'), 'name' => 'Hopper', 'units' => 'mm', 'up' => 'x'])->assertUnprocessable()
            ->assertJsonPath('message', 'The axis that is up is not one of z, y; choose one.');
    }

    public function test_several_files_with_y_up_are_turned_together(): void
    {
        $uploads = [$this->upload(Solids::box(10, 20, 30), 'left.stl')->json('id'), $this->upload(Solids::box(5, 6, 7), 'right.stl')->json('id')];
        $id = $this->postJson('/api/v1/projects', ['uploads' => $uploads, 'name' => 'Pair', 'units' => 'cm', 'up' => 'y'])->assertAccepted()->json('id');
        $project = $this->getJson("/api/v1/projects/$id")->json();
        self::assertSame(['left', 'left', 'right', 'right'], array_column($project['pieces'], 'name'));
        self::assertCount(1, $project['steps']);
        $living = array_values(array_filter($project['pieces'], static fn (array $piece): bool => ! $piece['spent']));
        self::assertEqualsWithDelta([300.0, 70.0], [$living[0]['max'][1] - $living[0]['min'][1], $living[1]['max'][1] - $living[1]['min'][1]], 1e-9);
    }
}
