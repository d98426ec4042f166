<?php

declare(strict_types=1);

namespace Tests\Reference;

use Demo\Heron;
use Demo\Millstone;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Format\StlWriter;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\TestCase;
use Tests\Support\Blades;
use Tests\Support\Folder;
use Tests\Support\SecondOpinion;
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
                self::assertSame(array_sum($answer[$side]['genus']), array_sum(array_map(SecondOpinion::handles(...), $made)), "$what, handles $side");
            }
        }
    }

    /** 144 operations; bench/second-opinion.php compares as many as one likes. */
    public function test_what_is_united_common_subtracted_and_divided_agrees(): void
    {
        ['compared' => $compared, 'differences' => $differences] = SecondOpinion::round(31, dirname($this->path('pairs.json')));
        self::assertSame([], $differences);
        self::assertSame(4 * SecondOpinion::PAIRS, $compared);
    }
}
