<?php

declare(strict_types=1);

// A hundred pieces of 10,000 triangles on plates of 200 mm, turned freely and not at all: time, plates, and how much of all plates but the last is covered. php bench/plates.php

use Isotome\Fit\BuildSpace;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Mesh;
use Isotome\Plate\Plates;
use Isotome\Plate\Silhouette;
use Tests\Support\Solids;

require __DIR__.'/../vendor/autoload.php';

$chance = new Chance(4);
$pieces = [];
for ($n = 0; $n < 100; $n++) {
    $side = 15 + 35 * $chance->uniform();
    $pieces["piece $n"] = match ($n % 4) {
        0 => Solids::torus(0.7 * $side, 0.25 * $side, 100, 50),
        1 => Solids::moved(Solids::torus(0.6 * $side, 0.1 * $side, 100, 50), 1.2, 0.5, 0.2),
        2 => Solids::torus(0.3 * $side, 0.29 * $side, 125, 40),
        default => Solids::moved(Solids::torus(0.6 * $side, 0.2 * $side, 125, 40), 0.3, 0.5, 0.2),
    };
}
$meshes = array_values($pieces);
foreach ([true, false] as $isTurned) {
    $start = hrtime(true);
    $plates = Plates::of($pieces, new BuildSpace(200.0, 200.0, 200.0), 2.0, $isTurned)->plates;
    $took = (hrtime(true) - $start) / 1e9;
    $covered = 0.0;
    foreach (array_slice($plates, 0, -1) as $plate) {
        foreach ($plate as ['piece' => $n, 'map' => $map]) {
            $covered += Silhouette::of(Mesh::of(array_values(Affine::points($meshes[$n]->xyz, $map)), $meshes[$n]->corners), 0.5)->area();
        }
    }
    printf("%s: %.1f s, %d plates, %.0f %% covered\n", $isTurned ? 'turned freely' : 'not turned', $took, count($plates), 100 * $covered / (40_000 * max(1, count($plates) - 1)));
}
