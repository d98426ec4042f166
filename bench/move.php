<?php

declare(strict_types=1);

// Movements: a spread and a wave of 1,000 pieces in 250 frames; the clay jar in so many shards that falls onto a floor 300 mm below it, in 250 frames; and the animated GLB of that. php bench/move.php [SHARDS]

use Demo\ClayJar;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Volume;
use Isotome\Motion\Actor;
use Isotome\Motion\Movement;
use Isotome\Operation\MovementFiles;
use Isotome\Operation\Palette;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;

require __DIR__.'/../vendor/autoload.php';

$movement = static fn (array $layer): Movement => Movement::fromArray(['isotome_movement' => 1, 'frames' => 250, 'layers' => [$layer]]);
$chance = new Chance(1);
$actors = [];
for ($n = 0; $n < 1000; $n++) {
    $actors[] = new Actor("piece-$n", [200 * $chance->uniform(), 200 * $chance->uniform(), 200 * $chance->uniform()]);
}
foreach ([['do' => 'spread', 'length' => 200], ['do' => 'wave', 'front' => 'ball', 'length' => 150, 'shift' => [0, 0, 40], 'degrees' => 90]] as $layer) {
    $start = hrtime(true);
    $movement($layer)->poses($actors);
    printf("%s of 1,000 pieces, 250 frames: %.2f s\n", $layer['do'], (hrtime(true) - $start) / 1e9);
}

$runner = Runner::on('jar', ClayJar::mesh());
foreach (Recipe::fromArray(['isotome_recipe' => 1, 'units' => 'mm', 'steps' => [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'even', 'count' => (int) ($argv[1] ?? 200), 'seed' => 4]]]])->steps as $step) {
    $runner->run($step);
}
$pieces = $runner->pieces();
$actors = array_map(static fn (Piece $piece): Actor => new Actor($piece->name, Volume::measure($piece->mesh)->centroid, $piece->mesh), array_values($pieces));
foreach ([0.0, 0.05] as $glue) {
    memory_reset_peak_usage();
    $start = hrtime(true);
    $poses = $movement(['do' => 'drop', 'floor' => -300, 'density' => 1.8, 'glue' => $glue])->poses($actors);
    printf("%d shards dropped, glue %.2f, 250 frames: %.1f s, %.0f MB\n", count($actors), $glue, (hrtime(true) - $start) / 1e9, memory_get_peak_usage() / 1048576);
}
$path = tempnam(sys_get_temp_dir(), 'move').'.glb';
$start = hrtime(true);
MovementFiles::animated(array_map(static fn (Piece $piece, int $n): array => ['name' => $piece->name, 'mesh' => $piece->mesh, 'colour' => Palette::colour($n)], array_values($pieces), array_keys($actors)), $poses, $path);
printf("as animated GLB: %.1f s, %.1f MB\n", (hrtime(true) - $start) / 1e9, filesize($path) / 1048576);
unlink($path);
