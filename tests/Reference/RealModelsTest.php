<?php

declare(strict_types=1);

namespace Tests\Reference;

use FilesystemIterator;
use Isotome\Exception\Refusal;
use Isotome\Format\Companions;
use Isotome\Format\MeshFile;
use Isotome\Format\ReadMesh;
use Isotome\Format\Rounded;
use Isotome\Geometry\Box;
use Isotome\Geometry\Extent;
use Isotome\Mend\Mend;
use Isotome\Mend\Uncross;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Done;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Isotome\Operation\Told;
use Isotome\Solid\Combined;
use Isotome\Solid\FileProof;
use PHPUnit\Framework\TestCase;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use SplFileInfo;
use Tests\Support\Folder;
use Tests\Support\RunsIsotome;

/**
 * Models that many programs have written, sound ones and damaged ones: read, cut, written in every format and read again.
 * Source: the test models of the Open Asset Import Library (Debian package assimp-testmodels).
 */
final class RealModelsTest extends TestCase
{
    use Folder;
    use RunsIsotome;

    private const MODELS = '/usr/share/assimp/models';

    /** @return list<string> */
    private static function files(): array
    {
        $files = [];
        /** @var SplFileInfo $file */
        foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator(self::MODELS, FilesystemIterator::SKIP_DOTS)) as $file) {
            if (in_array(strtolower($file->getExtension()), [...MeshFile::FORMATS, 'gltf'], true)) {
                $files[] = $file->getPathname();
            }
        }
        sort($files);

        return $files;
    }

    private static function model(string $name): ReadMesh
    {
        return MeshFile::read(self::MODELS."/$name", files: Companions::beside(self::MODELS."/$name"));
    }

    public function test_whatever_is_read_comes_through_a_cut_and_every_format(): void
    {
        $read = $refused = 0;
        foreach (self::files() as $path) {
            try {
                $one = MeshFile::read($path, files: Companions::beside($path));
            } catch (Refusal $refusal) {
                self::assertMatchesRegularExpression('/^The .+[;:] .+\\.$/', $refusal->getMessage());
                $refused++;

                continue;
            }
            $read++;
            $box = Box::of($one->mesh->xyz);
            $through = array_map(static fn (int $k): float => 0.487 * $box->min[$k] + 0.513 * $box->max[$k], [0, 1, 2]);
            $runner = Runner::on('model', $one->mesh, $one->parts);
            $runner->run(Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => $through, 'facing' => [0.3, 0.2, 1]]]]])->steps[0]);
            foreach ($runner->pieces() as $piece) {
                // The few large ones in one format.
                foreach ($piece->mesh->triangleCount() > 20_000 ? ['glb'] : ['glb', 'obj', '3mf', 'ply', 'off'] as $format) {
                    $this->throughFile($piece->mesh, $format, "$path, {$piece->name}");
                }
            }
        }
        // As the package had them in Debian 12.
        self::assertGreaterThanOrEqual(60, $read);
        self::assertGreaterThanOrEqual(30, $refused);
    }

    private function throughFile(Mesh $mesh, string $format, string $about): void
    {
        $held = MeshFile::write($mesh, $this->path("piece.$format"));
        if ($held->isEmpty()) {
            return;
        }
        $back = MeshFile::read($this->path("piece.$format"), files: Companions::beside($this->path("piece.$format")));
        self::assertSame([], $back->leftOut, "$format of $about");
        self::assertSame($held->triangleCount(), $back->mesh->triangleCount(), "$format of $about");
        if (EdgeCheck::of($held)->isWatertight()) {
            self::assertTrue(EdgeCheck::of($back->mesh)->isWatertight(), "$format of $about");
        }
        // Every kind of thing that the format keeps is there, where the skin has any triangle with it.
        $layers = array_keys($mesh->skin->layers ?? []);
        // An OBJ file has the first texture coordinates only, and says so.
        $layers = $format === 'obj' && in_array('further texture coordinates', MeshFile::losesOf($mesh, 'obj'), true) ? array_diff($layers, ['uv1']) : $layers;
        if (in_array($format, ['glb', 'obj'], true) && in_array(0, $mesh->tags, true)) {
            self::assertEqualsCanonicalizing($layers, array_keys($back->mesh->skin->layers ?? []), "$format of $about");
        }
    }

    public function test_textured_models_bring_their_pictures_in_whatever_way_they_are_packed(): void
    {
        $boxes = ['glTF2/BoxTextured-glTF/BoxTextured.gltf', 'glTF2/BoxTextured-glTF-Binary/BoxTextured.glb', 'glTF2/BoxTextured-glTF-Embedded/BoxTextured.gltf'];
        $pictures = [];
        foreach ($boxes as $name) {
            $read = self::model($name);
            self::assertSame([12, ['materials', 'pictures', 'normals', 'texture coordinates'], []], [$read->mesh->triangleCount(), $read->mesh->skin?->words(), $read->leftOut], $name);
            $pictures[] = hash('sha256', $read->mesh->skin->looks->pictures[0]['bytes'] ?? '');
        }
        self::assertCount(1, array_unique($pictures));
        $spider = self::model('OBJ/spider.obj');
        self::assertSame(['materials', 'pictures', 'texture coordinates', 'normals'], $spider->mesh->skin?->words());
        // Its faces have four of the five materials in its library.
        self::assertSame(['Skin', 'HLeibTex', 'BeinTex', 'Augentex'], array_column($spider->mesh->skin->looks->materials, 'name'));
        self::assertCount(4, $spider->mesh->skin->looks->pictures);
        // One with normals of length 0 is written with sound ones.
        $bad = self::model('glTF2/BoxBadNormals-glTF-Binary/BoxBadNormals.glb')->mesh;
        MeshFile::write($bad, $this->path('box.glb'));
        self::assertContains('normals', MeshFile::read($this->path('box.glb'))->mesh->skin?->words() ?? []);
        // And data beside a description needs no more memory than it takes.
        memory_reset_peak_usage();
        self::model('glTF2/BoxTextured-glTF/BoxTextured.gltf');
        self::assertLessThan(50_000_000, memory_get_peak_usage() - memory_get_usage());
    }

    public function test_details_finer_than_the_numbers_of_a_file_are_taken_out_or_said(): void
    {
        $crossing = static fn (Mesh $mesh): int => count(Uncross::pairs($mesh));
        $solids = array_column(Combined::unite([Mend::of(self::model('OBJ/regr01.obj')->mesh)->mesh]), 0);
        self::assertGreaterThan(0, array_sum(array_map(static fn (Mesh $solid): int => $crossing(Rounded::of($solid)), $solids)));
        foreach ($solids as $solid) {
            $proof = FileProof::of($solid);
            self::assertSame([0, 0, true], [$crossing(Rounded::of($proof)), FileProof::crossing($proof), EdgeCheck::of(Rounded::of($proof))->isWatertight()]);
            // Corners move by half a step of the grid each way at most; one of the two is a sheet, a few hundredths of a millimetre thick.
            self::assertEqualsWithDelta(Volume::of($solid), Volume::of($proof), Volume::measure($solid)->area * Extent::of($solid->xyz) * 2 ** -23);
        }
        // Folds of this one do not come to an end.
        $runner = Runner::on('figure', self::model('OFF/Wuson.off')->mesh);
        $step = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [['do' => 'mend']]])->steps[0];
        $report = $runner->run($step)->report;
        self::assertSame(['figure'], $report->toArray()['fine']);
        $told = [new Told('figure', 'figure', true, 1.0)];
        self::assertStringContainsString('some faces of figure are closer than STL, 3MF and GLB files can tell apart', $step->said(new Done($step, $told, $told, $report)));
        $mended = $runner->pieces()['figure']->mesh;
        self::assertGreaterThan($crossing($mended), $crossing(Rounded::of($mended)));
        self::assertSame($crossing($mended), $crossing(MeshFile::write($mended, $this->path('figure.ply'))));
        self::assertStringContainsString('OBJ, PLY and OFF files hold them as they are', implode(' ', Mend::of(self::model('OFF/Wuson.off')->mesh)->left()));
        // The same number that a check of the file finds.
        [, $said] = $this->isotome('unite', $this->path('figure.ply'), $this->path('figure.stl'));
        [, $check] = $this->isotome('check', $this->path('figure.stl'), '--json');
        self::assertSame([1, 1], [preg_match('/^(\d+) faces are closer/m', $said, $told), preg_match('/"crossing_faces": ?(\d+)/', $check, $found)]);
        self::assertSame($found[1], $told[1]);
    }
}
