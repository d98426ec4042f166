<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Format\StlReader;
use Isotome\Format\StlWriter;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\RunsIsotome;
use Tests\Support\Solids;

/** bin/isotome as another program calls it. */
final class CommandLineTest extends TestCase
{
    use Folder;
    use RunsIsotome;

    private function stl(string $name = 'heron.stl'): string
    {
        StlWriter::write(Solids::torus(20, 7, 40, 24), $this->path($name));

        return $this->path($name);
    }

    private function recipe(mixed ...$steps): string
    {
        return $this->file('recipe.json', (string) json_encode(['isotome_recipe' => 1, 'units' => 'mm', 'steps' => $steps]));
    }

    public function test_check_prints_the_document_of_the_contract(): void
    {
        [$code, $out, $error] = $this->isotome('check', $this->stl(), '--units', 'cm', '--json');
        $document = json_decode($out, true);
        self::assertSame([0, ''], [$code, $error]);
        self::assertSame(
            ['file', 'units', 'triangles', 'vertices', 'shells', 'size_mm', 'min_mm', 'max_mm', 'volume_mm3', 'area_mm2', 'centroid_mm', 'watertight', 'faults', 'solid'],
            array_keys($document),
        );
        self::assertTrue($document['solid']);
        [, $out] = $this->isotome('check', $this->stl(), '--fast', '--json');
        self::assertArrayNotHasKey('solid', json_decode($out, true));
        self::assertSame(['open_edges', 'nonmanifold_edges', 'flipped_edges', 'doubled_faces', 'sliver_faces', 'crossing_faces', 'inner_faces'], array_keys($document['faults']));
        self::assertSame(['heron.stl', 'cm', 1920, 960, 1, true], [$document['file'], $document['units'], $document['triangles'], $document['vertices'], $document['shells'], $document['watertight']]);
        self::assertEqualsWithDelta(540.0, $document['size_mm'][0], 1e-4);
    }

    public function test_check_of_an_open_mesh_ends_with_1_and_counts(): void
    {
        $box = Solids::box(1, 1, 1);
        $file = $this->path('open.stl');
        StlWriter::write(\Isotome\Mesh\Mesh::of($box->xyz, array_slice($box->corners, 3)), $file);
        [$code, $out] = $this->isotome('check', $file, '--json');
        self::assertSame([1, 3, false, false], [$code, json_decode($out, true)['faults']['open_edges'], json_decode($out, true)['watertight'], json_decode($out, true)['solid']]);
        [$code, $out] = $this->isotome('check', $file);
        self::assertSame(1, $code);
        self::assertStringContainsString('3 open edges', $out);
    }

    public function test_run_writes_pieces_whose_manifest_is_true_of_the_files(): void
    {
        $recipe = $this->recipe(
            ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 1], 'facing' => [0.1, 0, 1]]],
            ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [1, 0, 0], 'facing' => [1, 0, 0]], 'of' => ['heron-A'], 'kerf' => 0.3],
        );
        [$code, $out, $error] = $this->isotome('run', $recipe, $this->stl(), '--out', $this->path('out'), '--json');
        self::assertSame([0, ''], [$code, $error]);
        $document = json_decode($out, true);
        self::assertSame($document, json_decode((string) file_get_contents($this->path('out/manifest.json')), true));
        self::assertSame(['heron-A-A', 'heron-A-B', 'heron-B'], array_column($document['pieces'], 'name'));
        self::assertSame([['heron'], ['heron-A']], array_column($document['steps'], 'took'));
        foreach ($document['pieces'] as $piece) {
            $mesh = StlReader::read($this->path('out/'.$piece['file']))->mesh;
            self::assertSame($piece['watertight'], EdgeCheck::of($mesh)->isWatertight());
            self::assertTrue($piece['watertight']);
            self::assertSame([$piece['triangles'], $piece['vertices']], [$mesh->triangleCount(), $mesh->vertexCount()]);
            self::assertEqualsWithDelta($piece['volume_mm3'], Volume::of($mesh), 1e-9 * $piece['volume_mm3']);
        }
        self::assertCount(4, array_diff(scandir($this->path('out')) ?: [], ['.', '..']));
        // The recipe in the manifest gives the same bytes again.
        $again = $this->file('again.json', (string) json_encode($document['recipe']));
        $this->isotome('run', $again, $this->stl(), '--out', $this->path('again'));
        foreach ($document['pieces'] as $piece) {
            self::assertFileEquals($this->path('out/'.$piece['file']), $this->path('again/'.$piece['file']));
        }
    }

    public function test_section_measures(): void
    {
        $file = $this->path('box.stl');
        StlWriter::write(Solids::box(10, 20, 30), $file);
        [$code, $out] = $this->isotome('section', $file, '--through', '-1,2,-3.5e0', '--facing', '0,-1,0', '--json');
        self::assertSame(0, $code);
        self::assertSame(['area_mm2' => 300.0, 'perimeter_mm' => 80.0, 'outlines' => 1, 'narrowest_mm' => 10.0], json_decode($out, true));
    }

    public function test_convert_makes_ascii_binary(): void
    {
        $ascii = $this->file('a.stl', "solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid a\n");
        self::assertSame(0, $this->isotome('convert', $ascii, $this->path('b.stl'))[0]);
        self::assertSame(134, filesize($this->path('b.stl')));
    }

    public function test_what_is_refused_ends_with_2_one_line_and_no_file(): void
    {
        $good = $this->stl();
        $short = $this->file('short.stl', substr((string) file_get_contents($good), 0, 5000));
        $cut = ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 1], 'facing' => [0, 0, 1]]];
        $recipe = $this->recipe($cut);
        $miss = $this->file('miss.json', (string) json_encode(['isotome_recipe' => 1, 'steps' => [$cut, [...$cut, 'blade' => [...$cut['blade'], 'through' => [0, 0, 99]]]]]));
        $wrong = $this->file('wrong.json', '{"isotome_recipe": 1, "steps": [{"do": "melt"}]}');
        $out = $this->path('never');
        $calls = [
            ['check', $this->path('none.stl')], ['check', $short], ['check', $good, '--units', 'ell'], ['check'], ['check', $good, '--frob'], ['frob'],
            ['check', $this->file('mesh.doc', 'x')], ['convert', $short, $this->path('never.stl')], ['convert', $good, $this->path('no/such/folder/x.stl')],
            ['run', $wrong, $good, '--out', $out], ['run', $miss, $good, '--out', $out], ['run', $recipe, $short, '--out', $out], ['run', $recipe, $good],
            ['run', $recipe, $good, '--out', $out, '--as', 'doc'], ['run', $this->path('none.json'), $good, '--out', $out], ['run', $recipe, $good, '--out', $good],
            ['section', $good, '--through', '0,0', '--facing', '0,0,1'], ['section', $good, '--through', '0,0,1', '--facing', '0,0,0'],
            ['section', $good, '--through', '0,0,99', '--facing', '0,0,1'], ['section', $good, '--facing', '0,0,1'], ['section', $good, '--through', '0,0,nan', '--facing', '0,0,1'],
        ];
        foreach ($calls as $call) {
            [$code, $standard, $error] = $this->isotome(...$call);
            $what = implode(' ', array_map(basename(...), $call));
            self::assertSame([2, ''], [$code, $standard], $what);
            self::assertMatchesRegularExpression('/^isotome: [^\n]+; [^\n]+\.\n$/', $error, $what);
            self::assertStringNotContainsString('#0', $error, $what);
        }
        self::assertFileDoesNotExist($out);
        self::assertFileDoesNotExist($this->path('never.stl'));
        self::assertSame([], glob($this->path('*partial*')));
    }

    public function test_unite_makes_one_solid_of_several_files(): void
    {
        foreach (['one' => Solids::box(2, 2, 2), 'two' => Solids::box(2, 2, 2, [1.0, 1.0, 1.0]), 'three' => Solids::box(1, 1, 1, [9.0, 0.0, 0.0])] as $name => $mesh) {
            StlWriter::write($mesh, $this->path("$name.stl"));
        }
        [$code, $out, $error] = $this->isotome('unite', $this->path('one.stl'), $this->path('two.stl'), $this->path('three.stl'), $this->path('all.stl'), '--json');
        $document = json_decode($out, true);
        self::assertSame([0, ''], [$code, $error]);
        self::assertSame([['one.stl', 'two.stl', 'three.stl'], 'all.stl', 3, 2, 48, true], [$document['files'], $document['output'], $document['meshes'], $document['bodies'], $document['triangles'], $document['watertight']]);
        self::assertEqualsWithDelta(16.0, Volume::measure(StlReader::read($this->path('all.stl'))->mesh)->volume, 1e-9);
        // Of one file that crosses itself.
        StlWriter::write(Solids::together(Solids::box(2, 2, 2), Solids::box(2, 2, 2, [1.0, 1.0, 1.0])), $this->path('crossed.stl'));
        [$code, $out] = $this->isotome('unite', $this->path('crossed.stl'), $this->path('solid.stl'));
        self::assertSame([0, "solid.stl: 1 mesh, 1 body, 36 triangles, 15.000 mm³, watertight\n"], [$code, $out]);
        foreach ([
            [[$this->path('one.stl')], 'isotome: The output is missing; name one mesh or several, and last the file to write.'],
            [[$this->path('one.stl'), $this->path('one.stl')], 'isotome: The output is one of the inputs; name another file, so that the original stays.'],
            [[$this->path('one.stl'), $this->path('all.doc')], 'isotome: The file all.doc is not named as one of the formats'],
        ] as [$arguments, $says]) {
            [$code, $out, $error] = $this->isotome('unite', ...$arguments);
            self::assertSame([2, ''], [$code, $out]);
            self::assertStringStartsWith($says, $error);
        }
        $box = Solids::box(1, 1, 1);
        StlWriter::write(\Isotome\Mesh\Mesh::of($box->xyz, array_slice($box->corners, 3)), $this->path('open.stl'));
        [$code, , $error] = $this->isotome('unite', $this->path('one.stl'), $this->path('open.stl'), $this->path('none.stl'));
        self::assertSame([2, "isotome: open.stl is not watertight (3 edges); mend it first.\n", false], [$code, $error, is_file($this->path('none.stl'))]);
    }

    public function test_run_takes_several_files_and_subtracts_one_from_another(): void
    {
        StlWriter::write(Solids::box(4, 4, 4), $this->path('plate.stl'));
        StlWriter::write(Solids::box(2, 2, 6, [1.0, 1.0, -1.0]), $this->path('post.stl'));
        [$code, $out] = $this->isotome('run', $this->recipe(['do' => 'subtract', 'of' => ['plate'], 'with' => ['post']]), $this->path('plate.stl'), $this->path('post.stl'), '--out', $this->path('out'), '--json');
        $document = json_decode($out, true);
        self::assertSame([0, ['plate-A']], [$code, array_column($document['pieces'], 'name')]);
        self::assertEqualsWithDelta(48.0, $document['pieces'][0]['volume_mm3'], 1e-9);
        self::assertSame(['plate', 'post'], $document['pieces'][0]['parents']);
        [$code, , $error] = $this->isotome('run', $this->recipe(['do' => 'unite']), $this->path('plate.stl'), $this->path('plate.stl'), '--out', $this->path('again'));
        self::assertSame([2, "isotome: Two inputs are called plate; rename one of the files, so that the recipe can tell them apart.\n"], [$code, $error]);
    }

    public function test_plan_proposes_recipes_that_run(): void
    {
        StlWriter::write(Solids::box(390, 190, 290), $this->path('chest.stl'));
        [$code, $out] = $this->isotome('plan', $this->path('chest.stl'), '--bed', '200,200,200', '--gap', '0.3', '--alternatives', '2', '--json');
        $document = json_decode($out, true);
        self::assertSame([0, ['lower_bound', 'alternatives']], [$code, array_keys($document)]);
        self::assertGreaterThanOrEqual(1, count($document['alternatives']));
        foreach ($document['alternatives'] as $alternative) {
            self::assertSame(['pieces', 'cuts', 'cost', 'terms', 'fits', 'recipe'], array_keys($alternative));
            self::assertGreaterThanOrEqual($document['lower_bound'], $alternative['pieces']);
            self::assertEqualsWithDelta($alternative['cost'], array_sum($alternative['terms']), 1e-9);
            file_put_contents($this->path('plan.json'), json_encode($alternative['recipe'], JSON_PRESERVE_ZERO_FRACTION));
            [$code, $out] = $this->isotome('run', $this->path('plan.json'), $this->path('chest.stl'), '--out', $this->path('planned'), '--json');
            $pieces = json_decode($out, true)['pieces'];
            self::assertSame([0, $alternative['pieces']], [$code, count($pieces)]);
            self::assertEqualsCanonicalizing(array_column($alternative['fits'], 'name'), array_column($pieces, 'name'));
            foreach ($pieces as $piece) {
                self::assertTrue($piece['watertight']);
                // By an exact search over all turns, on the file as written.
                $read = \Isotome\Format\MeshFile::read($this->path("planned/{$piece['file']}"));
                self::assertTrue(\Isotome\Fit\Turned::into($read->mesh->xyz, new \Isotome\Fit\BuildSpace(200.0001, 200.0001, 200.0001))->fits(), $piece['name']);
            }
        }
        self::assertSame(4, $document['alternatives'][0]['pieces']);
    }

    public function test_what_fits_as_it_is_needs_no_cut(): void
    {
        StlWriter::write(Solids::box(250, 20, 30), $this->path('rail.stl'));
        [$code, $out] = $this->isotome('plan', $this->path('rail.stl'), '--bed', '200,200,200', '--json');
        $document = json_decode($out, true);
        self::assertSame([0, 1, 1, 1], [$code, $document['lower_bound'], count($document['alternatives']), $document['alternatives'][0]['pieces']]);
        file_put_contents($this->path('plan.json'), json_encode($document['alternatives'][0]['recipe'], JSON_PRESERVE_ZERO_FRACTION));
        [$code, $out] = $this->isotome('run', $this->path('plan.json'), $this->path('rail.stl'), '--out', $this->path('planned'), '--json');
        self::assertSame(0, $code);
        foreach (json_decode($out, true)['pieces'][0]['size_mm'] as $side) {
            self::assertLessThanOrEqual(200.0001, $side);
        }
        [$code, $out] = $this->isotome('plan', $this->path('rail.stl'), '--bed', '200,200,200');
        self::assertSame([0, "At least 1 piece is needed.\n1: 1 piece, 0 cuts"], [$code, substr($out, 0, 46)]);
    }

    public function test_what_cannot_be_planned_is_refused(): void
    {
        StlWriter::write($box = Solids::box(300, 20, 30), $this->path('rail.stl'));
        StlWriter::write(\Isotome\Mesh\Mesh::of($box->xyz, array_slice($box->corners, 3)), $this->path('open.stl'));
        foreach ([
            ["isotome: --bed is missing; give three numbers with commas between, such as --bed 0,0,120.\n", 'rail.stl', []],
            ["isotome: The bed's width is 0 mm; give one from 1 mm to 100 m.\n", 'rail.stl', ['--bed', '0,200,200']],
            ["isotome: The bed's width is -5 mm; give one from 1 mm to 100 m.\n", 'rail.stl', ['--bed', '-5,200,200']],
            ["isotome: --gap is \"wide\"; give a number of millimetres.\n", 'rail.stl', ['--bed', '200,200,200', '--gap', 'wide']],
            ["isotome: --alternatives is \"0\"; give a whole number from 1 to 8.\n", 'rail.stl', ['--bed', '200,200,200', '--alternatives', '0']],
            ["isotome: --whole is \"1,2,3\"; give the middle and the radius of a ball, such as --whole 0,0,120,15.\n", 'rail.stl', ['--bed', '200,200,200', '--whole', '1,2,3']],
            ["isotome: open is not watertight (3 edges); mend it first.\n", 'open.stl', ['--bed', '200,200,200']],
        ] as [$sentence, $file, $options]) {
            [$code, $out, $error] = $this->isotome('plan', $this->path($file), ...$options);
            self::assertSame([2, '', $sentence], [$code, $out, $error]);
        }
    }

    public function test_plates_are_packed_and_written(): void
    {
        $names = [];
        foreach ([[80, 60, 40], [90, 30, 20], [150, 20, 10], [60, 60, 90]] as $n => [$x, $y, $z]) {
            StlWriter::write(Solids::box($x, $y, $z), $names[] = $this->path("part-$n.stl"));
        }
        [$code, $out] = $this->isotome('plates', ...[...$names, '--bed', '170,170,100', '--margin', '5', '--spacing', '3', '--copies', '2', '--out', $this->path('plates'), '--json']);
        $document = json_decode($out, true);
        self::assertSame([0, [170, 170, 100], 8], [$code, array_map(intval(...), $document['bed_mm']), array_sum(array_map(static fn (array $plate): int => count($plate['pieces']), $document['plates']))]);
        self::assertJsonStringEqualsJsonFile($this->path('plates/plates.json'), $out);
        foreach ($document['plates'] as $plate) {
            $read = \Isotome\Format\MeshFile::read($this->path("plates/{$plate['file']}"));
            $parts = $read->parts === [] ? [$plate['pieces'][0]['name'] => $read->mesh] : $read->parts;
            self::assertSame(count($plate['pieces']), count($parts));
            $boxes = [];
            foreach ($plate['pieces'] as $n => $piece) {
                $box = \Isotome\Geometry\Box::of(array_values($parts)[$n]->xyz);
                self::assertSame([true, true], [$piece['watertight'], $piece['stable']]);
                self::assertEqualsWithDelta([$piece['min_mm'], $piece['max_mm']], [$box->min, $box->max], 1e-4);
                self::assertEqualsWithDelta(0.0, $box->min[2], 1e-6);
                self::assertGreaterThanOrEqual(5 - 1e-4, min($box->min[0], $box->min[1]));
                self::assertLessThanOrEqual(165 + 1e-4, max($box->max[0], $box->max[1]));
            }
        }
        [$code] = $this->isotome('plates', $names[0], '--bed', '170,170,100', '--no-turn', '--as', 'stl', '--out', $this->path('flat'));
        self::assertSame([0, true, true], [$code, is_file($this->path('flat/plate-1.stl')), is_file($this->path('flat/plates.json'))]);
        foreach ([
            ["isotome: 40,000 pieces are too many for one go; pack at most 1,000.\n", ['--copies', '10000']],
            ["isotome: part-0 does not go on the bed, however it is turned; cut it first.\n", ['--bed', '50,50,50']],
            ["isotome: --as is \"glb\"; choose 3mf or stl.\n", ['--as', 'glb']],
            ["isotome: --spacing is \"-1\"; give 0 mm or more, and less than the bed.\n", ['--spacing=-1']],
            ["isotome: --copies is \"0\"; give a whole number from 1.\n", ['--copies', '0']],
        ] as [$sentence, $options]) {
            $bed = in_array('--bed', $options, true) ? [] : ['--bed', '170,170,100'];
            [$code, , $error] = $this->isotome('plates', ...[...$names, ...$bed, ...$options, '--out', $this->path('none')]);
            self::assertSame([2, $sentence, false], [$code, $error, is_dir($this->path('none'))]);
        }
    }
}
