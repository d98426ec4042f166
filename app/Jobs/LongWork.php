<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Run;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Queue\InteractsWithQueue;
use Illuminate\Support\Facades\DB;
use Isotome\Exception\IsotomeException;
use Throwable;

/**
 * Work that a person follows as a run. Its result is committed in one transaction together with the run's end, so that a
 * worker that is killed leaves no half step: the work is taken up again from its beginning, once.
 */
abstract class LongWork implements ShouldQueue
{
    use Dispatchable;
    use InteractsWithQueue;
    use Queueable;

    public int $tries = 2;

    public int $timeout = 3600;

    public function __construct(public readonly string $runId)
    {
    }

    final public function handle(): void
    {
        $run = Run::query()->with('project')->find($this->runId);
        if ($run === null || $run->isOver()) {
            return;
        }
        try {
            $run->fill(['status' => 'running', 'phase' => 'starting', 'progress' => 0.0])->save();
            $commit = $this->work($run);
            $this->report($run, 'storing', 0.92);
            DB::transaction(function () use ($run, $commit): void {
                $message = $commit();
                $run->fill(['status' => 'done', 'phase' => 'done', 'progress' => 1.0, 'message' => $message])->save();
            });
        } catch (Cancelled) {
            $this->over($run, 'cancelled', 'Stopped; nothing was changed.');
        } catch (IsotomeException $refusal) {
            $this->over($run, 'failed', $refusal->getMessage());
        } catch (Throwable $error) {
            report($error);
            $this->over($run, 'failed', 'Isotome itself failed at this; nothing was changed. Try again, and if it stays, report it with the log in the data folder.');
        }
    }

    public function failed(?Throwable $error): void
    {
        $run = Run::query()->find($this->runId);
        if ($run !== null && ! $run->isOver()) {
            $this->over($run, 'failed', 'The work was interrupted twice (by a restart, or for want of memory); nothing was changed. Try again, or with a smaller mesh.');
        }
    }

    /**
     * Everything that takes long. The returned function stores the result and says in one line what was done.
     *
     * @return \Closure(): string
     */
    abstract protected function work(Run $run): \Closure;

    /** Tells how far the work is. @throws Cancelled */
    protected function report(Run $run, string $phase, float $progress): void
    {
        if (Run::query()->whereKey($run->id)->value('cancel_asked')) {
            throw new Cancelled;
        }
        $run->fill(['phase' => $phase, 'progress' => $progress])->save();
    }

    private function over(Run $run, string $status, string $message): void
    {
        $run->fill(['status' => $status, 'phase' => $status, 'message' => $message])->save();
    }
}
