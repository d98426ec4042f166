<?php

declare(strict_types=1);

// Writes the meshes that are measured: tori of 100,000 and 1,000,000 triangles, and a rod of 600 rings for many pieces.

use Demo\Lathe;
use Isotome\Format\StlWriter;
use Tests\Support\Solids;

require __DIR__.'/../vendor/autoload.php';

StlWriter::write(Solids::torus(50, 20, 250, 200), "$argv[1]/100k.stl");
StlWriter::write(Solids::torus(50, 20, 1000, 500), "$argv[1]/1m.stl");
StlWriter::write(Lathe::mesh([[[0.0, 0.0], ...array_map(static fn (int $n): array => [10.0 + $n % 7 / 5, (float) $n], range(0, 600)), [0.0, 600.0]]], 24), "$argv[1]/rod.stl");
