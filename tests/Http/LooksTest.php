<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Meshes\MeshStore;
use App\Meshes\Sweep;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use Illuminate\Support\Facades\DB;
use Isotome\Format\MeshFile;
use Isotome\Format\Stuff;
use Isotome\Geometry\Zero;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Skin;
use Tests\Support\PaintedGlb;
use Tests\Support\PaintedObj;
use ZipArchive;

/** What a painted file carries is kept with its pieces, through steps, undo and other projects, and goes out again. */
final class LooksTest extends HttpTestCase
{
    /** @return list<Mesh> the living pieces as they are kept */
    private static function kept(int $project): array
    {
        return array_values(Piece::query()->with('mesh')->where('project_id', $project)->whereNull('spent_by')->orderBy('place')->get()->map(static fn (Piece $piece): Mesh => (new MeshStore)->dressed($piece->mesh))->all());
    }

    private function assertPainted(Mesh $mesh): void
    {
        $skin = $mesh->skin;
        self::assertNotNull($skin);
        self::assertSame(PaintedGlb::png(), $skin->looks->pictures[0]['bytes']);
        self::assertSame(['painted clay', 'glaze'], array_map($skin->looks->name(...), [0, 1]));
        $clay = 0;
        foreach ($mesh->tags as $t => $tag) {
            self::assertSame($tag > 0, $skin->materialOf($t) < 0);
            foreach (array_chunk($skin->layers['uv0']->at($t), 2) as $k => [$u, $v]) {
                // By construction the second part of the colour is the first coordinate.
                $tag > 0 ?: self::assertEqualsWithDelta($u, $skin->layers[Skin::COLOUR]->at($t)[4 * $k + 1], 2e-5);
                self::assertTrue($v >= -1e-9 && $v <= 1 + 1e-9);
            }
            $clay += $skin->materialOf($t) === 0 ? 1 : 0;
        }
        self::assertGreaterThan(0, $clay);
    }

    public function test_what_a_file_carries_and_what_is_left_out_is_said(): void
    {
        $report = $this->postFile('painted box.glb', PaintedGlb::box(['animations' => [[]]], 'no picture'))->assertCreated()->json('report');
        self::assertSame([['materials', 'normals', 'texture coordinates', 'colours'], ['the picture pattern: it is no PNG, JPEG or WebP', 'movement']], [$report['carries'], $report['left_out']]);
        $id = $this->painted();
        self::assertSame(['materials', 'pictures', 'normals', 'texture coordinates', 'colours'], $this->getJson("/api/v1/projects/$id")->json('pieces.0.carries'));
        self::assertSame([], $this->getJson('/api/v1/projects/'.$this->project())->json('pieces.0.carries'));
    }

    public function test_a_painted_box_is_kept_cut_undone_and_taken_out(): void
    {
        $id = $this->painted();
        [$stock] = self::kept($id);
        $this->assertPainted($stock);
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade(['facing' => [0.3, 0.2, 1], 'kerf' => 0.4])))->assertAccepted();
        $pieces = self::kept($id);
        self::assertCount(2, $pieces);
        array_map($this->assertPainted(...), $pieces);
        // One picture for all meshes that use it.
        self::assertSame([1, 3], [DB::table('skin_pictures')->count(), DB::table('mesh_pictures')->count()]);

        $zip = new ZipArchive;
        self::assertTrue($zip->open($this->takenOut("/api/v1/projects/$id/pieces.zip?as=glb&together=1")));
        file_put_contents($this->path('out.glb'), $zip->getFromName('Painted-box.glb') ?: $zip->getFromIndex(0));
        $out = MeshFile::read($this->path('out.glb'));
        self::assertCount(2, $out->parts);
        foreach ($out->parts as $part) {
            self::assertSame(PaintedGlb::png(), $part->skin->looks->pictures[0]['bytes'] ?? null);
        }

        $hashes = array_map(Packing::hash(...), $pieces);
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertSame(Packing::hash($stock), Packing::hash(self::kept($id)[0]));
        $this->postJson("/api/v1/projects/$id/redo")->assertOk();
        self::assertSame($hashes, array_map(Packing::hash(...), self::kept($id)));
        // Kept by content: the hash in the database is that of the mesh with what it carries.
        self::assertSame($hashes, Piece::query()->where('project_id', $id)->whereNull('spent_by')->orderBy('place')->pluck('mesh_hash')->all());
    }

    public function test_the_view_is_given_the_colours(): void
    {
        $id = $this->painted();
        $hash = (string) Piece::query()->where('project_id', $id)->value('mesh_hash');
        $bytes = $this->get("/api/v1/meshes/$hash/colours")->assertOk()->assertHeader('Content-Type', 'application/octet-stream')->getContent();
        [$mesh] = self::kept($id);
        self::assertSame(9 * $mesh->triangleCount(), strlen((string) $bytes));
        foreach ($mesh->tags as $t => $_) {
            $isGlaze = $mesh->skin?->materialOf($t) === 1;
            foreach ($mesh->skin?->layers[Skin::COLOUR]->at($t) ?? [] as $n => $part) {
                if ($n % 4 < 3) {
                    $factor = $isGlaze ? [0.2, 0.4, 0.5][$n % 4] : 1.0;
                    self::assertEqualsWithDelta(255 * $factor * $part, ord(((string) $bytes)[9 * $t + 3 * intdiv($n, 4) + $n % 4]), 0.51);
                }
            }
        }
        $plain = (string) Piece::query()->where('project_id', $this->project())->value('mesh_hash');
        self::assertSame('', $this->get("/api/v1/meshes/$plain/colours")->assertOk()->getContent());
        $this->getJson('/api/v1/meshes/'.str_repeat('0', 64).'/colours')->assertNotFound();
    }

    public function test_the_view_is_given_the_pictures_and_where_they_lie(): void
    {
        $id = $this->painted();
        $hash = (string) Piece::query()->where('project_id', $id)->value('mesh_hash');
        $bytes = (string) $this->get("/api/v1/meshes/$hash/pictures")->assertOk()->assertHeader('Content-Type', 'application/octet-stream')->getContent();
        $length = ((array) unpack('V', $bytes))[1];
        $told = json_decode(substr($bytes, 4, $length), true);
        $picture = hash('sha256', PaintedGlb::png());
        self::assertSame(['sheets' => [['picture' => $picture, 'across' => 'clamp', 'down' => 'repeat', 'nearest' => true, 'pixels' => [4, 4]]]], $told);
        [$mesh] = self::kept($id);
        $triangles = $mesh->triangleCount();
        self::assertSame(4 + $length + $triangles + 24 * $triangles, strlen($bytes));
        foreach ($mesh->tags as $t => $_) {
            $isClay = $mesh->skin?->materialOf($t) === 0;
            self::assertSame($isClay ? 1 : 0, ord($bytes[4 + $length + $t]));
            // Clay's picture is laid on twice as dense.
            $isClay && self::assertEqualsWithDelta(array_map(static fn (float $c): float => 2 * $c, $mesh->skin->layers['uv0']->at($t)), array_values((array) unpack('g6', $bytes, 4 + $length + $triangles + 24 * $t)), 1e-6);
        }
        self::assertSame(PaintedGlb::png(), $this->get("/api/v1/pictures/$picture")->assertOk()->assertHeader('Content-Type', 'image/png')->assertHeader('X-Content-Type-Options', 'nosniff')->getContent());
        $plain = (string) Piece::query()->where('project_id', $this->project())->value('mesh_hash');
        self::assertSame('', $this->get("/api/v1/meshes/$plain/pictures")->assertOk()->getContent());
        $this->getJson('/api/v1/pictures/'.str_repeat('0', 64))->assertNotFound();
        $this->getJson('/api/v1/pictures/..%2F..%2F.env')->assertNotFound();
    }

    public function test_with_y_up_it_is_stood_upright_with_its_paint(): void
    {
        $id = $this->painted('y');
        [$mesh] = self::kept($id);
        $this->assertPainted($mesh);
        $normals = [];
        foreach ($mesh->tags as $t => $_) {
            $normals[] = implode(' ', array_map(static fn (float $c): string => (string) Zero::plain(round($c, 6)), array_slice($mesh->skin->layers[Skin::NORMAL]->at($t) ?? [], 0, 3))).($mesh->skin?->materialOf($t) === 1 ? ' glaze' : '');
        }
        // What looked up, along Z, looks along −Y now.
        self::assertContains('0 -1 0 glaze', $normals);
        self::assertNotContains('0 0 1 glaze', $normals);
    }

    public function test_the_same_shape_in_other_paint_is_another_mesh_and_unused_paint_is_swept_away(): void
    {
        $id = $this->painted();
        $upload = $this->postFile('other.glb', PaintedGlb::box(['materials' => [['name' => 'plain clay']]], PaintedGlb::png(8, 4)))->assertCreated()->json('id');
        $other = $this->postJson('/api/v1/projects', ['uploads' => [$upload], 'name' => 'Other', 'units' => 'mm'])->assertAccepted()->json('id');
        self::assertSame(2, StoredMesh::query()->count());
        self::assertSame(2, DB::table('skin_pictures')->count());
        self::assertSame('plain clay', self::kept($other)[0]->skin?->looks->name(0));
        $this->deleteJson("/api/v1/projects/$other")->assertNoContent();
        $this->deleteJson("/api/v1/projects/$other/for-good")->assertNoContent();
        (new Sweep)->some(5.0);
        self::assertSame([1, 1, 1], [StoredMesh::query()->count(), DB::table('skin_pictures')->count(), DB::table('mesh_pictures')->count()]);
        self::assertSame(DB::table('meshes')->pluck('hash')->all(), DB::table('mesh_skins')->distinct()->pluck('mesh_hash')->all());
        $this->assertPainted(self::kept($id)[0]);
        // A copy of the project shares all of it.
        $copy = $this->postJson("/api/v1/projects/$id/duplicate")->assertCreated()->json('id');
        $this->assertPainted(self::kept($copy)[0]);
        self::assertSame(1, StoredMesh::query()->count());
    }

    public function test_a_zip_is_brought_in_with_what_belongs_to_it_and_nothing_of_this_machine(): void
    {
        $zip = static fn (array $files): string => (string) file_get_contents(PaintedObj::zip((string) tempnam(sys_get_temp_dir(), 'isotome'), $files));
        $sound = $this->postFile('painted.zip', $zip(['box.obj' => PaintedObj::box(), 'paint.mtl' => PaintedObj::library(), 'pattern.png' => PaintedGlb::png()]))->assertCreated();
        self::assertSame(['OBJ', false, ['materials', 'pictures', 'texture coordinates', 'normals'], []], [$sound->json('report.format'), $sound->json('report.states_unit'), $sound->json('report.carries'), $sound->json('report.left_out')]);
        $id = $this->postJson('/api/v1/projects', ['uploads' => [$sound->json('id')], 'name' => 'Painted', 'units' => 'cm', 'up' => 'z'])->assertAccepted()->json('id');
        [$mesh] = self::kept($id);
        self::assertSame([PaintedGlb::png()], array_column($mesh->skin->looks->pictures ?? [], 'bytes'));
        self::assertSame(400.0, max($mesh->xyz) - min($mesh->xyz));
        // Files that were sent before lie beside this one on the disk; a name leads to none of them.
        $before = $this->postFile('before.obj', PaintedObj::box())->assertCreated()->json('id');
        foreach (["$before.obj", "../uploads/$before.obj", storage_path("uploads/$before.obj"), '/etc/passwd'] as $name) {
            $alone = $this->postFile('alone.obj', PaintedObj::box($name))->assertCreated();
            self::assertSame(['the materials of '.basename($name).': it is not there'], $alone->json('report.left_out'));
        }
        $glb = $this->postFile('a.zip', $zip(['a.glb' => PaintedGlb::box()]))->json('report');
        self::assertSame(['GLB', true], [$glb['format'], $glb['states_unit']]);
        // Data beside a description is read by its true size, not by what it might be.
        $description = PaintedGlb::box();
        $length = ((array) unpack('V', $description, 12))[1];
        $json = array_replace((array) json_decode(substr($description, 20, $length), true), ['buffers' => [['byteLength' => strlen($description) - 28 - $length, 'uri' => 'box.bin']]]);
        $this->postFile('box.zip', $zip(['box.gltf' => (string) json_encode($json), 'box.bin' => substr($description, 28 + $length)]))->assertCreated()->assertJsonPath('report.format', 'glTF');
        $this->postFile('bad.zip', 'PK no')->assertStatus(422)->assertJsonFragment(['message' => 'The file bad.zip is no zip; check it, or bring in the mesh file by itself.']);
    }

    public function test_materials_are_listed_and_their_faces_found(): void
    {
        $id = $this->painted();
        $hash = (string) Piece::query()->where('project_id', $id)->value('mesh_hash');
        $list = $this->getJson("/api/v1/meshes/$hash/materials")->assertOk()->json();
        // 0.2, 0.4 and 0.5 of the light are written as 124, 170 and 188 (IEC 61966-2-1).
        self::assertSame([
            ['number' => 0, 'name' => 'painted clay', 'triangles' => 10, 'colour' => '#ffffff', 'picture' => 'pictures/'.hash('sha256', PaintedGlb::png()), 'places' => true],
            ['number' => 1, 'name' => 'glaze', 'triangles' => 2, 'colour' => '#7caabc', 'picture' => null, 'places' => true],
        ], $list);
        [$mesh] = self::kept($id);
        $faces = $this->getJson("/api/v1/meshes/$hash/materials/1/faces")->assertOk()->json('faces');
        self::assertSame(array_values(array_filter(array_keys($mesh->tags), static fn (int $t): bool => $mesh->skin?->materialOf($t) === 1)), $faces);
        $this->getJson("/api/v1/meshes/$hash/materials/2/faces")->assertStatus(422)->assertJsonPath('message', 'No face of this piece has material 2; choose one of its own.');
        $this->getJson("/api/v1/meshes/$hash/materials/x/faces")->assertNotFound();
        $plain = (string) Piece::query()->where('project_id', $this->project())->value('mesh_hash');
        self::assertSame([], $this->getJson("/api/v1/meshes/$plain/materials")->assertOk()->json());
        // A score within the glaze leaves the clay as it is.
        $this->postJson("/api/v1/projects/$id/steps", ['step' => ['do' => 'score', 'blade' => ['kind' => 'flat', 'through' => [1, 2, 3], 'facing' => [1, 0, 0]], 'faces' => $faces], 'pieces' => null])->assertAccepted();
        $scored = (string) Piece::query()->where('project_id', $id)->whereNull('spent_by')->value('mesh_hash');
        $counts = array_column($this->getJson("/api/v1/meshes/$scored/materials")->json(), 'triangles', 'name');
        self::assertGreaterThan(2, $counts['glaze']);
        self::assertLessThanOrEqual(14, $counts['painted clay']);
    }

    /** A picture in a step's settings is begun only where steps are listed, whole where one is asked for, and goes out with the recipe. */
    public function test_an_own_picture_travels_in_the_step(): void
    {
        $id = $this->painted();
        $materials = $this->getJson('/api/v1/meshes/'.$this->getJson("/api/v1/projects/$id")->json('pieces.0.mesh').'/materials')->json();
        self::assertSame([true, true], array_column($materials, 'places'));
        $picture = 'data:image/png;base64,'.base64_encode(Stuff::png('clay'));
        $this->postJson("/api/v1/projects/$id/steps", ['step' => ['do' => 'paint', 'material' => 'glaze', 'picture' => $picture]])->assertAccepted();
        $project = $this->getJson("/api/v1/projects/$id");
        self::assertSame('Painted glaze on 1 piece.', $project->json('run.message'));
        self::assertSame([substr($picture, 0, 30), ['picture' => strlen($picture)]], [$project->json('steps.0.settings.picture'), $project->json('steps.0.long')]);
        $step = $project->json('steps.0.id');
        self::assertSame($picture, $this->getJson("/api/v1/projects/$id/steps/$step")->json('settings.picture'));
        self::assertSame($picture, $this->getJson("/api/v1/projects/$id/recipe.json")->json('steps.0.picture'));
        // The piece shows it, in its list and on its faces.
        $materials = $this->getJson('/api/v1/meshes/'.collect($project->json('pieces'))->firstWhere('spent', false)['mesh'].'/materials')->json();
        self::assertSame('pictures/'.hash('sha256', Stuff::png('clay')), $materials[1]['picture']);
        self::assertSame(Stuff::png('clay'), $this->get('/api/v1/'.$materials[1]['picture'])->assertOk()->getContent());
    }
}
