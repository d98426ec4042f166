<?php

declare(strict_types=1);

namespace Tests\Http;

use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Tests\Support\Solids;

/** Cuts along drawn lines over HTTP: told before, made, edited, and the same by recipe. */
final class DrawnTest extends HttpTestCase
{
    /** @return array<string, mixed> */
    private static function stroke(float $height, array $more = []): array
    {
        return ['do' => 'cut', 'blade' => ['kind' => 'drawn', 'shape' => 'stroke', 'points' => [[-90, 0, $height], [0, 0, $height + 6], [90, 0, $height - 4]], 'along' => [0, 1, 0]], ...$more];
    }

    public function test_what_is_told_before_comes_true(): void
    {
        $body = Solids::sphere(40, 4);
        $id = $this->project($body);
        foreach ([['step' => self::stroke(3)], ['step' => self::stroke(3), 'tried' => true]] as $question) {
            $told = $this->postJson("/api/v1/projects/$id/steps/foresee", $question)->assertOk()->json();
            self::assertSame([2, 1, 0, 0, ! isset($question['tried'])], [$told['pieces'], $told['cut'], $told['loose'], $told['left_out'], $told['about']]);
            self::assertEqualsWithDelta(Volume::of($body), $told['ahead_mm3'] + $told['behind_mm3'], 1e-6 * Volume::of($body));
            self::assertGreaterThan(1000, strlen((string) base64_decode($told['skin'])));
        }
        $this->postJson("/api/v1/projects/$id/steps", ['step' => self::stroke(3)])->assertAccepted();
        $pieces = array_values(array_filter($this->getJson("/api/v1/projects/$id")->json('pieces'), static fn (array $piece): bool => ! $piece['spent']));
        self::assertEqualsWithDelta([$told['behind_mm3'], $told['ahead_mm3']], array_column($pieces, 'volume'), 1e-6 * Volume::of($body));
        // Edited to another height it is made again, and undone.
        $step = $this->getJson("/api/v1/projects/$id")->json('steps.0.id');
        $this->putJson("/api/v1/projects/$id/steps/$step", ['step' => self::stroke(-9, ['keep' => 'behind'])])->assertAccepted();
        $living = array_values(array_filter($this->getJson("/api/v1/projects/$id")->json('pieces'), static fn (array $piece): bool => ! $piece['spent']));
        self::assertCount(1, $living);
        self::assertLessThan($told['behind_mm3'], $living[0]['volume']);
        // The recipe, run by the core, gives the same.
        $runner = Runner::on($this->getJson("/api/v1/projects/$id")->json('pieces.0.name'), $this->read($id));
        foreach (Recipe::fromArray($this->getJson("/api/v1/projects/$id/recipe.json")->json())->steps as $one) {
            $runner->run($one);
        }
        self::assertEqualsWithDelta([$living[0]['volume']], array_values(array_map(static fn ($piece): float => Volume::of($piece->mesh), $runner->pieces())), 1e-6);
    }

    private function read(int $id): Mesh
    {
        return \Isotome\Format\StlReader::read($this->path('upload.stl'))->mesh;
    }

    public function test_an_end_within_is_told_and_refused(): void
    {
        $id = $this->project(Solids::box(40, 40, 40));
        $short = ['do' => 'cut', 'blade' => ['kind' => 'drawn', 'points' => [[-90, 0, 20], [20, 0, 20]], 'along' => [0, 1, 0]]];
        $told = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $short])->assertOk()->json();
        self::assertSame([0, 1], [$told['cut'], $told['loose']]);
        $this->postJson("/api/v1/projects/$id/steps", ['step' => $short])->assertAccepted();
        self::assertStringContainsString('cuts nothing', $this->getJson("/api/v1/projects/$id")->json('run.message'));
        self::assertCount(1, $this->getJson("/api/v1/projects/$id")->json('pieces'));
        foreach ([
            [['kind' => 'drawn', 'points' => [[0, 0, 0], [1, 0, 0]]], 'neither along nor eye'], [['kind' => 'drawn', 'along' => [0, 0, 1]], 'neither points nor lines'],
            [['kind' => 'drawn', 'points' => [[0, 0, 0], [0, 0, 1]], 'along' => [0, 0, 1]], 'no two corners apart'], [['kind' => 'drawn', 'points' => [[0, 0, 0], [9, 0, 0]], 'along' => [0, 0, 0]], 'no direction'],
            [['kind' => 'bent', 'through' => [0, 0, 0], 'facing' => [0, 0, 1], 'along' => [0, 0, 2], 'profile' => [[0, 0], [1, 0]]], 'runs along its facing'],
            [['kind' => 'bent', 'through' => [0, 0, 0], 'facing' => [0, 0, 1], 'along' => [0, 1, 0], 'profile' => [[-3, 2], [-4, -1], [0, -3], [4, -1], [3, 2]]], 'crosses itself'],
        ] as [$blade, $says]) {
            self::assertStringContainsString($says, (string) $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => ['do' => 'cut', 'blade' => $blade]])->assertUnprocessable()->json('message'));
        }
    }

    public function test_a_bent_blade_and_flat_material(): void
    {
        $id = $this->project(Solids::box(60, 20, 30));
        $bent = ['do' => 'cut', 'blade' => ['kind' => 'bent', 'through' => [30, 10, 15], 'facing' => [0, 0, 1], 'along' => [0, 1, 0], 'profile' => [[-40, 0], [0, 6], [40, 0]]], 'kerf' => 1];
        $told = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $bent, 'tried' => true])->assertOk()->json();
        self::assertSame(2, $told['pieces']);
        self::assertEqualsWithDelta(36000.0, $told['ahead_mm3'] + $told['behind_mm3'] + $told['removed_mm3'], 1e-3);
        self::assertGreaterThan(1100, $told['removed_mm3']);
        $sheet = $this->project(Mesh::of([0, 0, 0, 40, 0, 0, 40, 30, 0, 0, 30, 0], [0, 1, 2, 0, 2, 3]));
        $hole = ['do' => 'cut', 'blade' => ['kind' => 'drawn', 'shape' => 'outline', 'points' => [[10, 10, 0], [20, 10, 0], [20, 20, 0], [10, 20, 0]], 'along' => [0, 0, -1]]];
        self::assertSame([2, 1], array_values(array_intersect_key($this->postJson("/api/v1/projects/$sheet/steps/foresee", ['step' => $hole])->assertOk()->json(), ['pieces' => 1, 'cut' => 1])));
        $this->postJson("/api/v1/projects/$sheet/steps", ['step' => $hole])->assertAccepted();
        $this->postJson("/api/v1/projects/$sheet/steps", ['step' => ['do' => 'thicken', 'thickness_mm' => 2]])->assertAccepted();
        $volumes = array_column(array_filter($this->getJson("/api/v1/projects/$sheet")->json('pieces'), static fn (array $piece): bool => ! $piece['spent']), 'volume');
        sort($volumes);
        self::assertEqualsWithDelta([200.0, 2200.0], $volumes, 1e-3);
        // An open body is none of them.
        $open = $this->project(Mesh::of([0, 0, 0, 9, 0, 0, 0, 9, 0, 0, 0, 9], [0, 2, 1, 0, 1, 3]));
        self::assertStringContainsString('not watertight', (string) $this->postJson("/api/v1/projects/$open/steps/foresee", ['step' => $hole])->assertUnprocessable()->json('message'));
    }

    public function test_outlines_of_a_drawing(): void
    {
        $svg = '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" viewBox="0 0 40 20"><rect width="40" height="20"/></svg>';
        $send = fn (string $body) => $this->call('POST', '/api/v1/outlines', server: ['HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/octet-stream'], content: $body);
        $told = $send($svg)->assertOk()->json();
        self::assertEqualsWithDelta([40, 20], $told['size'], 1e-9);
        self::assertCount(1, $told['lines']);
        $send('<svg/>')->assertUnprocessable()->assertJsonPath('message', 'The drawing has no closed outlines.');
        $send('no drawing')->assertUnprocessable();
    }
}
