<?php

declare(strict_types=1);

namespace App\Runs;

use App\Database\Trouble;
use App\Models\Run;
use Closure;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use Throwable;

/**
 * One worker's right to a run. Its number grows each time the run is taken up, and only the newest can store: a worker that was thought
 * dead and is not, or that a stop has left behind, finds its lease lost and stores nothing. While it works it holds a lock that dies
 * with it, so that others see that the run is in nobody's hands.
 *
 * The number is what the literature calls a fencing token: M. Kleppmann, Designing Data-Intensive Applications (2017), ch. 8.
 */
final class Lease
{
    /** Starts that may end without a word (killed, or out of memory) before the run is given up. */
    public const MOST_STARTS = 5;

    /** Seconds between two reports of the same kind that are written down. */
    private const PACE = 0.1;

    private string $phase = '';

    private float $written = 0.0;

    private bool $isStoring = false;

    private function __construct(public readonly Run $run, private readonly int $number, private readonly ProcessLock $lock)
    {
    }

    /** @return self|null null when the run is over, gone, or in other hands that are alive */
    public static function take(string $runId): ?self
    {
        return DB::transaction(static function () use ($runId): ?self {
            $run = Run::query()->with('project')->find($runId);
            if ($run === null || $run->isOver() || self::isAlive($run)) {
                return null;
            }
            if ($run->cancel_asked) {
                $run->fill(['status' => 'cancelled', 'phase' => 'cancelled', 'message' => 'Stopped; nothing was changed.'])->save();

                return null;
            }
            if ($run->starts >= self::MOST_STARTS) {
                $run->fill(['status' => 'failed', 'phase' => 'failed', 'message' => sprintf(
                    'The work was broken off %d times without a word (killed, or for want of memory); nothing was changed. Try again, or with a smaller mesh.', $run->starts,
                )])->save();

                return null;
            }
            $number = $run->lease + 1;
            $lock = ProcessLock::take('leases', self::name($runId, $number));
            $run->fill(['status' => 'running', 'phase' => 'starting', 'progress' => 0.0, 'lease' => $number, 'starts' => $run->starts + 1])->save();

            return new self($run, $number, $lock);
        });
    }

    /** Is a process that is alive at work on it? */
    public static function isAlive(Run $run): bool
    {
        return $run->status === 'running' && ProcessLock::isHeld('leases', self::name($run->id, $run->lease));
    }

    /** The process at work on it. */
    public static function process(Run $run): ?int
    {
        return ProcessLock::holder('leases', self::name($run->id, $run->lease));
    }

    /**
     * Tells how far the work is, and hears what is wanted of it.
     *
     * @throws Cancelled
     * @throws Interrupted
     * @throws LeaseLost
     */
    public function report(string $phase, float $progress): void
    {
        if (StopSignal::isGiven()) {
            throw new Interrupted;
        }
        // Names of pieces follow the first word: thousands of them need not be written down.
        $kind = strtok($phase, ' ') ?: '';
        $now = microtime(true);
        if ($kind === $this->phase && $now - $this->written < self::PACE && ! HoldPoint::isAt($phase)) {
            return;
        }
        [$this->phase, $this->written] = [$kind, $now];
        $this->listen();
        try {
            $this->mine()->update(['phase' => mb_substr($phase, 0, 120), 'progress' => $progress, 'updated_at' => now()]);
        } catch (Throwable $error) {
            // Progress is not worth the work.
            if (! Trouble::isBusy($error)) {
                throw $error;
            }
        }
        HoldPoint::pass($phase, fn () => $this->listen());
    }

    /**
     * Stores what was worked out together with the run's end, in one short transaction, if the lease still holds.
     *
     * @param  Closure(): string  $store  says in one line what was done
     *
     * @throws LeaseLost
     */
    public function commit(Closure $store): void
    {
        HoldPoint::pass('storing', fn () => $this->listen());
        // What was worked out is not lost because others write for long.
        retry(5, fn () => DB::transaction(function () use ($store): void {
            // First: a lost lease stores nothing at all.
            if ($this->mine()->update(['phase' => 'storing']) !== 1) {
                throw new LeaseLost;
            }
            $this->isStoring = true;
            $this->close('done', $store());
        }), 500, fn (Throwable $error): bool => ! $this->isStoring && Trouble::isBusy($error));
        $this->lock->release();
    }

    public function end(string $status, string $message): void
    {
        $this->patiently(fn () => DB::transaction(fn () => $this->close($status, $message)));
        $this->lock->release();
    }

    /** The run waits again; this start does not count, for it ended with a word. */
    public function giveBack(): void
    {
        $this->patiently(fn () => DB::transaction(function (): void {
            if ($this->mine()->update(['status' => 'waiting', 'phase' => 'waiting', 'progress' => 0.0, 'starts' => DB::raw('starts - 1')]) === 1) {
                Keeper::enqueue($this->run->refresh());
            }
        }));
        $this->lock->release();
    }

    /** Nothing can be written down: whoever looks after runs finds it in nobody's hands. */
    public function abandon(): void
    {
        $this->lock->release();
    }

    /** @throws Cancelled|LeaseLost */
    private function listen(): void
    {
        $row = $this->mine()->first(['cancel_asked']);
        if ($row === null) {
            throw new LeaseLost;
        }
        if ((bool) $row->cancel_asked) {
            throw new Cancelled;
        }
    }

    private function close(string $status, string $message): void
    {
        $this->mine()->update(['status' => $status, 'phase' => $status, 'message' => $message, 'progress' => $status === 'done' ? 1.0 : DB::raw('progress'), 'updated_at' => now()]);
        DB::table('mesh_holds')->where('run_id', $this->run->id)->delete();
    }

    private function mine(): Builder
    {
        return DB::table('runs')->where('id', $this->run->id)->where('lease', $this->number)->where('status', 'running');
    }

    /** @param  Closure(): mixed  $write */
    private function patiently(Closure $write): void
    {
        retry(4, $write, 500, static fn (Throwable $error): bool => Trouble::isBusy($error) || Trouble::isFull($error));
    }

    private static function name(string $runId, int $number): string
    {
        return "$runId-$number";
    }
}
