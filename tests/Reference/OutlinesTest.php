<?php

declare(strict_types=1);

namespace Tests\Reference;

use Demo\Millstone;
use Isotome\Cut\Keep;
use Isotome\Drawn\DrawnBlade;
use Isotome\Drawn\DrawnCut;
use Isotome\Drawn\Shape;
use Isotome\Drawn\Sight;
use Isotome\Format\StlWriter;
use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\Solids;

/** Outlines cut out of bodies, beside the same by a general-purpose geometry library. Source: npm package manifold-3d (E. Lalish and others), extruded cross-sections. */
final class OutlinesTest extends TestCase
{
    use Folder;

    public function test_three_hundred_outlines_agree(): void
    {
        $bodies = [
            'box' => Solids::moved(Solids::box(30, 20, 25), 0.2, 0.3, 0.1), 'sphere' => Solids::sphere(20, 3), 'torus' => Solids::torus(20, 7, 48, 32), 'cone' => Solids::moved(Solids::cone(15, 40, 60), 0.4, 0, 0),
            'hollow' => Solids::together(Solids::sphere(20, 3), Solids::insideOut(Solids::sphere(15, 3))), 'stone' => Solids::moved(Millstone::mesh(), 0.1, 0, 0, 0.1),
        ];
        $chance = new Chance(2026);
        $questions = $ours = [];
        foreach ($bodies as $name => $body) {
            $file = $this->path("$name.stl");
            $mesh = StlWriter::write($body, $file);
            $box = Box::of($mesh->xyz);
            $span = max($box->max[0] - $box->min[0], $box->max[1] - $box->min[1]);
            for ($n = 0; $n < 50; $n++) {
                // Star-shaped outlines of up to sixty corners, now and then with a hole, round a place on the page.
                $middle = [$box->min[0] + $span * $chance->uniform(), $box->min[1] + $span * $chance->uniform()];
                $corners = 3 + (int) (57 * $chance->uniform() ** 2);
                $most = $span * (0.1 + 0.6 * $chance->uniform());
                $outline = $hole = [];
                for ($k = 0; $k < $corners; $k++) {
                    $r = $most * (0.4 + 0.6 * $chance->uniform());
                    [$c, $s] = [cos(2 * M_PI * $k / $corners), sin(2 * M_PI * $k / $corners)];
                    $outline[] = [$middle[0] + $r * $c, $middle[1] + $r * $s];
                    $hole[] = [$middle[0] + 0.5 * $r * $c, $middle[1] + 0.5 * $r * $s];
                }
                $outlines = $n % 3 === 0 ? [$outline, array_reverse($hole)] : [$outline];
                $questions[] = ['file' => $file, 'outlines' => $outlines, 'reach' => 10 * $span];
                $ours[] = ["$name, outline $n", $mesh, $outlines];
            }
        }
        $answers = json_decode((string) shell_exec('cd '.escapeshellarg(dirname(__DIR__, 2)).' && node tests/Support/second-opinion-outlines.mjs '.escapeshellarg($this->file('questions.json', (string) json_encode($questions)))), true);
        self::assertIsArray($answers);
        self::assertCount(300, $answers);
        foreach ($answers as $i => $answer) {
            [$what, $mesh, $outlines] = $ours[$i];
            $lines = array_map(static fn (array $outline): array => array_map(static fn (array $p): array => [$p[0], $p[1], 0.0], $outline), $outlines);
            $whole = $answer['within']['volume'] + $answer['around']['volume'];
            foreach (['within' => Keep::Behind, 'around' => Keep::Ahead] as $side => $keep) {
                $made = DrawnCut::of($mesh, new DrawnBlade(Shape::Outline, $lines, Sight::along([0, 0, -1]), keep: $keep), 1);
                if ($made === null) {
                    // It meets nothing, or goes round all of it.
                    self::assertEqualsWithDelta(0.0, min($answer['within']['volume'], $answer['around']['volume']), 1e-9 * $whole, $what);

                    continue;
                }
                $volume = array_sum(array_map(Volume::of(...), $made->bodies));
                $area = array_sum(array_map(static fn (Mesh $body): float => Volume::measure($body)->area, $made->bodies));
                // The library works to a tolerance of its own, about 1e-6 of the extent.
                self::assertEqualsWithDelta($answer[$side]['volume'], $volume, 4e-6 * $whole, "$what, volume $side");
                self::assertEqualsWithDelta($answer[$side]['area'], $area, 2e-5 * $area + 1e-6 * $whole ** (2 / 3), "$what, area $side");
                self::assertSame($answer[$side]['shells'], array_sum(array_map(Bodies::shellCount(...), $made->bodies)), "$what, shells $side");
            }
        }
    }
}
