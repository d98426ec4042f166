<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Crossings;
use Isotome\Geometry\Orientation;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use Isotome\Mesh\Volume;
use Isotome\Solid\Arrangement;
use Isotome\Solid\Contact;
use Isotome\Solid\Partition;
use Isotome\Solid\Redrawn;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Triangles that rounding turned over are drawn anew, and what lies around them stays. */
final class RedrawnTest extends TestCase
{
    public function test_what_rounding_turned_over_lies_right_again(): void
    {
        $turned = 0;
        foreach (range(0, 4) as $round) {
            $all = Arrangement::of([self::ring($round), self::block($round)]);
            $triangles = array_keys($all->part);
            $made = Redrawn::of($all, $triangles, $all->corners, $all->corners, $triangles);
            $turned += self::turned($all, $all->corners);
            self::assertSame(0, self::turned($all, $made), "round $round");
            self::assertSame(self::outlines($all, $all->corners), self::outlines($all, $made));
            self::assertGreaterThan(self::meanHeight($all, $all->corners), self::meanHeight($all, $made));
        }
        // So it was not in vain.
        self::assertGreaterThan(20, $turned);
    }

    public function test_both_sides_of_a_wall_change_alike(): void
    {
        $all = Arrangement::of([self::ring(0), self::block(0)]);
        $walls = array_keys(array_filter($all->part, static fn (int $part): bool => $all->mesh[abs($part) - 1] === 1));
        $corners = $triangles = [];
        foreach ($walls as $t) {
            [$a, $b, $c] = array_slice($all->corners, 3 * $t, 3);
            array_push($corners, $a, $b, $c, $a, $c, $b);
            array_push($triangles, $t, $t);
        }
        $made = Redrawn::of($all, $triangles, $corners, $corners, array_keys($triangles));
        self::assertNotSame($corners, $made);
        foreach (array_keys($walls) as $n) {
            [$a, $b, $c] = array_slice($made, 6 * $n, 3);
            self::assertSame([$a, $c, $b], array_slice($made, 6 * $n + 3, 3));
        }
    }

    public function test_one_side_that_cannot_change_keeps_the_other(): void
    {
        $all = Arrangement::of([self::ring(0), self::block(0)]);
        $triangles = array_keys($all->part);
        // Every face has vertices of its own: no part of a plane knows which ones to exchange.
        $numbers = array_keys($all->corners);
        self::assertSame($numbers, Redrawn::of($all, $triangles, $all->corners, $numbers, $triangles));
    }

    public function test_a_ring_cut_by_large_flat_faces_is_solid(): void
    {
        foreach (range(0, 4) as $round) {
            $ring = self::ring($round);
            $parts = Partition::by($ring, [self::block($round)], 9)->bodies;
            self::assertCount(2, $parts);
            foreach ($parts as $part) {
                self::assertTrue(EdgeCheck::of($part)->isWatertight());
                self::assertSame([], Crossings::of(Places::joined($part))->pairs);
            }
            self::assertEqualsWithDelta(1.0, (Volume::of($parts[0]) + Volume::of($parts[1])) / Volume::of($ring), 1e-13);
        }
    }

    private static function ring(int $round): Mesh
    {
        return Solids::moved(Solids::torus(40, 14, 60, 30), 0.05 + $round, 0.02, 0.11);
    }

    /** Large faces, so that each has many thin triangles. */
    private static function block(int $round): Mesh
    {
        return Solids::moved(Solids::box(200, 200, 200), 0.31, 0.17 * $round, 0.23, 1.0, [3.3, 1.1, 0.7]);
    }

    /** @param  list<int>  $corners */
    private static function turned(Arrangement $all, array $corners): int
    {
        $turned = 0;
        foreach ($all->part as $t => $part) {
            if ($t < $all->whole) {
                continue;
            }
            $plane = 3 * (abs($part) - 1);
            [$u, $v] = Contact::page($all->points, [$all->given[$plane], $all->given[$plane + 1], $all->given[$plane + 2]]);
            $at = static fn (int $k, int $axis): float => $all->points->xyz[3 * $corners[3 * $t + $k] + $axis];
            $way = Orientation::of($at(0, $u), $at(0, $v), $at(1, $u), $at(1, $v), $at(2, $u), $at(2, $v));
            $turned += ($part > 0) === ($way > 0) ? 0 : 1;
        }

        return $turned;
    }

    /**
     * @param  list<int>  $corners
     * @return list<string> edges that have a triangle of their plane on one side only
     */
    private static function outlines(Arrangement $all, array $corners): array
    {
        $edges = [];
        foreach ($corners as $i => $p) {
            $q = $corners[$i % 3 === 2 ? $i - 2 : $i + 1];
            $plane = abs($all->part[intdiv($i, 3)]);
            $key = "$plane ".min($p, $q).' '.max($p, $q);
            $edges[$key] = ($edges[$key] ?? 0) + 1;
        }
        $outlines = array_keys(array_filter($edges, static fn (int $times): bool => $times === 1));
        sort($outlines);

        return $outlines;
    }

    /**
     * The mean height of the triangles, mm.
     *
     * @param  list<int>  $corners
     */
    private static function meanHeight(Arrangement $all, array $corners): float
    {
        $sum = 0.0;
        for ($t = $all->whole, $count = count($all->part); $t < $count; $t++) {
            $at = array_map(static fn (int $k): array => array_slice($all->points->xyz, 3 * $corners[3 * $t + $k], 3), [0, 1, 2]);
            $longest = 0.0;
            foreach ([[0, 1], [1, 2], [2, 0]] as [$i, $j]) {
                $longest = max($longest, sqrt(($at[$i][0] - $at[$j][0]) ** 2 + ($at[$i][1] - $at[$j][1]) ** 2 + ($at[$i][2] - $at[$j][2]) ** 2));
            }
            [$e, $f] = [[$at[1][0] - $at[0][0], $at[1][1] - $at[0][1], $at[1][2] - $at[0][2]], [$at[2][0] - $at[0][0], $at[2][1] - $at[0][1], $at[2][2] - $at[0][2]]];
            $sum += sqrt(($e[1] * $f[2] - $e[2] * $f[1]) ** 2 + ($e[2] * $f[0] - $e[0] * $f[2]) ** 2 + ($e[0] * $f[1] - $e[1] * $f[0]) ** 2) / $longest;
        }

        return $sum / max(1, count($all->part) - $all->whole);
    }
}
