<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Chance;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Within;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Places within a body, beside closed forms. */
final class WithinTest extends TestCase
{
    public function test_places_are_within_a_torus_where_its_formula_says_so(): void
    {
        $within = new Within(Solids::torus(20, 7, 120, 60));
        $chance = new Chance(5);
        $inside = 0;
        for ($n = 0; $n < 3000; $n++) {
            [$x, $y, $z] = [60 * $chance->uniform() - 30, 60 * $chance->uniform() - 30, 18 * $chance->uniform() - 9];
            $away = hypot(hypot($x, $y) - 20, $z);
            // Between the inscribed and the circumscribed tube the facets decide.
            if (abs($away - 7) > 0.05) {
                self::assertSame($away < 7, $within->has($x, $y, $z), "($x, $y, $z)");
                self::assertSame($away < 7, $within->isSurely($x, $y, $z), "($x, $y, $z)");
                $inside += $away < 7 ? 1 : 0;
            }
        }
        self::assertGreaterThan(500, $inside);
    }

    public function test_below_an_edge_it_is_not_said_and_outside_the_box_it_is(): void
    {
        $within = new Within(Solids::box(10, 10, 10));
        self::assertNull($within->isSurely(0.0, 0.0, 5.0), 'below a corner');
        self::assertNull($within->isSurely(0.0, 3.0, 5.0), 'below an edge');
        self::assertNull($within->isSurely(5.0, 5.0, 5.0), 'below the diagonal of the top face');
        self::assertTrue($within->isSurely(5.0, 4.0, 5.0));
        self::assertFalse($within->isSurely(5.0, 4.0, 10.5));
        self::assertFalse($within->isSurely(5.0, 4.0, -0.5));
        self::assertFalse($within->isSurely(50.0, 4.0, 5.0));
        self::assertFalse($within->isSurely(5.0, -0.1, 5.0));
    }

    public function test_every_bubble_goes_with_the_body_around_it(): void
    {
        $bubbles = [];
        for ($n = 0; $n < 343; $n++) {
            $bubbles[] = Solids::insideOut(Solids::moved(Solids::sphere(1, 1), 0.1, 0.2, 0.3, 1.0, [4.0 * ($n % 7) - 12, 4.0 * (intdiv($n, 7) % 7) - 12, 4.0 * intdiv($n, 49) - 12]));
        }
        $foam = Solids::together(Solids::box(30, 30, 30, [-15.0, -15.0, -15.0]), ...$bubbles);
        $two = Solids::together($foam, Solids::moved($foam, 0.0, 0.0, 0.0, 1.0, [40.0, 0.0, 0.0]));
        $bodies = Bodies::of($two);
        self::assertSame([344, 344], array_map(static fn (Mesh $body): int => Bodies::shellCount(Mesh::of($body->xyz, $body->corners, $body->tags)), $bodies));
    }
}
