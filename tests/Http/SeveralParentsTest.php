<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Piece;
use Cli\RunCommand;
use Isotome\Operation\Kinds;
use Symfony\Component\Console\Tester\CommandTester;
use Tests\Support\JoinStep;
use Tests\Support\Solids;
use ZipArchive;

/** A lineage in which a piece was made of two: rejoined, undone, edited, copied, exported, and replayed on the command line. */
final class SeveralParentsTest extends HttpTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        Kinds::alsoInTests(JoinStep::class);
        $this->hasOwnKinds = true;
    }

    protected function tearDown(): void
    {
        Kinds::alsoInTests();
        parent::tearDown();
    }

    /**
     * @param  array<string, mixed>  $step
     * @param  list<string>|null  $names
     * @return array<string, mixed> the run
     */
    private function take(int $id, array $step, ?array $names = null, ?int $edited = null): array
    {
        $pieces = $names === null ? null : array_map(static fn (string $name): int => Piece::query()->where('project_id', $id)->whereNull('spent_by')->where('name', $name)->firstOrFail()->id, $names);
        $run = $edited === null
            ? $this->postJson("/api/v1/projects/$id/steps", ['step' => $step, 'pieces' => $pieces])->assertAccepted()->json('id')
            : $this->putJson("/api/v1/projects/$id/steps/$edited", ['step' => $step])->assertAccepted()->json('id');
        $run = $this->getJson("/api/v1/runs/$run")->json();
        self::assertSame('done', $run['status'], (string) $run['message']);

        return $run;
    }

    /**
     * @param  array<string, mixed>  $more
     * @return array<string, mixed>
     */
    private static function flat(float $at, array $facing = [0, 0, 1], array $more = []): array
    {
        return ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => array_map(static fn (int|float $part): float => $part * $at, $facing), 'facing' => $facing], ...$more];
    }

    /** @return array<string, float> volume by name of the living pieces */
    private function living(int $id): array
    {
        $living = [];
        foreach (Piece::query()->with('mesh')->where('project_id', $id)->whereNull('spent_by')->orderBy('place')->get() as $piece) {
            $living[$piece->name] = round($piece->mesh->volume, 6);
        }

        return $living;
    }

    /** A post of 10 by 10 by 30 in three, the outer two joined again, and that cut lengthwise. */
    private function joined(): int
    {
        $id = $this->project(Solids::box(10, 10, 30), 'Post');
        rename($this->path('upload.stl'), $this->path('post.stl'));
        Piece::query()->where('project_id', $id)->update(['name' => 'post']);
        $this->take($id, self::flat(10));
        $this->take($id, self::flat(20), ['post-B']);
        $run = $this->take($id, ['do' => 'join'], ['post-A', 'post-B-B']);
        self::assertSame('1 piece, watertight, 0.000 % volume lost.', $run['message']);
        $this->take($id, self::flat(5, [1, 0, 0], ['seal' => 'lean']), ['post-A-U']);

        return $id;
    }

    /** @return list<array<string, mixed>> */
    private function steps(int $id): array
    {
        return $this->getJson("/api/v1/projects/$id")->json('steps');
    }

    public function test_it_has_both_parents_everywhere(): void
    {
        $id = $this->joined();
        // Each half of the joined piece falls into its two bodies.
        self::assertSame(['post-A-U-A' => 500.0, 'post-A-U-B' => 500.0, 'post-A-U-C' => 500.0, 'post-A-U-D' => 500.0, 'post-B-A' => 1000.0], $this->living($id));
        $pieces = collect($this->getJson("/api/v1/projects/$id")->json('pieces'))->keyBy('name');
        self::assertSame([$pieces['post-A']['id'], $pieces['post-B-B']['id']], $pieces['post-A-U']['parents']);
        self::assertSame(['post-A', 'post-B-B'], $this->steps($id)[2]['report']['took']);
    }

    public function test_the_parents_live_again_together_whichever_is_rejoined(): void
    {
        foreach (['post-A', 'post-B-B'] as $which) {
            $id = $this->joined();
            $before = $this->living($id);
            $piece = Piece::query()->where('project_id', $id)->where('name', $which)->firstOrFail()->id;
            $this->postJson("/api/v1/projects/$id/rejoin", ['piece' => $piece])->assertOk();
            self::assertSame(['post-A' => 1000.0, 'post-B-A' => 1000.0, 'post-B-B' => 1000.0], $this->living($id));
            self::assertCount(2, $this->steps($id));
            $this->postJson("/api/v1/projects/$id/undo")->assertOk();
            self::assertSame($before, $this->living($id));
            $this->postJson("/api/v1/projects/$id/redo")->assertOk();
            self::assertCount(3, $this->living($id));
        }
    }

    public function test_what_was_made_of_a_taken_back_branch_goes_and_the_other_parent_lives(): void
    {
        $id = $this->joined();
        // post-B is whole again: post-B-B is gone, so the joined piece is, and post-A lives.
        $this->postJson("/api/v1/projects/$id/rejoin", ['step' => $this->steps($id)[1]['id']])->assertOk();
        self::assertSame(['post-A' => 1000.0, 'post-B' => 2000.0], $this->living($id));
        self::assertSame([[['post'], ['post-A', 'post-B']]], array_map(static fn (array $step): array => [$step['report']['took'], $step['report']['gave']], $this->steps($id)));
    }

    public function test_an_edit_before_runs_through_and_offers_the_other_parent_again(): void
    {
        $id = $this->joined();
        $before = $this->living($id);
        // The upper part is cut at 25 now: what is joined to post-A is half as tall.
        $this->take($id, self::flat(25), null, $this->steps($id)[1]['id']);
        self::assertSame(['post-A-U-A' => 500.0, 'post-A-U-B' => 250.0, 'post-A-U-C' => 500.0, 'post-A-U-D' => 250.0, 'post-B-A' => 1500.0], $this->living($id));
        self::assertSame(['post-A', 'post-B-B'], $this->steps($id)[2]['report']['took']);
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        self::assertSame($before, $this->living($id));
        // Nothing is left that could be joined: post-A lives again, and both later steps are left out.
        $run = $this->take($id, self::flat(20, [0, 0, 1], ['keep' => 'behind']), null, $this->steps($id)[1]['id']);
        self::assertSame(['post-A' => 1000.0, 'post-B-A' => 1000.0], $this->living($id));
        self::assertCount(2, $this->steps($id));
        self::assertStringContainsString('had nothing to take any more', $run['message']);
    }

    public function test_it_is_copied_exported_and_replayed_on_the_command_line(): void
    {
        $id = $this->joined();
        $copy = $this->postJson("/api/v1/projects/$id/duplicate")->assertCreated()->json('id');
        self::assertSame($this->living($id), $this->living($copy));
        $pieces = collect($this->getJson("/api/v1/projects/$copy")->json('pieces'))->keyBy('name');
        self::assertSame([$pieces['post-A']['id'], $pieces['post-B-B']['id']], $pieces['post-A-U']['parents']);
        $this->postJson("/api/v1/projects/$copy/rejoin", ['piece' => $pieces['post-A']['id']])->assertOk();
        self::assertSame(['post-A' => 1000.0, 'post-B-A' => 1000.0, 'post-B-B' => 1000.0], $this->living($copy));

        $this->postJson("/api/v1/projects/$id/rejoin", ['step' => $this->steps($id)[3]['id']])->assertOk();
        $zip = new ZipArchive;
        file_put_contents($this->path('out.zip'), $this->get("/api/v1/projects/$id/pieces.zip")->assertOk()->streamedContent());
        self::assertTrue($zip->open($this->path('out.zip')));
        $manifest = json_decode((string) $zip->getFromName('manifest.json'), true);
        self::assertSame(['post-A-U' => ['post-A', 'post-B-B'], 'post-B-A' => ['post-B']], array_column($manifest['pieces'], 'parents', 'name'));

        file_put_contents($this->path('recipe.json'), $this->get("/api/v1/projects/$id/recipe.json")->assertOk()->getContent());
        $tester = new CommandTester(new RunCommand);
        self::assertSame(0, $tester->execute(['recipe' => $this->path('recipe.json'), 'input' => $this->path('post.stl'), '--out' => $this->path('replayed')]));
        $replayed = json_decode((string) file_get_contents($this->path('replayed').'/manifest.json'), true);
        self::assertSame(['post-A-U' => ['post-A', 'post-B-B'], 'post-B-A' => ['post-B']], array_column($replayed['pieces'], 'parents', 'name'));
        self::assertEquals(array_column($manifest['pieces'], 'volume_mm3', 'name'), array_column($replayed['pieces'], 'volume_mm3', 'name'));
    }
}
