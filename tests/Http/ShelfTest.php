<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Mesh;
use Isotome\Format\MeshFile;
use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Support\Solids;
use ZipArchive;

/** Bringing in and taking out in every format, printers, and what can be done with a project as a whole. */
final class ShelfTest extends HttpTestCase
{
    /** @return array<string, array{string}> */
    public static function formats(): array
    {
        return array_combine(MeshFile::FORMATS, array_map(static fn (string $format): array => [$format], MeshFile::FORMATS));
    }

    #[DataProvider('formats')]
    public function test_every_format_is_brought_in_and_taken_out(string $format): void
    {
        MeshFile::write(Solids::box(10, 20, 30), $this->path("box.$format"));
        $upload = $this->postFile("box.$format", (string) file_get_contents($this->path("box.$format")))->assertCreated();
        self::assertEqualsWithDelta([10.0, 20.0, 30.0], $upload->json('report.size_mm'), 1e-4);
        $id = $this->postJson('/api/v1/projects', ['uploads' => [$upload->json('id')], 'name' => 'Box', 'units' => 'mm'])->assertAccepted()->json('id');
        $this->postJson("/api/v1/projects/$id/cuts", $this->flatBlade(['through' => [0, 0, 12]]))->assertAccepted();
        $zip = $this->zip("/api/v1/projects/$id/pieces.zip?as=$format");
        self::assertSame(["box-A.$format", "box-B.$format", 'manifest.json'], array_keys($zip));
        foreach (json_decode($zip['manifest.json'], true)['pieces'] as $piece) {
            self::assertTrue($piece['watertight']);
            $read = MeshFile::read($this->file($piece['file'], $zip[$piece['file']]));
            self::assertEqualsWithDelta($piece['volume_mm3'], \Isotome\Measure\Volume::of($read->mesh), 1e-3);
        }
    }

    public function test_one_file_holds_all_pieces_and_picked_ones_go_alone(): void
    {
        $id = $this->project(Solids::box(10, 20, 30), 'Box');
        $this->postJson("/api/v1/projects/$id/cuts", $this->flatBlade(['through' => [0, 0, 12]]))->assertAccepted();
        foreach (['obj', '3mf', 'glb'] as $format) {
            $zip = $this->zip("/api/v1/projects/$id/pieces.zip?as=$format&together=1");
            self::assertSame(["Box.$format", 'manifest.json'], array_keys($zip));
            self::assertCount(2, MeshFile::read($this->file("Box.$format", $zip["Box.$format"]))->parts);
            self::assertSame(["Box.$format"], array_values(array_unique(array_column(json_decode($zip['manifest.json'], true)['pieces'], 'file'))));
        }
        $piece = $this->getJson("/api/v1/projects/$id")->json('pieces.2');
        $this->patchJson("/api/v1/projects/$id/pieces", ['pieces' => [$piece['id']], 'title' => 'Upper part'])->assertOk();
        self::assertSame(['Upper-part.stl', 'manifest.json'], array_keys($this->zip("/api/v1/projects/$id/pieces.zip?pieces={$piece['id']}")));
        foreach (['as=doc', 'as=stl&together=1', 'pieces=99999', 'pieces=1;2'] as $wrong) {
            $this->getJson("/api/v1/projects/$id/pieces.zip?$wrong")->assertUnprocessable();
        }
    }

    public function test_several_files_become_several_pieces(): void
    {
        $uploads = [];
        foreach (['Sluice Gate.stl', 'sluice gate.stl', 'post.stl'] as $name) {
            $uploads[] = $this->upload(Solids::box(10, 20, 30), $name)->json('id');
        }
        $id = $this->postJson('/api/v1/projects', ['uploads' => $uploads, 'name' => 'Sluice', 'units' => 'cm'])->assertAccepted()->json('id');
        $project = $this->getJson("/api/v1/projects/$id")->json();
        self::assertSame(['sluice-gate', 'sluice-gate2', 'post'], array_column($project['pieces'], 'name'));
        self::assertSame('3 files', $project['file']);
        self::assertSame(['fits' => false, 'how' => 'too large', 'over_mm' => 100], $project['pieces'][0]['fit']);
        self::assertSame('Brought in 3 pieces, all watertight.', $project['run']['message']);
        $this->postJson('/api/v1/projects', ['uploads' => [], 'name' => 'Sluice', 'units' => 'cm'])->assertUnprocessable();
    }

    public function test_printers_are_chosen_and_added(): void
    {
        $id = $this->project(Solids::box(10, 20, 230));
        $this->postJson('/api/v1/printers', ['name' => 'Long one', 'x' => 240, 'y' => 100, 'z' => 100])->assertCreated()->assertJsonPath('id', 5);
        $this->patchJson("/api/v1/projects/$id", ['printer' => 5])->assertOk()->assertJsonPath('pieces.0.fit.how', 'laid down');
        $this->patchJson("/api/v1/projects/$id", ['printer' => 2])->assertJsonPath('pieces.0.fit.over_mm', 110);
        $this->deleteJson('/api/v1/printers/1')->assertUnprocessable();
        $this->deleteJson('/api/v1/printers/5')->assertNoContent();
        $this->getJson('/api/v1/printers')->assertJsonCount(4);
        $this->postJson('/api/v1/printers', ['name' => '', 'x' => -1, 'y' => 1, 'z' => 1])->assertUnprocessable();
        $this->patchJson("/api/v1/projects/$id", ['printer' => 99])->assertUnprocessable();
        $this->patchJson("/api/v1/projects/$id", ['name' => 'Post', 'note' => 'for the gate'])->assertJsonPath('name', 'Post')->assertJsonPath('note', 'for the gate');
    }

    public function test_a_copy_shares_its_meshes_and_lives_on_its_own(): void
    {
        $id = $this->project();
        $this->postJson("/api/v1/projects/$id/cuts", $this->flatBlade())->assertAccepted();
        $meshes = Mesh::query()->count();
        $copy = $this->postJson("/api/v1/projects/$id/duplicate")->assertCreated()->json('id');
        self::assertSame($meshes, Mesh::query()->count());
        $project = $this->getJson("/api/v1/projects/$copy")->assertJsonPath('name', 'Torus 2')->json();
        self::assertSame(['torus', 'torus-A', 'torus-B'], array_column($project['pieces'], 'name'));
        $this->postJson("/api/v1/projects/$copy/rejoin")->assertOk();
        self::assertCount(3, $this->getJson("/api/v1/projects/$id")->json('pieces'));
        $shelf = $this->getJson('/api/v1/projects')->json();
        self::assertGreaterThan(10_000, $shelf[0]['bytes']);
    }

    /** @return array<string, string> bytes by name, sorted */
    private function zip(string $address): array
    {
        $zip = new ZipArchive;
        self::assertTrue($zip->open($this->get($address)->assertOk()->baseResponse->getFile()->getPathname()));
        $files = [];
        for ($n = 0; $n < $zip->numFiles; $n++) {
            $files[(string) $zip->getNameIndex($n)] = (string) $zip->getFromIndex($n);
        }
        ksort($files);

        return $files;
    }
}
