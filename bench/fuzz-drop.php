<?php

declare(strict_types=1);

// Bodies are shattered at random, some glued, and dropped: how deep hulls that did not overlap in the beginning are ever in each other, and how far below the floor, both as shares of the larger piece's size.
// The worst of each, and how many are at rest in the end. php bench/fuzz-drop.php [TIMES [SEED]]

use Isotome\Geometry\Chance;
use Isotome\Mesh\Volume;
use Isotome\Motion\Actor;
use Isotome\Motion\Manifold;
use Isotome\Motion\Movement;
use Isotome\Motion\Quaternion;
use Isotome\Motion\Shape;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Tests\Support\Solids;

require __DIR__.'/../vendor/autoload.php';

$times = (int) ($argv[1] ?? 50);
$first = (int) ($argv[2] ?? 1);
$frames = 75;
$allDeep = $allBelow = [];
for ($seed = $first; $seed < $first + $times; $seed++) {
    $chance = new Chance($seed);
    $body = Solids::moved(match ($seed % 4) {
        0 => Solids::box(60, 50, 40, [-30, -25, -20]),
        1 => Solids::sphere(30, 3),
        2 => Solids::torus(30, 10, 32, 16),
        default => Solids::box(100, 30, 20, [-50, -15, -10]),
    }, 3 * $chance->uniform(), 3 * $chance->uniform(), 3 * $chance->uniform());
    $runner = Runner::on('body', $body);
    foreach (Recipe::fromArray(['isotome_recipe' => 1, 'units' => 'mm', 'steps' => [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'uniform', 'count' => 4 + (int) (8 * $chance->uniform()), 'seed' => $seed]]]])->steps as $step) {
        $runner->run($step);
    }
    $pieces = array_values($runner->pieces());
    $floor = -60.0 - 200.0 * $chance->uniform();
    $poses = Movement::fromArray(['isotome_movement' => 1, 'fps' => 25, 'frames' => $frames, 'layers' => [[
        'do' => 'drop', 'floor' => $floor, 'bounce' => 0.5 * $chance->uniform(), 'friction' => $chance->uniform(), 'glue' => $seed % 3 === 0 ? 0.02 * $chance->uniform() : 0.0,
        'speed' => [200 * $chance->uniform(), 0, 0], 'spin' => [400 * $chance->uniform(), 0, 200 * $chance->uniform()], 'push' => 500 * $chance->uniform(),
    ]]])->poses(array_map(static fn (Piece $piece): Actor => new Actor($piece->name, Volume::measure($piece->mesh)->centroid, $piece->mesh), $pieces));
    $shapes = array_map(static fn (Piece $piece): Shape => Shape::of($piece->mesh, 1.2), $pieces);
    /** @return array{list<float>, list<array{array{float, float, float}, list<int>}>} */
    $at = static function (int $n, int $frame) use ($poses, $shapes): array {
        [$x, $y, $z, $qx, $qy, $qz, $qw] = $poses->at($n, $frame);
        $turn = [$qx, $qy, $qz, $qw];
        $points = [];
        foreach (array_chunk($shapes[$n]->points, 3) as [$a, $b, $c]) {
            $to = Quaternion::turned($turn, [$a, $b, $c]);
            array_push($points, $x + $to[0], $y + $to[1], $z + $to[2]);
        }

        return [$points, array_map(static fn (array $face): array => [Quaternion::turned($turn, $face[0]), $face[1]], $shapes[$n]->faces)];
    };
    $allowed = [];
    $deep = $below = 0.0;
    for ($frame = 0; $frame < $frames; $frame++) {
        $now = array_map(static fn (int $n): array => $at($n, $frame), array_keys($pieces));
        foreach ($now as $n => [$points, $faces]) {
            foreach (array_chunk($points, 3) as [, , $z]) {
                $below = max($below, ($floor - $z) / (2 * $shapes[$n]->radius));
            }
            for ($other = 0; $other < $n; $other++) {
                $between = [$poses->at($n, $frame), $poses->at($other, $frame)];
                $found = Manifold::of($now[$other][0], $now[$other][1], $points, $faces, 0.0, [$between[1][0] - $between[0][0], $between[1][1] - $between[0][1], $between[1][2] - $between[0][2] + 1e-9]);
                $depth = 0.0;
                foreach ($found[1] ?? [] as $place) {
                    $depth = max($depth, -$place[3]);
                }
                $pair = "$other $n";
                $allowed[$pair] = $frame === 0 ? $depth : min($allowed[$pair], max($depth, 0.02));
                $deep = max($deep, ($depth - ($frame === 0 ? $depth : $allowed[$pair])) / (2 * max($shapes[$n]->radius, $shapes[$other]->radius)));
            }
        }
    }
    $resting = count(array_filter(array_keys($pieces), static fn (int $n): bool => $poses->at($n, $frames - 1) === $poses->at($n, $frames - 2)));
    $allDeep[] = $deep;
    $allBelow[] = $below;
    printf("%d: %d pieces, %.1f %% in each other, %.1f %% below the floor, %d at rest\n", $seed, count($pieces), 100 * $deep, 100 * $below, $resting);
}
printf("worst of %d: %.1f %% in each other, %.1f %% below the floor\n", $times, 100 * max([0.0, ...$allDeep]), 100 * max([0.0, ...$allBelow]));
