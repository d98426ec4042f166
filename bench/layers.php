<?php

declare(strict_types=1);

// A thousand layers of a million triangles, with and without their islands, in memory: the middle of three, the worst, and the peak in megabytes. php bench/layers.php

use Isotome\Geometry\Box;
use Isotome\Plate\Islands;
use Isotome\Plate\Layers;

require __DIR__.'/bodies.php';

foreach (['ball' => ball(1000), 'knot' => knot(1000, 500), 'gyroid' => gyroid(149)] as $name => $body) {
    $box = Box::of($body->xyz);
    $height = ($box->max[2] - $box->min[2]) / 1000;
    memory_reset_peak_usage();
    foreach ([false, true] as $withIslands) {
        $took = [];
        $count = 0;
        for ($n = 0; $n < 3; $n++) {
            $start = hrtime(true);
            $below = null;
            $islands = $outlines = 0;
            foreach (Layers::of($body, $height)->each() as $layer) {
                $outlines += count($layer->outlines);
                $islands += $withIslands && $below !== null ? count(Islands::of($layer, $below)) : 0;
                $below = $layer;
            }
            $took[] = (hrtime(true) - $start) / 1e9;
        }
        sort($took);
        printf("%s, %d triangles, %d outlines, %s: %.2f s (worst %.2f), %.0f MB\n", $name, $body->triangleCount(), $outlines, $withIslands ? "$islands islands" : 'without islands', $took[1], $took[2], memory_get_peak_usage() / 1048576);
    }
}
