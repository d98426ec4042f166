<?php

declare(strict_types=1);

// Pegs on the 20 cut faces of bodies of a million triangles, half a metre large: time of the step, pegs, and whether all pieces are closed. php bench/pegs.php [ball knot gyroid]

use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Kinds;
use Isotome\Operation\Piece;
use Isotome\Operation\Runner;

require __DIR__.'/bodies.php';

$bodies = ['ball' => static fn (): Mesh => ball(1000), 'knot' => static fn (): Mesh => knot(1000, 500), 'gyroid' => static fn (): Mesh => gyroid(149)];
foreach (array_slice($argv, 1) ?: array_keys($bodies) as $name) {
    $mesh = $bodies[$name]();
    $scale = 500.0 / max(Box::of($mesh->xyz)->size());
    $mesh = Mesh::of(array_map(static fn (float $at): float => $at * $scale, $mesh->xyz), $mesh->corners);
    $runner = Runner::on($name, $mesh);
    $runner->run(Kinds::read(['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [0, 0, 1], 'parts' => 21]], 'cut'));
    $pieces = array_values($runner->pieces());
    $times = $faces = $after = [];
    for ($n = 0; $n < 3; $n++) {
        $again = Runner::resume($pieces, 1, 30);
        $record = $again->run(Kinds::read(['do' => 'pegs'], 'pegs'));
        $times[] = $record->seconds;
        $faces = $record->report->toArray()['faces'];
        $after = array_values($again->pieces());
    }
    sort($times);
    printf(
        "%s, %d triangles, %d pieces: %.2f s (worst %.2f), %d pegs on %d common faces, %d of them without; open: %d\n", $name, $mesh->triangleCount(), count($pieces), $times[1], $times[2],
        array_sum(array_map(static fn (array $face): int => count($face['pegs']), $faces)), count($faces), count(array_filter($faces, static fn (array $face): bool => $face['pegs'] === [])),
        count(array_filter($after, static fn (Piece $piece): bool => $piece->watertight !== true)),
    );
}
