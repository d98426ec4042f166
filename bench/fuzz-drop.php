<?php

declare(strict_types=1);

// Bodies are shattered at random, every third one glued, and dropped: how deep hulls that did not overlap in the beginning are ever in each other, and how far below the floor, both as shares of the larger piece's size.
// The worst of each, and how many are at rest in the end. php bench/fuzz-drop.php [TIMES [SEED]]

use Tests\Support\Dropped;

require __DIR__.'/../vendor/autoload.php';

$times = (int) ($argv[1] ?? 50);
$first = (int) ($argv[2] ?? 1);
$deep = $below = [0.0];
for ($seed = $first; $seed < $first + $times; $seed++) {
    $found = Dropped::at($seed);
    $deep[] = 100 * $found['deep'];
    $below[] = 100 * $found['below'];
    printf("%d: %d pieces, %.1f %% in each other, %.1f %% below the floor, %d at rest\n", $seed, $found['pieces'], end($deep), end($below), $found['resting']);
}
printf("worst of %d: %.1f %% in each other, %.1f %% below the floor\n", $times, max($deep), max($below));
