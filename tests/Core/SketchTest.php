<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Measure\Sketch;
use Isotome\Mesh\Mesh;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

final class SketchTest extends TestCase
{
    public function test_a_small_mesh_is_all_there_with_its_proportions(): void
    {
        $bytes = Sketch::of(Solids::box(40, 20, 10));
        self::assertSame(12 * 9, strlen($bytes));
        $at = array_values((array) unpack('C*', $bytes));
        foreach ([[0, 255], [64, 191], [96, 159]] as $k => [$low, $high]) {
            $along = array_values(array_filter($at, static fn (int $i): bool => $i % 3 === $k, ARRAY_FILTER_USE_KEY));
            self::assertEqualsWithDelta([$low, $high], [min($along), max($along)], 1.0, 'XYZ'[$k]);
        }
    }

    public function test_of_many_triangles_so_many_are_left_and_no_large_one_is_missing(): void
    {
        // A plate of two large triangles beside a ring of 12,800 small ones.
        $ring = Solids::torus(20, 7, 160, 40);
        $n = $ring->vertexCount();
        $mesh = Mesh::of([...$ring->xyz, -40.0, -40.0, -7.0, 40.0, -40.0, -7.0, 40.0, 40.0, -7.0, -40.0, 40.0, -7.0], [...$ring->corners, $n, $n + 1, $n + 2, $n, $n + 2, $n + 3]);
        $bytes = Sketch::of($mesh, 500);
        $count = intdiv(strlen($bytes), 9);
        self::assertGreaterThan(150, $count);
        self::assertLessThanOrEqual(502, $count);
        $corners = array_chunk(array_values((array) unpack('C*', $bytes)), 9);
        $large = array_filter($corners, static fn (array $one): bool => max($one[0], $one[3], $one[6]) - min($one[0], $one[3], $one[6]) === 255);
        self::assertCount(2, $large);
    }

    public function test_what_has_no_size_has_no_sketch(): void
    {
        self::assertSame('', Sketch::of(Mesh::of([], [])));
        self::assertSame('', Sketch::of(Mesh::of([1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0], [0, 1, 2])));
    }
}
