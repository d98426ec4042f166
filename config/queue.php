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
            // Longer than any job may run; a worker that was killed is noticed sooner, when the next one starts.
            'retry_after' => 3900,
            'after_commit' => true,
        ],
    ],
    'failed' => ['driver' => 'null'],
];
