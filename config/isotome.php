<?php

declare(strict_types=1);

return [
    // Largest file that may be brought in, bytes.
    'largest_upload' => (int) env('ISOTOME_LARGEST_UPLOAD', 256 * 1024 * 1024),
    // Names under which the application may be reached besides this machine's own, comma-separated.
    'hosts' => array_filter(explode(',', (string) env('ISOTOME_HOSTS', ''))),
    // Processes that answer short questions, and workers for long work.
    'web_workers' => max(4, (int) env('ISOTOME_WEB_WORKERS', 6)),
    'workers' => max(1, (int) env('ISOTOME_WORKERS', 1)),
    // Workers for questions that take long; steps do not wait for them.
    'answer_workers' => max(1, (int) env('ISOTOME_ANSWER_WORKERS', 1)),
    // Bytes that kept answers and files that were taken out may fill.
    'answers_bytes' => (int) env('ISOTOME_ANSWERS_BYTES', 2_000_000_000),
    // What computes: answers of another version of it are not taken for this one's. Worked out when the settings are cached.
    'build' => (static function (): string {
        $files = '';
        foreach (['core', 'app/Answers'] as $folder) {
            foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator(dirname(__DIR__)."/$folder", FilesystemIterator::SKIP_DOTS)) as $file) {
                $files .= $file->getPathname().' '.$file->getSize().' '.$file->getMTime()."\n";
            }
        }

        return hash('xxh128', $files);
    })(),
    // Tests may hold the worker at a named point: see App\Runs\HoldPoint.
    'holds' => (bool) env('ISOTOME_HOLDS', false),
    // Memory that the largest work may take, as PHP writes it.
    'memory' => (string) env('ISOTOME_MEMORY', '6G'),
    // Hours after which a file that was brought in but not accepted is removed.
    'upload_hours' => 24,
];
