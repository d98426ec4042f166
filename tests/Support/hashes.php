<?php

declare(strict_types=1);

// Prints hashes of the core's results on a mesh of 150,000 triangles, for JitTest to compare.

use Isotome\Check\EdgeCheck;
use Isotome\Check\FaceCheck;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Section;
use Isotome\Format\StlReader;
use Isotome\Format\StlWriter;
use Isotome\Measure\Box;
use Isotome\Measure\Volume;
use Isotome\Mesh\Blocks;
use Isotome\Mesh\Packing;
use Tests\Support\Blades;
use Tests\Support\Solids;

require __DIR__.'/../../vendor/autoload.php';
ini_set('serialize_precision', '-1');

$folder = sys_get_temp_dir().'/isotome-hashes-'.getmypid();
mkdir($folder);
$mesh = StlWriter::write(Solids::moved(Solids::torus(50, 20, 300, 250), 0.2, 0.3, 0.4), "$folder/torus.stl");
$hashes = ['file' => hash_file('sha256', "$folder/torus.stl"), 'read' => Packing::hash(StlReader::read("$folder/torus.stl")->mesh)];
$hashes['checks'] = json_encode([EdgeCheck::of($mesh), FaceCheck::of($mesh), Box::of($mesh), Volume::measure($mesh)]);
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
array_map(unlink(...), glob("$folder/*") ?: []);
rmdir($folder);
$status = function_exists('opcache_get_status') ? opcache_get_status(false) : false;
echo json_encode(['jit' => is_array($status) && ($status['jit']['on'] ?? false), 'hashes' => $hashes]);
