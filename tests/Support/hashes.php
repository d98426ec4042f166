<?php

declare(strict_types=1);

// Prints hashes of the core's results on a mesh of 70,000 triangles, for JitTest to compare.

use Isotome\Cells\CellsBlade;
use Isotome\Cells\Chop;
use Isotome\Cells\Forecast;
use Isotome\Cells\Shatter;
use Isotome\Cells\ShatterSettings;
use Isotome\Cells\StandIn;
use Isotome\Check\Crossings;
use Isotome\Check\FaceCheck;
use Isotome\Cut\Catching;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Score;
use Isotome\Cut\Seal;
use Isotome\Cut\Section;
use Isotome\Cut\Series;
use Isotome\Cut\SeriesCut;
use Isotome\Format\MeshFile;
use Isotome\Format\StlReader;
use Isotome\Format\StlWriter;
use Isotome\Geometry\Box;
use Isotome\Measure\Inertia;
use Isotome\Measure\NarrowestWidth;
use Isotome\Measure\Profile;
use Isotome\Mend\Mend;
use Isotome\Mend\RemoveFaces;
use Isotome\Mesh\Blocks;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Volume;
use Isotome\Mirror\Copies;
use Isotome\Mirror\Mirror;
use Isotome\Mirror\MirrorSettings;
use Isotome\Mirror\Symmetry;
use Isotome\Motion\Actor;
use Isotome\Motion\Movement;
use Isotome\Operation\Kinds;
use Isotome\Operation\Piece;
use Isotome\Operation\Runner;
use Tests\Support\Blades;
use Tests\Support\Solids;

require __DIR__.'/../../vendor/autoload.php';
ini_set('serialize_precision', '-1');

$folder = sys_get_temp_dir().'/isotome-hashes-'.bin2hex(random_bytes(8));
mkdir($folder);
$mesh = StlWriter::write(Solids::moved(Solids::torus(50, 20, 200, 175), 0.2, 0.3, 0.4), "$folder/torus.stl");
$hashes = ['file' => hash_file('sha256', "$folder/torus.stl"), 'read' => Packing::hash(StlReader::read("$folder/torus.stl")->mesh)];
$hashes['checks'] = json_encode([EdgeCheck::of($mesh), FaceCheck::of($mesh), Box::of($mesh->xyz), Volume::measure($mesh)]);
$blocks = hash_init('sha256');
foreach (Blocks::of($mesh) as $block) {
    hash_update($blocks, $block['payload']);
}
$hashes['blocks'] = hash_final($blocks);
$blades = new Blades($mesh, 4);
for ($n = 0; $n < 10; $n++) {
    $plane = $n % 2 ? $blades->unlucky() : $blades->anywhere();
    $hashes["section $n"] = hash('sha256', serialize(Section::of($mesh, $plane)));
    foreach (FlatCut::of($mesh, new FlatBlade($plane), 1)->bodies ?? [] as $b => $body) {
        $hashes["cut $n body $b"] = Packing::hash($body);
        $hashes["cut $n file $b"] = Packing::hash(StlWriter::write($body, "$folder/piece.stl"));
    }
}
$even = new FlatBlade($blades->anywhere(), seal: Seal::Even, edge: 2.0);
foreach (FlatCut::of($mesh, $even, 1)->bodies ?? [] as $b => $body) {
    $hashes["even $b"] = Packing::hash($body);
}
$facing = $blades->anywhere()->facing();
foreach (SeriesCut::of($mesh, Series::parts($facing, 9)->planes($mesh), new FlatBlade($blades->anywhere(), kerf: 0.3), 1)->bodies ?? [] as $b => $body) {
    $hashes["series $b"] = Packing::hash($body);
}
foreach (['uniform' => new CellsBlade('uniform', 60, 3), 'blocks' => new CellsBlade('blocks', blocks: [5, 4, 2], brick: true, wander: 0.2), 'rings' => new CellsBlade('rings', rings: 3, sectors: 5)] as $kind => $cells) {
    foreach (Shatter::of($mesh, $cells, new ShatterSettings(kerf: $kind === 'rings' ? 0.4 : 0.0, smallest: $kind === 'uniform' ? 0.01 : 0.0), 1)->bodies ?? [] as $b => $body) {
        $hashes["$kind $b"] = Packing::hash($body);
    }
}
$mirror = new MirrorSettings([$blades->anywhere()], smooth: 20.0, catch: 0.1);
foreach (Mirror::of($mesh, $mirror, 1)->bodies as $b => $body) {
    $hashes["mirror $b"] = Packing::hash($body);
}
foreach (Chop::of($mesh, 4, [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]], 0.1, 10.0, 3, new ShatterSettings, 1)->bodies ?? [] as $b => $body) {
    $hashes["chop $b"] = Packing::hash($body);
}
foreach (Copies::of($mesh, [0.0, 0.0, 0.0], [0.1, 0.2, 1.0], 3)->bodies as $b => $body) {
    $hashes["copy $b"] = Packing::hash($body);
}
$symmetry = Symmetry::of($mesh, $blades->anywhere(), 400);
$hashes['symmetry'] = serialize([$symmetry->largest, $symmetry->mean]);
$standIn = StandIn::of($mesh);
$forecast = Forecast::of($standIn, (new CellsBlade('even', 40, 3))->within($standIn));
$hashes['forecast'] = hash('sha256', serialize([$forecast->skin, $forecast->inner, $forecast->volumes]));
$hashes['score'] = Packing::hash(Score::of($mesh, $blades->anywhere())->mesh ?? $mesh);
$hashes['caught'] = Packing::hash(Catching::of($mesh, $blades->anywhere(), 0.3)->mesh);
$hashes['profile'] = hash('sha256', serialize(Profile::sampled($mesh, $facing, 100)));
$hashes['inertia'] = hash('sha256', serialize(Inertia::of($mesh)));
$hashes['width'] = serialize(NarrowestWidth::of(Section::of($mesh, $blades->anywhere())->outlines));
$two = Solids::together(Solids::torus(50, 20, 120, 60), Solids::moved(Solids::torus(50, 20, 120, 60), 0.3, 0.2, 0.1, 1.0, [20.0, 0.0, 0.0]));
$hashes['crossings'] = hash('sha256', serialize(Crossings::of($two)));
$gone = [];
foreach ($mesh->tags as $t => $_) {
    if ($t % 997 < 40) {
        $gone[$t] = true;
    }
}
$hashes['mended'] = Packing::hash(Mend::of(RemoveFaces::of($mesh, $gone))->mesh);
foreach (['obj', 'ply', 'off', '3mf', 'glb'] as $format) {
    MeshFile::write($two, "$folder/two.$format", 'two');
    $hashes[$format] = hash_file('sha256', "$folder/two.$format");
    $hashes["$format read"] = Packing::hash(MeshFile::read("$folder/two.$format")->mesh);
}
array_map(unlink(...), glob("$folder/*") ?: []);
rmdir($folder);
$status = function_exists('opcache_get_status') ? opcache_get_status(false) : false;
$shards = Runner::on('ball', Solids::moved(Solids::sphere(30, 3), 0.2, 0.3, 0.4));
$shards->run(Kinds::read(['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'uniform', 'count' => 9, 'seed' => 2]], 'step'));
$actors = array_map(static fn (Piece $piece): Actor => new Actor($piece->name, Volume::measure($piece->mesh)->centroid, $piece->mesh), array_values($shards->pieces()));
foreach (['drop' => ['do' => 'drop', 'floor' => -90, 'spin' => [40, 10, 0]], 'glued drop' => ['do' => 'drop', 'floor' => -90, 'glue' => 0.01, 'push' => 300], 'faces' => ['do' => 'spread', 'from' => 'faces'], 'wave' => ['do' => 'wave', 'front' => 'random', 'random' => 0.3, 'shift' => [0, 0, 9], 'degrees' => 50]] as $what => $layer) {
    $poses = Movement::fromArray(['isotome_movement' => 1, 'frames' => 40, 'layers' => [$layer]])->poses($actors);
    $hashes[$what] = hash('sha256', serialize([$poses->shifts, $poses->turns, $poses->scales]));
}
echo json_encode(['jit' => is_array($status) && ($status['jit']['on'] ?? false), 'hashes' => $hashes]);
