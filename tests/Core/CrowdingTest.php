<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Fit\BuildSpace;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Turn;
use Isotome\Mesh\Mesh;
use Isotome\Operation\PlateFiles;
use Isotome\Plate\Contour;
use Isotome\Plate\Crowding;
use Isotome\Plate\Plates;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Pieces as they lie on a plate: how near they are to each other and to the rim, against closed forms and against packing. */
final class CrowdingTest extends TestCase
{
    /** @return list<float> a map: turned about the upright, then moved */
    private static function map(float $degrees, float $x, float $y, float $z = 0.0): array
    {
        $map = Turn::about([0.0, 0.0, 1.0], $degrees)->map([0.0, 0.0, 0.0]);

        return [...array_slice($map, 0, 9), $map[9] + $x, $map[10] + $y, $map[11] + $z];
    }

    public function test_distances_of_balls_are_those_of_circles(): void
    {
        $ball = Solids::sphere(10, 4);
        $contour = Contour::of($ball);
        $chance = new Chance(5);
        for ($n = 0; $n < 60; $n++) {
            $away = 15 + 15 * $chance->uniform();
            $way = 2 * M_PI * $chance->uniform();
            $found = $contour->near($contour->moved(cos($way), sin($way), $away * cos($way), $away * sin($way)), 5.0);
            // The outline is a polygon with some eighty sides within the circle.
            if ($away > 25.1) {
                self::assertNull($found);
            } elseif ($away < 19.9) {
                self::assertSame(0.0, $found[0] ?? null);
            } elseif ($away > 20.0 && $away < 24.9) {
                self::assertNotNull($found);
                self::assertEqualsWithDelta($away - 20, $found[0], 0.05);
                self::assertEqualsWithDelta($away / 2, $found[1] * cos($way) + $found[2] * sin($way), 0.6);
            }
        }
    }

    public function test_what_lies_in_the_hole_of_a_ring_is_apart_from_it_and_what_lies_above_it_is_not(): void
    {
        $ring = Contour::of(Solids::torus(20, 4, 64, 32));
        $ball = Contour::of(Solids::sphere(5, 3));
        self::assertNull($ring->near($ball, 10.0));
        self::assertEqualsWithDelta(11, $ring->near($ball, 12.0)[0] ?? 0.0, 0.1);
        self::assertEqualsWithDelta(1, $ring->near($ball->moved(1, 0, 10, 0), 2.0)[0] ?? 0.0, 0.1);
        self::assertSame(0.0, $ring->near($ball->moved(1, 0, 20, 0), 2.0)[0] ?? null);
        // Wholly above the other, both ways.
        $small = Contour::of(Solids::sphere(2, 2));
        self::assertSame(0.0, $ring->near($small->moved(1, 0, 20, 0), 0.1)[0] ?? null);
        self::assertSame(0.0, $small->moved(1, 0, 20, 0)->near($ring, 0.1)[0] ?? null);
        // In the very same place.
        self::assertSame(0.0, $ring->near($ring, 0.1)[0] ?? null);
    }

    public function test_covered_is_what_lies_below_the_body(): void
    {
        $ring = Contour::of(Solids::torus(20, 4, 64, 32));
        $chance = new Chance(6);
        for ($n = 0; $n < 400; $n++) {
            [$x, $y] = [60 * $chance->uniform() - 30, 60 * $chance->uniform() - 30];
            $away = abs(hypot($x, $y) - 20);
            if (abs($away - 4) > 0.1) {
                self::assertSame($away < 4, $ring->covers($x, $y));
            }
        }
    }

    public function test_pieces_that_touch_overlap_or_leave_the_bed_are_told_with_the_place(): void
    {
        $box = Solids::box(20, 10, 30);
        $bed = new BuildSpace(100, 80, 50);
        $told = static fn (array ...$maps): Crowding => Crowding::of(array_map(static fn (array $map): array => [$box, $map], array_values($maps)), $bed, 5.0, 2.0);
        self::assertTrue($told(self::map(0, 5, 5), self::map(0, 27, 5))->isFine());
        $near = $told(self::map(0, 5, 5), self::map(0, 26.5, 5))->near;
        self::assertCount(1, $near);
        self::assertSame([0, 1], [$near[0][0], $near[0][1]]);
        self::assertEqualsWithDelta(1.5, $near[0][2], 1e-9);
        self::assertEqualsWithDelta(25.75, $near[0][3][0], 1e-9);
        // A corner of one that stands aslant, 3 mm into the other.
        $aslant = $told(self::map(0, 5, 5), self::map(45, 22 + 10 / M_SQRT2, 5 - 10 / M_SQRT2))->near;
        self::assertSame(0.0, $aslant[0][2] ?? null);
        self::assertSame([[0, 3.0]], $told(self::map(0, 2, 5))->beyond);
        self::assertEqualsWithDelta(4, $told(self::map(0, 89, 5))->beyond[0][1] ?? 0.0, 1e-9);
        self::assertEqualsWithDelta(1, $told(self::map(0, 5, 5, 21))->beyond[0][1] ?? 0.0, 1e-9);
        self::assertEqualsWithDelta(0.5, $told(self::map(0, 5, 5, -0.5))->beyond[0][1] ?? 0.0, 1e-9);
    }

    public function test_on_a_round_bed_corners_count(): void
    {
        $box = Solids::box(20, 20, 10);
        $bed = BuildSpace::round(100, 50);
        self::assertTrue(Crowding::of([[$box, self::map(0, 45, 45)]], $bed, 5.0, 1.0)->isFine());
        // From the middle at 55, its far corner is at 110 − 0 of both.
        $beyond = Crowding::of([[$box, self::map(0, 80, 80)]], $bed, 5.0, 1.0)->beyond;
        self::assertEqualsWithDelta(45 * M_SQRT2 - 50, $beyond[0][1] ?? 0.0, 1e-9);
    }

    public function test_what_was_packed_is_apart(): void
    {
        $chance = new Chance(17);
        for ($n = 0; $n < 3; $n++) {
            $pieces = [];
            for ($k = 0; $k < 9; $k++) {
                [$a, $b, $c] = [10 + 40 * $chance->uniform(), 10 + 40 * $chance->uniform(), 10 + 40 * $chance->uniform()];
                $pieces["p$k"] = match ($k % 3) {
                    0 => Solids::box($a, $b, $c),
                    1 => Solids::torus(10 + $a / 3, 2 + $b / 10, 24, 12),
                    default => Solids::cone($a / 2, $c, 20),
                };
            }
            [$margin, $spacing] = [3 * $chance->uniform(), 0.5 + 3 * $chance->uniform()];
            $bed = new BuildSpace(150, 130, 120);
            $meshes = array_values($pieces);
            foreach (Plates::of($pieces, $bed->within($margin), $spacing)->plates as $plate) {
                $laid = array_map(static fn (array $one): array => [$meshes[$one['piece']], PlateFiles::pose($one['map'], $margin)], $plate);
                self::assertTrue(Crowding::of($laid, $bed->within($margin), $margin, $spacing)->isFine());
                // Moved into its neighbour, it is told.
                if (count($laid) > 1) {
                    $laid[0][1] = [...array_slice($laid[0][1], 0, 9), $laid[0][1][9] - self::middle($laid[0])[0] + self::middle($laid[1])[0], $laid[0][1][10] - self::middle($laid[0])[1] + self::middle($laid[1])[1], $laid[0][1][11]];
                    self::assertNotSame([], Crowding::of($laid, $bed->within($margin), $margin, $spacing)->near);
                }
            }
        }
    }

    /**
     * @param  array{Mesh, list<float>}  $one
     * @return array{float, float} of its box, as it lies
     */
    private static function middle(array $one): array
    {
        $box = Contour::of(Mesh::of(array_values(\Isotome\Geometry\Affine::points($one[0]->xyz, $one[1])), $one[0]->corners))->box;

        return [($box[0] + $box[2]) / 2, ($box[1] + $box[3]) / 2];
    }
}
