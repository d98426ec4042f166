<?php

declare(strict_types=1);

// Plans for printers of 200 mm: the heron, and bodies of a million triangles half a metre large. Time, memory and what each alternative costs. php bench/plan.php

use Demo\Heron;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;
use Isotome\Plan\Plans;
use Isotome\Plan\Wishes;

require __DIR__.'/bodies.php';

$sized = static function (Mesh $mesh, float $size): Mesh {
    $scale = $size / max(Box::of($mesh->xyz)->size());

    return Mesh::of(array_map(static fn (float $at): float => $at * $scale, $mesh->xyz), $mesh->corners);
};
foreach (['heron' => static fn (): Mesh => Heron::mesh(), 'ball' => static fn (): Mesh => $sized(ball(1000), 500.0), 'knot' => static fn (): Mesh => $sized(knot(1000, 500), 500.0), 'gyroid' => static fn (): Mesh => $sized(gyroid(149), 500.0)] as $name => $made) {
    $body = $made();
    memory_reset_peak_usage();
    foreach ([0.0, 0.3] as $gap) {
        $start = hrtime(true);
        $plans = Plans::of($body, Wishes::of([200.0, 200.0, 200.0], 0.0, $gap));
        printf("%s, %d triangles, gap %.1f mm: %.1f s, %.0f MB; at least %d\n", $name, $body->triangleCount(), $gap, (hrtime(true) - $start) / 1e9, memory_get_peak_usage() / 1048576, $plans->least);
        foreach ($plans->alternatives as $alternative) {
            printf('    %d pieces, cost %.2f:', count($alternative->pieces), $alternative->cost());
            foreach (array_filter($alternative->terms->toArray(), static fn (float $term): bool => abs($term) >= 0.005) as $term => $cost) {
                printf(' %s %.2f', $term, $cost);
            }
            echo "\n";
        }
    }
}
