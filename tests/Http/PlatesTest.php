<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Project;
use Isotome\Format\MeshFile;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Tests\Support\Solids;
use ZipArchive;

/** Pieces on plates in the application: told with their poses, taken out as files. The printer holds 200 mm along each side. */
final class PlatesTest extends HttpTestCase
{
    private const WISHES = ['margin' => 2, 'spacing' => 3, 'turned' => true];

    private function sliced(): int
    {
        $id = $this->project(Solids::box(380, 190, 90), 'Chest');
        $run = $this->postJson("/api/v1/projects/$id/steps", ['step' => ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'parts' => 4]], 'pieces' => null])->assertAccepted()->json('id');
        self::assertSame('done', $this->getJson("/api/v1/runs/$run")->json('status'));

        return $id;
    }

    /**
     * @param  array<string, mixed>  $wishes
     * @return array<string, mixed>
     */
    private function answer(int $id, array $wishes): array
    {
        $run = $this->postJson("/api/v1/projects/$id/plates", $wishes)->assertAccepted()->json();
        self::assertSame('done', $this->getJson("/api/v1/runs/{$run['id']}")->json('status'));

        return $this->postJson("/api/v1/projects/$id/plates", $wishes)->assertOk()->json();
    }

    public function test_pieces_are_packed_and_taken_out(): void
    {
        $id = $this->sliced();
        $told = $this->answer($id, self::WISHES);
        self::assertEquals([200, 200, 200], $told['bed']);
        $names = array_map(static fn (array $one): string => $one['name'], array_merge(...$told['plates']));
        sort($names);
        self::assertSame(['chest-A', 'chest-B', 'chest-C', 'chest-D'], $names);
        // Slices of 95 by 190 by 90 mm: two beside each other.
        self::assertCount(2, $told['plates']);
        foreach ($told['plates'] as $plate) {
            foreach ($plate as ['pose' => $pose, 'stable' => $isStable]) {
                self::assertTrue($isStable);
                self::assertCount(12, $pose);
            }
        }
        $files = $this->answer($id, [...self::WISHES, 'as' => '3mf']);
        self::assertSame('Chest-plates.zip', $files['name']);
        file_put_contents($this->path('plates.zip'), $this->get($files['url'])->assertOk()->streamedContent());
        $zip = new ZipArchive;
        self::assertTrue($zip->open($this->path('plates.zip')));
        self::assertTrue($zip->extractTo($this->path('out')));
        $document = json_decode((string) file_get_contents($this->path('out/plates.json')), true);
        self::assertSame(['plate-1.3mf', 'plate-2.3mf'], array_column($document['plates'], 'file'));
        foreach ($document['plates'] as $n => $plate) {
            $read = MeshFile::read($this->path("out/{$plate['file']}"));
            self::assertCount(count($plate['pieces']), $read->parts);
            foreach ($plate['pieces'] as $k => $piece) {
                $mesh = $read->parts[$piece['name']];
                self::assertTrue(EdgeCheck::of($mesh)->isWatertight());
                $box = Box::of($mesh->xyz);
                self::assertGreaterThanOrEqual(2 - 1e-6, min($box->min[0], $box->min[1]));
                self::assertLessThanOrEqual(198 + 1e-6, max($box->max[0], $box->max[1]));
                self::assertEqualsWithDelta(0.0, $box->min[2], 1e-9);
                // As it was told.
                $pose = $told['plates'][$n][$k]['pose'];
                self::assertEqualsWithDelta($piece['pose'], $pose, 1e-9);
                $stored = app(\App\Meshes\MeshStore::class)->get(Project::query()->findOrFail($id)->pieces()->where('name', $piece['name'])->firstOrFail()->mesh);
                self::assertEqualsWithDelta($box->max, Box::of(Affine::points($stored->xyz, $pose))->max, 1e-4);
            }
        }
    }

    public function test_what_cannot_be_is_refused_in_one_sentence(): void
    {
        $id = $this->sliced();
        $refused = fn (array $wishes): string => $this->postJson("/api/v1/projects/$id/plates", [...self::WISHES, ...$wishes])->assertUnprocessable()->json('message');
        self::assertSame('A margin of 100 mm leaves nothing of the bed; give less than half its width.', $refused(['margin' => 100]));
        self::assertSame('The spacing is no length from 0 mm to the width of the bed; type it again.', $refused(['spacing' => -1]));
        self::assertSame('Plates are written as 3mf or stl; choose one of them.', $refused(['as' => 'gif']));
        self::assertSame('There is no piece to put on a plate.', $refused(['pieces' => [99999]]));
        $torus = Solids::torus(20, 7, 16, 10);
        $open = $this->project(Mesh::of($torus->xyz, array_slice($torus->corners, 6)), 'Ring');
        self::assertStringContainsString('Ring is not watertight', $this->postJson("/api/v1/projects/$open/plates", self::WISHES)->assertUnprocessable()->json('message'));
        // What is too large is found out by the run.
        $large = $this->project(Solids::box(390, 190, 100), 'Beam');
        $run = $this->postJson("/api/v1/projects/$large/plates", self::WISHES)->assertAccepted()->json('id');
        $run = $this->getJson("/api/v1/runs/$run")->json();
        self::assertSame('failed', $run['status']);
        self::assertStringContainsString('beam does not go on the bed, however it is turned; cut it first.', $run['message']);
    }
}
