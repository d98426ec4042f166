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
    private function answer(int $id, array $wishes, string $what = 'plates'): array
    {
        $told = $this->postJson("/api/v1/projects/$id/$what", $wishes)->assertSuccessful()->json();
        if (! isset($told['status'])) {
            return $told;
        }
        self::assertSame('done', $this->getJson("/api/v1/runs/{$told['id']}")->json('status'), $this->getJson("/api/v1/runs/{$told['id']}")->json('message') ?? '');

        return $this->postJson("/api/v1/projects/$id/$what", $wishes)->assertOk()->json();
    }

    /**
     * @param  array<string, mixed>  $told
     * @return list<array{locked: bool, pieces: list<array<string, mixed>>}>
     */
    private static function laid(array $told): array
    {
        return array_map(static fn (array $plate): array => ['locked' => false, 'pieces' => $plate], $told['plates']);
    }

    public function test_pieces_are_packed_and_taken_out(): void
    {
        $id = $this->sliced();
        $told = $this->answer($id, self::WISHES);
        self::assertEquals([200, 200, 200], $told['bed']);
        $names = array_map(static fn (array $one): string => $one['piece'], array_merge(...$told['plates']));
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
        $files = $this->answer($id, [...self::WISHES, 'plates' => self::laid($told), 'as' => '3mf'], 'plates/files');
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

    public function test_copies_are_packed_and_locked_plates_stay(): void
    {
        $id = $this->project(Solids::box(60, 50, 20), 'Block');
        $piece = $this->getJson("/api/v1/projects/$id")->json('pieces.0.id');
        $wishes = [...self::WISHES, 'copies' => [['piece' => $piece, 'count' => 14]]];
        $told = $this->answer($id, $wishes);
        $all = array_merge(...$told['plates']);
        self::assertSame(range(1, 14), array_values(array_unique(array_column($all, 'copy'))));
        self::assertSame([14], array_keys(array_flip([count($all)])));
        $laid = self::laid($told);
        foreach ($this->answer($id, [...self::WISHES, 'plates' => $laid], 'plates/crowding')['plates'] as $n => $plate) {
            self::assertSame([[], []], [$plate['near'], $plate['beyond']]);
            self::assertCount(count($laid[$n]['pieces']), $plate['boxes']);
            foreach ($plate['boxes'] as [$x0, $y0, $x1, $y1]) {
                self::assertEqualsWithDelta([50, 60], [min($x1 - $x0, $y1 - $y0), max($x1 - $x0, $y1 - $y0)], 1e-6);
            }
        }
        // Those on a locked plate are not packed again; two more copies are.
        $locked = [[...$laid[0], 'locked' => true]];
        $more = $this->answer($id, [...$wishes, 'copies' => [['piece' => $piece, 'count' => 16]], 'plates' => $locked]);
        self::assertCount(16 - count($laid[0]['pieces']), array_merge(...$more['plates']));
        self::assertEmpty(array_intersect(array_column($laid[0]['pieces'], 'copy'), array_column(array_merge(...$more['plates']), 'copy')));
        // In the files every copy has a name of its own.
        $files = $this->answer($id, [...self::WISHES, 'plates' => $laid, 'as' => '3mf'], 'plates/files');
        file_put_contents($this->path('copies.zip'), $this->get($files['url'])->streamedContent());
        $zip = new ZipArchive;
        self::assertTrue($zip->open($this->path('copies.zip')) && $zip->extractTo($this->path('copies')));
        self::assertCount(count($laid[0]['pieces']), MeshFile::read($this->path('copies/plate-1.3mf'))->parts);
    }

    public function test_pieces_moved_by_hand_are_judged_and_kept(): void
    {
        $id = $this->sliced();
        $laid = self::laid($this->answer($id, self::WISHES));
        $this->getJson("/api/v1/projects/$id/plates")->assertOk()->assertJson(['version' => 0, 'settings' => null, 'plates' => []]);
        $this->putJson("/api/v1/projects/$id/plates", [...self::WISHES, 'plates' => $laid, 'version' => 0])->assertOk()->assertJson(['version' => 1]);
        $kept = $this->getJson("/api/v1/projects/$id/plates")->assertJsonPath('settings.copies', [])->json();
        self::assertEquals($laid, $kept['plates']);
        // Somebody else still has the first ones.
        $this->putJson("/api/v1/projects/$id/plates", [...self::WISHES, 'plates' => $laid, 'version' => 0])->assertUnprocessable()->assertJsonPath('message', 'Somebody else has changed the plates meanwhile; they are shown as they are now.');
        $moved = $laid;
        $moved[0]['pieces'][1]['pose'][9] -= 1.5;
        $moved[0]['pieces'][0]['pose'][10] -= 3;
        $told = $this->answer($id, [...self::WISHES, 'plates' => $moved], 'plates/crowding')['plates'][0];
        self::assertNotSame([], [...$told['near'], ...$told['beyond']]);
        self::assertEqualsWithDelta(3, $told['beyond'][0]['mm'], 0.7);
        // What changed since is not taken for what it was.
        $piece = $this->getJson("/api/v1/projects/$id")->json('pieces.1');
        $run = $this->postJson("/api/v1/projects/$id/steps", ['step' => ['do' => 'scale', 'times' => [0.5, 0.5, 0.5]], 'pieces' => [$piece['id']]])->assertAccepted()->json('id');
        self::assertSame('done', $this->getJson("/api/v1/runs/$run")->json('status'));
        $this->postJson("/api/v1/projects/$id/plates/crowding", [...self::WISHES, 'plates' => $laid])->assertUnprocessable()->assertJsonPath('message', 'The pieces have changed since they were put on plates; pack them again.');
        $this->getJson("/api/v1/projects/$id/plates")->assertJsonPath('version', 1);
    }

    public function test_a_plate_is_printed_by_the_simulated_printer(): void
    {
        $id = $this->sliced();
        $laid = self::laid($this->answer($id, self::WISHES));
        $one = [...self::WISHES, 'plates' => [$laid[0]]];
        $this->postJson("/api/v1/projects/$id/prints", $one)->assertUnprocessable()->assertJsonPath('message', 'The layers of this plate are not known yet; look at them first, then print.');
        $files = $this->answer($id, $one, 'plates/layers');
        $bytes = $this->get($files['url'])->assertOk()->streamedContent();
        $length = unpack('V', $bytes)[1];
        $header = json_decode(substr($bytes, 4, $length), true);
        self::assertSame([], $header['troubles']);
        self::assertCount(450, $header['layers']);
        // Two slices of 95 by 190 mm, in every layer.
        self::assertEqualsWithDelta(2 * 95 * 190, $header['layers'][200]['area'], 1e-6);
        $floats = array_values(unpack('g*', substr($bytes, 4 + $length)));
        $at = 0;
        foreach ($header['layers'] as $layer) {
            for ($n = 0; $n < $layer['outlines']; $n++) {
                $at += 1 + 2 * (int) $floats[$at];
            }
        }
        self::assertCount($at, $floats);
        $this->postJson("/api/v1/projects/$id/prints", [...$one, 'title' => 'Plate 1', 'times' => 100_000])->assertCreated()->assertJsonPath('0.title', 'Plate 1')->assertJsonPath('0.layers', 450);
        $this->postJson("/api/v1/projects/$id/prints", [...$one, 'title' => 'Again', 'times' => 1])->assertCreated();
        usleep((int) (1e6 * ($header['seconds'] / 100_000 + 0.3)));
        $prints = $this->getJson("/api/v1/projects/$id/prints")->assertOk()->json();
        self::assertSame(['done', 'printing'], array_column($prints, 'state'));
        self::assertSame([450, 0], array_column($prints, 'layer'));
        self::assertEqualsWithDelta($header['seconds'], $prints[0]['seconds'], 1e-6);
        // Stopped, then off the list.
        $this->deleteJson("/api/v1/projects/$id/prints/{$prints[1]['id']}")->assertOk()->assertJsonPath('1.state', 'stopped');
        $this->deleteJson("/api/v1/projects/$id/prints/{$prints[1]['id']}")->assertJsonCount(1);
        $other = $this->project(Solids::box(5, 5, 5), 'Other');
        $this->deleteJson("/api/v1/projects/$other/prints/{$prints[0]['id']}")->assertNotFound();
        // What overlaps is refused with the reason.
        $crowded = $laid[0];
        $crowded['pieces'][1] = [...$crowded['pieces'][0], 'copy' => 2];
        $asked = [...self::WISHES, 'plates' => [$crowded]];
        $this->answer($id, $asked, 'plates/layers');
        self::assertStringContainsString('touch or overlap; move one of them.', $this->postJson("/api/v1/projects/$id/prints", $asked)->assertUnprocessable()->json('message'));
    }

    public function test_the_sheet_tells_how_pieces_go_together(): void
    {
        $id = $this->sliced();
        $run = $this->postJson("/api/v1/projects/$id/steps", ['step' => ['do' => 'pegs', 'count' => 2], 'pieces' => null])->assertAccepted()->json('id');
        self::assertSame('done', $this->getJson("/api/v1/runs/$run")->json('status'));
        // Changed since: what became of it still has its pegs.
        $run = $this->postJson("/api/v1/projects/$id/steps", ['step' => ['do' => 'mark'], 'pieces' => null])->assertAccepted()->json('id');
        self::assertSame('done', $this->getJson("/api/v1/runs/$run")->json('status'));
        $laid = self::laid($this->answer($id, self::WISHES));
        $sheet = $this->answer($id, [...self::WISHES, 'plates' => $laid], 'sheet');
        self::assertCount(4, $sheet['steps']);
        self::assertNull($sheet['steps'][0]['along']);
        foreach (array_slice($sheet['steps'], 1) as $step) {
            self::assertFalse($step['blocked']);
            self::assertCount(1, $step['onto']);
            // Along the row of slices: pins hold every other way.
            self::assertEqualsWithDelta(1, abs($step['along'][0]), 1e-6);
        }
        self::assertSame([2, 2, 2], array_column($sheet['joints'], 'pegs'));
        self::assertCount(count($laid), $sheet['prints']);
        self::assertGreaterThan(100, $sheet['prints'][0]['grams']);
        self::assertCount(count($laid[0]['pieces']), $sheet['prints'][0]['pieces']);
    }

    public function test_what_cannot_be_is_refused_in_one_sentence(): void
    {
        $id = $this->sliced();
        $refused = fn (array $wishes, string $what = 'plates'): string => $this->postJson("/api/v1/projects/$id/$what", [...self::WISHES, ...$wishes])->assertUnprocessable()->json('message');
        self::assertSame('A margin of 100 mm leaves nothing of the bed; give less than half its width.', $refused(['margin' => 100]));
        self::assertSame('The spacing is no length from 0 mm to the width of the bed; type it again.', $refused(['spacing' => -1]));
        self::assertSame('Plates are written as 3mf or stl; choose one of them.', $refused(['as' => 'gif'], 'plates/files'));
        self::assertSame('There is no piece to put on a plate.', $refused(['pieces' => [99999]]));
        $piece = $this->getJson("/api/v1/projects/$id")->json('pieces.1.id');
        self::assertSame('How many copies there shall be of a piece is told by its number and a count from 1 to 1,000; type it again.', $refused(['copies' => [['piece' => $piece, 'count' => 10_000]]]));
        self::assertStringStartsWith('1,003 pieces, copies among them, are too many for one go', $refused(['copies' => [['piece' => $piece, 'count' => 1000]]]));
        $laid = self::laid($this->answer($id, self::WISHES));
        self::assertSame('There is nothing on the plates; pack the pieces first.', $refused(['plates' => []], 'plates/files'));
        self::assertSame('There is nothing on this plate; choose one with pieces.', $refused(['plates' => [['locked' => false, 'pieces' => []]]], 'plates/layers'));
        $one = $laid[0]['pieces'][0];
        foreach ([['pose' => [...array_slice($one['pose'], 0, 11), null]], ['pose' => [...$one['pose'], 1]], ['pose' => [2, ...array_slice($one['pose'], 1)]], ['copy' => 0], ['piece' => ['a']], ['stable' => 1], ['pose' => [-1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]]] as $wrong) {
            self::assertSame('This is no list of plates with what lies on them; pack the pieces again.', $refused(['plates' => [['locked' => false, 'pieces' => [[...$one, ...$wrong]]]]], 'plates/crowding'));
        }
        self::assertSame('This is no list of plates with what lies on them; pack the pieces again.', $refused(['plates' => [['locked' => false, 'pieces' => [$one, $one]]]], 'plates/crowding'));
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
