<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Meshes\Sweep;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Support\Facades\DB;
use Isotome\Format\Stuff;
use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Support\PaintedGlb;
use ZipArchive;

/** How the inside of a project's pieces looks: chosen, shown, taken out and kept. */
final class InsideTest extends HttpTestCase
{
    private function cutProject(): int
    {
        $id = $this->project();
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade(['facing' => [0.3, 0.2, 1]])))->assertAccepted();

        return $id;
    }

    private function taken(int $id, string $name): string
    {
        $zip = new ZipArchive;
        self::assertTrue($zip->open($this->takenOut("/api/v1/projects/$id/pieces.zip?as=glb&together=1")));
        for ($n = 0; $n < $zip->numFiles; $n++) {
            if (str_ends_with((string) $zip->getNameIndex($n), $name)) {
                return (string) $zip->getFromIndex($n);
            }
        }
        self::fail("There is no $name.");
    }

    public function test_a_picture_is_chosen_and_goes_out_with_the_pieces(): void
    {
        $id = $this->cutProject();
        self::assertNull($this->getJson("/api/v1/projects/$id")->json('inside'));
        $plain = $this->taken($id, '.glb');
        $told = $this->patchJson("/api/v1/projects/$id", ['inside' => ['look' => 'oak', 'turn' => 90]])->assertOk()->json('inside');
        self::assertEquals(['look' => 'oak', 'mm' => 60.0, 'turn' => 90.0, 'picture' => 'insides/oak', 'scales' => [1 / 60, 1 / 60]], $told);
        self::assertSame(Stuff::png('oak'), $this->get('/api/v1/insides/oak')->assertOk()->assertHeader('Content-Type', 'image/png')->getContent());
        $this->getJson('/api/v1/insides/jade')->assertNotFound();
        // Files that were made before are not taken for these.
        $oak = $this->taken($id, '.glb');
        self::assertSame([0, 1], [substr_count($plain, Stuff::png('oak')), substr_count($oak, Stuff::png('oak'))]);
        self::assertSame('#c9b79c', $this->patchJson("/api/v1/projects/$id", ['inside' => ['look' => 'colour', 'colour' => '#C9B79C']])->assertOk()->json('inside.colour'));
        $this->patchJson("/api/v1/projects/$id", ['name' => 'Other'])->assertOk()->assertJsonPath('inside.look', 'colour');
        $this->patchJson("/api/v1/projects/$id", ['inside' => null])->assertOk()->assertJsonPath('inside', null);
    }

    public function test_a_picture_of_ones_own_is_kept_as_long_as_a_project_has_it(): void
    {
        $id = $this->cutProject();
        $this->patchJson("/api/v1/projects/$id", ['inside' => ['look' => 'own']])->assertStatus(422)->assertJsonFragment(['message' => 'There is no picture of your own yet; choose a file first.']);
        $png = PaintedGlb::png(8, 4);
        $told = $this->call('PUT', "/api/v1/projects/$id/inside-picture?name=".rawurlencode('../slate <b>.png'), [], [], [], ['HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/octet-stream'], $png)->assertOk()->json('inside');
        $hash = hash('sha256', $png);
        self::assertEquals(['look' => 'own', 'mm' => 50.0, 'turn' => 0.0, 'name' => 'slate -b-', 'picture' => "pictures/$hash", 'scales' => [1 / 50, 2 / 50]], $told);
        self::assertSame($png, $this->get("/api/v1/pictures/$hash")->assertOk()->getContent());
        $this->patchJson("/api/v1/projects/$id", ['inside' => ['look' => 'own', 'mm' => 20, 'turn' => 5]])->assertOk()->assertJsonPath('inside.name', 'slate -b-');
        self::assertSame(1, substr_count($this->taken($id, '.glb'), $png));
        // A copy of the project has it as well, and it stays until the last of them is gone.
        $copy = $this->postJson("/api/v1/projects/$id/duplicate")->assertCreated()->json('id');
        self::assertSame("pictures/$hash", $this->getJson("/api/v1/projects/$copy")->json('inside.picture'));
        foreach ([$id => 1, $copy => 0] as $project => $left) {
            // Another mesh goes, so the sweep has something to do.
            $this->deleteJson("/api/v1/projects/$project")->assertNoContent();
            Project::onlyTrashed()->findOrFail($project)->erase();
            DB::table('meshes')->insert([...(array) DB::table('meshes')->first() ?: self::bareMesh(), 'hash' => str_repeat((string) $left, 64)]);
            (new Sweep)->some(10.0);
            self::assertSame($left, DB::table('skin_pictures')->where('hash', $hash)->count());
        }
    }

    /** @return array<string, mixed> */
    private static function bareMesh(): array
    {
        $row = [];
        foreach (DB::select("select name, type from pragma_table_info('meshes') where \"notnull\" = 1 and dflt_value is null") as $column) {
            $row[$column->name] = str_contains(strtolower($column->type), 'char') ? 'x' : 0;
        }

        return $row;
    }

    public function test_the_view_is_told_where_inside_faces_lie(): void
    {
        $id = $this->cutProject();
        $piece = Piece::query()->with('mesh')->where('project_id', $id)->whereNull('spent_by')->firstOrFail();
        $mesh = (new \App\Meshes\MeshStore)->get($piece->mesh);
        $places = array_chunk(array_values((array) unpack('g*', (string) $this->get("/api/v1/meshes/{$piece->mesh_hash}/inside")->assertOk()->getContent())), 6);
        $insides = array_keys(array_filter($mesh->tags, static fn (int $tag): bool => $tag > 0));
        self::assertCount(count($insides), $places);
        foreach ($insides as $n => $t) {
            [$a, $b] = array_map(static fn (int $k): array => array_slice($mesh->xyz, 3 * $mesh->corners[3 * $t + $k], 3), [0, 1]);
            self::assertEqualsWithDelta(sqrt(array_sum(array_map(static fn (float $p, float $q): float => ($p - $q) ** 2, $a, $b))), hypot($places[$n][0] - $places[$n][2], $places[$n][1] - $places[$n][3]), 1e-4);
        }
        $stock = (string) Piece::query()->where('project_id', $id)->whereNull('parent_id')->value('mesh_hash');
        self::assertSame('', $this->get("/api/v1/meshes/$stock/inside")->assertOk()->getContent());
    }

    /** @return iterable<string, array{mixed, string}> */
    public static function wrong(): iterable
    {
        $looks = 'How the inside looks is not told by look, colour, mm and turn; choose one of the looks.';
        yield 'a word' => ['oak', $looks];
        yield 'more keys' => [['look' => 'oak', 'path' => '/etc/passwd'], $looks];
        yield 'unknown' => [['look' => '../oak'], 'There is no picture called ../oak; choose one of stone, oak, clay, plaster.'];
        yield 'nothing' => [['mm' => 5], 'There is no picture called ; choose one of stone, oak, clay, plaster.'];
        yield 'no colour' => [['look' => 'colour', 'colour' => 'red'], 'The colour of the inside is "red"; write it as #rrggbb, such as #c9b79c.'];
        yield 'no width' => [['look' => 'oak', 'mm' => 'wide'], 'The width of a picture is 0.1 to 100,000 mm; give another one.'];
        yield 'too narrow' => [['look' => 'oak', 'mm' => 0.01], 'The width of a picture is 0.1 to 100,000 mm; give another one.'];
    }

    #[DataProvider('wrong')]
    public function test_what_is_no_look_is_refused(mixed $inside, string $said): void
    {
        $id = $this->project();
        $this->patchJson("/api/v1/projects/$id", ['inside' => $inside])->assertStatus(422)->assertJsonPath('message', $said);
        self::assertNull($this->getJson("/api/v1/projects/$id")->json('inside'));
    }

    public function test_a_file_that_is_no_usable_picture_is_refused(): void
    {
        $id = $this->project();
        foreach (['no picture' => 'it is no PNG, JPEG or WebP', PaintedGlb::png(20000, 4) => 'its 20000 × 4 pixels are more than 16384 a side', '' => 'it is no PNG, JPEG or WebP'] as $bytes => $why) {
            $this->call('PUT', "/api/v1/projects/$id/inside-picture?name=slate.png", [], [], [], ['HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/octet-stream'], (string) $bytes)
                ->assertStatus(422)->assertJsonPath('message', "The picture slate cannot be used: $why; choose another one.");
        }
        self::assertSame([], glob(storage_path('spool/inside-*')) ?: []);
        self::assertNull(Project::query()->findOrFail($id)->inside_picture);
    }
}
