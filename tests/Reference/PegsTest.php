<?php

declare(strict_types=1);

namespace Tests\Reference;

use Demo\Heron;
use Isotome\Exception\Refusal;
use Isotome\Format\StlWriter;
use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Join\Carved;
use Isotome\Join\CommonFaces;
use Isotome\Join\Pegs;
use Isotome\Join\PegWishes;
use Isotome\Join\Shape;
use Isotome\Join\Style;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Volume;
use Isotome\Operation\Kinds;
use Isotome\Operation\Runner;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\Solids;

/**
 * The same pegs by a general-purpose geometry library. Source: npm package manifold-3d (E. Lalish and others). A peg that broke through the skin would open a handle or part the piece, and one that was not rooted would
 * be a shell of its own.
 */
final class PegsTest extends TestCase
{
    use Folder;

    private const PLACEMENTS = 300;

    public function test_what_pegs_leave_agrees(): void
    {
        $chance = new Chance(77);
        $bodies = [
            'box' => Solids::box(40, 30, 60), 'ball' => Solids::sphere(20, 4), 'torus' => Solids::torus(25, 9, 60, 40), 'cone' => Solids::cone(15, 40, 90), 'wedge' => Solids::prism([[0.0, 0.0], [50.0, 0.0], [50.0, 14.0]], 30.0),
            'hollow' => Solids::together(Solids::sphere(20, 3), Solids::insideOut(Solids::sphere(13, 3))), 'heron' => Solids::moved(Heron::mesh(8.0), 0, 0, 0, 0.25),
        ];
        $questions = $ours = [];
        $short = 0;
        for ($n = 0; count($questions) < self::PLACEMENTS; $n++) {
            self::assertLessThan(2000, $n);
            $name = array_keys($bodies)[$n % count($bodies)];
            $box = Box::of($bodies[$name]->xyz);
            $size = $box->diagonal();
            $facing = [$chance->uniform() - 0.5, $chance->uniform() - 0.5, $chance->uniform() - 0.5];
            $through = array_map(static fn (float $low, float $high): float => $low + ($high - $low) * (0.1 + 0.8 * $chance->uniform()), $box->min, $box->max);
            $cut = ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => $through, 'facing' => $facing], 'kerf' => $n % 3 === 0 ? 0.3 : 0.0];
            if ($n % 4 === 1) {
                $cut = ['do' => 'cut', 'blade' => ['kind' => 'bent', 'through' => $through, 'facing' => [0, 0, 1], 'along' => [0, 1, 0], 'profile' => [[-0.3 * $size, 0.0], [0.0, 0.1 * $size], [0.2 * $size, -0.05 * $size]], 'smooth' => true]];
            }
            $runner = Runner::on('mill', $bodies[$name]);
            try {
                $runner->run(Kinds::read($cut, 'cut'));
            } catch (Refusal) {
                continue;
            }
            $pieces = array_values($runner->pieces());
            foreach ($pieces as $i => $one) {
                foreach (array_slice($pieces, $i + 1) as $other) {
                    foreach (CommonFaces::between($one->mesh, $other->mesh, 1.0) as $face) {
                        $wall = 0.3 + $chance->uniform();
                        $wishes = new PegWishes(Style::cases()[$n % 3], Shape::cases()[intdiv($n, 3) % 4], 1.0 + 5 * $chance->uniform(), 1.0 + 12 * $chance->uniform(), 2, 0.1 + 0.4 * $chance->uniform(), 0.5, 0.3, $wall);
                        foreach (Pegs::on($face, $one->mesh, $other->mesh, $wishes)->pegs as $peg) {
                            $short += $peg->length < $wishes->length ? 1 : 0;
                            foreach ([[$one->mesh, $peg->atFirst()], [$other->mesh, $peg->atSecond()]] as [$mesh, $tool]) {
                                $k = count($questions);
                                StlWriter::write($mesh, $this->path("$k-piece.stl"));
                                StlWriter::write($tool->mesh(), $this->path("$k-tool.stl"));
                                $questions[] = ['piece' => $this->path("$k-piece.stl"), 'tool' => $this->path("$k-tool.stl"), 'adds' => $tool->isAdded];
                                $ours[] = ["$name, $n", $mesh, $tool];
                            }
                        }
                    }
                }
            }
        }
        $answers = json_decode((string) shell_exec('cd '.escapeshellarg(dirname(__DIR__, 2)).' && node tests/Support/second-opinion-pegs.mjs '.escapeshellarg($this->file('pegs.json', (string) json_encode($questions)))), true);
        self::assertIsArray($answers);
        self::assertCount(count($questions), $answers);
        foreach ($answers as $i => ['before' => $before, 'after' => $after, 'outside' => $outside]) {
            [$what, $mesh, $tool] = $ours[$i];
            $made = Carved::of($mesh, [$tool], 9);
            self::assertCount(1, $made, $what);
            // 32-bit floats move corners by some 1e-6 mm of some tens.
            self::assertEqualsWithDelta($after['volume'], Volume::of($made[0]), 3e-6 * $before['volume'], "$what, volume");
            self::assertEqualsWithDelta($after['area'], Volume::measure($made[0])->area, 2e-5 * $before['area'], "$what, area");
            self::assertSame($before['shells'], $after['shells'], "$what, broken apart");
            self::assertSame($before['handles'], $after['handles'], "$what, broken through");
            self::assertSame($before['shells'], Bodies::shellCount($made[0]), $what);
            if ($tool->isAdded) {
                // A pin sticks out.
                self::assertGreaterThan(0.5 * Volume::of($tool->mesh()), $outside, $what);
            }
        }
        // Many met the skin before they had their whole length.
        self::assertGreaterThan(30, $short);
    }
}
