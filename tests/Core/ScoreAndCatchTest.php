<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Crossings;
use Isotome\Check\FaceCheck;
use Isotome\Cut\Catching;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Score;
use Isotome\Geometry\Extent;
use Isotome\Geometry\Plane;
use Isotome\Geometry\Sides;
use Isotome\Mesh\Bodies as Separate;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Blades;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** Scoring lays edges into the mesh and changes nothing else; catching moves vertices and folds nothing. */
final class ScoreAndCatchTest extends TestCase
{
    /** @return iterable<string, array{string, int}> */
    public static function bodies(): iterable
    {
        $seed = 70;
        foreach (Bodies::names() as $name) {
            yield $name => [$name, $seed++];
        }
    }

    #[DataProvider('bodies')]
    public function test_a_scored_mesh_has_no_triangle_across_the_blade_and_its_shape(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        $blades = new Blades($mesh, $seed);
        $whole = Volume::measure($mesh);
        for ($n = 0; $n < 6; $n++) {
            $plane = $n % 2 ? $blades->unlucky() : $blades->anywhere();
            $score = Score::of($mesh, $plane);
            if ($score === null) {
                continue;
            }
            self::assertTrue(EdgeCheck::of($score->mesh)->isWatertight(), "blade $n");
            self::assertEqualsWithDelta($whole->volume, Volume::of($score->mesh), 1e-9 * $whole->volume, "blade $n: volume");
            self::assertEqualsWithDelta($whole->area, Volume::measure($score->mesh)->area, 1e-9 * $whole->area, "blade $n: area");
            $sides = Sides::of($score->mesh->xyz, $plane, Extent::of($mesh->xyz));
            foreach ($score->mesh->tags as $t => $_) {
                self::assertNotSame(3, $sides[$score->mesh->corners[3 * $t]] | $sides[$score->mesh->corners[3 * $t + 1]] | $sides[$score->mesh->corners[3 * $t + 2]], "blade $n: triangle $t lies across");
            }
            // Opened everywhere it falls apart as a cut without a seal does.
            $cut = FlatCut::of($mesh, new FlatBlade($plane, seal: \Isotome\Cut\Seal::Open), 1);
            if ($cut !== null && $n % 2 === 0) {
                self::assertCount(count($cut->bodies), Separate::of($score->opened()), "blade $n: bodies when opened");
            }
        }
    }

    #[DataProvider('bodies')]
    public function test_a_score_limited_to_faces_keeps_the_rest_closed(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        $picked = [];
        foreach ($mesh->tags as $t => $_) {
            if ($t % 3 !== 0) {
                $picked[$t] = true;
            }
        }
        $score = Score::of($mesh, (new Blades($mesh, $seed))->anywhere(), $picked);
        self::assertNotNull($score);
        self::assertTrue(EdgeCheck::of($score->mesh)->isWatertight());
        self::assertSame(0, EdgeCheck::of($score->opened())->nonmanifoldEdges);
        self::assertEqualsWithDelta(Volume::measure($mesh)->area, Volume::measure($score->opened())->area, 1e-9 * Volume::measure($mesh)->area);
    }

    public function test_a_slit_on_one_side_of_a_box_opens_only_there(): void
    {
        $box = Solids::box(10, 10, 10);
        // Its two triangles at z = 10.
        $top = [];
        foreach ($box->tags as $t => $_) {
            if (min($box->xyz[3 * $box->corners[3 * $t] + 2], $box->xyz[3 * $box->corners[3 * $t + 1] + 2], $box->xyz[3 * $box->corners[3 * $t + 2] + 2]) > 9.0) {
                $top[$t] = true;
            }
        }
        self::assertCount(2, $top);
        $score = Score::of($box, Plane::through([4.0, 0.0, 0.0], [1.0, 0.0, 0.0]), $top);
        self::assertNotNull($score);
        $opened = $score->opened();
        // The slit from side to side: two edges in the middle of the face, each with two rims now.
        self::assertSame(4, EdgeCheck::of($opened)->openEdges);
        self::assertCount(1, Separate::of($opened));
        self::assertNull(Score::of($box, Plane::through([4.0, 0.0, 0.0], [0.0, 0.0, 1.0]), $top));
    }

    #[DataProvider('bodies')]
    public function test_catching_folds_nothing_and_cuts_stay_watertight(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        $size = max(\Isotome\Geometry\Box::of($mesh->xyz)->size());
        $blades = new Blades($mesh, $seed + 400);
        for ($n = 0; $n < 6; $n++) {
            $plane = $n % 2 ? $blades->unlucky() : $blades->anywhere();
            $caught = Catching::of($mesh, $plane, 0.02 * $size);
            self::assertSame($mesh->corners, $caught->mesh->corners);
            self::assertSame(0, FaceCheck::of($caught->mesh)->doubled, "blade $n");
            $sides = Sides::of($caught->mesh->xyz, $plane);
            $moved = 0;
            foreach ($sides as $v => $side) {
                if (array_slice($mesh->xyz, 3 * $v, 3) !== array_slice($caught->mesh->xyz, 3 * $v, 3)) {
                    $moved++;
                    self::assertSame(Sides::ON, $side, "blade $n: vertex $v was moved and is not on the blade");
                }
            }
            self::assertSame($caught->caught, $moved);
            foreach (FlatCut::of($mesh, new FlatBlade($plane, catch: 0.02 * $size), 1)->bodies ?? [] as $b => $body) {
                self::assertTrue(EdgeCheck::of($body)->isWatertight(), "blade $n, body $b");
            }
        }
    }

    public function test_a_vertex_near_the_blade_is_taken_onto_it_and_an_earlier_cut_face_stays(): void
    {
        $sphere = Solids::sphere(10, 3);
        $plane = Plane::through([0.0, 0.0, 0.3], [0.0, 0.0, 1.0]);
        $caught = Catching::of($sphere, $plane, 0.5);
        self::assertGreaterThan(10, $caught->caught);
        self::assertLessThan(FlatCut::of($sphere, new FlatBlade($plane), 1)?->bodies[0]->triangleCount(), FlatCut::of($sphere, new FlatBlade($plane, catch: 0.5), 1)?->bodies[0]->triangleCount(), 'fewer slivers, fewer faces');
        $tagged = Mesh::of($sphere->xyz, $sphere->corners, array_fill(0, $sphere->triangleCount(), 1));
        self::assertSame(0, Catching::of($tagged, $plane, 0.5)->caught);
    }

    public function test_a_thin_plate_is_not_pressed_flat(): void
    {
        $plate = Solids::box(10, 10, 0.2);
        $caught = Catching::of($plate, Plane::through([0.0, 0.0, 0.1], [0.0, 0.0, 1.0]), 1.0);
        self::assertSame(0, $caught->caught);
        self::assertSame([], Crossings::of($caught->mesh)->pairs);
    }
}
