<?php

declare(strict_types=1);

return [
    'default' => env('FILESYSTEM_DISK', 'local'),
    'disks' => [
        'local' => ['driver' => 'local', 'root' => storage_path('files'), 'serve' => false, 'throw' => true],
        // Answers that are kept, see App\Answers\Answers.
        'answers' => ['driver' => 'local', 'root' => storage_path('answers'), 'serve' => false, 'throw' => false, 'permissions' => ['dir' => ['private' => 0700, 'public' => 0700], 'file' => ['private' => 0600, 'public' => 0600]], 'visibility' => 'private'],
    ],
];
