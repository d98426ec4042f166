<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cells\CommonFaces;
use Isotome\Cut\Fan;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Direction;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Nearest;
use Isotome\Mirror\Jacobi;
use Isotome\Mirror\Reflect;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** The measures that mirrors and shards rest on, against closed forms and against looking at everything. */
final class NearestAndCommonTest extends TestCase
{
    public function test_distances_from_a_box_in_closed_form(): void
    {
        $nearest = new Nearest(Solids::box(10, 6, 4));
        $chance = new Chance(3);
        for ($n = 0; $n < 3000; $n++) {
            $p = [30 * $chance->uniform() - 10, 26 * $chance->uniform() - 10, 24 * $chance->uniform() - 10];
            $out = 0.0;
            $in = INF;
            foreach ([10, 6, 4] as $k => $side) {
                $out += max(0.0, -$p[$k], $p[$k] - $side) ** 2;
                $in = min($in, $p[$k], $side - $p[$k]);
            }
            [$distance, $x, $y, $z] = $nearest->to(...$p);
            self::assertEqualsWithDelta($in > 0 ? $in : sqrt($out), $distance, 1e-12, implode(' ', $p));
            self::assertEqualsWithDelta($distance, sqrt(($x - $p[0]) ** 2 + ($y - $p[1]) ** 2 + ($z - $p[2]) ** 2), 1e-12);
        }
    }

    public function test_what_is_farther_than_asked_is_not_looked_for(): void
    {
        $nearest = new Nearest(Solids::sphere(5, 3));
        self::assertSame([2.0, 20.0, 0.0, 0.0, -1], $nearest->to(20.0, 0.0, 0.0, 2.0));
        self::assertEqualsWithDelta(15.0, $nearest->to(20.0, 0.0, 0.0, 16.0)[0], 0.05);
    }

    /** The tree misses nothing: all triangles, one by one, give the same. */
    public function test_the_nearest_of_all_triangles(): void
    {
        $chance = new Chance(9);
        $xyz = $corners = [];
        for ($t = 0; $t < 120; $t++) {
            for ($k = 0; $k < 9; $k++) {
                $xyz[] = $chance->uniform() * ($t % 7 === 0 ? 1e-3 : 1.0) + ($t % 5) / 5;
            }
            array_push($corners, 3 * $t, 3 * $t + 1, 3 * $t + 2);
        }
        // Triangles without area count as the lines and points that they are.
        array_push($corners, 0, 0, 1, 5, 5, 5);
        $mesh = Mesh::of($xyz, $corners);
        $nearest = new Nearest($mesh);
        $alone = [];
        for ($t = 0; $t < $mesh->triangleCount(); $t++) {
            $alone[] = new Nearest(Mesh::of($xyz, array_slice($corners, 3 * $t, 3)));
        }
        for ($n = 0; $n < 200; $n++) {
            $p = [2 * $chance->uniform() - 0.5, 2 * $chance->uniform() - 0.5, 2 * $chance->uniform() - 0.5];
            $least = min(array_map(static fn (Nearest $one): float => $one->to(...$p)[0], $alone));
            self::assertEqualsWithDelta($least, $nearest->to(...$p)[0], 1e-12);
        }
    }

    /** Source: the definition, A v = λ v; and the invariants, trace and determinant. */
    public function test_eigenvectors_are_what_they_are(): void
    {
        $chance = new Chance(21);
        $some = static fn (): float => (2 * $chance->uniform() - 1) * 10 ** (6 * $chance->uniform() - 3);
        for ($n = 0; $n < 300; $n++) {
            [$a, $b, $c, $d, $e, $f] = [$some(), $some(), $some(), $n % 3 ? $some() : 0.0, $n % 5 ? $some() : 0.0, $some()];
            $m = [[$a, $d, $e], [$d, $b, $f], [$e, $f, $c]];
            $size = max(abs($a), abs($b), abs($c), abs($d), abs($e), abs($f));
            $trace = 0.0;
            $product = 1.0;
            foreach (Jacobi::of($m) as [$value, $v]) {
                self::assertEqualsWithDelta(1.0, $v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2, 1e-12);
                for ($k = 0; $k < 3; $k++) {
                    self::assertEqualsWithDelta($value * $v[$k], $m[$k][0] * $v[0] + $m[$k][1] * $v[1] + $m[$k][2] * $v[2], 1e-11 * $size);
                }
                $trace += $value;
                $product *= $value;
            }
            self::assertEqualsWithDelta($a + $b + $c, $trace, 1e-11 * $size);
            self::assertEqualsWithDelta($a * ($b * $c - $f * $f) - $d * ($d * $c - $f * $e) + $e * ($d * $f - $b * $e), $product, 1e-10 * $size ** 3);
        }
        // The classic: −1, 2 −1, … has 2 − √2, 2, 2 + √2.
        $values = array_column(Jacobi::of([[2.0, -1.0, 0.0], [-1.0, 2.0, -1.0], [0.0, -1.0, 2.0]]), 0);
        sort($values);
        self::assertEqualsWithDelta([2 - M_SQRT2, 2.0, 2 + M_SQRT2], $values, 1e-12);
    }

    public function test_a_reflection_keeps_distances_and_undoes_itself(): void
    {
        $mesh = Solids::torus(20, 7, 12, 8);
        foreach ([[1.0, 0.0, 0.0], [0.0, -2.0, 0.0], [0.3, -0.2, 0.9], [1e-200, 2e-200, 0.0]] as $facing) {
            $plane = Plane::through([3.0, 1.0, -2.0], $facing);
            $there = Reflect::of($mesh, $plane);
            self::assertEqualsWithDelta($mesh->xyz, Reflect::of($there, $plane)->xyz, 1e-12);
            self::assertSame($mesh->corners, Reflect::of($there, $plane)->corners);
            [$nx, $ny, $nz] = $plane->facing();
            for ($i = 0; $i < count($mesh->xyz); $i += 3) {
                $here = $nx * $mesh->xyz[$i] + $ny * $mesh->xyz[$i + 1] + $nz * $mesh->xyz[$i + 2] - $plane->offset;
                $beyond = $nx * $there->xyz[$i] + $ny * $there->xyz[$i + 1] + $nz * $there->xyz[$i + 2] - $plane->offset;
                self::assertEqualsWithDelta(-$here, $beyond, 1e-12);
            }
        }
    }

    /** @return iterable<string, array{array{float, float, float}, float}> how the upper block lies on the lower one, and the area in common */
    public static function blocks(): iterable
    {
        yield 'wholly on it' => [[2.0, 2.0, 4.0], 12.0];
        yield 'over an edge' => [[-1.0, 2.0, 4.0], 9.0];
        yield 'over a corner' => [[-1.0, -2.0, 4.0], 3.0];
        yield 'edge on edge' => [[10.0, 0.0, 4.0], 0.0];
        yield 'a hair above' => [[2.0, 2.0, 4.0 + 1e-5], 0.0];
        yield 'apart' => [[20.0, 0.0, 4.0], 0.0];
    }

    /** @param  array{float, float, float}  $at */
    #[DataProvider('blocks')]
    public function test_faces_that_lie_on_each_other_have_an_area_in_common(array $at, float $expected): void
    {
        // A block of 4 × 3 on one of 10 × 6, along the axes and turned.
        foreach ([[0.0, 0.0, 0.0], [0.4, 1.1, -0.7]] as $turn) {
            $lower = Solids::moved(Solids::box(10, 6, 4), ...$turn);
            $upper = Solids::moved(Solids::box(4, 3, 5, $at), ...$turn);
            $triangles = [];
            foreach ([$lower, $upper] as $piece => $mesh) {
                for ($i = 0; $i < count($mesh->corners); $i += 3) {
                    $triangles[] = [$piece, array_map(static fn (int $v): array => array_slice($mesh->xyz, 3 * $v, 3), array_slice($mesh->corners, $i, 3))];
                }
            }
            $sum = 0.0;
            CommonFaces::between($triangles, static function (int $one, int $other, float $area) use (&$sum): void {
                self::assertNotSame($one, $other);
                $sum += $area;
            });
            self::assertEqualsWithDelta($expected, $sum, 1e-8);
        }
    }

    public function test_a_convex_face_becomes_triangles_of_the_same_sense_and_area(): void
    {
        for ($n = 3; $n < 8; $n++) {
            $places = [];
            for ($k = 0; $k < $n; $k++) {
                array_push($places, 5 * cos(2 * M_PI * $k / $n), 2 * sin(2 * M_PI * $k / $n), 0.0);
            }
            $triangles = Fan::of($places);
            self::assertCount(3 * ($n - 2), $triangles);
            $sum = 0.0;
            foreach (array_chunk($triangles, 3) as [$a, $b, $c]) {
                $area = (($places[3 * $b] - $places[3 * $a]) * ($places[3 * $c + 1] - $places[3 * $a + 1]) - ($places[3 * $b + 1] - $places[3 * $a + 1]) * ($places[3 * $c] - $places[3 * $a])) / 2;
                self::assertGreaterThan(0.0, $area);
                $sum += $area;
            }
            self::assertEqualsWithDelta($n * 10 * sin(2 * M_PI / $n) / 2, $sum, 1e-12);
        }
        // The shorter diagonal of a kite.
        self::assertEqualsCanonicalizing([0, 1, 2, 0, 2, 3], Fan::of([0.0, -1.0, 0.0, 9.0, 0.0, 0.0, 0.0, 1.0, 0.0, -9.0, 0.0, 0.0]));
    }

    public function test_directions_of_any_length(): void
    {
        self::assertSame([0.0, 0.6, -0.8], Direction::unit([0.0, 3e-200, -4e-200]));
        self::assertEqualsWithDelta([0.6, 0.0, 0.8], Direction::unit([3e300, 0.0, 4e300]), 1e-15);
        foreach ([[0.0, 0.0, -0.0], [NAN, 1.0, 0.0], [INF, 0.0, 0.0], [0.0, -INF, 1.0]] as $none) {
            self::assertNull(Direction::unit($none));
        }
    }
}
