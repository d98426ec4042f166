<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Crossings;
use Isotome\Exception\Refusal;
use Isotome\Join\CommonFaces;
use Isotome\Join\StrokeFont;
use Isotome\Measure\Depth;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Kinds;
use Isotome\Operation\Runner;
use Isotome\Seal\RimTriangulation;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Marks: the strokes, what they leave in both pieces, how they are read, and what is refused. */
final class MarksTest extends TestCase
{
    /** @param  array<string, mixed>  ...$steps */
    private static function ran(Mesh $mesh, array ...$steps): Runner
    {
        $runner = Runner::on('mill', $mesh);
        foreach ($steps as $step) {
            $runner->run(Kinds::read($step, 'step'));
        }

        return $runner;
    }

    /** @param  list<array{float, float}>  $outline */
    private static function area(array $outline): float
    {
        $twice = 0.0;
        foreach ($outline as $n => [$x, $y]) {
            [$p, $q] = $outline[($n + 1) % count($outline)];
            $twice += $x * $q - $y * $p;
        }

        return $twice / 2;
    }

    public function test_strokes_are_simple_and_stand_apart(): void
    {
        foreach ([...array_map(strval(...), range(0, 9)), '^', '0123456789^', '88', '4711^'] as $text) {
            foreach ([false, true] as $isMirrored) {
                $outlines = StrokeFont::outlines($text, 7.0, $isMirrored);
                foreach ($outlines as $n => $outline) {
                    $count = count($outline);
                    self::assertGreaterThan(0.0, self::area($outline), $text);
                    // Exactly: outlines that cross themselves are refused.
                    self::assertNotNull(RimTriangulation::exact(array_column($outline, 0), array_column($outline, 1), range(0, $count - 1), [...range(1, $count - 1), 0]), $text);
                    $next = [...array_slice($outline, 1), $outline[0]];
                    $depth = new Depth(array_column($outline, 0), array_column($outline, 1), array_column($next, 0), array_column($next, 1));
                    foreach ($outlines as $m => $other) {
                        foreach ($m === $n ? [] : $other as [$x, $y]) {
                            // What is left between strokes is no thinner than half of one.
                            self::assertLessThan(-StrokeFont::stroke() * 7.0 / 2, $depth->at($x, $y), $text);
                        }
                    }
                }
                $ys = array_merge(...array_map(static fn (array $outline): array => array_column($outline, 1), $outlines));
                $xs = array_merge(...array_map(static fn (array $outline): array => array_column($outline, 0), $outlines));
                self::assertLessThan(7.0 * 1.2, max($ys) - min($ys), $text);
                self::assertLessThan(7.0 * 1.2 * StrokeFont::width($text), max($xs) - min($xs), $text);
            }
        }
    }

    /** @return iterable<string, array{Mesh, array<string, mixed>}> */
    public static function faces(): iterable
    {
        yield 'box' => [Solids::box(60, 40, 40), ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 20], 'facing' => [0, 0, 1]]]];
        yield 'ball, askew' => [Solids::sphere(30, 5), ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 0], 'facing' => [0.3, 0.2, 1]]]];
        yield 'a kerf' => [Solids::sphere(30, 5), ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 0], 'facing' => [0.3, 0.2, 1]], 'kerf' => 0.4]];
    }

    /** @param  array<string, mixed>  $cut */
    #[DataProvider('faces')]
    public function test_both_pieces_bear_the_same_number(Mesh $mesh, array $cut): void
    {
        $before = array_values(self::ran($mesh, $cut)->pieces());
        $runner = self::ran($mesh, $cut, ['do' => 'mark', 'first' => 807, 'depth_mm' => 0.5, 'size_mm' => 8]);
        $records = $runner->records();
        self::assertSame([807, 8.0, null], array_values(array_intersect_key($records[1]->report->toArray()['faces'][0], ['number' => 1, 'size_mm' => 1, 'why' => 1])));
        $area = array_sum(array_map(self::area(...), StrokeFont::outlines('807^', 8.0)));
        [$face] = CommonFaces::between($before[0]->mesh, $before[1]->mesh, 1.0);
        foreach (array_values($runner->pieces()) as $side => $piece) {
            self::assertTrue(EdgeCheck::of($piece->mesh)->isWatertight());
            self::assertCount(1, Bodies::of($piece->mesh));
            self::assertSame([], Crossings::of($piece->mesh)->pairs);
            self::assertEqualsWithDelta(0.5 * $area, Volume::of($before[$side]->mesh) - Volume::of($piece->mesh), 1e-6);
            // The bottoms of the strokes, as who looks at this piece's face from outside sees them.
            $bottom = [];
            for ($i = 0; $i < count($piece->mesh->xyz); $i += 3) {
                [$x, $y, $height] = $face->onPage($piece->mesh->xyz[$i], $piece->mesh->xyz[$i + 1], $piece->mesh->xyz[$i + 2]);
                $deep = $side === 0 ? $face->low - 0.5 : $face->high + 0.5 + ($cut['kerf'] ?? 0.0);
                if (abs($height - $deep) < 1e-6) {
                    $bottom[] = [$side === 0 ? $x : -$x, $y];
                }
            }
            $expected = array_merge(...StrokeFont::outlines('807^', 8.0));
            self::assertGreaterThanOrEqual(count($expected), count($bottom));
            $shift = static fn (array $points): array => [min(array_column($points, 0)), min(array_column($points, 1))];
            [$dx, $dy] = array_map(static fn (float $a, float $b): float => $a - $b, $shift($bottom), $shift($expected));
            foreach ($expected as [$x, $y]) {
                self::assertLessThan(1e-6, min(array_map(static fn (array $at): float => hypot($at[0] - $x - $dx, $at[1] - $y - $dy), $bottom)));
            }
        }
    }

    public function test_what_is_raised_has_a_pocket(): void
    {
        [$one, $two] = array_values(self::ran(Solids::box(60, 40, 40), ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 20], 'facing' => [0, 0, 1]]], ['do' => 'mark', 'first' => 12, 'arrow' => false, 'raised' => true, 'size_mm' => 8, 'depth_mm' => 0.5, 'clearance_mm' => 0.2])->pieces());
        self::assertEqualsWithDelta(48000 + 0.5 * array_sum(array_map(self::area(...), StrokeFont::outlines('12', 8.0))), Volume::of($one->mesh), 1e-6);
        self::assertEqualsWithDelta(48000 - 0.7 * (8.0 * StrokeFont::width('12') + 0.4) * 8.4, Volume::of($two->mesh), 1e-6);
        self::assertSame([], Crossings::of($one->mesh)->pairs);
    }

    public function test_marks_keep_clear_of_pegs_and_count_on(): void
    {
        $runner = self::ran(Solids::box(120, 40, 40), ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'parts' => 4]], ['do' => 'pegs'], ['do' => 'mark']);
        $records = $runner->records();
        self::assertSame([1, 2, 3], array_column($records[2]->report->toArray()['faces'], 'number'));
        foreach ($runner->pieces() as $piece) {
            self::assertTrue($piece->watertight);
            self::assertCount(1, Bodies::of($piece->mesh));
            self::assertSame([], Crossings::of($piece->mesh)->pairs);
        }
        // Faces without room take no number, and where an arrow has none the number stands alone.
        $body = Solids::together(Solids::box(40, 40, 40), Solids::box(9, 9, 40, [60.0, 0.0, 0.0]), Solids::box(4, 4, 40, [80.0, 0.0, 0.0]), Solids::box(40, 40, 40, [100.0, 0.0, 0.0]));
        $runner = self::ran($body, ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 20], 'facing' => [0, 0, 1]]], ['do' => 'mark', 'first' => 5]);
        $faces = $runner->records()[1]->report->toArray()['faces'];
        $marked = array_values(array_filter($faces, static fn (array $face): bool => $face['why'] === null));
        self::assertSame([5, 6, 7], array_column($marked, 'number'));
        self::assertCount(2, array_filter(array_column($marked, 'arrow')));
        self::assertCount(4, $faces);
        // A rough face has the heights that it has.
        $runner = self::ran(Solids::sphere(30, 5), ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 0], 'facing' => [0, 0, 1]], 'grain' => ['height' => 0.8, 'size' => 10, 'seed' => 2]], ['do' => 'mark', 'arrow' => false]);
        foreach ($runner->pieces() as $piece) {
            self::assertTrue($piece->watertight);
            self::assertSame([], Crossings::of($piece->mesh)->pairs);
        }
    }

    public function test_what_has_no_room_is_refused_in_one_sentence(): void
    {
        $halved = ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 20], 'facing' => [0, 0, 1]]];
        foreach ([
            [['size_mm' => 60], 'between mill-A and mill-B there is no room for a mark: a mark 60.0 mm high needs a circle of'],
            [['depth_mm' => 30], 'what is behind their common face is thinner than the mark is deep and 1.2 mm;'],
            [['first' => 0], 'step.first'],
            [['size_mm' => 0], 'step.size_mm'],
        ] as [$wishes, $says]) {
            try {
                self::ran(Solids::box(40, 40, 40), $halved, ['do' => 'mark', ...$wishes]);
                self::fail($says);
            } catch (Refusal $refusal) {
                self::assertStringContainsString($says, $refusal->getMessage());
            }
        }
    }
}
