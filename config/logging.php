<?php

declare(strict_types=1);

return [
    'default' => env('LOG_CHANNEL', 'quietly'),
    'channels' => [
        // A log that cannot be written is no error of what was to be logged.
        'quietly' => ['driver' => 'stack', 'channels' => ['single'], 'ignore_exceptions' => true],
        'single' => ['driver' => 'single', 'path' => storage_path('logs/isotome.log'), 'level' => 'warning'],
        'stderr' => ['driver' => 'errorlog', 'level' => 'warning'],
        'null' => ['driver' => 'monolog', 'handler' => Monolog\Handler\NullHandler::class],
    ],
];
