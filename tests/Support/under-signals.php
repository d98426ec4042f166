<?php

declare(strict_types=1);

// Shatters a mesh again and again while a signal arrives a thousand times a second, heard as the worker hears it, and prints how many
// different results came.

use App\Runs\StopSignal;
use Isotome\Mesh\Packing;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Tests\Support\Solids;

require __DIR__.'/../../vendor/autoload.php';

$step = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'uniform', 'count' => 60, 'seed' => 4]]]])->steps[0];
$stock = new Piece('ring', Solids::torus(20, 7, 200, 80), null, 0, '#112233', true);
$results = [];
$run = static function () use ($stock, $step, &$results): void {
    $runner = Runner::resume([$stock], 0, 0);
    $runner->run($step);
    $results[implode(' ', array_map(static fn (Piece $piece): string => Packing::hash($piece->mesh), $runner->pieces()))] = true;
};
StopSignal::hear();
StopSignal::isGiven();
// Without signals first, which loads every class: PHP 8.2 itself crashes when many signals come while a file is loaded (zend_signal_handler_unblock takes from an empty
// queue). A worker is sent one.
$run();
$me = getmypid();
$sender = pcntl_fork();
if ($sender === 0) {
    for ($n = 0; $n < 30_000 && posix_kill($me, SIGTERM); $n++) {
        usleep(500);
    }
    posix_kill(posix_getpid(), SIGKILL);
}
for ($n = 0; $n < 8; $n++) {
    $run();
}
posix_kill($sender, SIGKILL);
pcntl_waitpid($sender, $status);
echo json_encode(['results' => count($results), 'heard' => StopSignal::isGiven(), 'async' => pcntl_async_signals(), 'jit' => opcache_get_status(false)['jit']['on'] ?? false]);
