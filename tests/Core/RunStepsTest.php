<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Format\MeshFile;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Volume;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\RunsIsotome;
use Tests\Support\Solids;
use Tests\Support\Steps;

/** Cells and mirrors as another program asks for them: `isotome run`, its manifest, its files. */
final class RunStepsTest extends TestCase
{
    use Folder;
    use RunsIsotome;

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function steps(): iterable
    {
        foreach ([...Steps::cells(), ...Steps::mirrors()] as $name => $step) {
            // A wall of 1.2 mm would pass through itself in shards of this size.
            unset($step['wall_mm']);
            yield $name => [$step];
        }
    }

    /** @param  array<string, mixed>  $step */
    #[DataProvider('steps')]
    public function test_the_files_and_the_manifest_are_what_the_core_makes(array $step): void
    {
        $jar = Solids::torus(20, 7, 40, 24);
        MeshFile::write($jar, $this->path('jar.ply'), 'jar');
        $recipe = ['isotome_recipe' => 1, 'units' => 'mm', 'steps' => [$step]];
        $isOpen = ($step['seal'] ?? '') === 'open';
        [$code, $out, $error] = $this->isotome('run', $this->file('recipe.json', (string) json_encode($recipe)), $this->path('jar.ply'), '--out', $this->path('out'), '--as', 'ply', '--density', '1.8', '--json');
        self::assertSame([$isOpen ? 1 : 0, ''], [$code, $error]);
        $manifest = json_decode($out, true);
        self::assertSame($manifest, json_decode((string) file_get_contents($this->path('out/manifest.json')), true));

        $runner = Runner::on('jar', MeshFile::read($this->path('jar.ply'))->mesh);
        $runner->run(Recipe::fromArray($recipe)->steps[0]);
        $pieces = $runner->pieces();
        self::assertSame(array_keys($pieces), array_column($manifest['pieces'], 'name'));
        self::assertSame(array_values(array_unique(array_column($manifest['pieces'], 'colour'))), array_column($manifest['pieces'], 'colour'));
        self::assertSame([$step['do']], array_column($manifest['steps'], 'do'));
        self::assertSame(array_keys($pieces), $manifest['steps'][0]['gave']);
        foreach ($manifest['pieces'] as $entry) {
            $mesh = $pieces[$entry['name']]->mesh;
            $file = MeshFile::read($this->path('out/'.$entry['file']))->mesh;
            self::assertSame([$mesh->triangleCount(), $mesh->triangleCount()], [$entry['triangles'], $file->triangleCount()]);
            self::assertSame(! $isOpen, EdgeCheck::of($file)->isWatertight());
            if (! $isOpen) {
                self::assertEqualsWithDelta(Volume::of($mesh), $entry['volume_mm3'], 1e-4 * abs(Volume::of($mesh)));
                self::assertEqualsWithDelta(Volume::of($mesh) * 1.8e-3, $entry['mass_g'], 1e-6 + 1e-4 * abs(Volume::of($mesh)));
            }
        }
        // What was written runs again, and gives the same bytes.
        $written = $this->file('again.json', (string) json_encode($manifest['recipe'], JSON_PRESERVE_ZERO_FRACTION));
        [$code] = $this->isotome('run', $written, $this->path('jar.ply'), '--out', $this->path('again'), '--as', 'ply', '--density', '1.8');
        self::assertSame($isOpen ? 1 : 0, $code);
        foreach ($manifest['pieces'] as $entry) {
            self::assertFileEquals($this->path('out/'.$entry['file']), $this->path('again/'.$entry['file']));
        }
    }

    /** Every common face is told from both sides, and areas are those of the cuts alone. */
    public function test_neighbours_are_told_both_ways_with_their_common_area(): void
    {
        MeshFile::write(Solids::box(30, 20, 10), $this->path('block.stl'), 'block');
        $recipe = $this->file('recipe.json', (string) json_encode(['isotome_recipe' => 1, 'steps' => [
            ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'blocks', 'count' => [3, 2, 1]]],
        ]]));
        [$code, $out] = $this->isotome('run', $recipe, $this->path('block.stl'), '--out', $this->path('out'), '--json');
        self::assertSame(0, $code);
        $areas = [];
        foreach (json_decode($out, true)['pieces'] as $piece) {
            foreach ($piece['neighbours'] as $neighbour) {
                $areas[$piece['name']][$neighbour['name']] = $neighbour['area_mm2'];
            }
        }
        $pairs = $sum = 0;
        foreach ($areas as $one => $others) {
            foreach ($others as $other => $area) {
                self::assertSame($area, $areas[$other][$one]);
                self::assertEqualsWithDelta(100.0, $area, 1e-9);
                $pairs++;
                $sum += $area;
            }
        }
        // Two cuts across of 20 × 10, one along of 30 × 10, each seen from both sides.
        self::assertSame(14, $pairs);
        self::assertEqualsWithDelta(2 * (2 * 200 + 300), $sum, 1e-9);
    }

    public function test_what_cannot_be_is_refused_in_one_line_and_writes_nothing(): void
    {
        MeshFile::write(Solids::box(30, 20, 10), $this->path('block.stl'), 'block');
        foreach ([
            ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'blocks', 'size' => [1e-9, 1, 1]]],
            ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'rings', 'rings' => 2_000_000_000]],
            ['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'gathered', 'count' => 9, 'places' => [], 'falloff' => 3]],
            ['do' => 'mirror', 'planes' => [['through' => [-1, 0, 0], 'facing' => [1, 0, 0]]], 'keep' => 'behind'],
            ['do' => 'mirror', 'copies' => ['axis' => [0, 0, 0], 'count' => 3]],
        ] as $step) {
            [$code, $out, $error] = $this->isotome('run', $this->file('recipe.json', (string) json_encode(['isotome_recipe' => 1, 'steps' => [$step]])), $this->path('block.stl'), '--out', $this->path('out'), '--json');
            self::assertSame([2, ''], [$code, $out], $error);
            self::assertMatchesRegularExpression('/^isotome: [^\n]+[.;][^\n]*\.\n$/', $error);
            self::assertDirectoryDoesNotExist($this->path('out'));
        }
    }

    public function test_a_name_is_read_as_words_and_letters(): void
    {
        foreach (['clay-jar-A-B' => 'Clay jar A-B', 'clay-jar' => 'Clay jar', 'heron-AB' => 'Heron AB', 'A' => 'A', 'élan-C' => 'Élan C'] as $name => $title) {
            self::assertSame($title, \Isotome\Operation\Names::title($name));
        }
    }
}
