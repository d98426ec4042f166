<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\Section;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Orientation;
use Isotome\Geometry\Plane;
use Isotome\Geometry\Sides;
use PHPUnit\Framework\TestCase;
use Tests\Support\Blades;
use Tests\Support\Solids;

final class BladeGeometryTest extends TestCase
{
    public function test_facing_is_made_a_unit_vector_whatever_its_length(): void
    {
        foreach ([1e-300, 1e-9, 1.0, 1e12, 1e300] as $length) {
            $plane = Plane::through([1.0, 2.0, 3.0], [3 * $length, 0.0, 4 * $length]);
            self::assertEqualsWithDelta([0.6, 0.0, 0.8], $plane->facing(), 1e-15);
            self::assertEqualsWithDelta(3.0, $plane->offset, 1e-14);
        }
    }

    public function test_no_direction_and_no_number_are_refused(): void
    {
        foreach ([[[0.0, 0.0, 0.0], [0.0, 0.0, 0.0], 'no direction'], [[0.0, NAN, 0.0], [0.0, 0.0, 1.0], 'not a finite'], [[0.0, 0.0, 0.0], [INF, 0.0, 1.0], 'not a finite']] as [$through, $facing, $says]) {
            try {
                Plane::through($through, $facing);
                self::fail('it was taken');
            } catch (BadBlade $refusal) {
                self::assertStringContainsString($says, $refusal->getMessage());
            }
        }
    }

    public function test_along_an_axis_places_are_compared_as_they_are(): void
    {
        $z = 0.1 + 0.2;
        $xyz = [0.0, 0.0, 0.3, 0.0, 0.0, $z, 0.0, 0.0, 0.31];
        self::assertSame([Sides::BEHIND, Sides::BEHIND, Sides::ON], Sides::of($xyz, Plane::through([5.0, 5.0, 0.31], [0.0, 0.0, 2.0])));
        self::assertSame([Sides::AHEAD, Sides::AHEAD, Sides::ON], Sides::of($xyz, Plane::through([5.0, 5.0, 0.31], [0.0, 0.0, -1.0])));
        // 0.3 and 0.1 + 0.2 differ by one unit in the last place: no blade lies between, so both are on it.
        self::assertSame([Sides::ON, Sides::ON, Sides::AHEAD], Sides::of($xyz, Plane::through([0.0, 0.0, $z], [0.0, 0.0, 1.0])));
    }

    public function test_turning_the_blade_round_swaps_the_sides_and_nothing_else(): void
    {
        $mesh = Solids::moved(Solids::torus(20, 7, 30, 20), 0.3, 0.2, 0.9);
        $blades = new Blades($mesh, 12);
        for ($n = 0; $n < 60; $n++) {
            $plane = $n % 2 ? $blades->anywhere() : $blades->unlucky();
            [$x, $y, $z] = $plane->facing();
            $point = [$x * $plane->offset, $y * $plane->offset, $z * $plane->offset];
            $back = Plane::through($point, [-$x, -$y, -$z]);
            $swapped = array_map(static fn (int $side): int => [0, 2, 1][$side], Sides::of($mesh->xyz, $plane));
            $differ = array_filter(Sides::of($mesh->xyz, $back), static fn (int $side, int $v): bool => $side !== $swapped[$v], ARRAY_FILTER_USE_BOTH);
            self::assertLessThanOrEqual(3, count($differ), 'vertices in the band of rounding');
            self::assertEqualsWithDelta(Section::of($mesh, $plane)->area, Section::of($mesh, $back)->area, 1e-3, 'a blade that nearly lies in a face turns a hair into a strip');
        }
    }

    public function test_the_page_turns_the_way_one_sees_it_from_ahead(): void
    {
        $ball = Solids::sphere(10, 2);
        $blades = new Blades($ball, 8);
        for ($n = 0; $n < 200; $n++) {
            $plane = $blades->anywhere();
            [$u, $v] = $plane->pageAxes();
            // Two directions in the plane with a right-handed turn about the facing.
            [$nx, $ny, $nz] = $plane->facing();
            $a = abs($nx) < 0.9 ? [0.0, $nz, -$ny] : [-$nz, 0.0, $nx];
            $b = [$ny * $a[2] - $nz * $a[1], $nz * $a[0] - $nx * $a[2], $nx * $a[1] - $ny * $a[0]];
            self::assertSame(1, Orientation::of(0.0, 0.0, $a[$u], $a[$v], $b[$u], $b[$v]));
            [, $right, $up] = Section::of($ball, $plane)->page;
            $cross = [$right[1] * $up[2] - $right[2] * $up[1], $right[2] * $up[0] - $right[0] * $up[2], $right[0] * $up[1] - $right[1] * $up[0]];
            self::assertEqualsWithDelta($plane->facing(), $cross, 1e-12);
        }
    }

    public function test_the_page_of_a_section_leads_back_to_points_on_the_mesh(): void
    {
        $plane = Plane::through([1.0, 2.0, 3.0], [0.3, -0.5, 0.8]);
        $section = Section::of(Solids::sphere(10, 4), $plane);
        [$origin, $right, $up] = $section->page;
        foreach ($section->outlines[0] as [$x, $y]) {
            $point = [];
            for ($k = 0; $k < 3; $k++) {
                $point[] = $origin[$k] + $x * $right[$k] + $y * $up[$k];
            }
            self::assertEqualsWithDelta($plane->offset, $plane->nx * $point[0] + $plane->ny * $point[1] + $plane->nz * $point[2], 1e-12);
            self::assertEqualsWithDelta(10.0, sqrt($point[0] ** 2 + $point[1] ** 2 + $point[2] ** 2), 0.05);
        }
    }
}
