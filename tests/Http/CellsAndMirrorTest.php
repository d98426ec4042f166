<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Piece;
use Demo\WheelBracket;
use Isotome\Format\StlReader;
use Isotome\Mesh\Volume;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** Cells and mirrors over HTTP: foreseen, done, edited, taken back, replayed by the core alone. */
final class CellsAndMirrorTest extends HttpTestCase
{
    private const CELLS = ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'uniform', 'count' => 15, 'seed' => 3]];

    /**
     * @param  array<string, mixed>  $step
     * @return array<string, mixed> the run
     */
    private function take(int $id, array $step, ?int $edited = null): array
    {
        $run = $edited === null
            ? $this->postJson("/api/v1/projects/$id/steps", ['step' => $step])->assertAccepted()->json()
            : $this->putJson("/api/v1/projects/$id/steps/$edited", ['step' => $step])->assertAccepted()->json();

        return $this->getJson('/api/v1/runs/'.$run['id'])->json();
    }

    public function test_a_forecast_is_what_comes(): void
    {
        $id = $this->project();
        $said = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => self::CELLS])->assertOk()->json();
        self::assertFalse($said['about'], 'a small mesh stands for itself');
        self::assertSame(0, strlen((string) base64_decode($said['skin'])) % 24);
        self::assertGreaterThan(0, strlen($said['skin']));
        self::assertStringContainsString('all watertight, 0.000 % volume lost', $this->take($id, self::CELLS)['message']);
        $volumes = Piece::query()->with('mesh')->where('project_id', $id)->whereNull('spent_by')->get()->map(static fn (Piece $piece): float => $piece->mesh->volume);
        self::assertEqualsWithDelta($said['largest'], $volumes->max(), 1e-6 * $volumes->max());
        self::assertGreaterThanOrEqual($said['pieces'], $volumes->count());
    }

    /** Tried out on the piece itself, the numbers are those that come: with a kerf, with walls, with small ones joined, and of a chop. */
    public function test_what_is_tried_out_is_exactly_what_comes(): void
    {
        $blade = ['kind' => 'cells', 'by' => 'uniform', 'count' => 15, 'seed' => 3];
        $steps = [
            ['do' => 'cut', 'blade' => $blade, 'kerf' => 0.4, 'smallest' => 0.03],
            ['do' => 'cut', 'blade' => $blade, 'wall_mm' => 1.5],
            ['do' => 'cut', 'blade' => $blade, 'seal' => 'open'],
            ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'chop', 'rounds' => 4, 'shift' => 0.2, 'tilt' => 10, 'seed' => 2]],
        ];
        foreach ($steps as $step) {
            $id = $this->project();
            $said = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $step, 'tried' => true])->assertOk()->json();
            $foreseen = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $step])->assertOk()->json();
            self::assertFalse($said['about']);
            self::assertSame(0, $said['left_out']);
            self::assertGreaterThan(0, strlen($said['skin']));
            self::assertSame('done', $this->take($id, $step)['status']);
            $volumes = Piece::query()->with('mesh')->where('project_id', $id)->whereNull('spent_by')->get()->map(static fn (Piece $piece): float => $piece->mesh->volume);
            self::assertSame($volumes->count(), $said['pieces']);
            if (($step['seal'] ?? '') !== 'open') {
                self::assertEqualsWithDelta($said['largest'], $volumes->max(), 1e-6 * $volumes->max());
                self::assertEqualsWithDelta($said['smallest'], $volumes->min(), 1e-6 * $volumes->max());
            }
            self::assertEqualsWithDelta($said['pieces'], $foreseen['pieces'], 0.5 * $said['pieces']);
        }
        // Nine legs below one wall: outlines alone count two cells, a try the bodies in them.
        $id = $this->project(Bodies::named('table on nine legs'), 'Table');
        $legs = ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'blocks', 'count' => [1, 1, 2]]];
        self::assertSame(2, $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $legs])->assertOk()->json('pieces'));
        $tried = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $legs, 'tried' => true])->assertOk()->json('pieces');
        self::assertSame('done', $this->take($id, $legs)['status']);
        self::assertSame(Piece::query()->where('project_id', $id)->whereNull('spent_by')->count(), $tried);
        self::assertGreaterThan(2, $tried);
        // What is too large for a try says so, and stays foreseen.
        $id = $this->project();
        self::assertSame(1, $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => ['do' => 'cut', 'blade' => [...$blade, 'count' => 900]], 'tried' => true])->assertOk()->json('left_out'));
        foreach ([['by' => 'blocks', 'count' => [10, 10, 10]], ['by' => 'rings', 'rings' => 10, 'sectors' => 40, 'layers' => 4], ['by' => 'chop', 'rounds' => 11]] as $many) {
            self::assertSame(1, $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => ['do' => 'cut', 'blade' => ['kind' => 'cells', ...$many]], 'tried' => true])->assertOk()->json('left_out'), $many['by']);
        }
        self::assertSame(1, $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'chop', 'rounds' => 12]]])->assertOk()->json('left_out'));
        $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => self::CELLS, 'tried' => 'perhaps'])->assertUnprocessable();
    }

    public function test_a_seam_and_the_span_of_copies_are_told_beforehand(): void
    {
        $id = $this->project(WheelBracket::mesh(), 'Bracket');
        $mirror = static fn (float $catch): array => ['do' => 'mirror', 'planes' => [['through' => [0, 0, 0], 'facing' => [1, 0, 0]]], 'keep' => 'ahead', 'catch' => $catch];
        $open = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $mirror(0.1)])->assertOk()->json();
        self::assertNotSame([], $open['unjoined']);
        self::assertSame(0, count($open['unjoined']) % 6);
        $caught = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $mirror(0.4)])->assertOk()->json();
        self::assertSame([], $caught['unjoined']);
        $half = $this->getJson("/api/v1/projects/$id")->json('pieces.0.id');
        $this->patchJson("/api/v1/projects/$id/pieces", ['pieces' => [$half], 'title' => 'Left bearing'])->assertOk();
        self::assertStringContainsString(sprintf('kink at most %.1f°', $caught['kink']), $this->take($id, $mirror(0.4))['message']);

        self::assertSame(['Left bearing'], Piece::query()->where('project_id', $id)->whereNull('spent_by')->pluck('title')->all());

        $id = $this->project(Solids::box(10, 10, 10, [20.0, -5.0, 0.0]), 'Block');
        $copies = static fn (int $count): array => ['do' => 'mirror', 'copies' => ['through' => [0, 0, 0], 'axis' => [0, 0, 1], 'count' => $count]];
        self::assertEqualsWithDelta(2 * rad2deg(atan(5 / 20)), $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $copies(12)])->assertOk()->json('span'), 0.25);
        self::assertStringContainsString('overlaps what was there', $this->take($id, $copies(16))['message']);
        $this->postJson("/api/v1/projects/$id/steps/foresee", self::asCut($this->flatBlade()))->assertUnprocessable();
    }

    public function test_a_step_is_edited_replayed_and_taken_back(): void
    {
        $id = $this->project();
        $this->take($id, self::CELLS);
        $this->take($id, ['do' => 'mirror', 'planes' => [['through' => [0, 0, 0], 'facing' => [0, 0, 1]]], 'cut' => false, 'gives' => 'two']);
        $this->assertReplays($id);
        $step = $this->getJson("/api/v1/projects/$id")->json('steps.0.id');
        $before = Piece::query()->where('project_id', $id)->whereNull('spent_by')->pluck('mesh_hash')->all();
        $again = $this->take($id, ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'uniform', 'count' => 15, 'seed' => 4], 'smallest' => 0.02], $step);
        self::assertStringContainsString('2 steps run again', $again['message']);
        self::assertNotEquals($before, Piece::query()->where('project_id', $id)->whereNull('spent_by')->pluck('mesh_hash')->all());
        $this->assertReplays($id, true);
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertEqualsCanonicalizing($before, Piece::query()->where('project_id', $id)->whereNull('spent_by')->pluck('mesh_hash')->all());
    }

    /** The exported recipe, run by the core alone, gives what the project shows. */
    private function assertReplays(int $id, bool $isEdited = false): void
    {
        $runner = Runner::on('torus', StlReader::read($this->path('upload.stl'))->mesh);
        foreach (Recipe::fromArray($this->get("/api/v1/projects/$id/recipe.json")->json())->steps as $step) {
            $runner->run($step);
        }
        $stored = Piece::query()->with('mesh')->where('project_id', $id)->whereNull('spent_by')->get()->keyBy('name');
        self::assertEqualsCanonicalizing($stored->keys()->all(), array_keys($runner->pieces()));
        foreach ($runner->pieces() as $name => $piece) {
            self::assertEqualsWithDelta($stored[$name]->mesh->volume, Volume::of($piece->mesh), 1e-9 * abs($stored[$name]->mesh->volume));
            // A piece of an edited step keeps the colour that its name had.
            self::assertTrue($isEdited || $stored[$name]->colour === $piece->colour);
        }
    }

    public function test_a_mirror_is_measured_refused_beforehand_and_made(): void
    {
        $id = $this->project(WheelBracket::mesh(), 'Bracket');
        $mirror = static fn (string $keep, float $catch = 0.0, float $x = 0.0): array => ['do' => 'mirror', 'planes' => [['through' => [$x, 0, 0], 'facing' => [1, 0, 0]]], 'keep' => $keep, 'catch' => $catch];
        $said = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $mirror('ahead')])->assertOk()->json();
        self::assertNull($said['refusal']);
        self::assertSame(3, $said['rims']);
        self::assertEqualsWithDelta(0.4, $said['weld'], 1e-9);
        $said = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $mirror('behind', 0.0, -5.0)])->assertOk()->json();
        self::assertStringContainsString('Nothing of Bracket is on the kept side', $said['refusal']);
        $run = $this->take($id, $mirror('behind', 0.0, -5.0));
        self::assertSame('failed', $run['status']);
        self::assertStringContainsString('nothing is there', $run['message']);
        $run = $this->take($id, $mirror('ahead', 0.4));
        self::assertSame('done', $run['status']);
        self::assertStringContainsString('1 piece, watertight, joined at 33 edges, kink at most 11.2°', $run['message']);
    }

    public function test_symmetry_is_told_with_places_and_the_best_plane(): void
    {
        $id = $this->project(Solids::moved(Solids::torus(20, 7, 40, 24), 0.0, 0.0, 0.0, 1.0, [5.0, 0.0, 0.0]), 'Ring');
        $piece = $this->getJson("/api/v1/projects/$id")->json('pieces.0.id');
        $off = $this->postJson("/api/v1/projects/$id/symmetry", ['piece' => $piece, 'through' => [0, 0, 0], 'facing' => [1, 0, 0]])->assertOk()->json();
        self::assertGreaterThan(5.0, $off['largest']);
        self::assertSame(0, strlen((string) base64_decode($off['map'])) % (3 * 16));
        self::assertGreaterThan(1920 * 3 * 16, strlen((string) base64_decode($off['map'])), 'large faces are divided');
        $best = $this->postJson("/api/v1/projects/$id/symmetry", ['piece' => $piece])->assertOk()->json();
        self::assertLessThan(0.6, $best['largest']);
        $this->postJson("/api/v1/projects/$id/symmetry", ['piece' => 999_999])->assertNotFound();
        $this->postJson("/api/v1/projects/$id/symmetry", ['piece' => $piece, 'through' => [0, 0, 0], 'facing' => ['a', 0, 0]])->assertUnprocessable();
    }

    public function test_shards_go_out_with_masses_and_neighbours(): void
    {
        $id = $this->project();
        $this->take($id, self::CELLS);
        $zip = new \ZipArchive;
        self::assertTrue($zip->open($this->takenOut("/api/v1/projects/$id/pieces.zip?as=obj&together=1&density=2.5")));
        $manifest = json_decode((string) $zip->getFromName('manifest.json'), true);
        self::assertIsArray($manifest);
        self::assertSame(count($manifest['pieces']), preg_match_all('/^[og] /m', (string) $zip->getFromName('Torus.obj')), 'a group for every piece');
        $mass = 0.0;
        foreach ($manifest['pieces'] as $piece) {
            $mass += $piece['mass_g'];
            self::assertNotSame([], $piece['neighbours']);
            self::assertGreaterThan(0.0, $piece['inertia_g_mm2'][0][0]);
        }
        self::assertEqualsWithDelta(2.5 * $this->getJson("/api/v1/projects/$id")->json('pieces.0.volume') / 1000, $mass, 1e-6 * $mass);
        // Two that are called the same stay two, and keep their numbers.
        $numbers = array_column($manifest['pieces'], 'id');
        $first = Piece::query()->where('project_id', $id)->whereNull('spent_by')->limit(2)->pluck('id')->all();
        $this->patchJson("/api/v1/projects/$id/pieces", ['pieces' => $first, 'title' => 'Twin'])->assertOk();
        $zip->open($this->takenOut("/api/v1/projects/$id/pieces.zip?as=obj&together=1"));
        $again = json_decode((string) $zip->getFromName('manifest.json'), true);
        self::assertIsArray($again);
        self::assertEqualsCanonicalizing($numbers, array_column($again['pieces'], 'id'));
        self::assertContains('Twin 2', array_column($again['pieces'], 'name'));
        $this->get("/api/v1/projects/$id/pieces.zip?density=-1", ['Accept' => 'application/json'])->assertUnprocessable();
    }

    public function test_points_may_be_the_vertices_of_a_piece_and_are_written_down(): void
    {
        $id = $this->project();
        $piece = $this->getJson("/api/v1/projects/$id")->json('pieces.0.id');
        $run = $this->take($id, ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'points', 'vertices_of' => $piece, 'count' => 8]]);
        self::assertStringContainsString('all watertight', $run['message']);
        self::assertCount(8, $this->get("/api/v1/projects/$id/recipe.json")->json('steps.0.blade.points'));
    }

    public function test_what_cannot_be_done_is_refused_in_a_sentence(): void
    {
        $id = $this->project();
        foreach ([
            [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'cracks']], 'blade.by is "cracks"'],
            [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'uniform', 'count' => 1]], 'count is 1'],
            [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'uniform', 'count' => 9, 'colour' => 'red']], 'unknown key'],
            [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'gathered', 'count' => 9, 'places' => [], 'falloff' => 5]], 'places is []'],
            [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'blocks', 'count' => [2, 2, 2], 'size' => [1, 1, 1]]], 'both count and size'],
            [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'points', 'vertices_of' => 999_999, 'count' => 8]], 'is not there'],
            [['do' => 'cut', 'blade' => ['kind' => 'curved']], 'blade.kind is "curved"'],
            [['do' => 'mirror', 'planes' => []], 'planes is []'],
            [['do' => 'mirror', 'planes' => [['through' => [0, 0, 0], 'facing' => [0, 0, 0]]]], 'has no direction'],
            [['do' => 'mirror', 'planes' => [['through' => [0, 0, 0], 'facing' => [1, 0, 0]]], 'gives' => 'three'], 'gives is "three"'],
            [['do' => 'mirror', 'copies' => ['axis' => [0, 0, 1], 'count' => 1]], 'copies.count is 1'],
            ['none', 'There is no step'],
        ] as [$step, $says]) {
            $answer = $this->postJson("/api/v1/projects/$id/steps", ['step' => $step])->assertUnprocessable();
            self::assertStringContainsString($says, (string) $answer->json('message'), $says);
        }
        self::assertSame([], $this->getJson("/api/v1/projects/$id")->json('steps'));
    }
}
