<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Disk\Room;
use App\Meshes\StoreAhead;
use App\Meshes\Sweep;
use App\Models\Run;
use App\Runs\Cancelled;
use App\Runs\Interrupted;
use App\Runs\Lease;
use App\Runs\LeaseLost;
use Closure;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Queue\InteractsWithQueue;
use Isotome\Exception\IsotomeException;
use Throwable;

/**
 * Work that a person follows as a run. Meshes are stored while it is worked out, which nobody sees; its result is committed in one short
 * transaction together with the run's end, under the run's lease. A worker that is killed leaves no half step: the work is taken up again
 * from its beginning, and meshes that are stored already are found again.
 */
abstract class LongWork implements ShouldQueue
{
    use Dispatchable;
    use InteractsWithQueue;
    use Queueable;

    /** The run counts for itself how often it was begun. */
    public int $tries = 0;

    private ?Lease $lease = null;

    public function __construct(public readonly string $runId)
    {
    }

    final public function handle(): void
    {
        $lease = $this->lease = Lease::take($this->runId);
        if ($lease === null) {
            return;
        }
        try {
            $lease->report('starting', 0.0);
            $commit = $this->work($lease->run, new StoreAhead($lease->run));
            $lease->report('storing', 0.95);
            $lease->commit($commit);
        } catch (Interrupted) {
            $lease->giveBack();

            return;
        } catch (LeaseLost) {
            // Whoever has it now tells how it ends.
            $lease->abandon();

            return;
        } catch (Throwable $error) {
            $this->failing($lease, $error);
        }
        // What was stored for nothing, or is not needed any more, goes: not on anybody's time.
        rescue(static fn () => (new Sweep)->some(5.0));
    }

    /**
     * Everything that takes long. The returned function stores the result and says in one line what was done; it is short.
     *
     * @return Closure(): string
     */
    abstract protected function work(Run $run, StoreAhead $ahead): Closure;

    /** Tells how far the work is. @throws Cancelled|Interrupted|LeaseLost */
    protected function report(string $phase, float $progress): void
    {
        $this->lease?->report($phase, $progress);
    }

    private function failing(Lease $lease, Throwable $error): void
    {
        $full = app(Room::class)->refusal($error);
        [$status, $message] = match (true) {
            $error instanceof Cancelled => ['cancelled', 'Stopped; nothing was changed.'],
            $full !== null => ['failed', $full->getMessage()],
            $error instanceof IsotomeException => ['failed', $error->getMessage()],
            default => ['failed', 'Isotome itself failed at this; nothing was changed. Try again, and if it stays, report it with the log in the data folder.'],
        };
        if ($status === 'failed' && $full === null && ! $error instanceof IsotomeException) {
            rescue(static fn () => report($error), report: false);
        }
        try {
            $lease->end($status, $message);
        } catch (Throwable) {
            $lease->abandon();
        }
    }
}
