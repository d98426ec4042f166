<?php

declare(strict_types=1);

// One tilted cut of a mesh in memory: seconds, the middle of several runs, and the number of bodies.

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Format\StlReader;
use Isotome\Geometry\Plane;

require __DIR__.'/../vendor/autoload.php';

$middle = require __DIR__.'/middle.php';
$mesh = StlReader::read($argv[1])->mesh;
$blade = new FlatBlade(Plane::through([1.0, 2.0, 3.0], [1.0, 0.2, 0.3]));
echo json_encode(['bodies' => count(FlatCut::of($mesh, $blade, 1)->bodies ?? []), 'cut' => $middle(static fn () => FlatCut::of($mesh, $blade, 1), 5)]), "\n";
