<?php

declare(strict_types=1);

namespace App\Runs;

use Illuminate\Database\SQLiteConnection;
use Illuminate\Queue\Worker as QueueWorker;
use Illuminate\Queue\WorkerOptions;
use Illuminate\Support\Facades\DB;
use Throwable;

/** The framework's worker, deaf to signals while it computes: see StopSignal. While nothing happens it costs next to nothing. */
final class Worker extends QueueWorker
{
    /** Seconds between two looks for work: a person waits for them. */
    private const LEAST = 0.2;

    /** Seconds after which it looks even though the database says that nothing was written. */
    private const MOST = 2.0;

    private ?int $seen = null;

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
        // Before it looks for work: what is written from now on ends the next pause.
        $this->seen = $this->version();
        $this->shouldQuit = $this->shouldQuit || StopSignal::isGiven();

        return ! $this->shouldQuit && parent::daemonShouldRun($options, $connectionName, $queue);
    }

    /** @param  int|float  $seconds */
    public function sleep($seconds): void
    {
        $end = microtime(true) + self::MOST;
        do {
            // A signal ends the pause.
            usleep((int) (1e6 * max(self::LEAST, $seconds)));
            $this->shouldQuit = $this->shouldQuit || StopSignal::isGiven();
        } while (! $this->shouldQuit && $this->seen !== null && $this->version() === $this->seen && microtime(true) < $end);
    }

    /** A number that changes when another connection has written; null where the database has none. */
    private function version(): ?int
    {
        try {
            $connection = DB::connection();

            return $connection instanceof SQLiteConnection ? (int) $connection->getPdo()->query('pragma data_version')?->fetchColumn() : null;
        } catch (Throwable) {
            return null;
        }
    }
}
