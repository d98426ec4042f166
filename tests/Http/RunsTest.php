<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Jobs\TakeSteps;
use App\Models\Mesh;
use App\Models\Piece;
use App\Models\Project;
use App\Models\Run;
use App\Models\Step;
use App\Runs\Keeper;
use App\Runs\Lease;
use App\Runs\LeaseLost;
use App\Runs\ProcessLock;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Tests\Support\Solids;

/** A run and its job, workers that die, and those that were thought dead: with the real queue in a database that is a file. */
final class RunsTest extends HttpTestCase
{
    public function createApplication(): \Illuminate\Foundation\Application
    {
        $app = parent::createApplication();
        touch($this->path('data').'/isotome.sqlite');
        $app->make('config')->set(['queue.default' => 'database', 'database.connections.sqlite.database' => $this->path('data').'/isotome.sqlite']);

        return $app;
    }

    private function worked(): void
    {
        Artisan::call('isotome:keep', ['--once' => true]);
        foreach (DB::table('jobs')->whereNull('reserved_at')->orderBy('id')->get() as $job) {
            DB::table('jobs')->where('id', $job->id)->delete();
            unserialize(json_decode($job->payload, true)['data']['command'])->handle();
        }
    }

    /** @return array{int, string} a project, and a cut of it that waits */
    private function waiting(): array
    {
        $id = $this->project();
        $this->worked();

        return [$id, $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))->assertAccepted()->json('id')];
    }

    public function test_a_run_and_its_job_begin_together_or_not_at_all(): void
    {
        [$id, $run] = $this->waiting();
        self::assertSame(1, DB::table('jobs')->where('id', Run::query()->findOrFail($run)->job_id)->count());
        $this->postJson("/api/v1/runs/$run/cancel")->assertJsonPath('status', 'cancelled');
        // The queue takes nothing: then there is no run either, and the project is free.
        DB::statement('alter table jobs rename to jobs_away');
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))->assertStatus(500);
        DB::statement('alter table jobs_away rename to jobs');
        self::assertSame(0, Run::query()->whereIn('status', ['waiting', 'running'])->count());
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))->assertAccepted();
        $this->worked();
        self::assertSame(1, Step::query()->count());
    }

    public function test_a_run_without_a_job_and_a_job_without_a_run_are_found(): void
    {
        [, $run] = $this->waiting();
        DB::table('jobs')->delete();
        DB::table('jobs')->insert(['queue' => 'default', 'payload' => '{}', 'attempts' => 0, 'available_at' => 0, 'created_at' => 0]);
        (new Keeper)->look();
        self::assertSame([Run::query()->findOrFail($run)->job_id], DB::table('jobs')->pluck('id')->map(strval(...))->all());
        $this->worked();
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'done');
    }

    public function test_what_a_dead_worker_had_is_taken_up_again_and_what_a_living_one_has_is_not(): void
    {
        [, $run] = $this->waiting();
        DB::table('jobs')->update(['reserved_at' => now()->getTimestamp()]);
        $lease = Lease::take($run);
        self::assertNotNull($lease);
        (new Keeper)->look();
        self::assertSame('running', Run::query()->findOrFail($run)->status);
        self::assertNull(Lease::take($run), 'it is in hands that are alive');
        // Its process ends.
        $lease->abandon();
        (new Keeper)->look();
        self::assertSame('waiting', Run::query()->findOrFail($run)->status);
        self::assertSame(1, DB::table('jobs')->whereNull('reserved_at')->count());
        $this->worked();
        self::assertSame(['done', 1, 1], [Run::query()->findOrFail($run)->status, Step::query()->count(), Run::query()->findOrFail($run)->lease - 1]);
    }

    public function test_a_worker_that_was_thought_dead_stores_nothing(): void
    {
        [$id, $run] = $this->waiting();
        $old = Lease::take($run);
        self::assertNotNull($old);
        $old->abandon();
        (new TakeSteps($run))->handle();
        self::assertSame(1, Step::query()->count());
        try {
            $old->commit(static function () use ($id): string {
                Step::query()->create(['project_id' => $id, 'number' => 2, 'settings' => ['do' => 'cut'], 'report' => ['took' => [], 'gave' => []]]);

                return 'Twice.';
            });
            self::fail('it was stored twice');
        } catch (LeaseLost) {
        }
        $old->end('failed', 'Nothing was changed.');
        self::assertSame([1, 'done'], [Step::query()->count(), Run::query()->findOrFail($run)->status]);
    }

    public function test_what_nobody_works_on_is_cancelled_at_once(): void
    {
        [, $run] = $this->waiting();
        Run::query()->whereKey($run)->update(['status' => 'running', 'lease' => 3]);
        $this->postJson("/api/v1/runs/$run/cancel")->assertJsonPath('status', 'cancelled')->assertJsonPath('message', 'Stopped; nothing was changed.');
        $this->worked();
        self::assertSame(0, Step::query()->count());
    }

    public function test_a_worker_that_does_not_hear_is_ended_with_its_process(): void
    {
        [, $run] = $this->waiting();
        $code = 'require "vendor/autoload.php"; $app = require "bootstrap/app.php"; $app->make(Illuminate\Contracts\Console\Kernel::class)->bootstrap(); config(["database.connections.sqlite.database" => getenv("ISOTOME_DATA")."/isotome.sqlite"]); $l = App\Runs\Lease::take($argv[1]); echo "taken\n"; while (true) { usleep(1000); }';
        $process = proc_open([PHP_BINARY, '-r', $code, $run], [1 => ['pipe', 'w']], $pipes, base_path(), ['ISOTOME_DATA' => $this->path('data')]);
        self::assertIsResource($process);
        self::assertSame("taken\n", fgets($pipes[1]));
        $this->postJson("/api/v1/runs/$run/cancel")->assertJsonPath('status', 'running');
        (new Keeper)->look();
        self::assertTrue(proc_get_status($process)['running'], 'it has some time to hear');
        Run::query()->whereKey($run)->update(['updated_at' => now()->subMinutes(2)]);
        (new Keeper)->look();
        proc_close($process);
        (new Keeper)->look();
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'cancelled');
    }

    public function test_the_window_is_told_when_no_worker_is_there(): void
    {
        [, $run] = $this->waiting();
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('worker', false);
        $worker = ProcessLock::take('workers', 'one');
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('worker', true);
        $worker->release();
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('worker', false);
    }

    public function test_a_piece_is_spent_once_whoever_asks(): void
    {
        [$id, $run] = $this->waiting();
        $piece = Piece::query()->where('project_id', $id)->firstOrFail();
        $step = Step::query()->create(['project_id' => $id, 'number' => 9, 'settings' => ['do' => 'cut'], 'report' => ['took' => [], 'gave' => []]]);
        // Spent by somebody else while the cut is worked out.
        $listened = false;
        DB::listen(static function ($query) use ($piece, $step, &$listened): void {
            if (! $listened && str_contains($query->sql, '"phase" = ?') && in_array('storing', $query->bindings, true)) {
                $listened = true;
                DB::table('pieces')->where('id', $piece->id)->update(['spent_by' => $step->id]);
            }
        });
        (new TakeSteps($run))->handle();
        self::assertTrue($listened);
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'failed')->assertJsonPath('message', 'The pieces were changed while this was worked out, so nothing of it was kept; look at the pieces and do it again.');
        self::assertSame(1, Piece::query()->count());
    }

    public function test_meshes_of_work_under_way_are_not_swept_and_those_of_work_that_failed_are(): void
    {
        [$id, $run] = $this->waiting();
        $kept = 0;
        DB::listen(static function ($query) use (&$kept): void {
            if ($kept === 0 && str_contains($query->sql, '"phase" = ?') && in_array('storing', $query->bindings, true)) {
                (new \App\Meshes\Sweep)->some(5.0);
                $kept = Mesh::query()->count();
                throw new \RuntimeException('The worker fails here.');
            }
        });
        (new TakeSteps($run))->handle();
        self::assertSame(3, $kept);
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'failed');
        self::assertSame([1, 0], [Mesh::query()->count(), DB::table('mesh_holds')->count()]);
        $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))->assertAccepted();
        $this->worked();
        self::assertSame(3, Mesh::query()->count());
    }

    public function test_a_large_mesh_is_stored_in_parts_and_found_whole(): void
    {
        $this->project(Solids::torus(20, 7, 500, 200));
        $begun = 0;
        DB::listen(static function ($query) use (&$begun): void {
            $begun += str_contains($query->sql, 'insert into "meshes"') || str_contains($query->sql, 'where "hash" = ? and "storer" = ?') ? 1 : 0;
        });
        $this->worked();
        self::assertGreaterThan(2, $begun, 'several transactions');
        $mesh = Mesh::query()->firstOrFail();
        self::assertNull($mesh->storer);
        self::assertSame(200_000, $mesh->triangles);
        self::assertSame((int) ceil(200_000 / 256), DB::table('mesh_blocks')->count());
        self::assertSame(200_000, (new \App\Meshes\MeshStore)->get($mesh)->triangleCount());
        // What a kill left unfinished is done anew.
        DB::table('meshes')->update(['storer' => 'gone-1']);
        DB::table('mesh_blocks')->where('id', '>', 100)->delete();
        $this->project(Solids::torus(20, 7, 500, 200));
        $this->worked();
        self::assertSame([1, (int) ceil(200_000 / 256)], [Mesh::query()->count(), DB::table('mesh_blocks')->count()]);
        self::assertSame(2, Project::query()->count());
    }

    public function test_a_thousand_pieces_are_stored_and_run_again_with_few_statements(): void
    {
        $id = $this->project(Solids::box(100, 100, 100));
        $this->worked();
        $statements = 0;
        DB::listen(static function () use (&$statements): void {
            $statements++;
        });
        $step = ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'blocks', 'size' => [10, 10, 10]]];
        $this->postJson("/api/v1/projects/$id/steps", ['step' => $step])->assertAccepted();
        $this->worked();
        self::assertSame(1001, Piece::query()->count());
        $number = Step::query()->value('id');
        $this->putJson("/api/v1/projects/$id/steps/$number", ['step' => [...$step, 'blade' => [...$step['blade'], 'size' => [10, 10, 20]]]])->assertAccepted();
        $this->worked();
        self::assertSame('done', Run::query()->orderByDesc('id')->value('status'), (string) Run::query()->orderByDesc('id')->value('message'));
        self::assertSame(501, Piece::query()->count());
        // Meshes take two or three each; everything else takes some hundreds, however many pieces there are.
        self::assertLessThan(6000, $statements);
    }

    public function test_a_job_that_cannot_be_fetched_while_others_write_stays_a_job(): void
    {
        [, $run] = $this->waiting();
        $other = new \PDO('sqlite:'.$this->path('data').'/isotome.sqlite');
        $other->exec('begin immediate');
        DB::statement('pragma busy_timeout = 50');
        self::assertNull(Queue::connection('database')->pop());
        $other->exec('rollback');
        self::assertSame(1, DB::table('jobs')->whereNull('reserved_at')->where('attempts', 0)->count());
        $job = Queue::connection('database')->pop();
        self::assertNotNull($job);
        self::assertNull(Queue::connection('database')->pop(), 'it is given out once');
        $job->fire();
        $this->getJson("/api/v1/runs/$run")->assertJsonPath('status', 'done');
        self::assertSame(0, DB::table('jobs')->count());
    }
}
