<?php

declare(strict_types=1);

// Shattering and mirroring one mesh, in memory: seconds. The cells go to a file for the library beside.

use Isotome\Cells\CellsBlade;
use Isotome\Cells\Shatter;
use Isotome\Cells\ShatterSettings;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Format\StlReader;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Isotome\Mirror\Mirror;
use Isotome\Mirror\MirrorSettings;

require __DIR__.'/../vendor/autoload.php';

$mesh = StlReader::read($argv[1])->mesh;
$middle = require __DIR__.'/middle.php';
$result = ['triangles' => $mesh->triangleCount()];
foreach ([100, 1000] as $count) {
    $blade = new CellsBlade('uniform', $count, 7);
    $cells = $blade->complex($mesh)->corners();
    file_put_contents("$argv[2]/cells-$count.json", json_encode($cells));
    $outcome = Shatter::of($mesh, $blade, new ShatterSettings, 1);
    $result["shards_$count"] = [
        'pieces' => count($outcome->bodies ?? []),
        'triangles' => array_sum(array_map(static fn (Mesh $body): int => $body->triangleCount(), $outcome->bodies ?? [])),
        'seconds' => $middle(static fn () => Shatter::of($mesh, $blade, new ShatterSettings, 1), 5),
    ];
}
$plane = Plane::through([1.0, 2.0, 3.0], [1.0, 0.2, 0.3]);
$result['cut'] = $middle(static fn () => FlatCut::of($mesh, new FlatBlade($plane), 1), 5);
$result['mirror'] = $middle(static fn () => Mirror::of($mesh, new MirrorSettings([$plane]), 1), 5);
echo json_encode($result), "\n";
