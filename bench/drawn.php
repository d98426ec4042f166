<?php

declare(strict_types=1);

// Cuts along drawn lines in memory, plain and rough, beside a flat cut of the same body in the same run: medians of five, the worst, and the peak in megabytes. php bench/drawn.php

use Isotome\Cells\CellsBlade;
use Isotome\Cells\Grain;
use Isotome\Cells\Shatter;
use Isotome\Cells\ShatterSettings;
use Isotome\Cells\StandIn;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Drawn\DrawnBlade;
use Isotome\Drawn\DrawnCut;
use Isotome\Drawn\DrawnForecast;
use Isotome\Drawn\Shape;
use Isotome\Drawn\Sight;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

require __DIR__.'/bodies.php';

/** @return array{float, float} the median and the worst of five, seconds */
function timed(callable $work): array
{
    $took = [];
    $work();
    for ($n = 0; $n < 5; $n++) {
        $start = hrtime(true);
        $work();
        $took[] = (hrtime(true) - $start) / 1e9;
    }
    sort($took);

    return [$took[2], $took[4]];
}

/**
 * Two kinds of work by turns, as machines change their pace.
 *
 * @return array{array{float, float}, array{float, float}}
 */
function byTurns(callable $one, callable $two): array
{
    [$ones, $twos] = [[], []];
    $one();
    $two();
    for ($n = 0; $n < 7; $n++) {
        $start = hrtime(true);
        $one();
        $between = hrtime(true);
        $two();
        $ones[] = ($between - $start) / 1e9;
        $twos[] = (hrtime(true) - $between) / 1e9;
    }
    sort($ones);
    sort($twos);

    return [[$ones[3], $ones[6]], [$twos[3], $twos[6]]];
}

$along = Sight::along([0, 1, 0]);
$stroke = [];
for ($i = 0; $i <= 40; $i++) {
    $x = -75 + 150 * $i / 40;
    $stroke[] = [$x, 0.0, 0.3 + 6 * sin($x / 9)];
}
$outline = [];
for ($i = 0; $i < 200; $i++) {
    $r = 25 + 4 * sin(11 * 2 * M_PI * $i / 200);
    $outline[] = [$r * cos(2 * M_PI * $i / 200), 0.0, $r * sin(2 * M_PI * $i / 200)];
}
$plane = Plane::through([0.1, 0.2, 0.3], [0.02, 0.03, 1]);
foreach (['ball' => ball(100), 'gyroid' => gyroid(47), 'knot' => knot(250, 200)] as $name => $body) {
    [$flat, $drawn] = byTurns(
        static fn () => FlatCut::of($body, new FlatBlade($plane), 1),
        static fn () => DrawnCut::of($body, new DrawnBlade(Shape::Stroke, [$stroke], $along), 1),
    );
    $standIn = StandIn::rough($body);
    $told = timed(static fn () => DrawnForecast::of($standIn, new DrawnBlade(Shape::Stroke, [$stroke], $along)));
    printf("%s, %d triangles: flat %.3f s, stroke of 40 %.3f s (worst %.3f), %.1f flat cuts; foreseen in %.3f s\n", $name, $body->triangleCount(), $flat[0], $drawn[0], $drawn[1], $drawn[0] / $flat[0], $told[0]);
}
foreach (['ball' => ball(1000), 'gyroid' => gyroid(149)] as $name => $body) {
    $drawn = timed(static fn () => DrawnCut::of($body, new DrawnBlade(Shape::Outline, [$outline], $along), 1));
    printf("%s, %d triangles: outline of 200 corners %.2f s (worst %.2f)\n", $name, $body->triangleCount(), ...$drawn);
}
// Thirty letters, each an outline with a hole, out of a flat sheet.
$letters = [];
for ($n = 0; $n < 30; $n++) {
    [$u, $v] = [20 * ($n % 10) + 5, 25 * intdiv($n, 10) + 5];
    foreach ([[7, 40], [3.5, 30]] as [$r, $corners]) {
        $letters[] = array_map(static fn (int $k): array => [$u + 5 + $r * cos(2 * M_PI * $k / $corners), 0.0, $v + 8 + $r * sin(2 * M_PI * $k / $corners)], range(0, $corners - 1));
    }
}
$sheet = Mesh::of([0, 0, 0, 210, 0, 0, 210, 0, 85, 0, 0, 85], [0, 1, 2, 0, 2, 3]);
printf("30 letters of 70 corners out of a sheet: %.2f s (worst %.2f)\n", ...timed(static fn () => DrawnCut::of($sheet, new DrawnBlade(Shape::Outline, $letters, $along, keep: Keep::Behind), 1, isSheet: true)));
// Rough walls: a stroke with hills of a tenth of the body, and a hundred shards.
foreach (['ball' => ball(100), 'gyroid' => gyroid(47), 'knot' => knot(250, 200)] as $name => $body) {
    $rough = timed(static fn () => DrawnCut::of($body, new DrawnBlade(Shape::Stroke, [$stroke], $along, grain: new Grain(2.0, 10.0, 0.4, 3.0, 1.0, 7)), 1));
    $shards = timed(static fn () => Shatter::of($body, new CellsBlade('even', 100, 3), new ShatterSettings(grain: new Grain(1.0, 8.0, seed: 7)), 1));
    printf("%s, %d triangles: rough stroke %.2f s (worst %.2f), 100 rough shards %.2f s (worst %.2f)\n", $name, $body->triangleCount(), ...$rough, ...$shards);
}
printf("most memory %.0f MB\n", memory_get_peak_usage() / 1048576);
