<?php

declare(strict_types=1);

namespace Tests\Reference;

use Isotome\Measure\Inertia;
use Isotome\Measure\Profile;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** Mass properties and profiles against closed forms of standard solids (common tables of mechanics). */
final class MassTest extends TestCase
{
    public function test_a_box_by_the_table(): void
    {
        $inertia = Inertia::of(Solids::box(2, 3, 4, [100.0, -50.0, 7.0]));
        self::assertEqualsWithDelta(24.0, $inertia->volume, 1e-9);
        self::assertEqualsWithDelta([101.0, -48.5, 9.0], $inertia->centroid, 1e-9);
        foreach ([[0, 9 + 16], [1, 4 + 16], [2, 4 + 9]] as [$k, $sum]) {
            self::assertEqualsWithDelta(24 / 12 * $sum, $inertia->tensor[$k][$k], 1e-9);
            self::assertEqualsWithDelta(0.0, $inertia->tensor[$k][($k + 1) % 3], 1e-9);
        }
    }

    /** 2/5 m r² for a ball, m (4 R² + 5 r²)/8 and m (R² + 3/4 r²) for a torus; the meshes come near from within, by the square of their edges. */
    public function test_a_ball_and_a_torus_are_approached(): void
    {
        $errors = [];
        foreach ([4, 5] as $fine) {
            $ball = Inertia::of(Solids::sphere(10, $fine));
            $errors['ball'][] = 1 - $ball->tensor[0][0] / (0.4 * (4 / 3 * M_PI * 1000) * 100);
            $torus = Inertia::of(Solids::torus(20, 7, 30 * $fine, 20 * $fine));
            $mass = 2 * M_PI ** 2 * 20 * 49;
            $errors['across'][] = 1 - $torus->tensor[0][0] / ($mass * (4 * 400 + 5 * 49) / 8);
            $errors['about'][] = 1 - $torus->tensor[2][2] / ($mass * (400 + 0.75 * 49));
        }
        foreach ($errors as $what => [$coarse, $fine]) {
            self::assertGreaterThan(0.0, $fine, $what);
            self::assertLessThan(0.01, $coarse, $what);
            self::assertLessThan($coarse, $fine, $what);
        }
    }

    /** A regular tetrahedron of edge a has inertia m a²/20 about every axis through its centroid. */
    public function test_a_regular_tetrahedron_exactly(): void
    {
        $xyz = [1.0, 1.0, 1.0, 1.0, -1.0, -1.0, -1.0, 1.0, -1.0, -1.0, -1.0, 1.0];
        $inertia = Inertia::of(Mesh::of($xyz, [0, 1, 2, 0, 3, 1, 0, 2, 3, 1, 3, 2]));
        self::assertEqualsWithDelta(8 / 3, $inertia->volume, 1e-12);
        for ($k = 0; $k < 3; $k++) {
            self::assertEqualsWithDelta(8 / 3 * 8 / 20, $inertia->tensor[$k][$k], 1e-12);
            self::assertEqualsWithDelta(0.0, $inertia->tensor[$k][($k + 1) % 3], 1e-12);
        }
    }

    /** @return iterable<string, array{string}> */
    public static function bodies(): iterable
    {
        foreach (Bodies::names() as $name) {
            yield $name => [$name];
        }
    }

    /** The trace does not turn with the body, and volume and centroid are those of the other integral. */
    #[DataProvider('bodies')]
    public function test_turning_keeps_the_trace_and_both_integrals_agree(string $name): void
    {
        $mesh = Bodies::named($name);
        $inertia = Inertia::of($mesh);
        $measures = Volume::measure($mesh);
        self::assertEqualsWithDelta($measures->volume, $inertia->volume, 1e-10 * abs($measures->volume));
        $size = max(\Isotome\Geometry\Box::of($mesh->xyz)->size());
        foreach ($measures->centroid as $k => $c) {
            self::assertEqualsWithDelta($c, $inertia->centroid[$k], 1e-8 * $size);
        }
        if (! str_contains($name, 'kilometre')) {
            $turned = Inertia::of(Solids::moved($mesh, 0.4, 1.1, 0.7));
            $trace = $inertia->tensor[0][0] + $inertia->tensor[1][1] + $inertia->tensor[2][2];
            self::assertEqualsWithDelta($trace, $turned->tensor[0][0] + $turned->tensor[1][1] + $turned->tensor[2][2], 1e-9 * $trace);
        }
    }

    /** The areas of a profile, summed up, are the volume: exact for a prism, and a cone's by Simpson's rule of thirds. */
    public function test_the_profile_of_a_box_and_a_cone(): void
    {
        $box = Profile::sampled(Solids::box(10, 20, 30), [0.0, 0.0, -2.0], 7);
        self::assertSame(array_fill(0, 7, 1), $box->outlines);
        foreach ($box->areas as $area) {
            self::assertEqualsWithDelta(200.0, $area, 1e-9);
        }
        $cone = Solids::cone(10, 30, 720);
        $profile = Profile::sampled($cone, [0.0, 0.0, 1.0], 50);
        foreach ($profile->positions as $n => $z) {
            $radius = 10 * (1 - ($z - 0.0) / 30);
            self::assertEqualsWithDelta(720 / 2 * sin(2 * M_PI / 720) * $radius ** 2, $profile->areas[$n], 1e-9 * 314);
        }
        self::assertEqualsWithDelta(Volume::of($cone), array_sum($profile->areas) * 30 / 50, 2e-4 * Volume::of($cone));
    }

    /** Spheric sections of a torus: two rings or one, and the areas of P. Guldin's solid. */
    public function test_the_profile_of_a_torus_counts_its_outlines(): void
    {
        $profile = Profile::at(Solids::torus(20, 7, 400, 200), [1.0, 0.0, 0.0], [-20.0, -10.0, 0.0, 10.0, 20.0, 40.0]);
        self::assertSame([1, 2, 2, 2, 1, 0], $profile->outlines);
        self::assertEqualsWithDelta(2 * M_PI * 49, $profile->areas[2], 0.002 * 2 * M_PI * 49);
        self::assertSame(0.0, $profile->areas[5]);
    }
}
