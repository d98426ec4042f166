<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cells\Sites;
use Isotome\Cells\StandIn;
use Isotome\Cells\Voronoi;
use Isotome\Mesh\Volume;
use Isotome\Mesh\Within;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** The points that cells grow around, and the cells. */
final class SitesTest extends TestCase
{
    public function test_points_lie_within_the_body(): void
    {
        foreach (['torus, one handle', 'frame with five handles', 'millstone'] as $name) {
            $mesh = Bodies::named($name);
            $within = new Within(StandIn::of($mesh)->mesh);
            foreach (['uniform', 'even', 'gathered'] as $kind) {
                $points = Sites::random(StandIn::of($mesh), $kind, 200, 5, [[$mesh->xyz[0], $mesh->xyz[1], $mesh->xyz[2]]], 5.0);
                self::assertCount(600, $points);
                for ($i = 0; $i < 600; $i += 3) {
                    self::assertTrue($within->has($points[$i], $points[$i + 1], $points[$i + 2]), "$name, $kind, point $i");
                }
            }
        }
    }

    /** A share of points within a part is the part's share of the volume, within four standard deviations of a binomial count. */
    public function test_uniform_points_are_uniform(): void
    {
        $ball = Solids::sphere(10, 4);
        $points = Sites::random(StandIn::of($ball), 'uniform', 4000, 3);
        $near = 0;
        for ($i = 0; $i < 12000; $i += 3) {
            $near += $points[$i] ** 2 + $points[$i + 1] ** 2 + $points[$i + 2] ** 2 < 49.0 ? 1 : 0;
        }
        $share = 4 / 3 * M_PI * 343 / Volume::of($ball);
        self::assertEqualsWithDelta($share, $near / 4000, 4 * sqrt($share * (1 - $share) / 4000));
    }

    /**
     * Poisson spacing: no two points nearer than a distance that random points reach nowhere near. Discs of half the distance packed at random
     * fill between a quarter and two fifths of the space (common practice for dart throwing).
     */
    public function test_even_points_keep_their_distance(): void
    {
        $box = Solids::box(100, 100, 100);
        $least = static function (array $points): float {
            $least = INF;
            for ($i = 0, $count = count($points); $i < $count; $i += 3) {
                for ($j = $i + 3; $j < $count; $j += 3) {
                    $least = min($least, ($points[$i] - $points[$j]) ** 2 + ($points[$i + 1] - $points[$j + 1]) ** 2 + ($points[$i + 2] - $points[$j + 2]) ** 2);
                }
            }

            return sqrt($least);
        };
        $even = $least(Sites::random(StandIn::of($box), 'even', 500, 4));
        self::assertGreaterThan(5 * $least(Sites::random(StandIn::of($box), 'uniform', 500, 4)), $even);
        self::assertGreaterThan(0.2, 500 * M_PI / 6 * $even ** 3 / 1e6);
        self::assertLessThan(0.5, 500 * M_PI / 6 * $even ** 3 / 1e6);
    }

    public function test_gathered_points_thin_out_with_the_fall_off(): void
    {
        $points = Sites::random(StandIn::of(Solids::box(100, 100, 100)), 'gathered', 2000, 4, [[50.0, 50.0, 50.0]], 10.0);
        $near = 0;
        for ($i = 0; $i < 6000; $i++) {
            $near += abs($points[$i] - 50.0) < 10.0 ? 1 : 0;
        }
        // One deviation of a normal distribution: 68.27 % (standard tables).
        self::assertEqualsWithDelta(0.6827, $near / 6000, 0.025);
    }

    /** Every place of a cell is nearest to the cell's own site. */
    public function test_cells_hold_what_is_nearest_to_their_site(): void
    {
        $sites = Sites::random(StandIn::of(Solids::box(1, 1, 1)), 'uniform', 150, 11);
        $complex = Voronoi::of($sites, [-0.1, -0.1, -0.1], [1.1, 1.1, 1.1]);
        self::assertEqualsWithDelta(1.2 ** 3, array_sum($complex->volumes()), 1e-12);
        foreach ($complex->facetsOf as $cell => $facets) {
            foreach ($facets as $f) {
                foreach ($complex->loops[$f] as $v) {
                    [$x, $y, $z] = array_slice($complex->xyz, 3 * $v, 3);
                    $own = sqrt(($x - $sites[3 * $cell]) ** 2 + ($y - $sites[3 * $cell + 1]) ** 2 + ($z - $sites[3 * $cell + 2]) ** 2);
                    for ($other = 0; $other < 150; $other++) {
                        $distance = sqrt(($x - $sites[3 * $other]) ** 2 + ($y - $sites[3 * $other + 1]) ** 2 + ($z - $sites[3 * $other + 2]) ** 2);
                        if ($distance < $own - 1e-9) {
                            self::fail("corner $v of cell $cell is nearer to site $other");
                        }
                    }
                }
            }
        }
    }
}
