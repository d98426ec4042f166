<?php

declare(strict_types=1);

// A million triangles on a plate: which pieces overlap, what the simulated printer says of a thousand layers, and in which order a dozen parts of it go together. php bench/print.php

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Fit\BuildSpace;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Join\Assembly;
use Isotome\Join\Joints;
use Isotome\Mesh\Mesh;
use Isotome\Plate\Crowding;
use Isotome\Plate\Profile;
use Isotome\Plate\SimulatedPrint;

require __DIR__.'/bodies.php';

/** @param  Closure(): string  $work */
$timed = static function (string $what, Closure $work): void {
    $start = hrtime(true);
    $said = $work();
    printf("  %s: %.2f s%s, %.0f MB\n", $what, (hrtime(true) - $start) / 1e9, $said, memory_get_peak_usage() / 1048576);
};
foreach (['ball' => ball(1000), 'knot' => knot(1000, 500), 'gyroid' => gyroid(149)] as $name => $body) {
    $box = Box::of($body->xyz);
    printf("%s, %d triangles\n", $name, $body->triangleCount());
    $space = new BuildSpace(4 * $box->diagonal(), 4 * $box->diagonal(), 4 * $box->diagonal());
    $map = [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, -$box->min[0], -$box->min[1], -$box->min[2]];
    $beside = [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 1.0 - 2 * $box->min[0] + $box->max[0], -$box->min[1], -$box->min[2]];
    $timed('two of it, overlaps', static fn (): string => sprintf(', %d near', count(Crowding::of([[$body, $map], [$body, $beside]], $space, 0.0, 2.0)->near)));
    $profile = new Profile($space, 0.0, 0.0, 0.4, min(0.4, ($box->max[2] - $box->min[2]) / 1000));
    foreach ([false, true] as $isSupported) {
        $timed($isSupported ? 'printed with supports' : 'printed', static function () use ($body, $map, $profile, $isSupported): string {
            $print = SimulatedPrint::of([['name' => 'it', 'mesh' => $body, 'map' => $map]], $profile, $isSupported);

            return sprintf(', %d layers, %d troubles', count($print->layers), count($print->troubles));
        });
    }
    $parts = [$body];
    for ($n = 1; $n < 12; $n++) {
        $last = array_pop($parts);
        $cut = FlatCut::of($last, new FlatBlade(Plane::through([0.0, 0.0, $box->min[2] + $n * ($box->max[2] - $box->min[2]) / 12], [0.1, 0.05, 1.0])), $n);
        $bodies = $cut->bodies ?? [$last];
        usort($bodies, static fn (Mesh $a, Mesh $b): int => $b->triangleCount() <=> $a->triangleCount());
        $parts = [...array_slice($bodies, 1, 30), ...$parts, $bodies[0]];
    }
    $parts = array_slice($parts, 0, 60);
    $timed(count($parts).' pieces, an order', static function () use ($parts): string {
        $pairs = [];
        foreach ($parts as $n => $_) {
            for ($m = $n + 1; $m < count($parts); $m++) {
                $pairs[] = [$n, $m];
            }
        }
        $steps = Assembly::of($parts, Joints::of($parts, $pairs, 0.01));

        return sprintf(', %d steps, %d blocked', count($steps), count(array_filter($steps, static fn ($step): bool => $step->isBlocked)));
    });
}
