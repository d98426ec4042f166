<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Geometry\Plane;
use Isotome\Join\Assembly;
use Isotome\Join\AssemblyStep;
use Isotome\Join\Joints;
use Isotome\Join\Passage;
use Isotome\Mesh\Mesh;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** In which order pieces go together: bodies made of cubes, for which it is plain, and blocks that hold each other. */
final class AssemblyTest extends TestCase
{
    /**
     * @param  list<Mesh>  $pieces
     * @return list<AssemblyStep>
     */
    private static function order(array $pieces): array
    {
        $pairs = [];
        foreach ($pieces as $n => $_) {
            for ($m = $n + 1; $m < count($pieces); $m++) {
                $pairs[] = [$n, $m];
            }
        }
        $tagged = array_map(static fn (Mesh $mesh): Mesh => Mesh::of($mesh->xyz, $mesh->corners, array_fill(0, max(1, $mesh->triangleCount()), 1)), $pieces);

        return Assembly::of($pieces, Joints::of($tagged, $pairs, 0.01));
    }

    /**
     * Every step is tried against what is there: nothing is in the way when it is drawn out again.
     *
     * @param  list<Mesh>  $pieces
     * @param  list<AssemblyStep>  $steps
     */
    private static function assertGoes(array $pieces, array $steps): void
    {
        $there = [];
        foreach ($steps as $step) {
            if ($step->isApart) {
                continue;
            }
            self::assertFalse($step->isBlocked);
            self::assertSame($there === [], $step->along === null);
            if ($step->along !== null) {
                $out = array_map(static fn (float $c): float => -$c, $step->along);
                $group = Solids::together(...array_map(static fn (int $n): Mesh => $pieces[$n], $step->pieces));
                self::assertSame([], Passage::blockers([$group, ...array_map(static fn (int $n): Mesh => $pieces[$n], $there)], $out)[0][0]);
            }
            array_push($there, ...$step->pieces);
        }
        sort($there);
        self::assertSame(array_keys($pieces), $there);
    }

    public function test_what_is_ahead_is_in_the_way_and_what_is_beside_is_not(): void
    {
        $low = Solids::box(10, 10, 10);
        $high = Solids::box(10, 10, 10, [5.0, 0.0, 10.0]);
        $beside = Solids::box(10, 10, 10, [10.0, 0.0, 0.0]);
        $up = [[1 => true], [], [1 => true]];
        $down = [[], [0 => true, 2 => true], []];
        self::assertSame([$up, $down], Passage::blockers([$low, $high, $beside], [0.0, 0.0, 1.0]));
        self::assertSame([$down, $up], Passage::blockers([$low, $high, $beside], [0.0, 0.0, -1.0]));
        self::assertSame([[2 => true], [], []], Passage::blockers([$low, $high, $beside], [1.0, 0.0, 0.0])[0]);
    }

    public function test_a_stack_goes_together_from_below(): void
    {
        $stack = array_map(static fn (int $n): Mesh => Solids::box(10, 10, 10, [0.0, 0.0, 10.0 * $n]), range(0, 5));
        $steps = self::order($stack);
        self::assertSame([[0], [1], [2], [3], [4], [5]], array_column($steps, 'pieces'));
        self::assertSame([[], [0], [1], [2], [3], [4]], array_column($steps, 'onto'));
        self::assertEqualsWithDelta([0.0, 0.0, -1.0], $steps[3]->along, 1e-9);
        self::assertGoes($stack, $steps);
    }

    public function test_a_lid_between_walls_goes_in_before_they_close(): void
    {
        // A drawer within a case that is open to one side only.
        $case = Solids::cells(3, 3, 3, static fn (int $x, int $y, int $z): bool => ! ($y === 1 && $z === 1 && $x > 0));
        $drawer = Solids::cells(3, 3, 3, static fn (int $x, int $y, int $z): bool => $y === 1 && $z === 1 && $x > 0);
        $steps = self::order([$case, $drawer]);
        $along = ($steps[1]->pieces === [1] ? 1 : -1) * ($steps[1]->along[0] ?? 0.0);
        self::assertEqualsWithDelta(-1, $along, 1e-9);
        self::assertGoes([$case, $drawer], $steps);
    }

    public function test_what_no_single_piece_leaves_is_taken_out_as_a_group(): void
    {
        // A hook over a bar, in a box that is open above: neither comes out alone, but both do. The same below its floor, so that the box cannot be lifted off.
        $cells = static fn (array $of, int $way): Mesh => Solids::cells(7, 4, 9, static fn (int $x, int $y, int $z): bool => ($y === 1 || $y === 2) && in_array([$x, $way * ($z - 4)], $of, true));
        $hook = [[1, 1], [2, 1], [3, 1], [1, 2], [1, 3], [2, 3]];
        $bar = [[2, 2], [3, 2], [4, 2]];
        $box = Solids::cells(7, 4, 9, static fn (int $x, int $y, int $z): bool => $z === 4 || $x === 0 || $x >= 5 || $y === 0 || $y === 3);
        $pieces = [$box, $cells($hook, 1), $cells($bar, 1), $cells($hook, -1), $cells($bar, -1)];
        $steps = self::order($pieces);
        // Once one pair is out, the box can be lifted off the other.
        $groups = array_values(array_filter($steps, static fn (AssemblyStep $step): bool => count($step->pieces) === 2));
        self::assertCount(1, $groups);
        self::assertSame(array_values(array_filter($steps, static fn (AssemblyStep $step): bool => ! $step->isApart))[3], $groups[0]);
        self::assertGoes($pieces, $steps);
        // Within the group, one after the other.
        self::assertCount(2, array_filter($steps, static fn (AssemblyStep $step): bool => $step->isApart));
    }

    public function test_rings_that_hang_in_each_other_are_told(): void
    {
        $ring = Solids::torus(10, 2, 40, 20);
        $other = Solids::moved($ring, M_PI / 2, 0.0, 0.0, 1.0, [10.0, 0.0, 0.0]);
        $steps = self::order([$ring, $other]);
        self::assertCount(1, $steps);
        self::assertTrue($steps[0]->isBlocked);
        self::assertCount(2, $steps[0]->pieces);
    }

    public function test_a_ball_cut_askew_goes_together_along_its_cuts(): void
    {
        $pieces = [Solids::sphere(20, 4)];
        foreach ([[0.3, 0.2, 0.9], [0.9, -0.3, 0.1], [-0.2, 0.8, 0.5]] as $n => $facing) {
            $next = [];
            foreach ($pieces as $piece) {
                $cut = FlatCut::of($piece, new FlatBlade(Plane::through([1.0 + $n, 0.5, -0.7], $facing)), $n + 1);
                array_push($next, ...($cut === null ? [] : $cut->bodies));
            }
            $pieces = $next;
        }
        self::assertCount(8, $pieces);
        $pairs = [];
        for ($n = 0; $n < 8; $n++) {
            for ($m = $n + 1; $m < 8; $m++) {
                $pairs[] = [$n, $m];
            }
        }
        $steps = Assembly::of($pieces, Joints::of($pieces, $pairs, 0.01));
        self::assertCount(8, $steps);
        self::assertGoes($pieces, $steps);
        foreach (array_slice($steps, 1) as $step) {
            self::assertNotSame([], $step->onto);
        }
    }
}
