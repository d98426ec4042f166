<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Mesh;
use Illuminate\Support\Facades\DB;
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
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade(['through' => [0, 0, 12]])))->assertAccepted();
        $zip = $this->zip("/api/v1/projects/$id/pieces.zip?as=$format");
        // Materials lie beside an OBJ.
        self::assertSame(["box-A.$format", "box-B.$format", 'manifest.json'], array_values(array_filter(array_keys($zip), static fn (string $file): bool => ! str_ends_with($file, '.mtl'))));
        self::assertSame($format === 'obj', isset($zip['box-A.mtl'], $zip['box-B.mtl']));
        foreach (json_decode($zip['manifest.json'], true)['pieces'] as $piece) {
            self::assertTrue($piece['watertight']);
            $read = MeshFile::read($this->file($piece['file'], $zip[$piece['file']]));
            self::assertEqualsWithDelta($piece['volume_mm3'], \Isotome\Mesh\Volume::of($read->mesh), 1e-3);
        }
    }

    public function test_one_file_holds_all_pieces_and_picked_ones_go_alone(): void
    {
        $id = $this->project(Solids::box(10, 20, 30), 'Box');
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade(['through' => [0, 0, 12]])))->assertAccepted();
        foreach (['obj', '3mf', 'glb'] as $format) {
            $zip = $this->zip("/api/v1/projects/$id/pieces.zip?as=$format&together=1");
            self::assertSame([...($format === 'obj' ? ['Box.mtl'] : []), "Box.$format", 'manifest.json'], array_keys($zip));
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
        self::assertSame(['fits' => false, 'how' => 'too large', 'over_mm' => 100, 'turn' => null, 'unsure' => true], $project['pieces'][0]['fit']);
        self::assertSame('Brought in 3 pieces, all watertight.', $project['run']['message']);
        $this->postJson('/api/v1/projects', ['uploads' => [], 'name' => 'Sluice', 'units' => 'cm'])->assertUnprocessable();
    }

    public function test_printers_are_chosen_and_added(): void
    {
        $id = $this->project(Solids::box(10, 20, 230));
        $this->postJson('/api/v1/printers', ['name' => 'Long one', 'x' => 240, 'y' => 100, 'z' => 100])->assertCreated()->assertJsonPath('id', 6)->assertJsonPath('nozzle', 0.4);
        $this->patchJson("/api/v1/projects/$id", ['printer' => 6])->assertOk()->assertJsonPath('pieces.0.fit.how', 'laid down');
        $this->patchJson("/api/v1/projects/$id", ['printer' => 2])->assertJsonPath('pieces.0.fit.over_mm', 110);
        $this->deleteJson('/api/v1/printers/1')->assertUnprocessable();
        $this->deleteJson('/api/v1/printers/6')->assertNoContent();
        $this->getJson('/api/v1/printers')->assertJsonCount(5);
        $this->postJson('/api/v1/printers', ['name' => '', 'x' => -1, 'y' => 1, 'z' => 1])->assertUnprocessable();
        $this->postJson('/api/v1/printers', ['name' => 'No bed', 'x' => 0, 'y' => 100, 'z' => 100])->assertUnprocessable()->assertJsonPath('message', 'The working space needs three sides of 1 to 100,000 mm; type them.');
        $this->patchJson("/api/v1/projects/$id", ['printer' => 99])->assertUnprocessable();
        $this->patchJson("/api/v1/projects/$id", ['name' => 'Post', 'note' => 'for the gate'])->assertJsonPath('name', 'Post')->assertJsonPath('note', 'for the gate');
    }

    public function test_own_printers_are_changed_and_a_round_bed_holds_what_is_round(): void
    {
        $disc = Solids::prism(array_map(static fn (int $k): array => [88 * cos($k * M_PI / 24), 88 * sin($k * M_PI / 24)], range(0, 47)), 40);
        $id = $this->project($disc, 'Cover');
        $wheel = ['name' => 'Turning bed', 'x' => 170, 'y' => 170, 'z' => 90, 'round' => true, 'nozzle' => 0.6, 'layer' => 0.3, 'gap' => 0.4, 'margin' => 1];
        $made = $this->postJson('/api/v1/printers', $wheel)->assertCreated()->json();
        self::assertEquals([...$wheel, 'id' => $made['id'], 'own' => true], $made);
        $fits = function () use ($id): array {
            $this->postJson("/api/v1/projects/$id/fits");

            return $this->getJson("/api/v1/projects/$id")->json('pieces.0.fit');
        };
        $this->patchJson("/api/v1/projects/$id", ['printer' => $made['id']])->assertOk();
        self::assertFalse($fits()['fits']);
        self::assertEqualsWithDelta(6, $fits()['over_mm'], 0.5);
        // Its box would not go in, it does.
        $this->putJson("/api/v1/printers/{$made['id']}", [...$wheel, 'x' => 180, 'y' => 180])->assertOk()->assertJsonPath('x', 180);
        self::assertTrue($fits()['fits']);
        $this->putJson('/api/v1/printers/1', $wheel)->assertUnprocessable();
        foreach ([['y' => 180], ['layer' => 0.7], ['nozzle' => 0], ['margin' => 85], ['gap' => 'wide']] as $wrong) {
            $this->putJson("/api/v1/printers/{$made['id']}", [...$wheel, ...$wrong])->assertUnprocessable();
        }
    }

    public function test_a_copy_shares_its_meshes_and_lives_on_its_own(): void
    {
        $id = $this->project();
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))->assertAccepted();
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
        self::assertTrue($zip->open($this->takenOut($address)));
        $files = [];
        for ($n = 0; $n < $zip->numFiles; $n++) {
            $files[(string) $zip->getNameIndex($n)] = (string) $zip->getFromIndex($n);
        }
        ksort($files);

        return $files;
    }

    public function test_pictures_are_kept_for_every_browser_and_go_with_their_mesh(): void
    {
        $id = $this->project();
        $mesh = $this->getJson("/api/v1/projects/$id")->json('pieces.0.mesh');
        $at = static fn (string $colour, string $theme = 'day'): string => "/api/v1/meshes/$mesh/picture/$colour/$theme";
        $this->get($at('8f9a86'))->assertNoContent();
        $keep = fn (string $path, string $bytes) => $this->call('PUT', $path, [], [], [], ['CONTENT_TYPE' => 'image/png', 'HTTP_ACCEPT' => 'application/json'], $bytes);
        $png = self::png(640, 460);
        $keep($at('8f9a86'), $png)->assertNoContent();
        $this->get($at('8f9a86'))->assertOk()->assertHeader('Content-Type', 'image/png')->assertContent($png);
        $this->get($at('8f9a86', 'night'))->assertNoContent();
        foreach (['no picture', self::png(64, 46), str_repeat('a', 500_000), '<svg xmlns="http://www.w3.org/2000/svg" width="640" height="460"/>'] as $bad) {
            self::assertStringContainsString('no picture of the size', $keep($at('112233'), $bad)->assertUnprocessable()->json('message'));
        }
        $keep("/api/v1/meshes/$mesh/picture/..%2F..%2Fx/day", $png)->assertNotFound();
        $keep('/api/v1/meshes/'.str_repeat('0', 64).'/picture/8f9a86/day', $png)->assertNotFound();
        // Not more than a few of one mesh.
        for ($n = 0; $n < 20; $n++) {
            $keep($at(sprintf('%06x', $n)), $png)->assertNoContent();
        }
        self::assertLessThanOrEqual(8, count(glob(storage_path("geometry/$mesh-*.png")) ?: []));
        $this->deleteJson("/api/v1/projects/$id")->assertSuccessful();
        $this->deleteJson("/api/v1/projects/$id/for-good")->assertSuccessful();
        self::assertSame([], glob(storage_path("geometry/$mesh-*.png")) ?: []);
    }

    private static function png(int $width, int $height): string
    {
        $chunk = static fn (string $type, string $data): string => pack('N', strlen($data)).$type.$data.pack('N', crc32($type.$data));

        return "\x89PNG\r\n\x1a\n".$chunk('IHDR', pack('NNC5', $width, $height, 8, 0, 0, 0, 0)).$chunk('IDAT', (string) gzcompress(str_repeat("\0".str_repeat("\x80", $width), $height))).$chunk('IEND', '');
    }

    public function test_the_shelf_asks_as_few_questions_for_many_projects_as_for_one(): void
    {
        $asked = function (): int {
            DB::flushQueryLog();
            $this->getJson('/api/v1/projects')->assertOk();

            return count(DB::getQueryLog());
        };
        DB::enableQueryLog();
        $this->project(Solids::box(10, 10, 10), 'First');
        $few = $asked();
        for ($n = 2; $n < 8; $n++) {
            $this->project(Solids::box(10, 10, $n), "Box $n");
        }
        self::assertSame($few, $asked());
        // Bytes are those of each project's own meshes.
        $own = DB::table('meshes')->join('pieces', 'mesh_hash', '=', 'hash')->pluck('bytes', 'project_id')->all();
        foreach ($this->getJson('/api/v1/projects')->json() as $entry) {
            self::assertSame($own[$entry['id']], $entry['bytes']);
        }
    }
}
