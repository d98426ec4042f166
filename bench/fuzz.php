<?php

declare(strict_types=1);

// As many random and unlucky blades as one likes: php bench/fuzz.php 20000 [seed]. Prints what breaks a promise; exit code 1 if any did.

use Isotome\Check\FaceCheck;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Section;
use Isotome\Format\Rounded;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Volume;
use Tests\Support\Blades;
use Tests\Support\Bodies;
use Tests\Support\Solids;

require __DIR__.'/../vendor/autoload.php';

$wanted = (int) ($argv[1] ?? 2000);
$seed = (int) ($argv[2] ?? 1);
$names = Bodies::names();
$cuts = $broken = $unsound = 0;
for ($round = 0; $cuts < $wanted; $round++) {
    foreach ($names as $n => $name) {
        mt_srand($seed + 1000 * $round + $n);
        $mesh = Bodies::named($name);
        if ($round > 0) {
            // Turned, scaled and moved anew in every round, far off in some.
            $far = [0.0, 0.0, 1e3, 1e6][mt_rand(0, 3)];
            $mesh = Solids::moved($mesh, mt_rand() / 1e8, mt_rand() / 1e8, mt_rand() / 1e8, 10 ** mt_rand(-3, 3), [$far, -$far / 3, $far / 7]);
        }
        // What is cut may itself be a piece, with cut faces full of slivers.
        for ($again = mt_rand(0, 2); $again > 0; $again--) {
            $bodies = FlatCut::of($mesh, new FlatBlade((new Blades($mesh, mt_rand()))->unlucky()), $again)->bodies ?? [$mesh];
            $mesh = $bodies[mt_rand(0, count($bodies) - 1)];
        }
        $whole = Volume::measure($mesh);
        // New vertices are rounded to doubles: far from the origin that alone moves the skin by this much. And a piece may be a
        // sliver thinner than the sums that measure it can tell.
        $extent = max(max($mesh->xyz), -min($mesh->xyz));
        $size = max(Box::of($mesh->xyz)->size());
        $slack = 1e-9 * abs($whole->volume) + 1e-14 * $extent * $whole->area + 1e-15 * $size ** 3;
        $slackArea = 1e-9 * $whole->area + 1e-13 * $extent * $size;
        $blades = new Blades($mesh, mt_rand());
        for ($k = 0; $k < 12 && $cuts < $wanted; $k++) {
            $plane = $k % 2 ? $blades->unlucky() : $blades->anywhere();
            $outcome = FlatCut::of($mesh, new FlatBlade($plane), 9);
            if ($outcome === null) {
                continue;
            }
            $cuts++;
            $unsound += $outcome->sound ? 0 : 1;
            $wrong = [];
            $volume = $area = 0.0;
            foreach ($outcome->bodies as $body) {
                $measures = Volume::measure($body);
                $volume += $measures->volume;
                $area += $measures->area;
                $file = Rounded::of($body);
                $wrong[] = EdgeCheck::of($body)->isWatertight() ? '' : 'leak';
                $wrong[] = $file->isEmpty() || EdgeCheck::of($file)->isWatertight() ? '' : 'leak in the file';
                $wrong[] = $file->isEmpty() || FaceCheck::of($file)->doubled === 0 ? '' : 'fold in the file';
            }
            $wrong[] = abs($volume - $whole->volume) <= $slack ? '' : sprintf('volume off by %.2e', ($volume - $whole->volume) / $whole->volume);
            $section = Section::of($mesh, $plane);
            // A sliver that rounding has turned inside out has a negative section.
            $off = abs($area - $whole->area - 2 * abs($section->area));
            $wrong[] = ! $outcome->sound || $off <= $slackArea ? '' : sprintf('area off by %.2e', $off / $whole->area);
            $wrong = array_unique(array_filter($wrong));
            if ($wrong !== []) {
                $broken++;
                echo "$name, round $round, blade $k: ", implode(', ', $wrong), "\n";
            }
        }
    }
}
echo "$cuts cuts, $broken broke a promise, $unsound with outlines that cross\n";
exit($broken > 0 ? 1 : 0);
