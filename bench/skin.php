<?php

declare(strict_types=1);

// What carrying costs: the flat cut of a mesh with one set of texture coordinates and two materials beside the bare one, in turns, in memory: seconds, the middle of seven.

use Isotome\Format\StlReader;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Tests\Support\Skins;

require __DIR__.'/../vendor/autoload.php';

$bare = StlReader::read($argv[1])->mesh;
$dressed = Skins::linear($bare);
$skin = $dressed->skin ?? throw new LogicException('It carries nothing.');
$dressed = $bare->withSkin(new Isotome\Mesh\Skin($skin->looks, $skin->materials, ['uv0' => $skin->layers['uv0']]));
$recipe = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [1, 2, 3], 'facing' => [1, 0.2, 0.3]]]]]);
$times = ['bare' => [], 'dressed' => []];
for ($n = 0; $n < 7; $n++) {
    foreach (['bare' => $bare, 'dressed' => $dressed] as $what => $mesh) {
        $runner = Runner::on('body', $mesh);
        $start = hrtime(true);
        $runner->run($recipe->steps[0]);
        $times[$what][] = (hrtime(true) - $start) / 1e9;
        unset($runner);
    }
}
$ratios = array_map(static fn (float $bare, float $dressed): float => $dressed / $bare, $times['bare'], $times['dressed']);
sort($times['bare']);
sort($times['dressed']);
sort($ratios);
echo json_encode(['triangles' => $bare->triangleCount(), 'bare' => $times['bare'][3], 'dressed' => $times['dressed'][3], 'ratio' => $ratios[3], 'worst' => $ratios[6]]), "\n";
