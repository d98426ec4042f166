<?php

declare(strict_types=1);

// Random cuts of a mesh, pegs and marks on what they leave: every piece closed, in one body, and without faces that cross where none did. php bench/fuzz-pegs.php FILE [TIMES] [SEED]

use Isotome\Check\Crossings;
use Isotome\Exception\Refusal;
use Isotome\Format\MeshFile;
use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Join\Shape;
use Isotome\Join\Style;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Kinds;
use Isotome\Operation\Piece;
use Isotome\Operation\Runner;

require __DIR__.'/../vendor/autoload.php';

$read = MeshFile::read($argv[1] ?? exit("php bench/fuzz-pegs.php FILE [TIMES] [SEED]\n"))->mesh;
$scale = 150.0 / max(Box::of($read->xyz)->size());
$mesh = Mesh::of(array_map(static fn (float $at): float => $at * $scale, $read->xyz), $read->corners);
$box = Box::of($mesh->xyz);
$chance = new Chance((int) ($argv[3] ?? 1));
// A cut may leave faces that touch where it grazes an edge, and a scan faces that cross.
$state = static fn (Piece $piece): array => [count(Crossings::of($piece->mesh)->pairs), count(Bodies::of($piece->mesh))];
$broken = $pegs = $marks = $refused = 0;
$slowest = 0.0;
for ($n = 0; $n < (int) ($argv[2] ?? 100); $n++) {
    $facing = [$chance->uniform() - 0.5, $chance->uniform() - 0.5, $chance->uniform() - 0.5];
    $through = array_map(static fn (float $low, float $high): float => $low + ($high - $low) * (0.15 + 0.7 * $chance->uniform()), $box->min, $box->max);
    $flat = ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => $through, 'facing' => $facing]];
    $cut = match ($n % 4) {
        0 => $flat,
        1 => [...$flat, 'kerf' => 0.1 + 0.6 * $chance->uniform()],
        2 => [...$flat, 'grain' => ['height' => 1.0, 'size' => 9, 'seed' => $n]],
        default => ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'uniform', 'count' => 6, 'seed' => $n]],
    };
    $runner = Runner::on('body', $mesh);
    $made = [];
    $start = hrtime(true);
    try {
        $runner->run(Kinds::read($cut, 'cut'));
        $before = array_map($state, $runner->pieces());
        $start = hrtime(true);
        $made[] = $runner->run(Kinds::read(['do' => 'pegs', 'style' => Style::cases()[$n % 3]->value, 'shape' => Shape::cases()[intdiv($n, 3) % 4]->value], 'pegs'));
        $made[] = $runner->run(Kinds::read(['do' => 'mark', 'raised' => $n % 2 === 1], 'mark'));
    } catch (Refusal $refusal) {
        $refused++;
        if ($made === []) {
            continue;
        }
    }
    $slowest = max($slowest, (hrtime(true) - $start) / 1e9);
    foreach ($made as $k => $record) {
        foreach ($record->report->toArray()['faces'] as $face) {
            $k === 0 ? $pegs += count($face['pegs']) : $marks += $face['why'] === null ? 1 : 0;
        }
    }
    foreach ($runner->pieces() as $name => $piece) {
        [$crossings, $bodies] = $state($piece);
        [$had, $were] = $before[$name] ?? [0, 1];
        if ($piece->watertight !== true || $bodies !== $were || ($had === 0 && $crossings > 0)) {
            $broken++;
            echo "$n: $name ".($piece->watertight === true ? '' : 'is open, ')."has $crossings crossing pairs ($had before) and $bodies bodies ($were)\n";
        }
    }
}
printf("%d times: %d pegs, %d marks, %d refused, %d pieces broken; longest %.1f s\n", $n, $pegs, $marks, $refused, $broken, $slowest);
exit($broken === 0 ? 0 : 1);
