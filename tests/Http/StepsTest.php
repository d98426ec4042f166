<?php

declare(strict_types=1);

namespace Tests\Http;

use Isotome\Mesh\Mesh;
use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Support\Solids;
use Tests\Support\Steps;

/** Steps of every kind through the same three addresses. */
final class StepsTest extends HttpTestCase
{
    /**
     * @param  array<string, mixed>  $step
     * @return array<string, mixed> the run
     */
    private function take(int $id, array $step, ?int $edited = null): array
    {
        $run = $edited === null
            ? $this->postJson("/api/v1/projects/$id/steps", ['step' => $step])->assertAccepted()->json('id')
            : $this->putJson("/api/v1/projects/$id/steps/$edited", ['step' => $step])->assertAccepted()->json('id');

        return $this->getJson("/api/v1/runs/$run")->json();
    }

    /** @return array<string, mixed> */
    private static function mirror(float $at): array
    {
        return ['do' => 'mirror', 'planes' => [['through' => [$at, 0, 0], 'facing' => [1, 0.2, 0]]], 'keep' => 'ahead'];
    }

    public function test_an_edited_mirror_has_the_report_of_its_new_settings(): void
    {
        $report = function (int $id): array {
            $report = $this->getJson("/api/v1/projects/$id")->json('steps.0.report');

            return [$report['mirrored'], $report['unclosed']];
        };
        $fresh = $this->project();
        $this->take($fresh, self::mirror(4));
        $id = $this->project();
        $this->take($id, self::mirror(0));
        self::assertNotEquals($report($fresh), $report($id));
        $this->take($id, self::mirror(4), $this->getJson("/api/v1/projects/$id")->json('steps.0.id'));
        self::assertEquals($report($fresh), $report($id));
    }

    public function test_an_edited_mend_tells_what_it_does_now_and_keeps_what_it_said_of_others(): void
    {
        // Two boxes without lids: a step each way leaves one with its rim open.
        $box = Solids::box(10, 10, 10);
        $open = Mesh::of($box->xyz, array_slice($box->corners, 6));
        $id = $this->project($open, 'Trough');
        $this->take($id, ['do' => 'mend', 'only' => 'turn']);
        self::assertSame([], $this->getJson("/api/v1/projects/$id")->json('steps'));
        self::assertStringStartsWith('Mended: 1 rim closed', $this->take($id, ['do' => 'mend', 'only' => 'close'])['message']);
        $step = $this->getJson("/api/v1/projects/$id")->json('steps.0');
        self::assertSame([['trough' => ['close' => 1]]], [$step['report']['mended']]);
        $this->take($id, ['do' => 'mend'], $step['id']);
        $step = $this->getJson("/api/v1/projects/$id")->json('steps.0');
        self::assertSame(1, $step['report']['mended']['trough']['rims_closed']);
        self::assertArrayNotHasKey('close', $step['report']['mended']['trough']);
        self::assertArrayNotHasKey('only', $step['settings']);
    }

    public function test_editing_keeps_the_kind(): void
    {
        $id = $this->project();
        $this->take($id, self::mirror(0));
        $before = $this->getJson("/api/v1/projects/$id")->json();
        $step = $before['steps'][0]['id'];
        $said = $this->putJson("/api/v1/projects/$id/steps/$step", self::asCut($this->flatBlade()))->assertUnprocessable()->json('message');
        self::assertSame('Step 1 is the mirror, and stays it when it is edited; what was sent is the cut. Change its own settings, or take it back and do the other.', $said);
        self::assertSame($before['steps'], $this->getJson("/api/v1/projects/$id")->json('steps'));
    }

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function kinds(): iterable
    {
        // Those that need several pieces: CombineTest, PegsTest.
        foreach (array_diff_key(Steps::all(), Steps::combined(), Steps::joined()) as $name => $step) {
            yield $name => [$step];
        }
    }

    /** @param  array<string, mixed>  $step */
    #[DataProvider('kinds')]
    public function test_every_kind_is_started_kept_and_edited(array $step): void
    {
        // Something to mend, a rim, and small enough for all of them.
        $torus = Solids::torus(20, 7, 16, 10);
        $isOpen = in_array($step['do'], ['mend', 'thicken'], true);
        $id = $step['do'] === 'paint' ? $this->painted() : $this->project($isOpen ? Mesh::of($torus->xyz, array_slice($torus->corners, $step['do'] === 'thicken' ? 3 : 6)) : $torus);
        $step = [...array_diff_key($step, ['of' => true]), ...(isset($step['rims']) ? ['rims' => [0]] : [])];
        $run = $this->take($id, $step);
        if (($step['only'] ?? '') === 'join') {
            self::assertSame('There was nothing to mend of this kind; the pieces are as they were.', $run['message']);

            return;
        }
        self::assertSame('done', $run['status'], (string) $run['message']);
        $kept = $this->getJson("/api/v1/projects/$id")->json('steps.0');
        $hashes = fn (): array => collect($this->getJson("/api/v1/projects/$id")->json('pieces'))->where('spent', false)->pluck('mesh', 'name')->all();
        $before = $hashes();
        // The same settings again change nothing, and keep every piece.
        $run = $this->take($id, array_diff_key($kept['settings'], ['of' => true]), $kept['id']);
        self::assertMatchesRegularExpression('/^Step 1 run again; \\d+ piece(s were| was) unchanged and kept\\.$/', $run['message']);
        self::assertSame($before, $hashes());
        self::assertSame($kept['settings'], $this->getJson("/api/v1/projects/$id")->json('steps.0.settings'));
    }

    public function test_of_a_blade_nothing_is_foreseen_here(): void
    {
        $id = $this->project();
        $said = $this->postJson("/api/v1/projects/$id/steps/foresee", self::asCut($this->flatBlade()))->assertUnprocessable()->json('message');
        self::assertSame('Nothing is foreseen of the cut here; ask for its section instead.', $said);
    }

    public function test_long_lists_of_a_step_are_begun_in_the_project_and_whole_on_demand(): void
    {
        $id = $this->project(Solids::torus(20, 7, 40, 24));
        $faces = range(0, 899);
        $this->postJson("/api/v1/projects/$id/steps", ['step' => ['do' => 'score', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 1], 'facing' => [0, 0, 1]], 'faces' => $faces]])->assertAccepted();
        $step = $this->getJson("/api/v1/projects/$id")->json('steps.0');
        self::assertSame([range(0, 39), ['faces' => 900], [0, 0, 1]], [$step['settings']['faces'], $step['long'], $step['settings']['blade']['facing']]);
        $whole = $this->getJson("/api/v1/projects/$id/steps/{$step['id']}")->assertOk()->json();
        self::assertSame([$faces, []], [$whole['settings']['faces'], $whole['long']]);
        // What is long within something is named by its place.
        $points = array_map(static fn (int $n): array => [cos($n), sin($n), $n / 100], range(1, 60));
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        $this->postJson("/api/v1/projects/$id/steps", ['step' => ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'points', 'points' => $points]]])->assertAccepted();
        self::assertSame(['blade.points' => 60], $this->getJson("/api/v1/projects/$id")->json('steps.0.long'));
        $other = $this->project(Solids::box(1, 2, 3), 'Other');
        $this->getJson("/api/v1/projects/$other/steps/{$step['id']}")->assertNotFound();
    }
}
