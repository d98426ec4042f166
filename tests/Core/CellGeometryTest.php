<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cells\CellsBlade;
use Isotome\Cells\Complex;
use Isotome\Cells\Kerf;
use Isotome\Cells\Locate;
use Isotome\Cells\Voronoi;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Chance;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Cells as solids: lattices in closed form, Euler's formula, convexity, and what a kerf leaves of them. */
final class CellGeometryTest extends TestCase
{
    /**
     * The cell of each lattice is known: facets by their number of corners, and the share of the lattice's cube that it fills. Source: J. H. Conway,
     * N. J. A. Sloane, "Sphere Packings, Lattices and Groups" (1988), chapter 21, from memory: cube, rhombic dodecahedron, truncated octahedron.
     *
     * @return iterable<string, array{list<array{float, float, float}>, array<int, int>, float}>
     */
    public static function lattices(): iterable
    {
        yield 'simple cubic: cubes' => [[[0.5, 0.5, 0.5]], [4 => 6], 1.0];
        yield 'face-centred: rhombic dodecahedra' => [[[0.25, 0.25, 0.25], [0.25, 0.75, 0.75], [0.75, 0.25, 0.75], [0.75, 0.75, 0.25]], [4 => 12], 1 / 4];
        yield 'body-centred: truncated octahedra' => [[[0.25, 0.25, 0.25], [0.75, 0.75, 0.75]], [4 => 6, 6 => 8], 1 / 2];
    }

    /**
     * @param  list<array{float, float, float}>  $basis
     * @param  array<int, int>  $facets
     */
    #[DataProvider('lattices')]
    public function test_lattices_have_the_cells_that_are_known(array $basis, array $facets, float $share): void
    {
        foreach ([1.0, 7.3] as $cube) {
            $n = 5;
            $sites = [];
            for ($i = 0; $i < $n ** 3; $i++) {
                foreach ($basis as [$x, $y, $z]) {
                    array_push($sites, $cube * ($i % $n + $x), $cube * (intdiv($i, $n) % $n + $y), $cube * (intdiv($i, $n * $n) + $z));
                }
            }
            $side = $n * $cube;
            $complex = Voronoi::of($sites, [0.0, 0.0, 0.0], [$side, $side, $side]);
            self::assertEqualsWithDelta($side ** 3, array_sum($complex->volumes()), 1e-9 * $side ** 3);
            $seen = 0;
            foreach ($complex->volumes() as $c => $volume) {
                $at = array_slice($sites, 3 * $c, 3);
                // Those that the box does not cut.
                if (min($at) < 1.3 * $cube || max($at) > $side - 1.3 * $cube) {
                    continue;
                }
                $seen++;
                self::assertEqualsWithDelta($share * $cube ** 3, $volume, 1e-9 * $cube ** 3);
                $found = [];
                foreach ($complex->facetsOf[$c] as $f) {
                    if (self::area($complex, $f) > 1e-9 * $cube * $cube) {
                        $corners = count(self::corners($complex, $f));
                        $found[$corners] = ($found[$corners] ?? 0) + 1;
                    }
                }
                ksort($found);
                self::assertSame($facets, $found, "cell $c");
            }
            self::assertGreaterThan(0, $seen);
        }
    }

    /** @return iterable<string, array{list<float>}> */
    public static function clouds(): iterable
    {
        $chance = new Chance(11);
        $cloud = static function (int $count, float $x, float $y, float $z) use ($chance): array {
            $sites = [];
            for ($n = 0; $n < $count; $n++) {
                array_push($sites, $x * $chance->uniform(), $y * $chance->uniform(), $z * $chance->uniform());
            }

            return $sites;
        };
        yield 'by chance' => [$cloud(120, 1.0, 1.0, 1.0)];
        yield 'nearly in a plane' => [$cloud(60, 1.0, 1.0, 1e-7)];
        yield 'nearly in a line' => [$cloud(40, 1.0, 1e-7, 1e-7)];
        yield 'on a sphere' => [self::onSphere(50)];
        yield 'in a heap' => [[...$cloud(30, 1e-3, 1e-3, 1e-3), ...$cloud(10, 1.0, 1.0, 1.0)]];
    }

    /** @return list<float> all as far from the middle: their cells meet there in one vertex */
    private static function onSphere(int $count): array
    {
        $sites = [];
        for ($n = 0; $n < $count; $n++) {
            $z = 1 - (2 * $n + 1) / $count;
            $around = $n * M_PI * (3 - sqrt(5));
            array_push($sites, 0.5 + 0.4 * sqrt(1 - $z * $z) * cos($around), 0.5 + 0.4 * sqrt(1 - $z * $z) * sin($around), 0.5 + 0.4 * $z);
        }

        return $sites;
    }

    /** @param  list<float>  $sites */
    #[DataProvider('clouds')]
    public function test_every_cell_is_a_convex_solid_about_its_site(array $sites): void
    {
        $complex = Voronoi::of($sites, [-0.1, -0.1, -0.1], [1.1, 1.1, 1.1]);
        self::assertSame(intdiv(count($sites), 3), $complex->cells());
        self::assertEqualsWithDelta(1.2 ** 3, array_sum($complex->volumes()), 1e-9);
        foreach ($complex->facetsOf as $c => $facets) {
            self::assertEuler($complex, $facets, "cell $c");
            $corners = [];
            foreach ($facets as $f) {
                foreach ($complex->loops[$f] as $v) {
                    $corners[$v] = array_slice($complex->xyz, 3 * $v, 3);
                }
            }
            foreach ($facets as $f) {
                if (self::area($complex, $f) < 1e-9) {
                    continue;
                }
                $sign = $complex->behind[$f] === $c ? 1 : -1;
                [$nx, $ny, $nz, $d] = array_slice($complex->planes, 4 * $f, 4);
                foreach ($corners as [$x, $y, $z]) {
                    self::assertLessThan(1e-7, $sign * ($nx * $x + $ny * $y + $nz * $z - $d), "cell $c, facet $f");
                }
                [$x, $y, $z] = array_slice($sites, 3 * $c, 3);
                self::assertLessThan(0.0, $sign * ($nx * $x + $ny * $y + $nz * $z - $d), "site $c");
            }
        }
    }

    /** @param  list<float>  $sites */
    #[DataProvider('clouds')]
    public function test_every_place_is_found_in_the_cell_of_its_nearest_site(array $sites): void
    {
        $complex = Voronoi::of($sites, [-0.1, -0.1, -0.1], [1.1, 1.1, 1.1]);
        $chance = new Chance(5);
        $places = [];
        for ($n = 0; $n < 900; $n++) {
            $places[] = $n % 2 ? $chance->uniform() : $sites[$n % count($sites)] + 1e-3 * ($chance->uniform() - 0.5);
        }
        [$cells, $close] = Locate::of($places, $complex, 1e-12, 1e-9);
        foreach ($cells as $n => $cell) {
            $at = array_slice($places, 3 * $n, 3);
            $near = [];
            for ($c = 0; $c < $complex->cells(); $c++) {
                $near[] = ($sites[3 * $c] - $at[0]) ** 2 + ($sites[3 * $c + 1] - $at[1]) ** 2 + ($sites[3 * $c + 2] - $at[2]) ** 2;
            }
            self::assertEqualsWithDelta(min($near), $near[$cell], 1e-8, "place $n");
            sort($near);
            // Where the second is hardly farther, a wall is near; and a wall that is near parts two that are as far.
            self::assertTrue(! $close[$n] || sqrt($near[1]) - sqrt($near[0]) < 1e-6, "place $n");
        }
    }

    /** @return iterable<string, array{CellsBlade}> */
    public static function blades(): iterable
    {
        yield 'uniform' => [new CellsBlade('uniform', 60, 3)];
        yield 'stretched' => [new CellsBlade('uniform', 60, 3, along: [1.0, 2.0, -1.0], stretch: 6.0)];
        yield 'squeezed' => [new CellsBlade('even', 40, 4, along: [0.0, 0.0, 1e-9], stretch: 0.2)];
        yield 'gathered' => [new CellsBlade('gathered', 60, 5, places: [[1.0, 1.0, 1.0], [25.0, 3.0, 9.0]], falloff: 3.0)];
        yield 'blocks' => [new CellsBlade('blocks', blocks: [4, 3, 2])];
        yield 'bricks' => [new CellsBlade('blocks', blocks: [4, 3, 5], brick: true)];
        yield 'bricks that wander' => [new CellsBlade('blocks', seed: 8, blocks: [4, 5, 5], brick: true, wander: 0.4)];
        yield 'blocks by size, turned' => [new CellsBlade('blocks', size: [7.0, 5.0, 3.0], turned: [10.0, 20.0, 30.0], brick: true)];
        yield 'rings' => [new CellsBlade('rings', rings: 3, sectors: 7, layers: 2)];
        yield 'whole rings about a tilted axis' => [new CellsBlade('rings', axis: [1.0, 0.0, 1.0], rings: 4)];
        yield 'sectors that wander' => [new CellsBlade('rings', seed: 6, wander: 0.45, through: [2.0, 18.0, 5.0], rings: 2, sectors: 5, layers: 3)];
    }

    /** Whatever they are by: closed, convex, of positive volume, each facet between two of them, and together all of the space about the piece. */
    #[DataProvider('blades')]
    public function test_cells_of_every_kind_fill_the_space(CellsBlade $blade): void
    {
        $box = Solids::box(30, 20, 10);
        $complex = $blade->complex($box);
        self::assertEquals($complex, $blade->complex($box), 'the same again');
        $outside = 0.0;
        foreach ($complex->loops as $f => $loop) {
            [$nx, $ny, $nz, $d] = array_slice($complex->planes, 4 * $f, 4);
            self::assertGreaterThanOrEqual(0, $complex->behind[$f]);
            foreach ($loop as $v) {
                self::assertEqualsWithDelta($d, $nx * $complex->xyz[3 * $v] + $ny * $complex->xyz[3 * $v + 1] + $nz * $complex->xyz[3 * $v + 2], 1e-7, "facet $f is flat");
            }
            if ($complex->ahead[$f] < 0) {
                // The divergence theorem over the outer faces alone.
                $outside += self::area($complex, $f) * $d / 3;
            }
        }
        $volumes = $complex->volumes();
        self::assertGreaterThan(0.0, min($volumes));
        self::assertEqualsWithDelta($outside, array_sum($volumes), 1e-6 * $outside);
        self::assertGreaterThan(30 * 20 * 10, $outside);
        foreach ($complex->facetsOf as $c => $facets) {
            self::assertEuler($complex, $facets, "cell $c");
            $corners = $complex->corners()[$c];
            foreach ($facets as $f) {
                $sign = $complex->behind[$f] === $c ? 1 : -1;
                [$nx, $ny, $nz, $d] = array_slice($complex->planes, 4 * $f, 4);
                foreach (self::area($complex, $f) < 1e-6 ? [] : $corners as [$x, $y, $z]) {
                    self::assertLessThan(1e-6, $sign * ($nx * $x + $ny * $y + $nz * $z - $d), "cell $c is convex");
                }
            }
        }
        // Every place of the piece is in a cell.
        $chance = new Chance(2);
        $places = [];
        for ($n = 0; $n < 300; $n++) {
            array_push($places, 30 * $chance->uniform(), 20 * $chance->uniform(), 10 * $chance->uniform());
        }
        self::assertCount(300, Locate::of($places, $complex, 1e-9)[0]);
    }

    public function test_a_place_beyond_the_cells_is_refused(): void
    {
        $complex = Voronoi::of([0.2, 0.2, 0.2, 0.8, 0.8, 0.8], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]);
        $this->expectException(BadBlade::class);
        $this->expectExceptionMessage('The cells do not reach the place 1.500, 0.500, 0.500 of the body');
        Locate::of([1.5, 0.5, 0.5], $complex, 1e-12);
    }

    public function test_two_sites_in_one_place_are_refused(): void
    {
        $this->expectException(BadBlade::class);
        $this->expectExceptionMessage('Points 0 and 2 of the cells are in one place');
        Voronoi::of([0.2, 0.2, 0.2, 0.8, 0.8, 0.8, 0.2, 0.2, 0.2 + 1e-9], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]);
    }

    /** Half the kerf off each wall that has a neighbour, none off the sides of the box: in a row of slabs, and in a lattice of cubes. */
    public function test_a_kerf_in_closed_form(): void
    {
        $row = Voronoi::of([0.5, 0.5, 0.5, 1.5, 0.5, 0.5, 2.5, 0.5, 0.5], [0.0, 0.0, 0.0], [3.0, 1.0, 1.0]);
        foreach ([0.1, 0.4] as $kerf) {
            self::assertEqualsWithDelta([1 - $kerf / 2, 1 - $kerf, 1 - $kerf / 2], Kerf::of($row, $kerf)->volumes(), 1e-12);
        }
        $sites = [];
        for ($i = 0; $i < 27; $i++) {
            array_push($sites, $i % 3 + 0.5, intdiv($i, 3) % 3 + 0.5, intdiv($i, 9) + 0.5);
        }
        $cubes = Voronoi::of($sites, [0.0, 0.0, 0.0], [3.0, 3.0, 3.0]);
        $volumes = Kerf::of($cubes, 0.2)->volumes();
        self::assertEqualsWithDelta(0.8 ** 3, $volumes[13], 1e-12, 'the one in the middle');
        self::assertEqualsWithDelta(0.9 ** 3, $volumes[0], 1e-12, 'at a corner');
        self::assertEqualsWithDelta((3 - 2 * 0.2) ** 3, array_sum($volumes), 1e-11);
    }

    /** @param  list<float>  $sites */
    #[DataProvider('clouds')]
    public function test_what_a_kerf_leaves_keeps_its_distance(array $sites): void
    {
        $complex = Voronoi::of($sites, [-0.1, -0.1, -0.1], [1.1, 1.1, 1.1]);
        $before = $complex->volumes();
        $kerf = 0.02;
        $left = Kerf::of($complex, $kerf);
        foreach ($left->volumes() as $c => $volume) {
            self::assertLessThanOrEqual($before[$c] + 1e-12, $volume);
            self::assertGreaterThanOrEqual(-1e-12, $volume);
        }
        // From each wall of the cell that has a neighbour, every corner of what is left is half a kerf away or more.
        foreach ($left->facetsOf as $c => $facets) {
            $volume = $left->volumes()[$c];
            if ($volume > 1e-9) {
                self::assertEuler($left, $facets, "cell $c");
            }
            foreach ($complex->facetsOf[$c] as $wall) {
                if ($complex->ahead[$wall] < 0 || self::area($complex, $wall) < 1e-9) {
                    continue;
                }
                $sign = $complex->behind[$wall] === $c ? 1 : -1;
                [$nx, $ny, $nz, $d] = array_slice($complex->planes, 4 * $wall, 4);
                foreach ($facets as $f) {
                    foreach ($left->loops[$f] as $v) {
                        [$x, $y, $z] = array_slice($left->xyz, 3 * $v, 3);
                        self::assertLessThan(-$kerf / 2 + 1e-8, $sign * ($nx * $x + $ny * $y + $nz * $z - $d), "cell $c");
                    }
                }
            }
        }
    }

    /** @param  list<int>  $facets */
    private static function assertEuler(Complex $complex, array $facets, string $which): void
    {
        $vertices = $edges = [];
        foreach ($facets as $f) {
            $loop = $complex->loops[$f];
            foreach ($loop as $i => $v) {
                $w = $loop[($i + 1) % count($loop)];
                $vertices[$v] = true;
                $key = min($v, $w).' '.max($v, $w);
                $edges[$key] = ($edges[$key] ?? 0) + 1;
            }
        }
        self::assertSame([2], array_values(array_unique($edges)), "$which: two facets at every edge");
        self::assertSame(2, count($vertices) - count($edges) + count($facets), $which);
    }

    /** @return list<int> corners of a facet that are no straight ones */
    private static function corners(Complex $complex, int $f): array
    {
        $loop = $complex->loops[$f];
        $n = count($loop);
        $corners = [];
        foreach ($loop as $i => $v) {
            $a = array_slice($complex->xyz, 3 * $loop[($i + $n - 1) % $n], 3);
            $b = array_slice($complex->xyz, 3 * $v, 3);
            $c = array_slice($complex->xyz, 3 * $loop[($i + 1) % $n], 3);
            [$u, $w] = [[$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]], [$c[0] - $b[0], $c[1] - $b[1], $c[2] - $b[2]]];
            $cross = sqrt(($u[1] * $w[2] - $u[2] * $w[1]) ** 2 + ($u[2] * $w[0] - $u[0] * $w[2]) ** 2 + ($u[0] * $w[1] - $u[1] * $w[0]) ** 2);
            if ($cross > 1e-9) {
                $corners[] = $v;
            }
        }

        return $corners;
    }

    private static function area(Complex $complex, int $f): float
    {
        $loop = $complex->loops[$f];
        $o = array_slice($complex->xyz, 3 * $loop[0], 3);
        $sum = [0.0, 0.0, 0.0];
        for ($i = 1; $i + 1 < count($loop); $i++) {
            $p = array_slice($complex->xyz, 3 * $loop[$i], 3);
            $q = array_slice($complex->xyz, 3 * $loop[$i + 1], 3);
            [$u, $w] = [[$p[0] - $o[0], $p[1] - $o[1], $p[2] - $o[2]], [$q[0] - $o[0], $q[1] - $o[1], $q[2] - $o[2]]];
            $sum = [$sum[0] + $u[1] * $w[2] - $u[2] * $w[1], $sum[1] + $u[2] * $w[0] - $u[0] * $w[2], $sum[2] + $u[0] * $w[1] - $u[1] * $w[0]];
        }

        return sqrt($sum[0] ** 2 + $sum[1] ** 2 + $sum[2] ** 2) / 2;
    }
}
