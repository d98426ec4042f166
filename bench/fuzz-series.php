<?php

declare(strict_types=1);

// As many random series of blades as one likes: php bench/fuzz-series.php 2000 [seed]. Prints what breaks a promise; exit code 1 if any did.

use Isotome\Check\EdgeCheck;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\Plane;
use Isotome\Cut\Seal;
use Isotome\Cut\Series;
use Isotome\Cut\SeriesCut;
use Isotome\Format\Rounded;
use Isotome\Measure\Box;
use Isotome\Measure\Volume;
use Isotome\Mesh\Mesh;
use Tests\Support\Blades;
use Tests\Support\Bodies;
use Tests\Support\Solids;

require __DIR__.'/../vendor/autoload.php';

$wanted = (int) ($argv[1] ?? 500);
$seed = (int) ($argv[2] ?? 1);
$names = array_values(array_filter(Bodies::names(), static fn (string $name): bool => ! str_contains($name, '3,000') && ! str_contains($name, 'overlap')));

/** Equal parts, any stops, or stops at the heights of vertices, some of them a hair apart. */
$planes = static function (Mesh $mesh, Plane $plane): array {
    $facing = $plane->facing();
    $kind = mt_rand(0, 3);
    if ($kind === 0) {
        return Series::parts($facing, mt_rand(2, 40))->planes($mesh);
    }
    $size = max(Box::of($mesh)->size());
    $stops = [];
    for ($n = mt_rand(2, 12); $n > 0; $n--) {
        $v = 3 * mt_rand(0, $mesh->vertexCount() - 1);
        $place = $facing[0] * $mesh->xyz[$v] + $facing[1] * $mesh->xyz[$v + 1] + $facing[2] * $mesh->xyz[$v + 2];
        $stops[] = $kind === 1 ? $place : $place + $size * [0.1, 1e-9, 1e-12][mt_rand(0, 2)] * (mt_rand(-1000, 1000) / 1000);
    }

    return Series::at($facing, $stops)->planes($mesh);
};

/** What a kerf leaves, mm³: cut without one at both faces of every blade, and the slabs between the faces left out. */
$left = static function (Mesh $mesh, array $stops, float $kerf): float {
    $facing = $stops[0]->facing();
    $faces = [];
    foreach ($stops as $stop) {
        $faces[] = $stop->shifted(-$kerf / 2);
        $faces[] = $stop->shifted($kerf / 2);
    }
    usort($faces, static fn (Plane $a, Plane $b): int => $a->offset <=> $b->offset);
    $volume = 0.0;
    foreach (SeriesCut::of($mesh, $faces, new FlatBlade($faces[0]), 9)->bodies ?? [$mesh] as $body) {
        $low = INF;
        $high = -INF;
        for ($i = 0, $count = count($body->xyz); $i < $count; $i += 3) {
            $d = $facing[0] * $body->xyz[$i] + $facing[1] * $body->xyz[$i + 1] + $facing[2] * $body->xyz[$i + 2];
            $low = min($low, $d);
            $high = max($high, $d);
        }
        $middle = ($low + $high) / 2;
        $isGone = false;
        foreach ($stops as $stop) {
            $isGone = $isGone || abs($middle - $stop->offset) < $kerf / 2;
        }
        $volume += $isGone ? 0.0 : Volume::of($body);
    }

    return $volume;
};

$cuts = $broken = $unsound = 0;
for ($round = 0; $cuts < $wanted; $round++) {
    foreach ($names as $n => $name) {
        mt_srand($seed + 1000 * $round + $n);
        $mesh = Bodies::named($name);
        if ($round > 0) {
            $far = [0.0, 0.0, 1e3, 1e6][mt_rand(0, 3)];
            $mesh = Solids::moved($mesh, mt_rand() / 1e8, mt_rand() / 1e8, mt_rand() / 1e8, 10 ** mt_rand(-3, 3), [$far, -$far / 3, $far / 7]);
        }
        $whole = Volume::measure($mesh);
        $extent = max(max($mesh->xyz), -min($mesh->xyz));
        $size = max(Box::of($mesh)->size());
        $blades = new Blades($mesh, mt_rand());
        for ($k = 0; $k < 4 && $cuts < $wanted; $k++) {
            $stops = $planes($mesh, $k % 2 ? $blades->unlucky() : $blades->anywhere());
            if ($stops === []) {
                continue;
            }
            $seal = mt_rand(0, 2) ? Seal::Lean : Seal::Even;
            $kerf = mt_rand(0, 2) ? 0.0 : 1e-3 * $size * mt_rand(1, 9);
            if ($kerf > 0.0) {
                // A kerf apart, as recipes must have it; some exactly.
                $apart = [];
                foreach ($stops as $stop) {
                    if ($apart === [] || $stop->offset - end($apart)->offset >= $kerf) {
                        $apart[] = $stop;
                        mt_rand(0, 3) ?: $apart[] = $stop->shifted($kerf);
                    }
                }
                usort($apart, static fn (Plane $a, Plane $b): int => $a->offset <=> $b->offset);
                $stops = [];
                foreach ($apart as $stop) {
                    if ($stops === [] || $stop->offset - end($stops)->offset >= $kerf * (1 - 1e-12)) {
                        $stops[] = $stop;
                    }
                }
            }
            $blade = new FlatBlade($stops[0], seal: $seal, kerf: $kerf, edge: mt_rand(0, 1) ? null : $size / mt_rand(5, 30));
            $outcome = SeriesCut::of($mesh, $stops, $blade, 9);
            if ($outcome === null) {
                continue;
            }
            $cuts++;
            $unsound += $outcome->sound ? 0 : 1;
            $wanting = $kerf > 0.0 ? $left($mesh, $stops, $kerf) : $whole->volume;
            $slack = count($stops) * (1e-9 * abs($whole->volume) + 1e-14 * $extent * $whole->area) + 1e-15 * $size ** 3;
            $wrong = [];
            $volume = 0.0;
            foreach ($outcome->bodies as $body) {
                $volume += Volume::of($body);
                $file = Rounded::of($body);
                $wrong[] = EdgeCheck::of($body)->isWatertight() ? '' : 'leak';
                $wrong[] = $file->isEmpty() || EdgeCheck::of($file)->isWatertight() ? '' : 'leak in the file';
            }
            $wrong[] = abs($volume - $wanting) <= $slack ? '' : sprintf('volume off by %.2e', ($volume - $wanting) / $whole->volume);
            $wrong = array_unique(array_filter($wrong));
            if ($wrong !== []) {
                $broken++;
                echo "$name, round $round, series $k (", count($stops), " stops, {$seal->value}, kerf $kerf): ", implode(', ', $wrong), "\n";
            }
        }
    }
}
echo "$cuts series, $broken broke a promise, $unsound with outlines that cross\n";
exit($broken > 0 ? 1 : 0);
