<?php

declare(strict_types=1);

// A mirror beside the flat cut of the same mesh, in turns, in memory: seconds, the middle of seven.

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Format\StlReader;
use Isotome\Geometry\Plane;
use Isotome\Mirror\Mirror;
use Isotome\Mirror\MirrorSettings;

require __DIR__.'/../vendor/autoload.php';

$mesh = StlReader::read($argv[1])->mesh;
$plane = Plane::through([1.0, 2.0, 3.0], [1.0, 0.2, 0.3]);
$times = ['cut' => [], 'mirror' => []];
for ($n = 0; $n < 7; $n++) {
    foreach (['cut' => static fn () => FlatCut::of($mesh, new FlatBlade($plane), 1), 'mirror' => static fn () => Mirror::of($mesh, new MirrorSettings([$plane]), 1)] as $what => $work) {
        $start = hrtime(true);
        $result = $work();
        $times[$what][] = (hrtime(true) - $start) / 1e9;
        unset($result);
    }
}
sort($times['cut']);
sort($times['mirror']);
echo json_encode(['triangles' => $mesh->triangleCount(), 'cut' => $times['cut'][3], 'mirror' => $times['mirror'][3]]), "\n";
