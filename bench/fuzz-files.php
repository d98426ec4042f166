<?php

declare(strict_types=1);

// Files of 32-bit floats of what comes of as many pairs of bodies as one likes: php bench/fuzz-files.php 1000 [seed]. Prints those that are open or cross; exit code 1 if any do.

use Isotome\Check\Crossings;
use Isotome\Format\Rounded;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Places;
use Isotome\Solid\FileProof;
use Tests\Support\SolidPairs;

require __DIR__.'/../vendor/autoload.php';

$all = $changed = $broken = 0;
foreach ((new SolidPairs((int) ($argv[2] ?? 1)))->results((int) ($argv[1] ?? 1000)) as $what => $body) {
    $proof = FileProof::of($body);
    $file = Rounded::of($proof);
    $crossing = count(Crossings::of(Places::joined($file))->pairs);
    $isOpen = ! $file->isEmpty() && ! EdgeCheck::of($file)->isWatertight();
    $all++;
    $changed += $proof === $body ? 0 : 1;
    if ($crossing > 0 || $isOpen) {
        $broken++;
        echo "$what: ", $isOpen ? 'open' : "$crossing pairs of faces cross", "\n";
    }
}
echo "$all bodies, $changed changed for files, $broken with faults.\n";
exit($broken > 0 ? 1 : 0);
