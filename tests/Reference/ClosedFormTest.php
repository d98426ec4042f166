<?php

declare(strict_types=1);

namespace Tests\Reference;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Section;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/**
 * Cuts and sections against closed forms. Sources: formulas of solid geometry as in I. N. Bronshtein et al., Handbook of
 * Mathematics, section 3.3 (spherical cap, frustum of a pyramid, torus), from memory; each can be checked by integration.
 */
final class ClosedFormTest extends TestCase
{
    /** @return list<float> volumes, from behind to ahead */
    private function volumes(Mesh $mesh, Plane $plane): array
    {
        return array_map(Volume::of(...), FlatCut::of($mesh, new FlatBlade($plane), 1)->bodies ?? []);
    }

    /** Cap of height h on a ball of radius r: πh²(3r − h)/3. The mesh lies inside the ball, so its error falls by 4 as edges halve. */
    public function test_sphere_cap(): void
    {
        $r = 10.0;
        foreach ([[0.0, 0.0, 1.0], [0.3, -0.5, 0.7], [1.0, 1.0, 0.0]] as $facing) {
            foreach ([2.5, 8.0, 13.0] as $h) {
                $exact = M_PI * $h * $h * (3 * $r - $h) / 3;
                $length = sqrt($facing[0] ** 2 + $facing[1] ** 2 + $facing[2] ** 2);
                $through = array_map(static fn (float $c): float => $c * ($r - $h) / $length, $facing);
                $errors = [];
                foreach ([2, 3, 4, 5] as $level) {
                    $volumes = $this->volumes(Solids::sphere($r, $level), Plane::through($through, $facing));
                    self::assertCount(2, $volumes);
                    $errors[] = ($exact - $volumes[1]) / $exact;
                    $section = Section::of(Solids::sphere($r, $level), Plane::through($through, $facing));
                    self::assertCount(1, $section->outlines);
                    self::assertEqualsWithDelta(1.0, $section->area / (M_PI * $h * (2 * $r - $h)), 0.2 / 4 ** ($level - 2));
                }
                self::assertLessThan(2e-3, $errors[3]);
                self::assertGreaterThan(0, $errors[3]);
                for ($i = 0; $i < 3; $i++) {
                    self::assertEqualsWithDelta(4.0, $errors[$i] / $errors[$i + 1], 1.0, "height $h, level $i");
                }
            }
        }
    }

    /** Frustum of a pyramid on a regular n-gon: h(A + √(AB) + B)/3, exactly, with A = n r² sin(2π/n)/2. */
    public function test_cone_frustum(): void
    {
        [$radius, $height, $sides] = [10.0, 30.0, 400];
        $cone = Solids::cone($radius, $height, $sides);
        $gon = static fn (float $r): float => $sides * $r * $r * sin(2 * M_PI / $sides) / 2;
        foreach ([0.5, 7.0, 15.0, 29.9, 29.99999] as $h) {
            $a = $gon($radius);
            $b = $gon($radius * (1 - $h / $height));
            [$below, $above] = $this->volumes($cone, Plane::through([0.0, 0.0, $h], [0.0, 0.0, 1.0]));
            $frustum = $h * ($a + sqrt($a * $b) + $b) / 3;
            $tip = ($height - $h) * $b / 3;
            self::assertEqualsWithDelta($frustum, $below, 1e-11 * $frustum);
            self::assertEqualsWithDelta($tip, $above, 1e-9 * $tip);
            $section = Section::of($cone, Plane::through([0.0, 0.0, $h], [0.0, 0.0, 1.0]));
            self::assertEqualsWithDelta($b, $section->area, 1e-9 * $b);
            self::assertEqualsWithDelta(2 * $sides * $radius * (1 - $h / $height) * sin(M_PI / $sides), $section->perimeter, 1e-8);
        }
    }

    /** Torus: its middle plane cuts an annulus 4πRr; a plane through its axis two discs πr² each; a tangent plane from inside touches in one place. */
    public function test_torus_sections(): void
    {
        [$major, $minor, $around, $across] = [20.0, 7.0, 720, 360];
        $torus = Solids::torus($major, $minor, $around, $across);
        $middle = Section::of($torus, Plane::through([0.0, 0.0, 0.0], [0.0, 0.0, 1.0]));
        self::assertCount(2, $middle->outlines);
        $gon = $around * sin(2 * M_PI / $around) / 2;
        self::assertEqualsWithDelta($gon * (27.0 ** 2 - 13.0 ** 2), $middle->area, 1e-9 * $middle->area);
        self::assertEqualsWithDelta(4 * M_PI * $major * $minor, $middle->area, 2e-5 * $middle->area);
        // One outline runs about material, the other about the hole.
        $signs = array_map(static fn (float $area): int => $area <=> 0.0, $middle->areas);
        sort($signs);
        self::assertSame([-1, 1], $signs);

        $through = Section::of($torus, Plane::through([0.0, 0.0, 0.0], [0.0, 1.0, 0.0]));
        self::assertCount(2, $through->outlines);
        self::assertEqualsWithDelta(2 * $across * $minor ** 2 * sin(2 * M_PI / $across) / 2, $through->area, 1e-9);
        self::assertEqualsWithDelta(2 * M_PI * $minor ** 2, $through->area, 1e-4 * $through->area);
        // Half a torus: π²Rr².
        $volumes = $this->volumes($torus, Plane::through([0.0, 0.0, 0.0], [0.0, 1.0, 0.0]));
        self::assertEqualsWithDelta(M_PI ** 2 * $major * $minor ** 2, $volumes[0], 1e-4 * $volumes[0]);
        self::assertEqualsWithDelta($volumes[0], $volumes[1], 1e-9 * $volumes[0]);

        // The spiric section (Perseus) at a distance between R − r and R + r is one outline, nearer than R − r it is two.
        self::assertCount(1, Section::of($torus, Plane::through([13.1, 0.0, 0.0], [1.0, 0.0, 0.0]))->outlines);
        self::assertCount(2, Section::of($torus, Plane::through([12.9, 0.0, 0.0], [1.0, 0.0, 0.0]))->outlines);
        // Villarceau: the plane that touches the torus twice cuts two circles of radius R.
        $villarceau = Section::of($torus, Plane::through([0.0, 0.0, 0.0], [-$minor, 0.0, sqrt($major ** 2 - $minor ** 2)]));
        // The facets lie a hair inside the torus, which shows most where the plane touches it.
        self::assertEqualsWithDelta(4 * M_PI * $major, $villarceau->perimeter, 5e-3 * $villarceau->perimeter);
    }

    /** Turning body and blade together changes neither volumes nor section. */
    public function test_turning_everything_turns_the_result(): void
    {
        $mesh = Solids::together(Solids::torus(20, 7, 50, 30), Solids::sphere(5, 2));
        $point = [3.0, 1.0, 2.0];
        $facing = [0.2, 0.9, 0.4];
        $flat = $this->volumes($mesh, Plane::through($point, $facing));
        $area = Section::of($mesh, Plane::through($point, $facing))->area;
        foreach ([[0.5, 0.0, 0.0], [1.0, 2.0, 3.0], [0.1, -0.7, 2.2]] as [$a, $b, $c]) {
            $turned = Solids::moved($mesh, $a, $b, $c);
            $p = Solids::moved(Mesh::of($point, []), $a, $b, $c)->xyz;
            $f = Solids::moved(Mesh::of($facing, []), $a, $b, $c)->xyz;
            $plane = Plane::through([$p[0], $p[1], $p[2]], [$f[0], $f[1], $f[2]]);
            foreach ($this->volumes($turned, $plane) as $i => $volume) {
                self::assertEqualsWithDelta($flat[$i], $volume, 1e-9 * $flat[$i]);
            }
            self::assertEqualsWithDelta($area, Section::of($turned, $plane)->area, 1e-9 * $area);
        }
    }
}
