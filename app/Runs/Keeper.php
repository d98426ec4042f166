<?php

declare(strict_types=1);

namespace App\Runs;

use App\Jobs\LongWork;
use App\Models\Run;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

/**
 * Sees that no run is forgotten: one that waits has a job, one that is at work is in hands that are alive, and one that is to stop stops.
 * Called when a worker starts and once a minute; it changes nothing that is as it should be, and may be called by several at once.
 */
final class Keeper
{
    /** Seconds after which a job that was fetched and not begun is free again. */
    private const FETCHED = 30;

    /** Seconds after which work that does not hear that it is to stop is ended with its process. */
    private const DEAF = 30;

    public function look(): void
    {
        foreach (Run::query()->whereIn('status', ['waiting', 'running'])->pluck('id') as $id) {
            DB::transaction(function () use ($id): void {
                $run = Run::query()->find($id);
                if ($run !== null && ! $run->isOver()) {
                    $this->see($run);
                }
            });
        }
        if (self::isOurQueue()) {
            // Their runs are over, or went with their projects.
            DB::table('jobs')->whereNotIn('id', DB::table('runs')->whereIn('status', ['waiting', 'running'])->whereNotNull('job_id')->select('job_id'))
                ->where('created_at', '<', now()->subMinute()->getTimestamp())->delete();
        }
        ProcessLock::anyHeld('leases');
    }

    /** Gives a run its job, in the transaction that makes the run wait. */
    public static function enqueue(Run $run): void
    {
        $class = (string) $run->job;
        if (! is_subclass_of($class, LongWork::class)) {
            $run->fill(['status' => 'failed', 'phase' => 'failed', 'message' => 'This work was begun by another version of Isotome, which went on differently; do it again.'])->save();

            return;
        }
        if (self::isOurQueue()) {
            $run->fill(['job_id' => (string) Queue::push(new $class($run->id), '', $run->lane())])->save();

            return;
        }
        // Another queue knows nothing of this transaction; should it not get the job, look finds the run without one.
        DB::afterCommit(static fn () => Queue::push(new $class($run->id), '', $run->lane()));
    }

    /** Is the queue in the database of the runs, so that both change in one transaction? */
    private static function isOurQueue(): bool
    {
        return config('queue.connections.'.config('queue.default').'.driver') === 'database';
    }

    private function see(Run $run): void
    {
        $isAlive = Lease::isAlive($run);
        if ($isAlive) {
            $process = Lease::process($run);
            if ($run->cancel_asked && $run->updated_at?->lt(now()->subSeconds(self::DEAF)) === true && $process !== null && $process > 1) {
                posix_kill($process, SIGKILL);
            }

            return;
        }
        if ($run->cancel_asked) {
            $run->end('cancelled', 'Stopped; nothing was changed.');

            return;
        }
        $wasBegun = $run->status === 'running';
        if ($wasBegun) {
            $run->fill(['status' => 'waiting', 'phase' => 'waiting', 'progress' => 0.0])->save();
        }
        if (! self::isOurQueue()) {
            if ($wasBegun || $run->updated_at?->lt(now()->subMinutes(10)) === true) {
                $run->touch();
                self::enqueue($run);
            }

            return;
        }
        $job = $run->job_id === null ? null : DB::table('jobs')->where('id', $run->job_id)->first(['id', 'reserved_at']);
        if ($job === null) {
            self::enqueue($run);
        } elseif ($job->reserved_at !== null && ($wasBegun || $job->reserved_at < now()->subSeconds(self::FETCHED)->getTimestamp())) {
            DB::table('jobs')->where('id', $job->id)->update(['reserved_at' => null]);
        }
    }
}
