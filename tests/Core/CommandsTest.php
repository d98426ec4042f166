<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Format\MeshFile;
use Isotome\Mend\RemoveFaces;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\RunsIsotome;
use Tests\Support\Solids;

/** mend, profile, convert, section drawings and recipes of every kind, on the command line. */
final class CommandsTest extends TestCase
{
    use Folder;
    use RunsIsotome;

    private function torus(string $name = 'jar.stl'): string
    {
        MeshFile::write(Solids::torus(20, 7, 40, 24), $this->path($name), 'jar');

        return $this->path($name);
    }

    public function test_mend_closes_a_hole_and_leaves_a_sound_file_byte_for_byte(): void
    {
        [$code, $out] = $this->isotome('mend', $this->torus(), $this->path('same.stl'), '--json');
        self::assertSame([0, false], [$code, json_decode($out, true)['changed']]);
        self::assertFileEquals($this->path('jar.stl'), $this->path('same.stl'));
        MeshFile::write(RemoveFaces::of(Solids::torus(20, 7, 40, 24), [3 => true, 500 => true]), $this->path('open.obj'));
        [$code, $out] = $this->isotome('mend', $this->path('open.obj'), $this->path('closed.ply'), '--json');
        $document = json_decode($out, true);
        self::assertSame([0, true, 2, 6, 0], [$code, $document['watertight'], $document['did']['rims_closed'], $document['before']['open_edges'], $document['after']['open_edges']]);
        self::assertSame([false, true], [$document['before']['solid'], $document['after']['solid']]);
        self::assertTrue(EdgeCheck::of(MeshFile::read($this->path('closed.ply'))->mesh)->isWatertight());
    }

    public function test_profile_prints_the_document_of_the_contract(): void
    {
        [$code, $out] = $this->isotome('profile', $this->torus(), '--facing', '-1,0,0', '--samples', '9', '--json');
        $document = json_decode($out, true);
        self::assertSame([0, ['facing', 'positions_mm', 'areas_mm2', 'outlines']], [$code, array_keys($document)]);
        self::assertSame([9, 9, 9], [count($document['positions_mm']), count($document['areas_mm2']), count($document['outlines'])]);
        self::assertSame(2, $document['outlines'][4]);
    }

    public function test_convert_to_and_from_every_format(): void
    {
        $from = $this->torus();
        foreach (['obj', 'ply', 'off', '3mf', 'glb', 'stl'] as $format) {
            [$code, , $error] = $this->isotome('convert', $from, $this->path("next.$format"));
            self::assertSame([0, ''], [$code, $error], $format);
            $from = $this->path("next.$format");
        }
        self::assertEqualsWithDelta(Volume::of(Solids::torus(20, 7, 40, 24)), Volume::of(MeshFile::read($from)->mesh), 0.05);
    }

    public function test_section_draws(): void
    {
        [$code, $out] = $this->isotome('section', $this->torus(), '--through', '0,0,0', '--facing', '1,0,0', '--svg', $this->path('s.svg'), '--dxf', $this->path('s.dxf'), '--json');
        $document = json_decode($out, true);
        self::assertSame([0, 2], [$code, $document['outlines']]);
        self::assertEqualsWithDelta(14.0, $document['narrowest_mm'], 0.3);
        self::assertStringContainsString('</svg>', (string) file_get_contents($this->path('s.svg')));
        self::assertStringContainsString('POLYLINE', (string) file_get_contents($this->path('s.dxf')));
    }

    /** @return iterable<string, array{string}> */
    public static function formats(): iterable
    {
        foreach (MeshFile::FORMATS as $format) {
            yield $format => [$format];
        }
    }

    #[DataProvider('formats')]
    public function test_a_recipe_of_every_kind_of_step(string $format): void
    {
        $recipe = ['isotome_recipe' => 1, 'units' => 'mm', 'steps' => [
            ['do' => 'mend'],
            ['do' => 'score', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 3], 'facing' => [0, 0, 1]]],
            ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 0.2], 'facing' => [0, 0, 1]], 'kerf' => 0.2, 'catch' => 0.1],
            ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'stops' => [8, -8]], 'of' => ['jar-A*'], 'seal' => 'even', 'edge_mm' => 2.5],
            ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [0, 1, 0], 'parts' => 3], 'of' => ['jar-B']],
        ]];
        MeshFile::write(RemoveFaces::of(Solids::torus(20, 7, 40, 24), [3 => true]), $this->path('jar.stl'));
        [$code, $out, $error] = $this->isotome('run', $this->file('recipe.json', (string) json_encode($recipe)), $this->path('jar.stl'), '--out', $this->path('out'), '--as', $format, '--json');
        self::assertSame([0, ''], [$code, $error]);
        $document = json_decode($out, true);
        self::assertSame(['mend', 'score', 'cut', 'cut', 'cut'], array_column($document['steps'], 'do'));
        $volume = 0.0;
        foreach ($document['pieces'] as $piece) {
            self::assertTrue($piece['watertight'], $piece['name']);
            $read = MeshFile::read($this->path('out').'/'.$piece['file'])->mesh;
            self::assertSame([$piece['triangles'], $piece['vertices'], true], [$read->triangleCount(), $read->vertexCount(), EdgeCheck::of($read)->isWatertight()], $piece['name']);
            self::assertEqualsWithDelta($piece['volume_mm3'], Volume::of($read), 1e-6 * $piece['volume_mm3']);
            $volume += $piece['volume_mm3'];
        }
        self::assertGreaterThanOrEqual(8, count($document['pieces']));
        self::assertEqualsWithDelta(Volume::of(Solids::torus(20, 7, 40, 24)), $volume, 0.03 * $volume);
        // The recipe as the manifest has it gives the same pieces again.
        $again = $this->file('again.json', (string) json_encode($document['recipe']));
        [, $out] = $this->isotome('run', $again, $this->path('jar.stl'), '--out', $this->path('out2'), '--as', $format, '--json');
        self::assertSame($document['pieces'], json_decode($out, true)['pieces']);
    }

    public function test_several_bodies_in_one_file_are_stock_of_their_own_names(): void
    {
        MeshFile::writeAll(['wheel' => ['mesh' => Solids::torus(20, 7, 20, 12), 'colour' => '#8f9a86'], 'axle' => ['mesh' => Solids::box(4, 4, 60, [0.0, 0.0, -30.0]), 'colour' => '#8f9a86']], $this->path('mill.3mf'));
        $recipe = $this->file('r.json', '{"isotome_recipe":1,"steps":[{"do":"cut","blade":{"kind":"flat","through":[0,0,1],"facing":[0,0,1]},"of":["axle"]}]}');
        [$code, $out] = $this->isotome('run', $recipe, $this->path('mill.3mf'), '--out', $this->path('out'), '--json');
        self::assertSame([0, ['wheel', 'axle-A', 'axle-B']], [$code, array_column(json_decode($out, true)['pieces'], 'name')]);
    }

    /** @return iterable<string, array{list<string>}> */
    public static function refused(): iterable
    {
        yield 'an unknown format' => [['convert', '{jar}', '{folder}/a.xyz']];
        yield 'samples that are none' => [['profile', '{jar}', '--facing', '0,0,1', '--samples', 'many']];
        yield 'no sample' => [['profile', '{jar}', '--facing', '0,0,1', '--samples', '0']];
        yield 'no direction' => [['profile', '{jar}', '--facing', '0,0,0']];
        yield 'onto itself' => [['mend', '{jar}', '{jar}']];
        yield 'a negative distance' => [['check', '{jar}', '--near', '-1']];
        yield 'a format of pieces' => [['run', '{jar}', '{jar}', '--out', '{folder}/out', '--as', 'xyz']];
        yield 'a unit' => [['check', '{jar}', '--units', 'ell']];
    }

    /** @param  list<string>  $arguments */
    #[DataProvider('refused')]
    public function test_what_cannot_be_done_is_refused_in_one_line(array $arguments): void
    {
        $jar = $this->torus();
        [$code, $out, $error] = $this->isotome(...array_map(static fn (string $word): string => str_replace(['{jar}', '{folder}'], [$jar, dirname($jar)], $word), $arguments));
        self::assertSame([2, ''], [$code, $out]);
        self::assertMatchesRegularExpression('/^isotome: [^\n]{15,}\n$/', $error);
        self::assertFileDoesNotExist(dirname($jar).'/a.xyz');
    }
}
