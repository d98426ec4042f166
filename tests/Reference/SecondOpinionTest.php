<?php

declare(strict_types=1);

namespace Tests\Reference;

use Demo\Heron;
use Demo\Millstone;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Format\StlWriter;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Solid\Combined;
use PHPUnit\Framework\TestCase;
use Tests\Support\Blades;
use Tests\Support\Folder;
use Tests\Support\Solids;

/**
 * The same cuts by a general-purpose geometry library. Source: npm package manifold-3d (E. Lalish and others), its split by a
 * plane and its decomposition into connected solids. It takes cavities for solids of their own, so shells are compared.
 */
final class SecondOpinionTest extends TestCase
{
    use Folder;

    public function test_volumes_areas_and_numbers_of_bodies_agree(): void
    {
        $bodies = [
            'box' => Solids::box(10, 20, 30), 'sphere' => Solids::sphere(20, 4), 'torus' => Solids::torus(20, 7, 60, 40), 'cone' => Solids::cone(10, 30, 300),
            'hollow' => Solids::together(Solids::sphere(20, 3), Solids::insideOut(Solids::sphere(15, 3)), Solids::sphere(9, 3)), 'nest' => Solids::nest(4),
            'table' => Solids::cells(5, 5, 3, static fn (int $x, int $y, int $z): bool => $z === 2 || ($x % 2 === 0 && $y % 2 === 0)),
            'millstone' => Millstone::mesh(), 'heron' => Heron::mesh(6.0),
        ];
        $questions = [];
        $ours = [];
        foreach ($bodies as $name => $body) {
            $file = $this->path("$name.stl");
            $mesh = StlWriter::write($body, $file);
            $blades = new Blades($mesh, 99);
            for ($n = 0; $n < 12; $n++) {
                $plane = $blades->anywhere();
                $questions[] = ['file' => $file, 'normal' => $plane->facing(), 'offset' => $plane->offset];
                $ours[] = ["$name, blade $n", $mesh, $plane];
            }
        }
        $answers = json_decode((string) shell_exec('cd '.escapeshellarg(dirname(__DIR__, 2)).' && node tests/Support/second-opinion.mjs '.escapeshellarg($this->file('questions.json', (string) json_encode($questions)))), true);
        self::assertIsArray($answers);
        self::assertCount(count($questions), $answers);
        foreach ($answers as $i => $answer) {
            [$what, $mesh, $plane] = $ours[$i];
            if (FlatCut::of($mesh, new FlatBlade($plane), 1) === null) {
                // A blade that misses: the library has everything on one side too.
                self::assertSame(0, min($answer['ahead']['bodies'], $answer['behind']['bodies']), $what);

                continue;
            }
            foreach (['ahead' => Keep::Ahead, 'behind' => Keep::Behind] as $side => $keep) {
                $made = FlatCut::of($mesh, new FlatBlade($plane, $keep), 1)->bodies ?? [];
                $volume = array_sum(array_map(Volume::of(...), $made));
                $area = array_sum(array_map(static fn (Mesh $body): float => Volume::measure($body)->area, $made));
                // The library works to a tolerance of its own, about 1e-6 of the extent.
                self::assertEqualsWithDelta($answer[$side]['volume'], $volume, 2e-6 * $answer['volume'], "$what, volume $side");
                self::assertEqualsWithDelta($answer[$side]['area'], $area, 1e-5 * $area, "$what, area $side");
                self::assertSame($answer[$side]['bodies'], array_sum(array_map(Bodies::shellCount(...), $made)), "$what, shells $side");
                self::assertSame(array_sum($answer[$side]['genus']), array_sum(array_map(self::handles(...), $made)), "$what, handles $side");
            }
        }
    }

    /** Bodies in general position: of touching ones the library decides otherwise what is joined. */
    public function test_what_is_united_common_and_subtracted_agrees(): void
    {
        $bodies = [
            'sphere' => Solids::sphere(20, 3), 'torus' => Solids::torus(20, 7, 48, 32), 'cone' => Solids::cone(15, 40, 60), 'hollow' => Solids::together(Solids::sphere(20, 3), Solids::insideOut(Solids::sphere(15, 3))),
            'table' => Solids::moved(Solids::cells(5, 5, 3, static fn (int $x, int $y, int $z): bool => $z === 2 || ($x % 2 === 0 && $y % 2 === 0)), 0, 0, 0, 8.0), 'stone' => Solids::moved(Millstone::mesh(), 0, 0, 0, 0.1),
        ];
        $chance = new Chance(31);
        $questions = $ours = [];
        foreach ($bodies as $name => $one) {
            foreach ($bodies as $other => $mesh) {
                $angle = static fn (): float => 6 * $chance->uniform();
                $files = [$this->path("$name-$other-a.stl"), $this->path("$name-$other-b.stl")];
                $questions[] = $files;
                $ours[] = ["$name and $other", [
                    StlWriter::write($one, $files[0]),
                    StlWriter::write(Solids::moved($mesh, $angle(), $angle(), $angle(), 1.0, [12 * $chance->uniform(), 12 * $chance->uniform(), 12 * $chance->uniform()]), $files[1]),
                ]];
            }
        }
        $answers = json_decode((string) shell_exec('cd '.escapeshellarg(dirname(__DIR__, 2)).' && node tests/Support/second-opinion-solid.mjs '.escapeshellarg($this->file('pairs.json', (string) json_encode($questions)))), true);
        self::assertIsArray($answers);
        self::assertCount(36, $answers);
        foreach ($answers as $i => $answer) {
            [$what, $pair] = $ours[$i];
            foreach (['united' => Combined::unite($pair), 'common' => Combined::common($pair), 'subtracted' => Combined::subtract($pair, 1)] as $rule => $made) {
                $made = array_column($made, 0);
                $volume = array_sum(array_map(Volume::of(...), $made));
                $area = array_sum(array_map(static fn (Mesh $body): float => Volume::measure($body)->area, $made));
                self::assertEqualsWithDelta($answer[$rule]['volume'], $volume, 2e-6 * (1 + $answer['united']['volume']), "$what, volume $rule");
                self::assertEqualsWithDelta($answer[$rule]['area'], $area, 1e-5 * (1 + $area), "$what, area $rule");
                self::assertSame($answer[$rule]['shells'], array_sum(array_map(Bodies::shellCount(...), $made)), "$what, shells $rule");
                self::assertSame($answer[$rule]['handles'], array_sum(array_map(self::handles(...), $made)), "$what, handles $rule");
            }
        }
    }

    /** Euler: V − E + F = 2 (shells − handles), with E = 3F/2 in a closed triangle mesh. */
    private static function handles(Mesh $mesh): int
    {
        $f = $mesh->triangleCount();

        return intdiv(2 * Bodies::shellCount($mesh) - ($mesh->vertexCount() - intdiv(3 * $f, 2) + $f), 2);
    }
}
