<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Measures against closed forms. Source: elementary solid geometry; Pappus's theorems for the torus. */
final class MeasuresTest extends TestCase
{
    public function test_a_box_anywhere(): void
    {
        foreach ([[0.0, 0.0, 0.0], [5.0, -7.0, 11.0], [1e6, -1e6, 3e5], [1e9, 0.0, 0.0]] as $at) {
            $measures = Volume::measure(Solids::box(2, 3, 4, $at));
            self::assertEqualsWithDelta(24.0, $measures->volume, 1e-9);
            self::assertEqualsWithDelta(52.0, $measures->area, 1e-9);
            foreach ([1.0, 1.5, 2.0] as $k => $half) {
                self::assertEqualsWithDelta($at[$k] + $half, $measures->centroid[$k], 1e-6);
            }
        }
    }

    public function test_a_tetrahedron(): void
    {
        $measures = Volume::measure(Mesh::of([0.0, 0.0, 0.0, 6.0, 0.0, 0.0, 0.0, 6.0, 0.0, 0.0, 0.0, 6.0], [0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2]));
        self::assertEqualsWithDelta(36.0, $measures->volume, 1e-12);
        self::assertEqualsWithDelta([1.5, 1.5, 1.5], $measures->centroid, 1e-12);
        self::assertEqualsWithDelta(54.0 + 18 * sqrt(3), $measures->area, 1e-12);
    }

    public function test_a_cone_has_its_centroid_at_a_quarter_of_its_height(): void
    {
        $sides = 720;
        $measures = Volume::measure(Solids::cone(10, 40, $sides));
        $base = $sides * 100 * sin(2 * M_PI / $sides) / 2;
        self::assertEqualsWithDelta($base * 40 / 3, $measures->volume, 1e-9);
        self::assertEqualsWithDelta([0.0, 0.0, 10.0], $measures->centroid, 1e-9);
    }

    public function test_sphere_and_torus_come_nearer_as_triangles_get_smaller(): void
    {
        $last = INF;
        foreach ([2, 3, 4, 5] as $level) {
            $measures = Volume::measure(Solids::sphere(10, $level));
            $error = 1 - $measures->volume / (4000 * M_PI / 3);
            self::assertGreaterThan(0, $error);
            self::assertLessThan($last / 3, $error);
            self::assertLessThan(400 * M_PI, $measures->area);
            $last = $error;
        }
        $torus = Volume::measure(Solids::torus(20, 7, 400, 300));
        self::assertEqualsWithDelta(2 * M_PI ** 2 * 20 * 49, $torus->volume, 3e-4 * $torus->volume);
        self::assertEqualsWithDelta(4 * M_PI ** 2 * 20 * 7, $torus->area, 2e-4 * $torus->area);
    }

    public function test_turning_inside_out_turns_the_sign(): void
    {
        $ball = Solids::sphere(5, 2);
        self::assertSame(-Volume::of($ball), Volume::of(Solids::insideOut($ball)));
        self::assertEqualsWithDelta(Volume::of($ball), Volume::of(Solids::moved($ball, 1, 2, 3, 1.0, [7.0, 8.0, 9.0])), 1e-9);
    }

    public function test_a_sheet_has_the_centroid_of_its_surface(): void
    {
        $sheet = Mesh::of([0.0, 0.0, 0.0, 4.0, 0.0, 0.0, 4.0, 2.0, 0.0, 0.0, 2.0, 0.0], [0, 1, 2, 0, 2, 3]);
        $measures = Volume::measure($sheet);
        self::assertSame([0.0, 8.0], [$measures->volume, $measures->area]);
        self::assertEqualsWithDelta([2.0, 1.0, 0.0], $measures->centroid, 1e-12);
    }

    public function test_boxes(): void
    {
        $box = Box::of(Solids::box(2, 3, 4, [-1.0, 5.0, 0.5])->xyz);
        self::assertSame([[-1.0, 5.0, 0.5], [1.0, 8.0, 4.5], [2.0, 3.0, 4.0]], [$box->min, $box->max, $box->size()]);
        self::assertTrue($box->holds(Box::of(Solids::box(1, 1, 1, [0.0, 6.0, 1.0])->xyz)));
        self::assertFalse($box->holds(Box::of(Solids::box(1, 1, 9, [0.0, 6.0, 1.0])->xyz)));
        self::assertSame([0.0, 0.0, 0.0], Box::of([])->size());
    }
}
