<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Database\ImmediatePdo;
use App\Disk\LogFiles;
use App\Disk\Room;
use App\Disk\Spool;
use App\Meshes\ReadAside;
use App\Models\Project;
use App\Models\Upload;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Isotome\Exception\UnreadableMesh;
use Isotome\Format\StlWriter;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Names;
use PDO;
use PDOException;
use Tests\Support\HostileFiles;
use Tests\Support\Solids;

/** What the database, the disk and bad input do to the application. */
final class StandingTest extends HttpTestCase
{
    private function open(): ImmediatePdo
    {
        $pdo = new ImmediatePdo('sqlite:'.$this->path('waits.sqlite'), null, null, [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION]);
        $pdo->exec('pragma journal_mode = wal');
        $pdo->exec('pragma busy_timeout = 5000');

        return $pdo;
    }

    private function stl(Mesh $mesh): string
    {
        StlWriter::write($mesh, $this->path('written.stl'));

        return (string) file_get_contents($this->path('written.stl'));
    }

    public function test_transactions_are_immediate_so_that_two_writers_wait_for_each_other(): void
    {
        self::assertInstanceOf(ImmediatePdo::class, DB::connection()->getPdo());
        $one = $this->open();
        $one->exec('create table counts (n integer)');
        $one->exec('insert into counts values (0)');
        $code = 'require $argv[1]; $pdo = new App\Database\ImmediatePdo("sqlite:".$argv[2], null, null, [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION]); $pdo->exec("pragma busy_timeout = 20000");
            for ($k = 0; $k < 200; $k++) { $pdo->beginTransaction(); $n = (int) $pdo->query("select n from counts")->fetchColumn(); usleep(200); $pdo->exec("update counts set n = ".($n + 1)); $pdo->commit(); }';
        $processes = [];
        for ($k = 0; $k < 4; $k++) {
            $processes[] = proc_open([PHP_BINARY, '-r', $code, dirname(__DIR__, 2).'/vendor/autoload.php', $this->path('waits.sqlite')], [2 => ['file', $this->path("said-$k"), 'w']], $pipes);
        }
        foreach ($processes as $k => $process) {
            self::assertIsResource($process);
            self::assertSame(0, proc_close($process), (string) file_get_contents($this->path("said-$k")));
        }
        // Each read the number, then wrote: none was refused, none was lost.
        self::assertSame(800, (int) $one->query('select n from counts')->fetchColumn());
    }

    public function test_a_transaction_can_be_begun_once_and_is_over_when_it_is_over(): void
    {
        $pdo = $this->open();
        $pdo->exec('create table counts (n integer)');
        $pdo->beginTransaction();
        self::assertTrue($pdo->inTransaction());
        try {
            $pdo->beginTransaction();
            self::fail('it was begun twice');
        } catch (PDOException $wrong) {
            self::assertStringContainsString('already', $wrong->getMessage());
        }
        $pdo->exec('insert into counts values (1)');
        $pdo->rollBack();
        self::assertFalse($pdo->inTransaction());
        self::assertSame(0, (int) $pdo->query('select count(*) from counts')->fetchColumn());
        // What the database rolled back by itself, as on a full disk.
        $pdo->beginTransaction();
        $pdo->exec('rollback');
        self::assertTrue($pdo->rollBack());
        $this->expectException(PDOException::class);
        $pdo->commit();
    }

    public function test_what_could_not_be_committed_leaves_room_for_the_next(): void
    {
        $pdo = DB::connection()->getPdo();
        $pdo->exec('create table parts (n integer primary key, of integer references parts (n) deferrable initially deferred)');
        $pdo->exec('pragma foreign_keys = on');
        for ($k = 0; $k < 2; $k++) {
            try {
                // Noticed when it is committed only, as a full disk may be.
                DB::transaction(static fn () => DB::table('parts')->insert(['n' => 1, 'of' => 7]));
                self::fail('It was committed.');
            } catch (PDOException $error) {
                self::assertStringContainsString('FOREIGN KEY', $error->getMessage());
            }
        }
        DB::transaction(static fn () => DB::table('parts')->insert(['n' => 2, 'of' => 2]));
        self::assertSame([2], DB::table('parts')->pluck('n')->all());
    }

    public function test_a_bad_byte_that_is_stored_already_hides_nothing(): void
    {
        $id = $this->project();
        DB::table('projects')->where('id', $id)->update(['note' => "a\xffb"]);
        $this->getJson('/api/v1/projects')->assertOk()->assertJsonPath('0.note', "a\u{fffd}b");
        $this->getJson("/api/v1/projects/$id")->assertOk();
    }

    public function test_names_of_files_are_short_in_bytes_and_full_in_the_manifest(): void
    {
        foreach ([str_repeat('水', 120), str_repeat('é', 500), str_repeat('a', 500), str_repeat('🦆', 120).'x', '水'.str_repeat('-', 300)] as $name) {
            self::assertLessThanOrEqual(180, strlen(Names::file($name)));
            self::assertTrue(mb_check_encoding(Names::file($name), 'UTF-8'));
            self::assertNotSame('', Names::file($name));
        }
        self::assertSame('piece', Names::file('🦆'));
    }

    public function test_a_removed_demo_project_does_not_come_back_and_a_new_one_comes(): void
    {
        $this->seed();
        $shelf = Project::query()->count();
        $heron = Project::query()->where('name', 'Heron')->firstOrFail();
        $this->deleteJson("/api/v1/projects/{$heron->id}")->assertNoContent();
        $this->deleteJson("/api/v1/projects/{$heron->id}/for-good")->assertNoContent();
        DB::table('demo_made')->where('name', 'Museum sign')->delete();
        $this->seed();
        self::assertSame($shelf, Project::query()->count());
        self::assertSame([2, 0], [Project::query()->where('name', 'Museum sign')->count(), Project::query()->where('name', 'Heron')->count()]);
    }

    public function test_what_a_kill_left_of_uploads_is_swept(): void
    {
        $kept = $this->upload(Solids::box(1, 1, 1))->assertCreated()->json('id');
        foreach (['uploads/01aaaaaaaaaaaaaaaaaaaaaaaa.stl', 'spool/0000000007', 'downloads/01bbbbbbbbbbbbbbbbbbbbbbbb.zip'] as $left) {
            @mkdir(dirname(storage_path($left)), 0700, true);
            file_put_contents(storage_path($left), 'x');
            touch(storage_path($left), time() - 25_000);
            file_put_contents(storage_path("$left.new"), 'x');
        }
        Upload::sweep();
        (new Spool)->sweep();
        self::assertFileDoesNotExist(storage_path('uploads/01aaaaaaaaaaaaaaaaaaaaaaaa.stl'));
        self::assertFileDoesNotExist(storage_path('spool/0000000007'));
        self::assertFileDoesNotExist(storage_path('downloads/01bbbbbbbbbbbbbbbbbbbbbbbb.zip'));
        self::assertFileExists(storage_path('spool/0000000007.new'));
        self::assertFileExists(Upload::query()->findOrFail($kept)->path());
        // And one that was never accepted, after a day.
        Upload::query()->whereKey($kept)->update(['created_at' => now()->subHours(25)]);
        Upload::sweep();
        self::assertSame(0, Upload::query()->count());
    }

    public function test_logs_are_kept_short(): void
    {
        file_put_contents(storage_path('logs/isotome.log'), str_repeat("line\n", 1_000_000));
        (new LogFiles)->rotate();
        clearstatcache();
        self::assertSame(0, filesize(storage_path('logs/isotome.log')));
        self::assertSame(5_000_000, filesize(storage_path('logs/isotome.log.1')));
    }

    public function test_room_that_is_not_there_is_said_in_megabytes(): void
    {
        $room = new Room;
        $room->demand(1);
        $this->expectExceptionMessageMatches('/^The disk that holds Isotome\'s data is full: [\d,]+ MB are missing; remove projects or free space/');
        $room->demand($room->free() + 12_000_000);
    }

    public function test_what_the_page_may_do_is_said_with_every_answer(): void
    {
        foreach (['/', '/api/v1/projects', '/api/v1/none'] as $path) {
            $policy = (string) $this->get($path)->headers->get('Content-Security-Policy');
            self::assertStringContainsString("default-src 'none'", $policy);
            self::assertStringNotContainsString('unsafe', $policy);
        }
        $this->getJson('/api/v1/projects', ['Sec-Fetch-Site' => 'cross-site'])->assertForbidden();
        $this->get('/', ['Sec-Fetch-Site' => 'cross-site'])->assertOk();
    }

    public function test_direct_dependencies_are_pinned_to_a_minor_version(): void
    {
        /** @var array{require: array<string, string>, require-dev: array<string, string>} $composer */
        $composer = json_decode((string) file_get_contents(base_path('composer.json')), true);
        foreach ([...$composer['require'], ...$composer['require-dev']] as $package => $range) {
            if (! str_starts_with($package, 'ext-')) {
                self::assertMatchesRegularExpression('/^~\d+\.\d+\.\d+$/', $range, $package);
            }
        }
    }

    public function test_an_older_database_gives_space_back_from_now_on(): void
    {
        touch($this->path('data').'/old.sqlite');
        config(['database.connections.old' => [...(array) config('database.connections.sqlite'), 'database' => $this->path('data').'/old.sqlite']]);
        config(['database.default' => 'old']);
        DB::purge();
        DB::statement('create table large (bytes blob)');
        (new \App\Database\Vacuum)->prepare(PHP_INT_MAX);
        self::assertSame(2, (int) DB::scalar('pragma auto_vacuum'));
        for ($n = 0; $n < 40; $n++) {
            DB::insert('insert into large values (zeroblob(500000))');
        }
        $before = (int) DB::scalar('pragma page_count');
        DB::statement('delete from large');
        (new \App\Database\Vacuum)->some(10.0);
        self::assertLessThan($before / 4, (int) DB::scalar('pragma page_count'));
        Artisan::call('migrate', ['--force' => true]);
    }

    public function test_a_file_that_takes_too_long_or_too_much_is_ended_from_outside(): void
    {
        $path = $this->file('tangled.obj', HostileFiles::tangled(90_000, 1));
        try {
            (new ReadAside(1, 0))->report($path, 'Tangle.obj');
            self::fail('it was read');
        } catch (UnreadableMesh $refusal) {
            self::assertSame('The file Tangle.obj takes more than 1 s to read, as no ordinary file of its size does; export it again or reduce the mesh.', $refusal->getMessage());
        }
        config(['isotome.memory' => '16M']);
        try {
            (new ReadAside)->report($this->file('large.stl', $this->stl(Solids::torus(20, 7, 400, 200))), 'Large.stl');
            self::fail('it was read');
        } catch (UnreadableMesh $refusal) {
            self::assertStringStartsWith('The file Large.stl needs more than the 17 MB of memory', $refusal->getMessage());
        }
        config(['isotome.memory' => '2G']);
        self::assertSame(160_000, (new ReadAside)->report($this->path('large.stl'), 'Large.stl')['triangles']);
        self::assertSame([], glob(storage_path('spool/*')));
    }
}
