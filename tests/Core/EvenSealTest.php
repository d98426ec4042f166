<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Seal;
use Isotome\Exception\BadBlade;
use Isotome\Format\Rounded;
use Isotome\Geometry\Plane;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Blades;
use Tests\Support\Bodies;
use Tests\Support\Faces;
use Tests\Support\Solids;

/** Even seals: watertight, covering the section, with good angles and the wanted size, alike on both sides. */
final class EvenSealTest extends TestCase
{
    /** @return iterable<string, array{string, int}> */
    public static function bodies(): iterable
    {
        $seed = 31;
        foreach (Bodies::names() as $name) {
            yield $name => [$name, $seed++];
        }
    }

    #[DataProvider('bodies')]
    public function test_every_promise_of_the_lean_seal_holds_and_angles_are_good(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        $whole = Volume::measure($mesh);
        $blades = new Blades($mesh, $seed);
        $faces = $thin = 0;
        for ($n = 0; $n < (str_contains($name, '3,000') ? 3 : 6); $n++) {
            $blade = new FlatBlade($n % 2 ? $blades->unlucky() : $blades->anywhere(), seal: Seal::Even, edge: $n % 3 === 2 ? max(\Isotome\Geometry\Box::of($mesh->xyz)->size()) / 30 : null);
            $outcome = FlatCut::of($mesh, $blade, 5);
            if ($outcome === null || ! $outcome->sound) {
                continue;
            }
            $volume = 0.0;
            foreach ($outcome->bodies as $b => $body) {
                $volume += Volume::of($body);
                self::assertTrue(EdgeCheck::of($body)->isWatertight(), "blade $n, body $b");
                $file = Rounded::of($body);
                self::assertTrue($file->isEmpty() || EdgeCheck::of($file)->isWatertight(), "blade $n, body $b in the file");
                foreach (Faces::smallestAngles($body, 5) as $angle) {
                    $faces++;
                    $thin += $angle < 20.0 ? 1 : 0;
                }
            }
            self::assertEqualsWithDelta($whole->volume, $volume, 1e-9 * $whole->volume, "blade $n: volumes");
            self::assertSame(0, Faces::withoutTwin($outcome->bodies, 5), "blade $n: faces without their twin");
        }
        // Corners of the outline sharper than 20° cannot be helped.
        self::assertLessThanOrEqual(0.005 * $faces, $thin, "$thin of $faces faces have an angle under 20°");
    }

    public function test_a_square_section_has_no_thin_face_and_the_given_length(): void
    {
        $outcome = FlatCut::of(Solids::box(40, 30, 20), new FlatBlade(Plane::through([0.0, 0.0, 7.0], [0.0, 0.0, 1.0]), seal: Seal::Even, edge: 2.0), 1);
        self::assertNotNull($outcome);
        [$body] = $outcome->bodies;
        $angles = Faces::smallestAngles($body, 1);
        self::assertGreaterThanOrEqual(20.0, $angles === [] ? 0.0 : min($angles));
        // An equilateral triangle of 2 mm has 1.73 mm²; 1,200 mm² make some 700 of them.
        self::assertGreaterThan(500, count($angles));
        self::assertLessThan(2000, count($angles));
        self::assertLessThan(2 * 2.0, Faces::longestEdge($body, 1));
    }

    public function test_sizes_grow_inwards_when_they_follow_the_skin(): void
    {
        // 400 points around a disc of radius 10: all as small as the rim's edges would be some 30,000 faces.
        $outcome = FlatCut::of(Solids::cone(20, 30, 400), new FlatBlade(Plane::through([0.0, 0.0, 15.0], [0.0, 0.0, 1.0]), seal: Seal::Even), 1);
        self::assertNotNull($outcome);
        $angles = Faces::smallestAngles($outcome->bodies[0], 1);
        self::assertLessThan(6000, count($angles));
        self::assertGreaterThan(600, count($angles));
        self::assertGreaterThanOrEqual(20.0, $angles === [] ? 0.0 : min($angles));
    }

    /** Two pieces that share an earlier cut face, cut by the same blade with a given length: the face is divided alike on both. */
    public function test_neighbours_across_an_earlier_cut_still_match(): void
    {
        $first = FlatCut::of(Solids::torus(20, 7, 30, 20), new FlatBlade(Plane::through([0.0, 0.0, 1.0], [0.1, 0.0, 1.0]), seal: Seal::Even), 1);
        self::assertNotNull($first);
        foreach ([null, 1.5] as $edge) {
            $all = [];
            foreach ($first->bodies as $body) {
                $second = FlatCut::of($body, new FlatBlade(Plane::through([2.0, 1.0, 0.0], [1.0, 0.2, 0.1]), seal: Seal::Even, edge: $edge), 2);
                self::assertNotNull($second);
                array_push($all, ...$second->bodies);
            }
            self::assertSame(0, Faces::withoutTwin($all, 1), 'faces of the first cut');
            self::assertSame(0, Faces::withoutTwin($all, 2), 'faces of the second cut');
        }
    }

    public function test_a_length_that_would_fill_the_memory_is_refused(): void
    {
        $this->expectException(BadBlade::class);
        $this->expectExceptionMessage('two million');
        FlatCut::of(Solids::box(1000, 1000, 10), new FlatBlade(Plane::through([0.0, 0.0, 5.0], [0.0, 0.0, 1.0]), seal: Seal::Even, edge: 0.1), 1);
    }

    public function test_the_skin_keeps_its_shape_where_the_rim_got_points(): void
    {
        $box = Solids::box(40, 30, 20);
        $outcome = FlatCut::of($box, new FlatBlade(Plane::through([0.0, 0.0, 7.0], [0.1, 0.2, 1.0]), seal: Seal::Even, edge: 1.0), 1);
        self::assertNotNull($outcome);
        $area = 0.0;
        foreach ($outcome->bodies as $body) {
            $corners = [];
            foreach ($body->tags as $t => $tag) {
                if ($tag === 0) {
                    array_push($corners, $body->corners[3 * $t], $body->corners[3 * $t + 1], $body->corners[3 * $t + 2]);
                }
            }
            $area += Volume::measure(Mesh::of($body->xyz, $corners))->area;
        }
        self::assertEqualsWithDelta(2 * (40 * 30 + 30 * 20 + 20 * 40), $area, 1e-9 * $area);
    }
}
