<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Piece;
use Isotome\Format\StlWriter;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Tests\Support\Solids;

/** Pieces united and subtracted in the application: stored, undone, edited, rejoined and replayed. */
final class CombineTest extends HttpTestCase
{
    /** @param  array<string, Mesh>  $meshes  by name */
    private function several(array $meshes): int
    {
        $uploads = [];
        foreach ($meshes as $name => $mesh) {
            StlWriter::write($mesh, $this->path("$name.stl"));
            $uploads[] = $this->postFile("$name.stl", (string) file_get_contents($this->path("$name.stl")))->assertCreated()->json('id');
        }

        return $this->postJson('/api/v1/projects', ['uploads' => $uploads, 'name' => 'Several', 'units' => 'mm'])->assertAccepted()->json('id');
    }

    /**
     * @param  array<string, mixed>  $step
     * @param  list<string>|null  $names
     * @return array<string, mixed> the run
     */
    private function take(int $id, array $step, ?array $names = null, ?int $edited = null): array
    {
        $pieces = $names === null ? null : array_map(static fn (string $name): int => Piece::query()->where('project_id', $id)->where('name', $name)->firstOrFail()->id, $names);
        $answer = $edited === null ? $this->postJson("/api/v1/projects/$id/steps", ['step' => $step, 'pieces' => $pieces]) : $this->putJson("/api/v1/projects/$id/steps/$edited", ['step' => $step, 'pieces' => $pieces]);

        return $this->getJson('/api/v1/runs/'.$answer->assertAccepted()->json('id'))->json();
    }

    /** @return array<string, float> volume by name of the living pieces */
    private function living(int $id): array
    {
        $living = [];
        foreach (Piece::query()->with('mesh')->where('project_id', $id)->whereNull('spent_by')->orderBy('place')->get() as $piece) {
            self::assertTrue((bool) $piece->mesh->watertight);
            $living[$piece->name] = round($piece->mesh->volume, 6);
        }

        return $living;
    }

    public function test_a_tool_is_subtracted_and_comes_back_with_undo_and_edit(): void
    {
        $meshes = ['plate' => Solids::box(10, 10, 2), 'drill' => Solids::box(2, 2, 6, [4.0, 4.0, -2.0])];
        $id = $this->several($meshes);
        $both = ['plate' => 200.0, 'drill' => 24.0];
        self::assertSame($both, $this->living($id));
        $run = $this->take($id, ['do' => 'subtract', 'with' => ['drill']], ['plate']);
        self::assertSame(['done', 'Subtracted: 1 piece, watertight.'], [$run['status'], $run['message']]);
        self::assertSame(['plate-A' => 192.0], $this->living($id));
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertSame($both, $this->living($id));
        $this->postJson("/api/v1/projects/$id/redo")->assertOk();
        $step = $this->getJson("/api/v1/projects/$id")->json('steps.0');
        self::assertSame(['plate', 'drill'], $step['report']['took']);
        // Whichever of the two is rejoined, the other lives again with it.
        $drill = Piece::query()->where('project_id', $id)->where('name', 'drill')->firstOrFail()->id;
        $this->postJson("/api/v1/projects/$id/rejoin", ['piece' => $drill])->assertOk();
        self::assertSame($both, $this->living($id));
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        // Edited: the drill is kept.
        $run = $this->take($id, ['do' => 'subtract', 'with' => ['drill'], 'spend' => false], ['plate'], $step['id']);
        self::assertSame('done', $run['status'], (string) $run['message']);
        self::assertEqualsCanonicalizing(['plate-A' => 192.0, 'drill' => 24.0], $this->living($id));
        // The recipe gives the same elsewhere.
        $runner = Runner::on('plate', $meshes['plate'], $meshes);
        foreach (Recipe::fromArray($this->getJson("/api/v1/projects/$id/recipe.json")->json())->steps as $one) {
            $runner->run($one);
        }
        self::assertEqualsCanonicalizing(['plate-A' => 192.0, 'drill' => 24.0], array_map(static fn ($piece): float => round(Volume::measure($piece->mesh)->volume, 6), $runner->pieces()));
    }

    public function test_what_was_cut_is_one_again_without_walls(): void
    {
        $id = $this->several(['post' => Solids::box(10, 10, 30), 'far' => Solids::box(1, 1, 1, [99.0, 0.0, 0.0])]);
        $this->take($id, ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [0, 0, 1], 'stops' => [10, 20]]], ['post']);
        self::assertCount(4, $this->living($id));
        $run = $this->take($id, ['do' => 'unite']);
        self::assertSame(['done', 'United 3 pieces: 1 piece, watertight.'], [$run['status'], $run['message']]);
        $name = array_key_first($this->living($id));
        self::assertSame([$name => 3000.0, 'far' => 1.0], $this->living($id));
        self::assertStringEndsWith('-U', (string) $name);
        $run = $this->take($id, ['do' => 'common']);
        self::assertSame(['failed', 'steps[2]: no place is in all of the 2 pieces; move them until they overlap.'], [$run['status'], $run['message']]);
    }

    public function test_what_overlaps_is_told_before_and_open_pieces_are_named(): void
    {
        $open = Solids::box(3, 3, 3, [5.0, 5.0, 5.0]);
        $id = $this->several([
            'plate' => Solids::box(10, 10, 2), 'drill' => Solids::box(2, 2, 6, [4.0, 4.0, -2.0]), 'far' => Solids::box(1, 1, 1, [50.0, 0.0, 0.0]), 'lid' => Solids::box(4, 3, 1, [0.0, 0.0, 2.0]),
            'torn' => Mesh::of($open->xyz, array_slice($open->corners, 3)),
        ]);
        $ask = function (array $step, array $names) use ($id): array {
            $pieces = array_map(static fn (string $name): int => Piece::query()->where('project_id', $id)->where('name', $name)->firstOrFail()->id, $names);

            return $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $step, 'pieces' => $pieces])->assertOk()->json();
        };
        $told = $ask(['do' => 'unite'], ['plate', 'drill', 'far', 'lid', 'torn']);
        self::assertEqualsWithDelta([
            ['one' => 'plate', 'other' => 'drill', 'common_mm3' => 8.0, 'contact_mm2' => 0.0], ['one' => 'plate', 'other' => 'lid', 'common_mm3' => 0.0, 'contact_mm2' => 12.0],
        ], $told['pairs'], 1e-9);
        self::assertSame(['torn'], $told['open']);
        self::assertEqualsWithDelta(200 + 16 + 1 + 12, $told['volume_mm3'], 1e-9);
        self::assertSame(0, strlen((string) base64_decode($told['surface'], true)) % 36);
        // What is taken out is named by the step; here it is wider by half a millimetre all round.
        $told = $ask(['do' => 'subtract', 'with' => ['drill'], 'gap_mm' => 0.5], ['plate', 'far']);
        self::assertEqualsWithDelta([[18.0], 18.0], [array_column($told['pairs'], 'common_mm3'), $told['volume_mm3']], 1e-6);
        self::assertEqualsWithDelta([[], 0.0], [$ask(['do' => 'common'], ['plate', 'far'])['pairs'], $ask(['do' => 'common'], ['plate', 'drill', 'far'])['volume_mm3']], 1e-9);
        self::assertSame([[], 0.0], [$ask(['do' => 'unite'], ['torn'])['pairs'], (float) $ask(['do' => 'unite'], ['torn'])['volume_mm3']]);
    }

    public function test_overlaps_of_many_triangles_are_worked_out_aside(): void
    {
        $id = $this->several(['ball' => Solids::sphere(5, 4), 'other' => Solids::sphere(5, 4, 3.0)]);
        $question = ['step' => ['do' => 'common'], 'pieces' => null];
        $run = $this->postJson("/api/v1/projects/$id/steps/foresee", $question)->assertAccepted()->json('id');
        self::assertSame('done', $this->getJson("/api/v1/runs/$run")->json('status'));
        $told = $this->postJson("/api/v1/projects/$id/steps/foresee", $question)->assertOk()->json();
        // Two balls of radius r whose middles are d apart: pi (2r − d)² (d² + 4dr) / 12d (closed form); the facets take some of it.
        $lens = M_PI * 7 ** 2 * (9 + 60) / 36;
        self::assertGreaterThan(0.98 * $lens, $told['volume_mm3']);
        self::assertLessThan($lens, $told['volume_mm3']);
    }

    /** A tool that stays is no piece that the step took: it is there all the same when the step is edited, and when it changes, what was done with it is done again. */
    public function test_tools_that_stay_are_worked_with_again(): void
    {
        $drill = Solids::box(2, 2, 6, [4.0, 4.0, -2.0]);
        $id = $this->several(['plate' => Solids::box(10, 10, 2), 'drill' => $drill, 'far' => Solids::box(1, 1, 1, [50.0, 0.0, 0.0])]);
        $move = $this->take($id, ['do' => 'move', 'by' => [0, 0, 1]], ['drill']);
        self::assertSame('done', $move['status']);
        self::assertSame('done', $this->take($id, ['do' => 'subtract', 'with' => ['drill'], 'spend' => false], ['plate'])['status']);
        self::assertSame('done', $this->take($id, ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 1], 'facing' => [0, 0, 1]]], ['plate-A'])['status']);
        self::assertEqualsCanonicalizing(['plate-A-A' => 96.0, 'plate-A-B' => 96.0, 'drill' => 24.0, 'far' => 1.0], $this->living($id));
        $steps = array_column($this->getJson("/api/v1/projects/$id")->json('steps'), 'id');
        // Edited twice.
        foreach ([[0.5, 91.0], [0.0, 96.0]] as [$gap, $half]) {
            $run = $this->take($id, ['do' => 'subtract', 'with' => ['drill'], 'spend' => false, 'gap_mm' => $gap], ['plate'], $steps[1]);
            self::assertSame('done', $run['status'], (string) $run['message']);
            self::assertEqualsCanonicalizing(['plate-A-A' => $half, 'plate-A-B' => $half, 'drill' => 24.0, 'far' => 1.0], $this->living($id));
        }
        // The tool is moved elsewhere, by an edit of the step before: half of it is outside of the plate now.
        $run = $this->take($id, ['do' => 'move', 'by' => [-5, 0, 1]], ['drill'], $steps[0]);
        self::assertSame('done', $run['status'], (string) $run['message']);
        self::assertEqualsCanonicalizing(['plate-A-A' => 98.0, 'plate-A-B' => 98.0, 'drill' => 24.0, 'far' => 1.0], $this->living($id));
        // Used up now; what came of the plate is done again.
        $run = $this->take($id, ['do' => 'subtract', 'with' => ['drill'], 'spend' => true], ['plate'], $steps[1]);
        self::assertSame('done', $run['status'], (string) $run['message']);
        self::assertEqualsCanonicalizing(['plate-A-A' => 98.0, 'plate-A-B' => 98.0, 'far' => 1.0], $this->living($id));
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertEqualsCanonicalizing(['plate-A-A' => 98.0, 'plate-A-B' => 98.0, 'drill' => 24.0, 'far' => 1.0], $this->living($id));
    }

    public function test_a_tool_that_a_later_step_used_is_used_up_by_an_earlier_one(): void
    {
        $id = $this->several(['plate' => Solids::box(10, 10, 2), 'drill' => Solids::box(2, 2, 6, [4.0, 4.0, -2.0])]);
        $this->take($id, ['do' => 'cut', 'blade' => ['kind' => 'body', 'with' => ['drill']]], ['plate']);
        $this->take($id, ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 1], 'facing' => [0, 0, 1]]], ['drill']);
        self::assertEqualsCanonicalizing(['plate-A' => 8.0, 'plate-B' => 192.0, 'drill-A' => 12.0, 'drill-B' => 12.0], $this->living($id));
        $step = $this->getJson("/api/v1/projects/$id")->json('steps.0.id');
        $run = $this->take($id, ['do' => 'cut', 'blade' => ['kind' => 'body', 'with' => ['drill']], 'keep' => 'ahead', 'spend' => true], ['plate'], $step);
        self::assertSame('done', $run['status'], (string) $run['message']);
        self::assertSame(['plate-A' => 192.0], $this->living($id));
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertEqualsCanonicalizing(['plate-A' => 8.0, 'plate-B' => 192.0, 'drill-A' => 12.0, 'drill-B' => 12.0], $this->living($id));
    }
}
