<?php

declare(strict_types=1);

// Writes a mesh for the browser tests: php make-stl.php KIND FILE

use Isotome\Format\StlWriter;
use Isotome\Mesh\Mesh;
use Tests\Support\Solids;

require __DIR__.'/../../vendor/autoload.php';

/**
 * @param  list<float>  $xyz
 * @param  list<int>  $corners
 * @return list<int>
 */
function quarter(array $xyz, array $corners): array
{
    $kept = [];
    foreach (array_chunk($corners, 3) as [$a, $b, $c]) {
        $isOn = static fn (int $k): bool => $xyz[3 * $a + $k] === 0.0 && $xyz[3 * $b + $k] === 0.0 && $xyz[3 * $c + $k] === 0.0;
        if (! $isOn(0) && ! $isOn(1)) {
            array_push($kept, $a, $b, $c);
        }
    }

    return $kept;
}

[, $kind, $file] = $argv;
$box = Solids::box(40, 30, 20);
StlWriter::write(match ($kind) {
    'jar' => Solids::moved(Solids::torus(20, 9, 88, 60), 0, 0, 0, 1.0, [0.0, 0.0, 9.0]),
    'post' => $box,
    'plank' => Solids::box(260, 20, 30),
    'stick' => Solids::box(300, 12, 12),
    // Without one of the two triangles of the side y = 0.
    'open' => Mesh::of($box->xyz, [...array_slice($box->corners, 0, 12), ...array_slice($box->corners, 15)]),
    'beam' => Demo\SluiceBeam::mesh(),
    'crock' => Demo\ScannedCrock::mesh(),
    'small-crock' => Solids::moved(Demo\ScannedCrock::mesh(), 0, 0, 0, 0.9),
    // Any coarser, and one of its legs ends above the foot.
    'heron' => Demo\Heron::mesh(5.0),
    // A float in eight panels that do not touch.
    'panels' => Tests\Support\Soups::patches(Solids::sphere(40, 3), 0.12, static fn (array $p): int => ($p[0] > 0 ? 1 : 0) + ($p[1] > 0 ? 2 : 0) + ($p[2] > 0 ? 4 : 0)),
    'sign' => Demo\WheelSilhouette::mesh(),
    'clay' => Demo\ClayJar::mesh(),
    'bracket' => Demo\WheelBracket::mesh(),
    // Of a box, what lies ahead of x = 0 and y = 0: open on both sides.
    'quarter' => Mesh::of($box->xyz, quarter($box->xyz, $box->corners)),
    // A rod of 600 rings, for many pieces.
    'rod' => Demo\Lathe::mesh([[[0.0, 0.0], ...array_map(static fn (int $n): array => [10.0 + $n % 7 / 5, (float) $n], range(0, 600)), [0.0, 600.0]]], 24),
    'large' => Solids::torus(20, 9, 1000, 500),
}, $file);
