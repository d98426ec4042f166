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
}
