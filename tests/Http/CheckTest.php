<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Piece;
use Isotome\Mesh\Mesh;
use Tests\Support\Solids;

/** The Check station's side of the server: reports with places, single mends with a preview, the whole mend, sheets. */
final class CheckTest extends HttpTestCase
{
    /** A ball with two triangles missing, one triangle doubled and one turned. */
    private function faulty(): Mesh
    {
        $torus = Solids::torus(20, 7, 40, 24);
        $corners = $torus->corners;
        array_push($corners, ...array_slice($corners, 300, 3));
        [$corners[600], $corners[601]] = [$corners[601], $corners[600]];
        array_splice($corners, 1500, 3);
        array_splice($corners, 900, 3);

        return Mesh::of($torus->xyz, $corners);
    }

    /** @return array<string, mixed> */
    private function ask(string $address, array $body): array
    {
        return $this->getJson('/api/v1/runs/'.$this->postJson($address, $body)->assertAccepted()->json('id'))->json();
    }

    private function piece(int $id): Piece
    {
        /** @var Piece */
        return Piece::query()->with('mesh')->where('project_id', $id)->whereNull('spent_by')->firstOrFail();
    }

    public function test_faults_are_counted_and_placed_and_mended_one_by_one_with_a_preview(): void
    {
        $id = $this->project($this->faulty());
        $this->getJson("/api/v1/projects/$id/checks")->assertOk()->assertExactJson([]);
        self::assertSame('Checked: there are faults.', $this->check($id)['message']);
        $known = $this->getJson("/api/v1/projects/$id/checks")->json($this->piece($id)->mesh_hash);
        self::assertFalse($known['sound']);
        self::assertSame(2, $known['notes']['rims'] - 0);
        $report = $this->getJson('/api/v1/meshes/'.$this->piece($id)->mesh_hash.'/check')->assertOk()->json();
        self::assertSame([3, 3], array_column($report['rims'], 'edges'));
        self::assertCount(9, $report['rims'][0]['points']);
        self::assertNotSame([], $report['lines']['flipped_edges']);
        self::assertSame(0, count($report['triangles']['doubled_faces']) % 9);
        self::assertSame('Checked before; nothing has changed since.', $this->check($id)['message']);

        $ask = ['pieces' => [$this->piece($id)->id]];
        $preview = $this->postJson("/api/v1/projects/$id/steps/foresee", self::asMend([...$ask, 'only' => 'close', 'rims' => [1]]))->assertOk()->json();
        self::assertSame([['close' => 1], 0], [$preview['did'], $preview['removed']]);
        self::assertCount(9 * $preview['added'], $preview['added_faces']);
        self::assertLessThan($preview['before']['faults']['open_edges'], $preview['after']['faults']['open_edges']);
        // A preview changes nothing.
        self::assertSame($ask['pieces'][0], $this->piece($id)->id);

        self::assertStringStartsWith('Mended: 1 rim closed; still not watertight', $this->ask("/api/v1/projects/$id/steps", self::asMend([...$ask, 'only' => 'close', 'rims' => [1]]))['message']);
        foreach (['doubled', 'turn', 'close'] as $only) {
            $run = $this->ask("/api/v1/projects/$id/steps", self::asMend(['pieces' => [$this->piece($id)->id], 'only' => $only]));
            self::assertSame('done', $run['status'], $only.': '.$run['message']);
        }
        self::assertTrue($this->piece($id)->mesh->watertight);
        self::assertSame('torus', $this->piece($id)->name);
        $nothing = $this->ask("/api/v1/projects/$id/steps", self::asMend(['pieces' => [$this->piece($id)->id], 'only' => 'slivers']));
        self::assertSame(['failed', 'There was nothing to mend of this kind; the pieces are as they were.'], [$nothing['status'], $nothing['message']]);
        // A mend is a step: it can be cut after, rejoined and undone.
        $this->ask("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()));
        self::assertSame(['torus-A', 'torus-B'], Piece::query()->where('project_id', $id)->whereNull('spent_by')->orderBy('place')->pluck('name')->all());
        $manifest = $this->getJson("/api/v1/projects/$id/recipe.json")->json('steps');
        self::assertSame(['mend', 'mend', 'mend', 'mend', 'cut'], array_column($manifest, 'do'));
        $this->postJson("/api/v1/projects/$id/rejoin", ['step' => $this->getJson("/api/v1/projects/$id")->json('steps.0.id')])->assertOk();
        self::assertFalse($this->piece($id)->mesh->watertight);
    }

    /** @return array<string, mixed> */
    private function check(int $id): array
    {
        return $this->ask("/api/v1/projects/$id/checks", []);
    }

    public function test_mend_all_makes_it_watertight_in_one_step(): void
    {
        $id = $this->project($this->faulty());
        $preview = $this->postJson("/api/v1/projects/$id/steps/foresee", self::asMend(['pieces' => [$this->piece($id)->id]]))->assertOk()->json();
        self::assertTrue($preview['after']['watertight']);
        $run = $this->ask("/api/v1/projects/$id/steps", self::asMend(['pieces' => [$this->piece($id)->id]]));
        self::assertStringEndsWith('; watertight now.', $run['message']);
        self::assertStringContainsString('2 rims closed', $run['message']);
        self::assertTrue($this->piece($id)->mesh->watertight);
        self::assertSame('Checked: sound.', $this->check($id)['message']);
    }

    public function test_pieces_that_were_mended_twice_are_mended_again_and_go_out(): void
    {
        $id = $this->project();
        self::assertSame('done', $this->ask("/api/v1/projects/$id/steps", self::asCut($this->flatBlade(['through' => [0, 0, 0], 'facing' => [1, 0, 0], 'seal' => 'open'])))['status']);
        // Each half has two rims: closed one after the other.
        foreach ([0, 0] as $rim) {
            $recipe = ['isotome_recipe' => 1, 'steps' => [['do' => 'mend', 'only' => 'close', 'rims' => [$rim]]]];
            self::assertSame('done', $this->ask("/api/v1/projects/$id/recipe", $recipe)['status']);
        }
        self::assertSame('There was nothing to mend; the pieces are as they were.', $this->ask("/api/v1/projects/$id/recipe", ['isotome_recipe' => 1, 'steps' => [['do' => 'mend']]])['message']);
        self::assertSame('done', $this->ask("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))['status']);
        $this->get("/api/v1/projects/$id/pieces.zip")->assertOk();
        $pieces = Piece::query()->where('project_id', $id)->whereNull('spent_by')->orderBy('name')->get();
        self::assertSame(['torus-A-A', 'torus-A-B', 'torus-B-A', 'torus-B-B'], $pieces->pluck('name')->all());
        self::assertSame(['torus-A', 'torus-A', 'torus-B', 'torus-B'], $pieces->map(static fn (Piece $piece): string => $piece->madeOf()[0])->all());
    }

    public function test_a_sheet_gets_a_thickness(): void
    {
        $sheet = Mesh::of([0, 0, 0, 40, 0, 0, 40, 30, 0, 0, 30, 0], [0, 1, 2, 0, 2, 3]);
        $id = $this->project(Mesh::of(array_map(floatval(...), $sheet->xyz), $sheet->corners));
        self::assertSame('Thickened, watertight now.', $this->ask("/api/v1/projects/$id/steps", self::asMend(['pieces' => [$this->piece($id)->id], 'thickness' => 2.5]))['message']);
        self::assertEqualsWithDelta(40 * 30 * 2.5, $this->piece($id)->mesh->volume, 1e-6);
        foreach ([['thickness' => 0], ['only' => 'magic'], ['rims' => 'all'], ['pieces' => []]] as $wrong) {
            $this->postJson("/api/v1/projects/$id/steps", self::asMend(['pieces' => [$this->piece($id)->id], ...$wrong]))->assertUnprocessable();
        }
    }
}
