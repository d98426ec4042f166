<?php

declare(strict_types=1);

// Times on one mesh, in memory, one process: seconds, the middle of several runs.

use Isotome\Check\Report;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\SeriesCut;
use Isotome\Format\StlReader;
use Isotome\Format\StlWriter;
use Isotome\Geometry\Plane;
use Isotome\Measure\Profile;
use Isotome\Mesh\EdgeCheck;

require __DIR__.'/../vendor/autoload.php';

$status = function_exists('opcache_get_status') ? opcache_get_status(false) : false;
if (! is_array($status) || ! ($status['jit']['on'] ?? false)) {
    fwrite(STDERR, "The JIT is off: these figures mean nothing.\n");
    exit(1);
}
$middle = require __DIR__.'/middle.php';
/** @var array{string, string} $argv */
$file = $argv[1];
$mesh = StlReader::read($file)->mesh;
$blade = new FlatBlade(Plane::through([1.0, 2.0, 3.0], [1.0, 0.2, 0.3]));
$bodies = FlatCut::of($mesh, $blade, 1)->bodies ?? [];
$stops = [];
for ($n = 1; $n <= 20; $n++) {
    $stops[] = Plane::at(-70 + 140 * $n / 21, [1.0, 0.2, 0.3]);
}
echo json_encode([
    'triangles' => $mesh->triangleCount(),
    'bodies' => count($bodies),
    'watertight' => array_map(static fn ($body): bool => EdgeCheck::of($body)->isWatertight(), $bodies),
    'cut' => $middle(static fn () => FlatCut::of($mesh, $blade, 1)),
    'read' => $middle(static fn () => StlReader::read($file), 3),
    'write' => $middle(static fn () => StlWriter::write($mesh, $file.'.again'), 3),
    'check' => $middle(static fn () => EdgeCheck::of($mesh), 3),
    'report' => $middle(static fn () => Report::of($mesh, 0, false), 3),
    'whole_report' => $mesh->triangleCount() < 200_000 ? $middle(static fn () => Report::of($mesh), 3) : null,
    'series' => $middle(static fn () => SeriesCut::of($mesh, $stops, $blade, 1), 3),
    'profile' => $middle(static fn () => Profile::sampled($mesh, [1.0, 0.2, 0.3], 100), 5),
    'peak_mb' => memory_get_peak_usage() / 1048576,
]), "\n";
