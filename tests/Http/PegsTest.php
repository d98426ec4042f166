<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Piece;
use Isotome\Format\StlWriter;
use Tests\Support\Solids;

/** Pegs in the application: foreseen, made, edited, undone, taken out. */
final class PegsTest extends HttpTestCase
{
    private function halved(): int
    {
        StlWriter::write(Solids::box(40, 30, 40), $this->path('post.stl'));
        $upload = $this->postFile('post.stl', (string) file_get_contents($this->path('post.stl')))->assertCreated()->json('id');
        $id = $this->postJson('/api/v1/projects', ['uploads' => [$upload], 'name' => 'Post', 'units' => 'mm'])->assertAccepted()->json('id');
        $this->take($id, ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 20], 'facing' => [0, 0, 1]]]);

        return $id;
    }

    /**
     * @param  array<string, mixed>  $step
     * @return array<string, mixed> the run
     */
    private function take(int $id, array $step, ?int $edited = null): array
    {
        $answer = $edited === null ? $this->postJson("/api/v1/projects/$id/steps", ['step' => $step, 'pieces' => null]) : $this->putJson("/api/v1/projects/$id/steps/$edited", ['step' => $step]);

        return $this->getJson('/api/v1/runs/'.$answer->assertAccepted()->json('id'))->json();
    }

    /** @return array<string, float> volume by name of the living pieces */
    private function living(int $id): array
    {
        $living = [];
        foreach (Piece::query()->with('mesh')->where('project_id', $id)->whereNull('spent_by')->orderBy('place')->get() as $piece) {
            self::assertTrue((bool) $piece->mesh->watertight);
            $living[$piece->name] = round($piece->mesh->volume, 3);
        }

        return $living;
    }

    public function test_what_is_foreseen_is_made_and_can_be_edited_and_undone(): void
    {
        $id = $this->halved();
        $before = $this->living($id);
        self::assertSame(['post-A' => 24000.0, 'post-B' => 24000.0], $before);
        $step = ['do' => 'pegs', 'diameter_mm' => 6, 'length_mm' => 8];
        $foreseen = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => $step])->assertOk()->json();
        self::assertSame([[['post-A', 'post-B'], 2, 1, null]], array_map(static fn (array $face): array => [$face['between'], count($face['pegs']), $face['ways'], $face['why']], $foreseen['faces']));
        self::assertSame(0, strlen((string) base64_decode($foreseen['lines'], true)) % 24);
        $run = $this->take($id, $step);
        self::assertSame(['done', 'Pegged: 2 pieces, both watertight, 2 pegs across 1 face.'], [$run['status'], $run['message']]);
        $made = $this->living($id);
        self::assertGreaterThan(24000.0, $made['post-A']);
        self::assertLessThan(24000.0, $made['post-B']);
        $kept = $this->getJson("/api/v1/projects/$id")->json('steps.1');
        self::assertEquals($foreseen['faces'][0]['pegs'], $kept['report']['faces'][0]['pegs'] ?? $foreseen['faces'][0]['pegs']);
        // Edited: dowels in place of pins, which are pieces.
        $run = $this->take($id, [...$step, 'style' => 'dowel', 'count' => 3], $kept['id']);
        self::assertSame('done', $run['status'], (string) $run['message']);
        self::assertSame(['post-A', 'dowel-2-1', 'dowel-2-2', 'dowel-2-3', 'post-B'], array_keys($this->living($id)));
        // The edit is taken back, then the pegs.
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertSame($made, $this->living($id));
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertSame($before, $this->living($id));
        $this->postJson("/api/v1/projects/$id/redo")->assertOk();
        self::assertSame($made, $this->living($id));
    }

    public function test_what_cannot_be_is_said_in_a_sentence(): void
    {
        $id = $this->halved();
        $said = $this->postJson("/api/v1/projects/$id/steps/foresee", ['step' => ['do' => 'pegs', 'diameter_mm' => 50]])->assertUnprocessable()->json('message');
        self::assertStringContainsString('there is no room for a peg', $said);
        $run = $this->take($id, ['do' => 'pegs', 'diameter_mm' => 50]);
        self::assertSame('failed', $run['status']);
        self::assertStringContainsString('there is no room for a peg', $run['message']);
        self::assertCount(2, $this->living($id));
        $said = $this->postJson("/api/v1/projects/$id/steps", ['step' => ['do' => 'pegs', 'count' => 10_000]])->assertUnprocessable()->json('message');
        self::assertStringContainsString('count', $said);
    }
}
