<?php

declare(strict_types=1);

namespace App\Runs;

use Illuminate\Queue\Worker as QueueWorker;
use Illuminate\Queue\WorkerOptions;

/** The framework's worker, deaf to signals while it computes: see StopSignal. */
final class Worker extends QueueWorker
{
    /** Seconds between two looks for work: a person waits for them. */
    private const LEAST = 0.2;

    protected function supportsAsyncSignals(): bool
    {
        return false;
    }

    /**
     * @param  string  $connectionName
     * @param  string  $queue
     */
    protected function daemonShouldRun(WorkerOptions $options, $connectionName, $queue): bool
    {
        $this->shouldQuit = $this->shouldQuit || StopSignal::isGiven();

        return ! $this->shouldQuit && parent::daemonShouldRun($options, $connectionName, $queue);
    }

    /** @param  int|float  $seconds */
    public function sleep($seconds): void
    {
        // A signal ends the pause.
        usleep((int) (1e6 * max(self::LEAST, $seconds)));
        $this->shouldQuit = $this->shouldQuit || StopSignal::isGiven();
    }
}
