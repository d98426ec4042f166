<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Jobs\BringIn;
use App\Models\Mesh;
use App\Models\Project;
use App\Models\Run;
use App\Models\Upload;
use Illuminate\Database\Events\QueryExecuted;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Isotome\Format\MeshFile;
use Isotome\Mesh\Mesh as CoreMesh;
use Isotome\Mesh\Packing;
use PHPUnit\Framework\Attributes\TestWith;
use Tests\Support\Solids;

final class BringInTest extends HttpTestCase
{
    public function test_a_file_is_read_and_described_before_it_is_accepted(): void
    {
        $this->upload(Solids::box(10, 20, 30), 'Clay jar.stl')->assertCreated()
            ->assertJsonPath('file', 'Clay jar.stl')
            ->assertJsonPath('report.size_mm', [10, 20, 30])
            ->assertJsonPath('report.watertight', true)
            ->assertJsonPath('report.format', 'binary STL');
        self::assertSame(0, Project::query()->count());
        self::assertCount(1, glob(storage_path('uploads/*')) ?: []);
    }

    public function test_an_accepted_file_becomes_a_project_in_millimetres(): void
    {
        $id = $this->project(Solids::box(1, 2, 3), 'Clay jar', 'in');
        $this->getJson("/api/v1/projects/$id")->assertOk()
            ->assertJsonPath('name', 'Clay jar')->assertJsonPath('units', 'in')
            ->assertJsonPath('pieces.0.name', 'clay-jar')
            ->assertJsonPath('pieces.0.max', [25.4, 50.8, 76.199999999999989])
            ->assertJsonPath('pieces.0.watertight', true)
            ->assertJsonPath('run.status', 'done');
        self::assertSame([], glob(storage_path('uploads/*')));
        self::assertSame(0, Upload::query()->count());
        $this->getJson('/api/v1/projects')->assertOk()->assertJsonCount(1)->assertJsonPath('0.pieces', 1)->assertJsonPath('0.watertight', true);
    }

    /** Work that ends while the project is read: what is told is then either not over, or all there. */
    #[TestWith(['runs'])]
    #[TestWith(['pieces'])]
    #[TestWith(['steps'])]
    #[TestWith(['printers'])]
    public function test_a_project_is_never_told_as_done_without_its_stock(string $after): void
    {
        Queue::fake();
        $id = $this->project();
        Queue::assertPushed(BringIn::class);
        $run = Run::query()->where('project_id', $id)->firstOrFail();
        $ended = false;
        DB::listen(static function (QueryExecuted $query) use ($run, $after, &$ended): void {
            if (! $ended && str_starts_with($query->sql, 'select') && str_contains($query->sql, "from \"$after\"")) {
                $ended = true;
                (new BringIn($run->id))->handle();
            }
        });
        $told = $this->getJson("/api/v1/projects/$id")->assertOk();
        self::assertTrue($ended);
        self::assertSame('done', $run->refresh()->status);
        self::assertTrue($told->json('run.over') === false || count($told->json('pieces')) === 1);
        self::assertCount(1, $this->getJson("/api/v1/projects/$id")->json('pieces'));
    }

    public function test_a_declined_file_leaves_nothing(): void
    {
        $id = $this->upload(Solids::box(1, 1, 1))->json('id');
        $this->deleteJson("/api/v1/uploads/$id")->assertNoContent();
        self::assertSame([], glob(storage_path('uploads/*')));
        $this->postJson('/api/v1/projects', ['upload' => $id, 'name' => 'Jar', 'units' => 'mm'])->assertUnprocessable()
            ->assertJsonPath('message', 'The file that was brought in is not there any more; bring it in again.');
    }

    public function test_damaged_files_are_refused_with_one_sentence_and_leave_nothing(): void
    {
        $box = str_pad('', 80).pack('V', 2).str_repeat("\0", 50);
        foreach (['short.stl' => [$box, 'cut short: its header promises 2 triangles and it holds 1'], 'empty.stl' => ['', 'is empty'], 'jar.doc' => ['x', 'not named as one of the formats'], 'text.stl' => ["solid x\nendsolid x\n", 'no triangle']] as $name => [$bytes, $says]) {
            $message = $this->postFile($name, $bytes)->assertUnprocessable()->json('message');
            self::assertStringContainsString($says, $message);
            self::assertStringContainsString($name, $message);
        }
        self::assertSame([], glob(storage_path('uploads/*')));
        self::assertSame(0, Upload::query()->count());
        $this->postJson('/api/v1/uploads')->assertUnprocessable()->assertJsonPath('message', 'No file arrived; choose a mesh file and bring it in again.');
    }

    public function test_a_file_over_the_limit_is_refused(): void
    {
        config(['isotome.largest_upload' => 1048576]);
        $message = $this->postFile('large.stl', str_repeat('x', 1048577))->assertStatus(413)->json('message');
        self::assertStringContainsString('larger than the limit of 1 MB', $message);
    }

    public function test_names_units_and_paths_are_validated(): void
    {
        $upload = $this->upload(Solids::box(1, 1, 1), '../../etc/passwd.stl')->assertJsonPath('file', 'passwd.stl')->json('id');
        foreach ([['name' => '', 'units' => 'mm'], ['name' => '///', 'units' => 'mm'], ['name' => 'Jar', 'units' => 'ell'], ['name' => str_repeat('x', 121), 'units' => 'mm'], ['name' => ['x'], 'units' => 'mm']] as $wrong) {
            $this->postJson('/api/v1/projects', ['upload' => $upload, ...$wrong])->assertUnprocessable();
        }
        self::assertSame(0, Project::query()->count());
    }

    public function test_an_open_mesh_is_brought_in_and_says_so(): void
    {
        $box = Solids::box(10, 10, 10);
        $id = $this->project(CoreMesh::of($box->xyz, array_slice($box->corners, 3)));
        $this->getJson("/api/v1/projects/$id")->assertJsonPath('pieces.0.watertight', false)->assertJsonPath('pieces.0.faults.open_edges', 3);
    }

    public function test_the_same_mesh_is_stored_once_and_goes_with_its_last_project(): void
    {
        $one = $this->project();
        $two = $this->project();
        self::assertSame(1, Mesh::query()->count());
        $this->deleteJson("/api/v1/projects/$one")->assertNoContent();
        self::assertSame(1, Mesh::query()->count());
        $this->deleteJson("/api/v1/projects/$two")->assertNoContent();
        // Off the shelf, with a way back; gone for good only when that is asked for.
        self::assertSame(1, Mesh::query()->count());
        $this->getJson('/api/v1/projects')->assertJsonCount(0);
        $this->getJson('/api/v1/projects?removed=1')->assertJsonCount(2);
        $this->postJson("/api/v1/projects/$two/restore")->assertNoContent();
        $this->getJson("/api/v1/projects/$two")->assertOk()->assertJsonPath('pieces.0.name', 'torus');
        $this->deleteJson("/api/v1/projects/$two/for-good")->assertNotFound();
        $this->deleteJson("/api/v1/projects/$two")->assertNoContent();
        $this->deleteJson("/api/v1/projects/$one/for-good")->assertNoContent();
        $this->deleteJson("/api/v1/projects/$two/for-good")->assertNoContent();
        self::assertSame(0, Mesh::query()->count());
        $this->getJson("/api/v1/projects/$one")->assertNotFound()->assertJsonPath('message', 'What was asked for is not here any more; go back to the shelf and open the project again.');
    }

    public function test_other_pages_and_names_are_turned_away(): void
    {
        $this->getJson('http://isotome.example/api/v1/projects')->assertForbidden();
        $this->getJson('http://127.0.0.1/api/v1/projects')->assertOk();
        foreach ([['Origin' => 'http://other.example'], ['Sec-Fetch-Site' => 'cross-site']] as $headers) {
            $this->postJson('/api/v1/projects', [], $headers)->assertForbidden();
        }
        $this->getJson('/api/v1/nothing')->assertNotFound()->assertJsonPath('message', 'There is nothing at this address; go back to the shelf.');
    }

    public function test_several_geometries_come_together_a_large_one_rough_first_and_a_face_with_its_flat_part(): void
    {
        $ids = [$this->project(Solids::box(10, 20, 30), 'One'), $this->project(Solids::box(5, 5, 5), 'Two'), $this->project(Solids::torus(20, 7, 600, 200), 'Large')];
        $hashes = array_map(fn (int $id): string => $this->getJson("/api/v1/projects/$id")->json('pieces.0.mesh'), $ids);
        $alone = array_map(fn (string $hash): string => (string) $this->get("/api/v1/meshes/$hash/geometry")->assertOk()->getContent(), $hashes);
        $bytes = (string) $this->postJson('/api/v1/meshes/geometry', ['meshes' => [$hashes[0], $hashes[1]]])->assertOk()->getContent();
        self::assertSame(pack('V2', strlen($alone[0]), 0).$alone[0].pack('V2', strlen($alone[1]), 0).$alone[1], $bytes);
        $this->postJson('/api/v1/meshes/geometry', ['meshes' => ['x']])->assertUnprocessable();
        $this->postJson('/api/v1/meshes/geometry', ['meshes' => [str_repeat('0', 64)]])->assertNotFound();
        self::assertSame($alone[0], $this->get("/api/v1/meshes/$hashes[0]/geometry?rough=1")->getContent());
        $rough = (string) $this->get("/api/v1/meshes/$hashes[2]/geometry?rough=1")->assertOk()->getContent();
        self::assertSame('ISO1', substr($rough, 0, 4));
        self::assertLessThan(0.5 * strlen($alone[2]), strlen($rough));
        // What is kept beside the database is only a copy: without it the same bytes are made again.
        array_map(unlink(...), glob($this->path('data').'/storage/geometry/*') ?: self::fail('nothing was put aside'));
        self::assertSame($alone[2], (string) $this->get("/api/v1/meshes/$hashes[2]/geometry")->getContent());

        $face = $this->getJson("/api/v1/meshes/$hashes[0]/faces/0")->assertOk()->json();
        self::assertCount(2, $face['region']);
        self::assertEqualsWithDelta(1.0, array_sum(array_map(abs(...), $face['normal'])), 1e-12);
        $this->getJson("/api/v1/meshes/$hashes[0]/faces/12")->assertUnprocessable();
    }

    public function test_the_geometry_is_the_mesh(): void
    {
        $id = $this->project(Solids::box(10, 20, 30, [100.0, 0.0, 0.0]));
        $hash = $this->getJson("/api/v1/projects/$id")->json('pieces.0.mesh');
        $response = $this->get("/api/v1/meshes/$hash/geometry")->assertOk()->assertHeader('ETag', "\"$hash\"");
        $bytes = (string) $response->getContent();
        self::assertSame(40 + 12 * 8 + 12 * 12 + 2 * 12, strlen($bytes));
        self::assertSame(['ISO1', 8, 12], [substr($bytes, 0, 4), ...array_values(unpack('V2', $bytes, 4) ?: [])]);
        self::assertSame([105.0, 10.0, 15.0], array_values(unpack('e3', $bytes, 16) ?: []));
        self::assertSame(-5.0, min(unpack('g24', $bytes, 40) ?: []) + 10.0);
        $this->get("/api/v1/meshes/$hash/geometry", ['If-None-Match' => "\"$hash\""])->assertStatus(304);
    }

    /** What was read for the report is not read again; only where the unit that is chosen later changes nothing. */
    public function test_a_large_file_is_read_once(): void
    {
        $ball = Solids::sphere(7, 6);
        MeshFile::write($ball, $this->path('ball.glb'));
        $upload = $this->postFile('ball.glb', (string) file_get_contents($this->path('ball.glb')))->assertCreated()->json('id');
        self::assertFileExists(storage_path("uploads/$upload.read"));
        // A file that cannot be read any more shows that it is not.
        file_put_contents(storage_path("uploads/$upload.glb"), 'damaged');
        $id = $this->postJson('/api/v1/projects', ['uploads' => [$upload], 'name' => 'Ball', 'units' => 'in'])->assertAccepted()->json('id');
        $hash = $this->getJson("/api/v1/projects/$id")->json('pieces.0.mesh');
        self::assertSame(Packing::hash(MeshFile::read($this->path('ball.glb'))->mesh), $hash);
        self::assertSame([], glob(storage_path('uploads/*')));

        $upload = $this->upload($ball, 'ball.stl')->assertCreated()->json('id');
        self::assertSame([storage_path("uploads/$upload.stl")], glob(storage_path('uploads/*')));
        // What was put aside damaged is read again.
        $upload = $this->postFile('ball.glb', (string) file_get_contents($this->path('ball.glb')))->assertCreated()->json('id');
        file_put_contents(storage_path("uploads/$upload.read"), 'isotome');
        $id = $this->postJson('/api/v1/projects', ['uploads' => [$upload], 'name' => 'Ball', 'units' => 'mm'])->assertAccepted()->json('id');
        self::assertSame($hash, $this->getJson("/api/v1/projects/$id")->json('pieces.0.mesh'));
        $upload = $this->postFile('ball.glb', (string) file_get_contents($this->path('ball.glb')))->assertCreated()->json('id');
        $this->deleteJson("/api/v1/uploads/$upload")->assertNoContent();
        self::assertFileDoesNotExist(storage_path("uploads/$upload.read"));
    }
}
