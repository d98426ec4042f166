<?php

declare(strict_types=1);

namespace App\Console;

use App\Runs\Keeper;
use App\Runs\ProcessLock;
use App\Runs\StopSignal;
use App\Runs\Worker;
use Illuminate\Console\Command;
use Illuminate\Contracts\Debug\ExceptionHandler;
use Illuminate\Queue\WorkerOptions;
use Illuminate\Support\Str;

/** A worker: takes up what others left behind, then works until it is asked to end. */
final class Work extends Command
{
    protected $signature = 'isotome:work {lane=default : default for steps, questions for what changes nothing}';

    protected $description = 'Works on the runs that wait, one after the other';

    /** Kinds of the locks that the workers of each lane hold while they live. */
    public const LOCKS = ['default' => 'workers', 'questions' => 'answerers'];

    /** MB beyond which it ends after a run, for a fresh one to follow. */
    private const MEMORY = 1024;

    private const RUNS = 500;

    public function handle(Keeper $keeper): int
    {
        $lane = (string) $this->argument('lane');
        if (! isset(self::LOCKS[$lane])) {
            $this->error("There is no lane called $lane; choose one of ".implode(', ', array_keys(self::LOCKS)).'.');

            return self::FAILURE;
        }
        StopSignal::hear();
        // Seen by others as long as this process lives.
        $lock = ProcessLock::take(self::LOCKS[$lane], (string) Str::ulid());
        rescue(static fn () => $keeper->look());
        $worker = new Worker(app('queue'), app('events'), app(ExceptionHandler::class), static fn (): bool => app()->isDownForMaintenance(), static function (): void {
            gc_mem_caches();
        });
        $code = $worker->daemon((string) config('queue.default'), $lane, new WorkerOptions(memory: self::MEMORY, timeout: 0, sleep: 0, maxTries: 0, maxJobs: self::RUNS));
        $lock->release();

        return $code;
    }
}
