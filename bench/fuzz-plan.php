<?php

declare(strict_types=1);

// As many plans of random boxes and statues as one likes: php bench/fuzz-plan.php 200 [seed]. Says where a plan has more pieces than slices by the bed, or fewer than its bound; exit code 1 if any has.

use Isotome\Geometry\Chance;
use Isotome\Plan\Plans;
use Isotome\Plan\Wishes;
use Tests\Support\SlicedByBed;

require __DIR__.'/../vendor/autoload.php';

$wanted = (int) ($argv[1] ?? 200);
$seed = (int) ($argv[2] ?? 1);
$broken = $fewer = $exact = $all = 0;
$longest = 0.0;
for ($n = 0; $n < $wanted; $n++) {
    $chance = new Chance(1000 * $seed + $n);
    $mesh = SlicedByBed::body($chance);
    $bed = [80 + 170 * $chance->uniform(), 80 + 170 * $chance->uniform(), 80 + 170 * $chance->uniform()];
    $start = hrtime(true);
    $plans = Plans::of($mesh, Wishes::of($bed));
    $longest = max($longest, (hrtime(true) - $start) / 1e9);
    $pieces = min(array_map(static fn ($alternative): int => count($alternative->pieces), $plans->alternatives));
    $sliced = SlicedByBed::fewest($mesh, $bed);
    $all++;
    $fewer += $pieces < $sliced ? 1 : 0;
    $exact += $pieces === $plans->least ? 1 : 0;
    if ($pieces > $sliced || $pieces < $plans->least) {
        $broken++;
        printf("%d: %d pieces, sliced %d, at least %d (%d triangles, bed %s)\n", $n, $pieces, $sliced, $plans->least, $mesh->triangleCount(), implode(' × ', array_map(static fn (float $side): string => (string) round($side, 1), $bed)));
    }
}
printf("%d plans, %d broken; %d with fewer pieces than slices, %d as few as the bound; longest %.1f s\n", $all, $broken, $fewer, $exact, $longest);
exit($broken === 0 ? 0 : 1);
