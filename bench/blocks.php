<?php

declare(strict_types=1);

// A section from stored blocks, cold: the mesh in an SQLite file as the application keeps it; every query on a connection of its own.

use Isotome\Cut\Section;
use Isotome\Format\StlReader;
use Isotome\Geometry\Extent;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Blocks;

require __DIR__.'/../vendor/autoload.php';

$mesh = StlReader::read($argv[1])->mesh;
$file = $argv[1].'.sqlite';
@unlink($file);
$db = new PDO("sqlite:$file");
$db->exec('create table blocks (id integer primary key, x0 real, x1 real, y0 real, y1 real, z0 real, z1 real, payload blob); begin');
$insert = $db->prepare('insert into blocks (x0, x1, y0, y1, z0, z1, payload) values (?, ?, ?, ?, ?, ?, ?)');
$blocks = 0;
foreach (Blocks::of($mesh) as ['box' => $box, 'payload' => $payload]) {
    foreach ($box as $n => $side) {
        $insert->bindValue($n + 1, var_export($side, true));
    }
    $insert->bindValue(7, $payload, PDO::PARAM_LOB);
    $insert->execute();
    $blocks++;
}
$db->exec('commit');
$extent = Extent::of($mesh->xyz);
$triangles = $mesh->triangleCount();
unset($mesh, $db, $insert);
$times = [];
$touched = 0;
for ($n = 0; $n < 25; $n++) {
    $plane = Plane::through([3.0 * $n - 36, 2.0, 3.0], [1.0, 0.2, 0.3]);
    $start = hrtime(true);
    $db = new PDO("sqlite:$file");
    // As numbers in the text: bound as text they would be read anew for every row.
    $query = $db->query(vsprintf('select payload from blocks where abs(%s * (x0 + x1) + %s * (y0 + y1) + %s * (z0 + z1) - %s) <= %s * (x1 - x0) + %s * (y1 - y0) + %s * (z1 - z0) + %s', array_map(
        static fn (float $number): string => '('.var_export($number, true).')',
        [$plane->nx, $plane->ny, $plane->nz, 2 * $plane->offset, abs($plane->nx), abs($plane->ny), abs($plane->nz), 1e-9],
    )));
    $payloads = (static function () use ($query, &$touched): Generator {
        while (($payload = $query->fetchColumn()) !== false) {
            $touched++;
            yield (string) $payload;
        }
    })();
    $section = Section::of(Blocks::touching($payloads, $plane, $extent), $plane, $extent);
    $times[] = (hrtime(true) - $start) / 1e6;
}
sort($times);
echo json_encode(['triangles' => $triangles, 'blocks' => $blocks, 'touched' => intdiv($touched, 25), 'median_ms' => $times[12], 'worst_ms' => $times[24]]), "\n";
