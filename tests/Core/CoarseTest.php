<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Box;
use Isotome\Mesh\Coarse;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** The rough stand-in for a first picture: few triangles, the same shape and place. */
final class CoarseTest extends TestCase
{
    public function test_a_large_torus_becomes_small_and_stays_where_it_is(): void
    {
        $torus = Solids::torus(60, 24, 500, 240);
        $rough = Coarse::of($torus, 60);
        self::assertLessThan(0.2 * $torus->triangleCount(), $rough->triangleCount());
        self::assertGreaterThan(2000, $rough->triangleCount());
        $cell = 168 / 60;
        foreach (['min', 'max'] as $end) {
            self::assertEqualsWithDelta(Box::of($torus->xyz)->$end, Box::of($rough->xyz)->$end, $cell);
        }
        // Faces keep their direction: it encloses nearly the same, and looks outward.
        self::assertEqualsWithDelta(1.0, Volume::of($rough) / Volume::of($torus), 0.05);
        // Every place is the mean of vertices of one cell, so near the torus.
        for ($i = 0; $i < count($rough->xyz); $i += 3) {
            $off = hypot(hypot($rough->xyz[$i], $rough->xyz[$i + 1]) - 60, $rough->xyz[$i + 2]) - 24;
            self::assertLessThan($cell, abs($off));
        }
        self::assertSame($torus->triangleCount(), Coarse::of($torus, 1000)->triangleCount());
    }

    public function test_tags_are_kept_and_nothing_is_made_of_nothing(): void
    {
        $box = Solids::box(10, 10, 10);
        $tagged = Mesh::of($box->xyz, $box->corners, array_fill(0, 12, 3));
        self::assertSame(array_fill(0, 12, 3), Coarse::of($tagged, 100)->tags);
        self::assertTrue(Coarse::of($box, 1)->isEmpty());
        self::assertTrue(Coarse::of(Mesh::of([], []), 10)->isEmpty());
        self::assertTrue(Coarse::of(Mesh::of([1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0], [0, 1, 2]), 10)->isEmpty());
    }
}
