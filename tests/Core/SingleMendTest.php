<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\PlacedReport;
use Isotome\Check\Report;
use Isotome\Exception\BadMesh;
use Isotome\Exception\BadRecipe;
use Isotome\Mend\Difference;
use Isotome\Mend\SingleMend;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Names;
use Isotome\Operation\Rebase;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** One mend at a time, what it changes, its step in the recipe; and recipes on other stock. */
final class SingleMendTest extends TestCase
{
    public function test_each_mend_does_its_own_and_leaves_the_rest(): void
    {
        $box = Solids::box(10, 20, 30);
        $doubled = Mesh::of($box->xyz, [...$box->corners, ...array_slice($box->corners, 0, 3)]);
        self::assertSame(1, SingleMend::of($doubled, 'doubled')['changed']);
        self::assertTrue(EdgeCheck::of(SingleMend::of($doubled, 'doubled')['mesh'])->isWatertight());
        $turned = $box->corners;
        [$turned[0], $turned[1]] = [$turned[1], $turned[0]];
        ['mesh' => $mended, 'changed' => $changed] = SingleMend::of(Mesh::of($box->xyz, $turned), 'turn');
        self::assertSame([1, true], [$changed, EdgeCheck::of($mended)->isWatertight()]);
        // A seam: one side of the box on points of its own, a hair away.
        $xyz = $box->xyz;
        $corners = $box->corners;
        foreach ([0, 1, 2] as $k) {
            array_push($xyz, $box->xyz[3 * $corners[$k]] + 1e-5, $box->xyz[3 * $corners[$k] + 1], $box->xyz[3 * $corners[$k] + 2]);
            $corners[$k] = 8 + $k;
        }
        $seam = Mesh::of($xyz, $corners);
        self::assertSame(3, SingleMend::of($seam, 'join')['changed']);
        self::assertSame(0, SingleMend::of($seam, 'join', 0, null, 1e-6)['changed']);
        self::assertTrue(EdgeCheck::of(SingleMend::of($seam, 'join', 0, null, 1e-4)['mesh'])->isWatertight());
        // Two holes; the second one only is closed.
        $torus = Solids::torus(20, 7, 24, 16);
        $holes = $torus->corners;
        array_splice($holes, 600, 3);
        array_splice($holes, 90, 6);
        $open = Mesh::of($torus->xyz, $holes);
        $closed = SingleMend::of($open, 'close', 5, [1]);
        self::assertSame(1, $closed['changed']);
        self::assertSame([5], array_values(array_unique(array_filter($closed['mesh']->tags))));
        self::assertSame(4, EdgeCheck::of($closed['mesh'])->openEdges);
        // What lies inside an overlapping body stays.
        $two = Solids::together(Solids::box(10, 10, 10), Solids::box(10, 10, 10, [5.0, 5.0, 5.0]));
        self::assertSame(0, SingleMend::of($two, 'inner')['changed']);
        self::assertSame(0, SingleMend::of($box, 'slivers')['changed']);
        $this->expectException(BadMesh::class);
        SingleMend::of($box, 'magic');
    }

    public function test_the_difference_is_told_by_places_not_by_numbers(): void
    {
        $torus = Solids::torus(20, 7, 24, 16);
        self::assertEquals([[], []], [Difference::of($torus, $torus)->removed, Difference::of($torus, $torus)->added]);
        // The same surface, renumbered and with other first corners.
        $order = range(0, $torus->vertexCount() - 1);
        mt_srand(5);
        shuffle($order);
        $at = array_flip($order);
        $xyz = $corners = [];
        foreach ($order as $v) {
            array_push($xyz, $torus->xyz[3 * $v], $torus->xyz[3 * $v + 1], $torus->xyz[3 * $v + 2]);
        }
        for ($i = 0; $i < count($torus->corners); $i += 3) {
            array_push($corners, $at[$torus->corners[$i + 1]], $at[$torus->corners[$i + 2]], $at[$torus->corners[$i]]);
        }
        $same = Difference::of($torus, Mesh::of($xyz, $corners));
        self::assertSame([[], []], [$same->removed, $same->added]);
        array_splice($corners, 30, 3);
        [$corners[0], $corners[1]] = [$corners[1], $corners[0]];
        $other = Difference::of($torus, Mesh::of($xyz, $corners));
        self::assertSame([[0, 10], [0]], [$other->removed, $other->added]);
    }

    public function test_a_report_is_placed_in_space(): void
    {
        $box = Solids::box(10, 20, 30);
        $open = Mesh::of($box->xyz, array_slice($box->corners, 3));
        $placed = PlacedReport::of(Report::of($open));
        self::assertSame([3, true], [$placed['rims'][0]['edges'], $placed['rims'][0]['closed']]);
        self::assertCount(9, $placed['rims'][0]['points']);
        self::assertCount(18, $placed['lines']['open_edges']);
        self::assertFalse($placed['sound']);
        self::assertSame(3, $placed['counts']['open_edges']);
        $inverted = PlacedReport::of(Report::of(Solids::insideOut($box)));
        self::assertCount(12 * 9, $inverted['triangles']['inverted_shells']);
        $crossing = PlacedReport::of(Report::of(Solids::together($box, Solids::box(10, 10, 10, [5.0, 5.0, 5.0]))));
        self::assertNotSame([], $crossing['triangles']['crossing_faces']);
        self::assertTrue(PlacedReport::of(Report::of($box))['sound']);
    }

    public function test_mends_and_thickness_are_steps_of_a_recipe(): void
    {
        $box = Solids::box(10, 20, 30);
        $open = Mesh::of($box->xyz, array_slice($box->corners, 3));
        $read = static fn (array $step) => Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [$step]])->steps[0];
        foreach ([['do' => 'mend', 'only' => 'close', 'rims' => [0]], ['do' => 'mend', 'of' => ['post'], 'only' => 'join', 'join_mm' => 0.5], ['do' => 'thicken', 'thickness_mm' => 2.0, 'side' => 'front']] as $step) {
            self::assertSame($step, $read($step)->toArray());
        }
        $runner = Runner::on('post', $open);
        $record = $runner->run($read(['do' => 'mend', 'only' => 'close']));
        self::assertSame([['post' => ['close' => 1]], true], [$record->report->toArray()['mended'], $runner->pieces()['post']->watertight]);
        $sheet = Runner::on('sign', Mesh::of([0.0, 0.0, 0.0, 40.0, 0.0, 0.0, 40.0, 30.0, 0.0, 0.0, 30.0, 0.0], [0, 1, 2, 0, 2, 3]));
        $sheet->run($read(['do' => 'thicken', 'thickness_mm' => 2]));
        self::assertEqualsWithDelta(2400.0, Volume::of($sheet->pieces()['sign']->mesh), 1e-9);
        $wrong = [
            ['do' => 'mend', 'only' => 'all'], ['do' => 'mend', 'rims' => [0]], ['do' => 'mend', 'only' => 'join', 'join_mm' => -1], ['do' => 'mend', 'only' => 'close', 'join_mm' => 1],
            ['do' => 'thicken'], ['do' => 'thicken', 'thickness_mm' => 0], ['do' => 'thicken', 'thickness_mm' => 1, 'side' => 'left'], ['do' => 'thicken', 'thickness' => 1],
        ];
        foreach ($wrong as $step) {
            try {
                $read($step);
                self::fail('taken: '.json_encode($step));
            } catch (BadRecipe $refusal) {
                self::assertStringStartsWith('steps[0]', $refusal->getMessage());
            }
        }
    }

    public function test_a_recipe_is_rebased_onto_other_stock(): void
    {
        $recipe = static fn (array ...$of): array => ['isotome_recipe' => 1, 'steps' => array_map(static fn (array $names): array => ['do' => 'cut', 'of' => $names], $of)];
        self::assertSame($recipe(['*'], ['jar-A', 'jar-B-A'], ['jar-A*']), Rebase::onto($recipe(['*'], ['heron-A', 'heron-B-A'], ['heron-A*']), 'jar'));
        self::assertSame($recipe(['clay-jar'], ['clay-jar-A']), Rebase::onto($recipe(['mill-ring'], ['mill-ring-A']), 'clay-jar'));
        // Nothing to do, or nothing certain.
        foreach ([$recipe(['*']), $recipe(['jar-A']), $recipe(['heron-A'], ['post-A'])] as $same) {
            self::assertSame($same, Rebase::onto($same, 'jar'));
        }
        self::assertSame(['Clay jar A-B', 'Heron', 'X 1'], array_map(Names::title(...), ['clay-jar-A-B', 'heron', 'x-1']));
    }
}
