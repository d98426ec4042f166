<?php

declare(strict_types=1);

// As many pairs of bodies as one likes, united and subtracted: php bench/fuzz-solid.php 2000 [seed]. Prints what does not hold; exit code 1 if anything.

use Tests\Support\SolidPairs;

require __DIR__.'/../vendor/autoload.php';

$wanted = (int) ($argv[1] ?? 2000);
$seed = (int) ($argv[2] ?? 1);
$pairs = new SolidPairs($seed);
$broken = 0;
for ($n = 0; $n < $wanted; $n++) {
    [$one, $other] = $pairs->next();
    try {
        $faults = SolidPairs::faults($one, $other);
    } catch (Throwable $error) {
        $faults = [$error::class.': '.$error->getMessage()];
    }
    foreach ($faults as $fault) {
        echo "pair $n of seed $seed: $fault\n";
    }
    $broken += $faults === [] ? 0 : 1;
}
echo "$wanted pairs, $broken with faults.\n";
exit($broken > 0 ? 1 : 0);
