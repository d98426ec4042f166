<?php

declare(strict_types=1);

namespace App\Runs;

use App\Database\Trouble;
use Illuminate\Queue\DatabaseQueue;
use Throwable;

/**
 * The framework's queue in the database, for a worker that shares it with people: looking whether there is work takes no lock, and a
 * job that cannot be fetched just now (the database is busy, the disk full) stays what it is, where the framework gives it up.
 */
final class RunQueue extends DatabaseQueue
{
    /** @param  string|null  $queue */
    public function pop($queue = null)
    {
        $queue = $this->getQueue($queue);
        try {
            if ($this->getNextAvailableJob($queue) === null) {
                return null;
            }

            return $this->database->transaction(function () use ($queue) {
                $job = $this->getNextAvailableJob($queue);

                return $job === null ? null : $this->marshalJob($queue, $job);
            });
        } catch (Throwable $error) {
            if (Trouble::isBusy($error) || Trouble::isFull($error)) {
                usleep(300_000);

                return null;
            }
            throw $error;
        }
    }
}
