<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Answers\Answer;
use App\Answers\Answers;
use App\Answers\HowSymmetric;
use App\Models\Piece;
use App\Models\Run;
use App\Models\Step;
use App\Runs\Keeper;
use App\Runs\ProcessLock;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Isotome\Mesh\Mesh;
use Tests\Support\Solids;
use ZipArchive;

/** Answers that take long are worked out by runs that change nothing and hold nothing up, and are kept by content. */
final class AnswersTest extends HttpTestCase
{
    /** A torus of 8,000 triangles without its first one. */
    private static function open(): Mesh
    {
        $torus = Solids::torus(20, 7, 100, 40);

        return Mesh::of($torus->xyz, array_slice($torus->corners, 3));
    }

    /** @return array<string, mixed> */
    private static function mend(?int $piece = null): array
    {
        return self::asMend(['pieces' => $piece === null ? null : [$piece]]);
    }

    public function test_a_mend_of_a_large_piece_is_tried_out_by_a_run_and_kept_for_whoever_asks_again(): void
    {
        $id = $this->project(self::open());
        $run = $this->postJson("/api/v1/projects/$id/steps/foresee", self::mend())->assertAccepted()->json();
        self::assertSame(['question', 'done'], [$run['kind'], $this->getJson("/api/v1/runs/{$run['id']}")->json('status')]);
        $told = $this->postJson("/api/v1/projects/$id/steps/foresee", self::mend())->assertOk()->json();
        self::assertSame([1, 1, true], [$told['did']['rims_closed'], $told['added'], $told['after']['watertight']]);
        // The same content in another project is the same question; other settings are another one.
        $copy = $this->postJson("/api/v1/projects/$id/duplicate")->assertCreated()->json('id');
        self::assertSame($told, $this->postJson("/api/v1/projects/$copy/steps/foresee", self::mend())->assertOk()->json());
        $this->postJson("/api/v1/projects/$id/steps/foresee", self::asMend(['pieces' => null, 'only' => 'close']))->assertAccepted();
        // Nothing was changed, and the window is not told of these runs as if they were steps.
        self::assertSame([0, 'bring'], [Step::query()->count(), substr((string) $this->getJson("/api/v1/projects/$id")->json('run.kind'), 0, 5)]);
    }

    public function test_how_symmetric_and_files_that_are_large_are_runs_too(): void
    {
        $id = $this->project(Solids::torus(20, 7, 160, 80));
        $piece = $this->getJson("/api/v1/projects/$id")->json('pieces.0.id');
        $asked = ['piece' => $piece, 'through' => [0, 0, 0], 'facing' => [0, 0, 1]];
        $this->postJson("/api/v1/projects/$id/symmetry", $asked)->assertAccepted();
        self::assertLessThan(1e-5, $this->postJson("/api/v1/projects/$id/symmetry", $asked)->assertOk()->json('largest'));

        $this->getJson("/api/v1/projects/$id/pieces.zip?as=obj")->assertStatus(409)->assertJsonPath('message', 'These files are not made yet, or the pieces were changed since; take them out again.');
        $run = $this->postJson("/api/v1/projects/$id/exports", ['as' => 'obj'])->assertAccepted()->json('id');
        self::assertSame(['done', 'Answered.'], [Run::query()->findOrFail($run)->status, Run::query()->findOrFail($run)->message]);
        $told = $this->postJson("/api/v1/projects/$id/exports", ['as' => 'obj'])->assertOk()->json();
        self::assertSame('Torus.zip', $told['name']);
        $zip = new ZipArchive;
        self::assertTrue($zip->open($this->takenOut($told['url'])));
        self::assertSame(25_600, substr_count((string) $zip->getFromName('torus.obj'), "\nf "));
        self::assertSame((string) file_get_contents($this->path('taken-out.zip')), $this->get("/api/v1/projects/$id/pieces.zip?as=obj")->assertOk()->streamedContent());
        // Another name, other content; what was made stays what it was.
        $this->patchJson("/api/v1/projects/$id/pieces", ['pieces' => [$piece], 'title' => 'Ring'])->assertOk();
        $this->getJson("/api/v1/projects/$id/pieces.zip?as=obj")->assertStatus(409);
        $this->get($told['url'])->assertOk();
        $this->getJson('/api/v1/answers/'.str_repeat('0', 64))->assertNotFound();
        // An answer that is told is no file.
        $this->getJson('/api/v1/answers/'.Answer::query()->whereNull('name')->value('question'))->assertNotFound();
    }

    public function test_how_wide_large_pieces_are_about_an_axis_is_a_run_too(): void
    {
        $id = $this->project(Solids::torus(20, 7, 260, 130));
        $copies = ['step' => ['do' => 'mirror', 'copies' => ['through' => [60, 0, 0], 'axis' => [0, 0, 1], 'count' => 6]]];
        $this->postJson("/api/v1/projects/$id/steps/foresee", $copies)->assertAccepted();
        $told = $this->postJson("/api/v1/projects/$id/steps/foresee", $copies)->assertOk()->json();
        // Seen from 60 mm off, a ring of radius 27 takes this much.
        self::assertEqualsWithDelta(2 * rad2deg(asin(27 / 60)), $told['span'], 0.25);
        // Their number is no part of the question.
        $this->postJson("/api/v1/projects/$id/steps/foresee", array_replace_recursive($copies, ['step' => ['copies' => ['count' => 8]]]))->assertOk();
    }

    public function test_a_question_at_work_holds_no_step_up_and_is_asked_once(): void
    {
        config(['queue.default' => 'database']);
        $id = $this->project(self::open());
        $this->work($id);
        $run = $this->postJson("/api/v1/projects/$id/steps/foresee", self::mend())->assertAccepted()->json('id');
        self::assertSame($run, $this->postJson("/api/v1/projects/$id/steps/foresee", self::mend())->assertAccepted()->json('id'));
        self::assertSame(['questions'], DB::table('jobs')->pluck('queue')->all());
        // A worker for steps does not see it, and is not asked for.
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('worker', false);
        $lock = ProcessLock::take('answerers', 'one');
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('worker', true);
        $lock->release();
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade(['seal' => 'open'])))->assertAccepted();
        $this->work($id);
        $this->postJson("/api/v1/projects/$id/undo")->assertOk();
        $this->postJson("/api/v1/projects/$id/redo")->assertOk();
        // Its mesh is spent, and stays until it is answered.
        self::assertSame(1, DB::table('mesh_holds')->where('run_id', $run)->count());
        (new \App\Jobs\WorkOutAnswer($run))->handle();
        self::assertSame(['done', 0], [Run::query()->findOrFail($run)->status, DB::table('mesh_holds')->count()]);
        $this->postJson("/api/v1/projects/$id/steps/foresee", self::mend((int) Piece::query()->whereNotNull('spent_by')->value('id')))->assertOk();
    }

    public function test_a_question_is_stopped_and_only_four_wait(): void
    {
        config(['queue.default' => 'database']);
        $id = $this->project(self::open());
        $this->work($id);
        $runs = [];
        foreach (['join', 'doubled', 'slivers', 'close'] as $only) {
            $runs[] = $this->postJson("/api/v1/projects/$id/steps/foresee", self::asMend(['pieces' => null, 'only' => $only]))->assertAccepted()->json('id');
        }
        $turn = self::asMend(['pieces' => null, 'only' => 'turn']);
        $this->postJson("/api/v1/projects/$id/steps/foresee", $turn)->assertUnprocessable()->assertJsonPath('message', 'Four questions of this project are being worked out already; wait for one of them, or stop it first.');
        $this->postJson("/api/v1/runs/{$runs[1]}/cancel")->assertOk()->assertJsonPath('status', 'cancelled');
        $this->postJson("/api/v1/projects/$id/steps/foresee", $turn)->assertAccepted();
        // One whose job was lost gets another, in its own lane.
        DB::table('jobs')->delete();
        (new Keeper)->look();
        self::assertSame(['questions' => 4], DB::table('jobs')->pluck('queue')->countBy()->all());
    }

    public function test_the_wrong_is_refused_before_a_run_begins(): void
    {
        $id = $this->project(self::open());
        $this->postJson("/api/v1/projects/$id/exports", ['as' => 'doc'])->assertUnprocessable();
        $this->postJson("/api/v1/projects/$id/exports", ['as' => 'stl', 'together' => true])->assertUnprocessable();
        $this->postJson("/api/v1/projects/$id/exports", ['pieces' => '999999'])->assertUnprocessable();
        $this->postJson('/api/v1/projects/999999/exports')->assertNotFound();
        $this->postJson("/api/v1/projects/$id/steps/foresee", self::asMend(['pieces' => null, 'only' => 'paint']))->assertUnprocessable();
        self::assertSame(0, Run::query()->whereNotNull('question')->count());
        // What only the worker finds is told by its run: a question that waited while Isotome was brought up to date.
        config(['queue.default' => 'database']);
        $run = $this->postJson("/api/v1/projects/$id/steps/foresee", self::mend())->assertAccepted()->json('id');
        Run::query()->whereKey($run)->update(['settings' => json_encode(['question' => 'of another version', 'content' => []])]);
        (new \App\Jobs\WorkOutAnswer($run))->handle();
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'failed')->assertJsonPath('message', 'This question was asked by another version of Isotome, which asks differently; ask it again.');
    }

    public function test_answers_go_with_their_project_with_time_and_with_room(): void
    {
        $id = $this->project();
        $other = $this->project(Solids::box(10, 20, 30), 'Other');
        foreach ([$id, $other] as $project) {
            $this->postJson("/api/v1/projects/$project/exports", [])->assertOk();
        }
        $this->postJson("/api/v1/projects/$other/exports", ['as' => 'obj'])->assertOk();
        $answers = app(Answers::class);
        $disk = Storage::disk('answers');
        self::assertCount(3, $disk->files());
        $answers->sweep();
        self::assertCount(3, $disk->files(), 'what is new stays');
        // With the project.
        $this->deleteJson("/api/v1/projects/$id")->assertNoContent();
        $this->deleteJson("/api/v1/projects/$id/for-good")->assertNoContent();
        self::assertSame(2, Answer::query()->count());
        foreach ($disk->files() as $file) {
            touch($disk->path($file), time() - 7200);
        }
        clearstatcache();
        $answers->sweep();
        self::assertCount(2, $disk->files());
        // With time.
        $old = (string) Answer::query()->where('file', 'like', '%.zip')->orderBy('question')->value('question');
        Answer::query()->whereKey($old)->update(['used_at' => now()->subDays(8)]);
        $answers->sweep();
        self::assertSame([1, 1], [Answer::query()->count(), count($disk->files())]);
        // With room: and what is gone is worked out again.
        config(['isotome.answers_bytes' => 10]);
        $answers->sweep();
        self::assertSame([0, 0], [Answer::query()->count(), count($disk->files())]);
        $this->postJson("/api/v1/projects/$other/exports", [])->assertOk();
        $disk->delete($disk->files());
        $this->postJson("/api/v1/projects/$other/exports", [])->assertOk();
        self::assertCount(1, $disk->files());
    }

    public function test_an_answer_made_again_meanwhile_is_not_cut_off_for_whoever_is_being_sent_it(): void
    {
        $id = $this->project();
        $this->postJson("/api/v1/projects/$id/exports", [])->assertOk();
        $disk = Storage::disk('answers');
        $path = $disk->path($disk->files()[0]);
        $whole = (string) file_get_contents($path);
        $sending = fopen($path, 'rb');
        self::assertNotFalse($sending);
        $begun = (string) fread($sending, 100);
        // Somebody else asked at the same time, and found nothing kept either.
        Answer::query()->delete();
        $this->postJson("/api/v1/projects/$id/exports", [])->assertOk();
        self::assertSame($whole, $begun.stream_get_contents($sending));
        // Nothing was written into the file that is being sent: there is another one in its place.
        clearstatcache();
        self::assertNotSame(fstat($sending)['ino'] ?? 0, fileinode($path));
        fclose($sending);
        self::assertCount(1, $disk->files());
    }

    public function test_the_same_content_under_another_version_is_another_question(): void
    {
        $this->project();
        $mesh = Piece::query()->firstOrFail()->mesh;
        $key = HowSymmetric::of($mesh, null)->key();
        self::assertSame($key, HowSymmetric::of($mesh, null)->key());
        self::assertNotSame($key, HowSymmetric::of($mesh, ['through' => [0.0, 0.0, 0.0], 'facing' => [0.0, 0.0, 1.0]])->key());
        config(['isotome.build' => 'another']);
        self::assertNotSame($key, HowSymmetric::of($mesh, null)->key());
    }

    /** Does what waits in the lane of steps. */
    private function work(int $project): void
    {
        foreach (Run::query()->where('project_id', $project)->whereNull('question')->where('status', 'waiting')->get() as $run) {
            (new $run->job($run->id))->handle();
        }
        DB::table('jobs')->where('queue', 'default')->delete();
    }
}
