<?php

declare(strict_types=1);

namespace App\Runs;

use Illuminate\Database\Connection;
use Illuminate\Queue\Connectors\DatabaseConnector;

final class RunQueueConnector extends DatabaseConnector
{
    /** @param  array<string, mixed>  $config */
    public function connect(array $config): RunQueue
    {
        /** @var Connection $connection */
        $connection = $this->connections->connection($config['connection'] ?? null);

        return new RunQueue(
            $connection, $config['table'], $config['queue'], $config['retry_after'] ?? 60, $config['after_commit'] ?? false,
        );
    }
}
