<?php

declare(strict_types=1);

return [
    'default' => env('QUEUE_CONNECTION', 'database'),
    'connections' => [
        'sync' => ['driver' => 'sync'],
        'database' => [
            'driver' => 'database',
            'table' => 'jobs',
            'queue' => 'default',
            // Nothing is given out twice by the clock: what a killed worker had is freed by App\Runs\Keeper.
            'retry_after' => 10 ** 9,
            // A run and its job begin in one transaction.
            'after_commit' => false,
        ],
    ],
    'failed' => ['driver' => 'null'],
];
