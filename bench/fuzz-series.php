<?php

declare(strict_types=1);

// As many random series of blades as one likes: php bench/fuzz-series.php 2000 [seed]. Prints what breaks a promise; exit code 1 if any did.

use Isotome\Cut\FlatBlade;
use Isotome\Cut\Seal;
use Isotome\Cut\SeriesCut;
use Isotome\Format\Rounded;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Volume;
use Tests\Support\Blades;
use Tests\Support\Bodies;
use Tests\Support\SeriesOfBlades;
use Tests\Support\Solids;

require __DIR__.'/../vendor/autoload.php';

$wanted = (int) ($argv[1] ?? 500);
$seed = (int) ($argv[2] ?? 1);
$names = array_values(array_filter(Bodies::names(), static fn (string $name): bool => ! str_contains($name, '3,000') && ! str_contains($name, 'overlap')));

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
        $size = max(Box::of($mesh->xyz)->size());
        $blades = new Blades($mesh, mt_rand());
        for ($k = 0; $k < 4 && $cuts < $wanted; $k++) {
            $stops = SeriesOfBlades::through($mesh, $k % 2 ? $blades->unlucky() : $blades->anywhere());
            if ($stops === []) {
                continue;
            }
            $seal = mt_rand(0, 2) ? Seal::Lean : Seal::Even;
            $kerf = mt_rand(0, 2) ? 0.0 : 1e-3 * $size * mt_rand(1, 9);
            $stops = $kerf > 0.0 ? SeriesOfBlades::apart($stops, $kerf) : $stops;
            $blade = new FlatBlade($stops[0], seal: $seal, kerf: $kerf, edge: mt_rand(0, 1) ? null : $size / mt_rand(5, 30));
            $outcome = SeriesCut::of($mesh, $stops, $blade, 9);
            if ($outcome === null) {
                continue;
            }
            $cuts++;
            $unsound += $outcome->sound ? 0 : 1;
            $wanting = $kerf > 0.0 ? SeriesOfBlades::left($mesh, $stops, $kerf) : $whole->volume;
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
