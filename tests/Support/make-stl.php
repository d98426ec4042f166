<?php

declare(strict_types=1);

// Writes a mesh for the browser tests: php make-stl.php KIND FILE

use Isotome\Format\StlWriter;
use Isotome\Mesh\Mesh;
use Tests\Support\Solids;

require __DIR__.'/../../vendor/autoload.php';

[, $kind, $file] = $argv;
$box = Solids::box(40, 30, 20);
StlWriter::write(match ($kind) {
    'jar' => Solids::moved(Solids::torus(20, 9, 88, 60), 0, 0, 0, 1.0, [0.0, 0.0, 9.0]),
    'post' => $box,
    // Without one of the two triangles of the side y = 0.
    'open' => Mesh::of($box->xyz, [...array_slice($box->corners, 0, 12), ...array_slice($box->corners, 15)]),
    'beam' => Demo\SluiceBeam::mesh(),
    'crock' => Demo\ScannedCrock::mesh(),
    'sign' => Demo\WheelSilhouette::mesh(),
    // A rod of 600 rings, for many pieces.
    'rod' => Demo\Lathe::mesh([[[0.0, 0.0], ...array_map(static fn (int $n): array => [10.0 + $n % 7 / 5, (float) $n], range(0, 600)), [0.0, 600.0]]], 24),
    'large' => Solids::torus(20, 9, 1000, 500),
}, $file);
