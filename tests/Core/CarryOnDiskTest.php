<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Format\Colours;
use Isotome\Format\Companions;
use Isotome\Format\MeshFile;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Folder;
use Tests\Support\Skins;

/** What is a linear function of place on a body still is that function at every corner of its pieces as files hold them, to the files' precision; seams stay seams. */
final class CarryOnDiskTest extends TestCase
{
    use Folder;

    private const BODIES = ['torus, one handle', 'hollow ball with a ball in the cavity', 'millstone', 'heron'];

    private const STEPS = '{"isotome_recipe":1,"steps":[{"do":"cut","blade":{"kind":"flat","through":[1,2,3],"facing":[0.3,-0.4,1]},"kerf":0.2},{"do":"cut","blade":{"kind":"cells","by":"uniform","count":6,"seed":11}}]}';

    /** @return array<string, array{string, bool, bool}> format; has it texture coordinates, and are its colours of 8 bits? */
    public static function formats(): array
    {
        return ['glb' => ['glb', true, false], 'obj' => ['obj', true, false], '3mf' => ['3mf', false, true], 'ply' => ['ply', false, true], 'off' => ['off', false, false]];
    }

    #[DataProvider('formats')]
    public function test_linear_functions_stay_what_they_are(string $format, bool $hasPlaces, bool $isCoarse): void
    {
        foreach (self::BODIES as $name) {
            $runner = Runner::on('body', Skins::linear(Bodies::named($name)));
            foreach (Recipe::fromJson(self::STEPS)->steps as $step) {
                $runner->run($step);
            }
            $corners = 0;
            foreach ($runner->pieces() as $piece) {
                $written = MeshFile::write($piece->mesh, $this->path("piece.$format"), $piece->name);
                if ($written->isEmpty()) {
                    continue;
                }
                $read = MeshFile::read($this->path("piece.$format"), files: Companions::beside($this->path("piece.$format")))->mesh;
                self::assertNotNull($read->skin, "$name, {$piece->name}");
                $corners += $this->check($read, $hasPlaces, $isCoarse, "$name, {$piece->name}");
            }
            self::assertGreaterThan(500, $corners, $name);
        }
    }

    /** @return int corners that were compared */
    private function check(Mesh $mesh, bool $hasPlaces, bool $isCoarse, string $about): int
    {
        $skin = $mesh->skin;
        $worst = $worstPlace = 0.0;
        $compared = 0;
        $blank = [1.0, 1.0, 1.0, 1.0];
        foreach ($mesh->tags as $t => $tag) {
            $colours = $tag > 0 || $skin === null ? [] : array_chunk($skin->layers[Skin::COLOUR]->at($t), 4);
            foreach ($colours as $k => $colour) {
                $v = 3 * $mesh->corners[3 * $t + $k];
                $place = [$mesh->xyz[$v], $mesh->xyz[$v + 1], $mesh->xyz[$v + 2]];
                $expected = Skins::colour($place);
                // Beyond 0 to 1 files hold no colours; and PLY and OFF do not tell new faces from old ones.
                if (min($expected) < 0.0 || max($expected) > 1.0 || $colour === $blank) {
                    continue;
                }
                for ($c = 0; $c < 3; $c++) {
                    $worst = max($worst, $isCoarse ? abs(Colours::written($expected[$c]) - Colours::written($colour[$c])) : abs($expected[$c] - $colour[$c]));
                }
                if ($hasPlaces && $skin !== null) {
                    $name = $skin->looks->name($skin->materialOf($t));
                    self::assertContains($name, ['oak', 'iron'], $about);
                    [$u, $w] = Skins::uv($place, $name === 'iron');
                    [$ownU, $ownW] = array_slice($skin->layers['uv0']->at($t), 2 * $k, 2);
                    $worstPlace = max($worstPlace, abs($u - $ownU), abs($w - $ownW));
                }
                $compared++;
            }
        }
        // Half a step of 8 bits; else six digits of a colour, or a 32-bit float of a coordinate near 10.
        self::assertLessThan($isCoarse ? 0.5 / 255 + 1e-6 : 3e-6, $worst, $about);
        self::assertLessThan(3e-6, $worstPlace, $about);

        return $compared;
    }
}
