<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Geometry\Turn;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Kinds;
use Isotome\Operation\Runner;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\Solids;

final class TurnTest extends TestCase
{
    private const AXES = [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0], [-1.0, 0.0, 0.0], [0.0, -2.5, 0.0], [0.0, 0.0, -1.0]];

    /** @return list<float> points without anything round about them */
    private static function points(): array
    {
        $random = new Randomizer(new Mt19937(20261127));
        $xyz = [];
        for ($i = 0; $i < 300; $i++) {
            $xyz[] = ($random->getInt(-(2 ** 52), 2 ** 52) / 2 ** 44) * (1 + $random->getInt(0, 9));
        }

        return $xyz;
    }

    public function test_quarter_turns_are_exact(): void
    {
        $xyz = self::points();
        $z = Turn::about([0.0, 0.0, 3.0], 90.0)->of($xyz);
        for ($i = 0; $i < count($xyz); $i += 3) {
            self::assertSame([0.0 - $xyz[$i + 1], $xyz[$i], $xyz[$i + 2]], [$z[$i], $z[$i + 1], $z[$i + 2]]);
        }
        foreach (self::AXES as $axis) {
            $quarter = Turn::about($axis, 90.0);
            $four = $xyz;
            for ($n = 1; $n <= 4; $n++) {
                $four = $quarter->of($four);
                self::assertSame($four, Turn::about($axis, 90.0 * $n)->of($xyz), "$n quarters at once");
                self::assertSame($four, Turn::about($axis, 90.0 * $n - 720.0)->of($xyz), 'backwards');
                self::assertSame($four, Turn::about(array_map(static fn (float $part): float => -$part, $axis), -90.0 * $n)->of($xyz), 'from the other side');
            }
            self::assertSame($xyz, $four, 'four quarters are none');
        }
        // Of every pair of coordinate axes, too.
        foreach (self::AXES as $from) {
            foreach (self::AXES as $to) {
                $turned = Turn::between($from, $to)->of([...$from, ...$xyz]);
                $length = max(array_map(abs(...), $from));
                self::assertEquals(array_map(static fn (float $part): float => $part === 0.0 ? 0.0 : $length * ($part <=> 0.0), $to), array_slice($turned, 0, 3));
                $all = array_map(abs(...), $xyz);
                $same = array_map(abs(...), array_slice($turned, 3));
                sort($all);
                sort($same);
                self::assertSame($all, $same, 'only places and signs change');
            }
        }
    }

    /** A rotation keeps lengths and handedness; half and third turns about a diagonal are known (geometry of the cube, common knowledge). */
    public function test_any_turn_is_a_rotation(): void
    {
        $third = Turn::about([1.0, 1.0, 1.0], 120.0)->of([1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0]);
        foreach ([0, 1, 0, 0, 0, 1, 1, 0, 0] as $i => $due) {
            self::assertEqualsWithDelta($due, $third[$i], 1e-15);
        }
        $random = new Randomizer(new Mt19937(4));
        $number = static fn (): float => $random->getInt(-1000, 1000) / 300;
        for ($n = 0; $n < 200; $n++) {
            $axis = [$number(), $number(), $number() + 0.001];
            $through = [$number(), $number(), $number()];
            $degrees = 100 * $number();
            $turned = Turn::about($axis, $degrees)->of([...$through, $through[0] + 1, $through[1], $through[2], $through[0], $through[1] + 1, $through[2], $through[0], $through[1], $through[2] + 1], $through);
            self::assertEqualsWithDelta($through, array_slice($turned, 0, 3), 1e-13);
            $m = [];
            for ($i = 3; $i < 12; $i++) {
                $m[] = $turned[$i] - $turned[$i % 3];
            }
            $det = $m[0] * ($m[4] * $m[8] - $m[5] * $m[7]) - $m[1] * ($m[3] * $m[8] - $m[5] * $m[6]) + $m[2] * ($m[3] * $m[7] - $m[4] * $m[6]);
            self::assertEqualsWithDelta(1.0, $det, 1e-13);
            self::assertEqualsWithDelta(1 + 2 * cos(deg2rad($degrees)), $m[0] + $m[4] + $m[8], 1e-12, 'the trace tells the angle');
            // Any direction to any other, by the angle between them and not more.
            $to = [$number(), $number(), $number() + 0.001];
            $brought = Turn::between($axis, $to)->of([...$axis, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0]);
            $dot = static fn (array $a, array $b): float => $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
            self::assertEqualsWithDelta(sqrt($dot($axis, $axis) * $dot($to, $to)), $dot(array_slice($brought, 0, 3), $to), 1e-12);
            self::assertEqualsWithDelta(1 + 2 * $dot($axis, $to) / sqrt($dot($axis, $axis) * $dot($to, $to)), $brought[3] + $brought[7] + $brought[11], 1e-12);
        }
    }

    public function test_directions_without_length_are_refused(): void
    {
        foreach ([static fn () => Turn::about([0.0, 0.0, 0.0], 30.0), static fn () => Turn::between([0.0, 0.0, 0.0], [1.0, 0.0, 0.0]), static fn () => Turn::between([1.0, 0.0, 0.0], [0.0, 0.0, 0.0])] as $turn) {
            try {
                $turn();
                self::fail('it turned');
            } catch (BadBlade $refusal) {
                self::assertStringContainsString('0, 0, 0', $refusal->getMessage());
            }
        }
    }

    public function test_pieces_turn_together_and_stay_what_they_are(): void
    {
        $torus = Solids::torus(20, 7, 40, 24);
        $runner = Runner::on('torus', $torus);
        $runner->run(Kinds::read(['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 1], 'facing' => [0, 0, 1]]], 'step'));
        $volumes = array_map(static fn ($piece): float => Volume::of($piece->mesh), $runner->pieces());
        $record = $runner->run(Kinds::read(['do' => 'turn', 'about' => [1, 0.3, 0.2], 'degrees' => 25], 'step'));
        self::assertSame([['torus-A', 'torus-B'], ['torus-A', 'torus-B']], [$record->took, $record->gave]);
        $xyz = [];
        foreach ($runner->pieces() as $name => $piece) {
            self::assertTrue(EdgeCheck::of($piece->mesh)->isWatertight());
            self::assertEqualsWithDelta($volumes[$name], Volume::of($piece->mesh), 1e-9 * $volumes[$name]);
            self::assertContains(1, $piece->mesh->tags);
            $xyz[$name] = $piece->mesh->xyz;
        }
        // Neighbours keep the places that they have in common: they are turned about one point.
        $places = static fn (array $list): array => array_map(static fn (array $one): string => implode(' ', $one), array_chunk($list, 3));
        self::assertGreaterThan(40, count(array_intersect($places($xyz['torus-A']), $places($xyz['torus-B']))));
        // Four quarters about the middle, and it stands where it stood.
        $runner = Runner::on('torus', $torus);
        for ($n = 0; $n < 4; $n++) {
            $runner->run(Kinds::read(['do' => 'turn', 'about' => [1, 0, 0], 'degrees' => 90], 'step'));
        }
        foreach ($runner->pieces()['torus']->mesh->xyz as $i => $coordinate) {
            self::assertEqualsWithDelta($torus->xyz[$i], $coordinate, 1e-13);
        }
    }

    public function test_a_face_is_brought_to_the_ground(): void
    {
        // A wedge on its side: the slope, 3 to 4, comes to lie below.
        $wedge = Mesh::of([0, 0, 0, 40, 0, 0, 0, 0, 30, 0, 20, 0, 40, 20, 0, 0, 20, 30], [0, 1, 2, 5, 4, 3, 0, 3, 4, 0, 4, 1, 1, 4, 5, 1, 5, 2, 2, 5, 3, 2, 3, 0]);
        $wedge = Mesh::of(array_map(floatval(...), $wedge->xyz), $wedge->corners);
        self::assertTrue(EdgeCheck::of($wedge)->isWatertight());
        $runner = Runner::on('wedge', $wedge);
        $runner->run(Kinds::read(['do' => 'turn', 'face' => [3, 0, 4]], 'step'));
        $box = Box::of($runner->pieces()['wedge']->mesh->xyz);
        // The slope is 50 long, and the corner across stands 24 above it.
        self::assertEqualsWithDelta([50.0, 20.0, 24.0], $box->size(), 1e-12);
        $low = array_filter(array_chunk($runner->pieces()['wedge']->mesh->xyz, 3), static fn (array $point): bool => $point[2] < $box->min[2] + 1e-9);
        self::assertCount(4, $low);
    }
}
