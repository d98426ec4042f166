<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Format\Rounded;
use Isotome\Geometry\Plane;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Volume;
use Isotome\Seal\EarClipping;
use Isotome\Seal\FreeEdges;
use Isotome\Seal\Outlines;
use Isotome\Seal\Polygon;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

final class SealTest extends TestCase
{
    public function test_edges_are_ordered_into_outlines_and_open_lines(): void
    {
        $traced = Outlines::of([0, 1, 2, 5, 6, 7, 10, 11], [1, 2, 0, 6, 7, 5, 11, 12]);
        self::assertSame([[10, 11, 12]], $traced->open);
        self::assertCount(2, $traced->closed);
        foreach ($traced->closed as $loop) {
            self::assertCount(3, $loop);
        }
    }

    public function test_outlines_that_touch_in_points_visit_no_point_twice(): void
    {
        // A chain of three squares, each touching the next in a corner.
        $from = [0, 1, 2, 3, 2, 4, 5, 6, 5, 7, 8, 9];
        $to = [1, 2, 3, 0, 4, 5, 6, 2, 7, 8, 9, 5];
        $traced = Outlines::of($from, $to);
        self::assertSame([], $traced->open);
        self::assertCount(3, $traced->closed);
        foreach ($traced->closed as $loop) {
            self::assertSame($loop, array_values(array_unique($loop)));
        }
        self::assertSame(12, array_sum(array_map(count(...), $traced->closed)));
    }

    public function test_every_edge_ends_in_an_outline_or_a_line_whatever_the_edges(): void
    {
        mt_srand(21);
        for ($n = 0; $n < 300; $n++) {
            $from = $to = [];
            for ($e = mt_rand(1, 60); $e > 0; $e--) {
                $p = mt_rand(0, 14);
                $from[] = $p;
                $to[] = ($p + mt_rand(1, 14)) % 15;
            }
            $traced = Outlines::of($from, $to);
            $edges = [];
            foreach ($traced->closed as $loop) {
                foreach ($loop as $i => $p) {
                    $edges[] = $p.' '.$loop[($i + 1) % count($loop)];
                }
            }
            foreach ($traced->open as $line) {
                self::assertGreaterThan(1, count($line));
                for ($i = 1; $i < count($line); $i++) {
                    $edges[] = $line[$i - 1].' '.$line[$i];
                }
            }
            $given = array_map(static fn (int $p, int $q): string => "$p $q", $from, $to);
            sort($edges);
            sort($given);
            self::assertSame($given, $edges);
        }
    }

    public function test_an_outline_that_crosses_itself_is_still_closed_by_its_triangles(): void
    {
        mt_srand(5);
        for ($n = 0; $n < 200; $n++) {
            $count = mt_rand(3, 40);
            $x = $y = [];
            for ($i = 0; $i < $count; $i++) {
                $x[] = (float) mt_rand(0, 9);
                $y[] = (float) mt_rand(0, 9);
            }
            $triangles = EarClipping::of($x, $y, range(0, $count - 1));
            self::assertCount(3 * ($count - 2), $triangles);
            $edges = [];
            $area = 0.0;
            foreach (array_chunk($triangles, 3) as [$a, $b, $c]) {
                $area += Polygon::area($x, $y, [$a, $b, $c]);
                foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                    $edges["$p $q"] = ($edges["$p $q"] ?? 0) + 1;
                    $edges["$q $p"] = ($edges["$q $p"] ?? 0) - 1;
                }
            }
            for ($i = 0; $i < $count; $i++) {
                $j = ($i + 1) % $count;
                $edges["$i $j"]--;
                $edges["$j $i"]++;
            }
            self::assertSame([], array_filter($edges));
            self::assertEqualsWithDelta(Polygon::area($x, $y, range(0, $count - 1)), $area, 1e-9);
        }
    }

    public function test_a_very_long_crossing_outline_takes_no_quadratic_time(): void
    {
        $x = $y = [];
        mt_srand(1);
        for ($i = 0; $i < 40000; $i++) {
            $x[] = (float) mt_rand(0, 1000000);
            $y[] = (float) mt_rand(0, 1000000);
        }
        $start = hrtime(true);
        self::assertCount(3 * 39998, EarClipping::of($x, $y, range(0, 39999)));
        self::assertLessThan(10.0, (hrtime(true) - $start) / 1e9);
    }

    public function test_areas_and_inside(): void
    {
        $x = [0.0, 4.0, 4.0, 2.0, 0.0];
        $y = [0.0, 0.0, 4.0, 1.0, 4.0];
        self::assertSame(10.0, Polygon::area($x, $y, [0, 1, 2, 3, 4]));
        self::assertSame(-10.0, Polygon::area($x, $y, [4, 3, 2, 1, 0]));
        self::assertSame([true, true, false, false, true], array_map(static fn (array $p): bool => Polygon::encloses($x, $y, [0, 1, 2, 3, 4], $p[0], $p[1]), [[1.0, 1.0], [0.5, 2.5], [2.0, 2.0], [5.0, 1.0], [3.5, 3.0]]));
    }

    public function test_an_inner_edge_that_falls_on_an_edge_of_the_skin_is_divided(): void
    {
        $square = [0.0, 0.0, 0.0, 4.0, 0.0, 0.0, 4.0, 4.0, 0.0, 0.0, 4.0, 0.0];
        $triangles = [0, 1, 2, 0, 2, 3];
        $free = FreeEdges::of($triangles, [0, 1, 2, 3], [1, 2, 3, 0], [], $square);
        self::assertSame([$triangles, []], [$free['triangles'], $free['newXyz']]);
        // The skin has an edge 0–2 on the blade.
        $free = FreeEdges::of($triangles, [0, 1, 2, 3], [1, 2, 3, 0], [0 * 4 + 2 => 2], $square);
        self::assertSame([2.0, 2.0, 0.0], $free['newXyz']);
        self::assertCount(12, $free['triangles']);
    }

    /** A groove whose bottom edge lies in the blade, from one outline to the other: the bodies stay watertight in the file too. */
    public function test_a_groove_that_ends_in_the_blade(): void
    {
        $groove = Solids::moved(Solids::prism([[0.0, 0.0], [10.0, 0.0], [10.0, 5.0], [7.0, 5.0], [5.0, 4.0], [3.0, 5.0], [0.0, 5.0]], 8.0), M_PI / 2, 0, 0);
        $groove = Rounded::of($groove);
        $bottom = 4.0;
        $outcome = FlatCut::of($groove, new FlatBlade(Plane::through([0.0, 0.0, $bottom], [0.0, 0.0, 1.0])), 1);
        self::assertNotNull($outcome);
        self::assertEqualsWithDelta(Volume::of($groove), array_sum(array_map(Volume::of(...), $outcome->bodies)), 1e-9);
        foreach ($outcome->bodies as $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
            self::assertTrue(EdgeCheck::of(Rounded::of($body))->isWatertight());
        }
    }
}
