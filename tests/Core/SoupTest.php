<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Crossings;
use Isotome\Geometry\Chance;
use Isotome\Mend\Enclose;
use Isotome\Mend\JoinGaps;
use Isotome\Mend\Mend;
use Isotome\Mend\WindingField;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use Isotome\Mesh\Tree;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use RuntimeException;
use Tests\Support\Solids;
use Tests\Support\Soups;

/** Triangles that do not touch, or only in patches: they end as a solid of about the volume that they came from. */
final class SoupTest extends TestCase
{
    private static function assertSolid(Mesh $mesh): void
    {
        self::assertTrue(EdgeCheck::of($mesh)->isWatertight());
        self::assertSame([], Crossings::of(Places::joined($mesh))->pairs);
    }

    /** @return iterable<string, array{Mesh, Mesh, float}> body, soup, and the share of the volume that may be missing */
    public static function soups(): iterable
    {
        foreach (['ball' => Solids::sphere(9, 3), 'ring' => Solids::torus(8, 3, 40, 20)] as $name => $body) {
            yield "$name, with gaps" => [$body, Soups::triangles($body, 0.1), 0.01];
            yield "$name, with wide gaps" => [$body, Soups::triangles($body, 0.4), 0.03];
            yield "$name, shaken, crossing" => [$body, Soups::triangles($body, 0.0, 0.05), 0.01];
            yield "$name, a fifth is missing" => [$body, Soups::triangles($body, 0.1, 0.02, 0.2), 0.01];
            yield "$name, some turned over" => [$body, Soups::triangles($body, 0.1, 0.0, 0.0, 0.05), 0.01];
        }
    }

    #[DataProvider('soups')]
    public function test_loose_triangles_are_joined_across_their_gaps(Mesh $body, Mesh $soup, float $lost): void
    {
        $mend = Mend::of($soup);
        self::assertSolid($mend->mesh);
        self::assertGreaterThan((1 - $lost) * Volume::of($body), Volume::of($mend->mesh));
        self::assertLessThan(1.01 * Volume::of($body), Volume::of($mend->mesh));
        self::assertGreaterThan(2 * $soup->triangleCount() - 200, $mend->did['joined'], 'three corners each, six around a vertex');
        self::assertSame(0, $mend->did['redrawn']);
    }

    public function test_patches_are_joined_or_enclosed_but_never_closed_each_by_itself(): void
    {
        $ball = Solids::sphere(9, 4);
        $ring = Solids::torus(8, 3, 60, 40);
        $octants = static fn (array $p): int => ($p[0] > 0 ? 1 : 0) + ($p[1] > 0 ? 2 : 0) + ($p[2] > 0 ? 4 : 0);
        $blocks = static fn (array $p): string => implode(' ', array_map(static fn (float $c): int => (int) floor($c / 3.3), $p));
        foreach ([
            [$ball, Soups::patches($ball, 0.02, $octants), false, 0.97], [$ball, Soups::patches($ball, 0.1, $blocks), false, 0.97],
            // What they wind around more than half is smaller, where whole patches have moved inward.
            [$ball, Soups::patches($ball, 0.1, $octants), true, 0.9], [$ring, Soups::patches($ring, 0.1, $octants), true, 0.82],
        ] as $n => [$body, $soup, $isRedrawn, $share]) {
            $mend = Mend::of($soup);
            self::assertSolid($mend->mesh);
            self::assertGreaterThan($share * Volume::of($body), Volume::of($mend->mesh), "case $n");
            self::assertLessThan(Volume::of($body), Volume::of($mend->mesh), "case $n");
            self::assertSame($isRedrawn ? $soup->triangleCount() : 0, $mend->did['redrawn'], "case $n");
        }
    }

    public function test_what_is_closed_already_stays_beside_a_soup(): void
    {
        $ball = Solids::sphere(9, 4);
        $cube = Solids::box(3, 3, 3, [30.0, 0.0, 0.0]);
        $octants = static fn (array $p): int => ($p[0] > 0 ? 1 : 0) + ($p[1] > 0 ? 2 : 0) + ($p[2] > 0 ? 4 : 0);
        $mend = Mend::of(Solids::together(Soups::patches($ball, 0.1, $octants), $cube));
        self::assertSolid($mend->mesh);
        self::assertSame($ball->triangleCount(), $mend->did['redrawn']);
        $kept = array_filter(array_chunk($mend->mesh->xyz, 3), static fn (array $at): bool => $at[0] > 20.0);
        self::assertEqualsCanonicalizing(array_chunk($cube->xyz, 3), array_values($kept));
    }

    /** Their rims are no gaps between them: each gets its lid, however near they stand, and wherever the middle of all of them is. */
    public function test_open_pots_beside_each_other_stay_apart(): void
    {
        foreach ([0.2, 3.0, 60.0] as $apart) {
            $pots = [];
            for ($n = 0; $n < 4; $n++) {
                $box = Solids::box(5, 5, 8, [(5 + $apart) * ($n % 2), (5 + $apart) * intdiv($n, 2), 30.0 * ($n % 2)]);
                $top = max($box->xyz[2], ...array_map(static fn (array $at): float => $at[2], array_chunk($box->xyz, 3)));
                $pots[] = Mesh::of($box->xyz, array_merge(...array_filter(array_chunk($box->corners, 3), static fn (array $three): bool => array_filter($three, static fn (int $v): bool => $box->xyz[3 * $v + 2] < $top) !== [])));
            }
            $mend = Mend::of(Solids::together(...$pots));
            self::assertSolid($mend->mesh);
            self::assertEqualsWithDelta(4 * 200.0, Volume::of($mend->mesh), 1e-9);
            self::assertSame([0, 0, 4], [$mend->did['joined'], $mend->did['redrawn'], $mend->did['rims_closed']]);
        }
    }

    public function test_a_closed_surface_is_enclosed_by_itself(): void
    {
        foreach ([Solids::sphere(9, 3), Solids::torus(8, 3, 40, 20), Solids::nest(2), Solids::insideOut(Solids::sphere(9, 3))] as $body) {
            $soup = Soups::triangles($body, 0.0);
            $made = Enclose::of($soup, 7);
            self::assertNotNull($made);
            self::assertSolid($made);
            self::assertEqualsWithDelta(1.0, Volume::of($made) / abs(Volume::of($body)), 0.004);
            // Every new point lies on a triangle: none is in a gap.
            self::assertLessThan(0.01 * $made->triangleCount(), count(array_keys($made->tags, 7, true)));
        }
    }

    public function test_sheets_and_triangles_too_far_apart_enclose_nothing(): void
    {
        $sheets = Solids::together(Mesh::of([0, 0, 0, 9, 0, 0, 9, 9, 0, 0, 9, 0], [0, 1, 2, 0, 2, 3]), Mesh::of([0, 0, 5, 9, 0, 5, 9, 9, 5, 0, 9, 5], [0, 1, 2, 0, 2, 3]));
        self::assertNull(Enclose::of($sheets));
        self::assertSame($sheets, Mend::of($sheets)->mesh);
        self::assertNull(Enclose::of(Soups::triangles(Solids::box(9, 7, 8), 0.5)));
        self::assertNull(Enclose::of(Mesh::of([], [])));
        self::assertNull(Enclose::of(Mesh::of([1, 1, 1, 1, 1, 1, 1, 1, 1], [0, 1, 2])));
    }

    public function test_only_loose_triangles_are_joined_across_gaps(): void
    {
        // A body with a slit keeps its rim; nearly all of its edges are joined.
        $ball = Solids::sphere(9, 3);
        $open = Mesh::of($ball->xyz, array_slice($ball->corners, 60));
        self::assertSame($open, JoinGaps::of($open)['mesh']);
        self::assertSame(0, JoinGaps::of($ball)['joined']);
        // Boxes that stand apart are not drawn together into one.
        $boxes = Solids::together(...array_map(static fn (int $n): Mesh => Solids::box(1, 1, 1, [3.0 * $n, 0.0, 0.0]), range(0, 5)));
        self::assertSame(0, JoinGaps::of($boxes, true)['joined']);
    }

    /** Source: the solid angle of a triangle, A. van Oosterom, J. Strackee (1983), summed over all triangles without groups. */
    public function test_the_winding_field_is_that_of_all_triangles_one_by_one(): void
    {
        $chance = new Chance(4);
        foreach ([Soups::triangles(Solids::torus(8, 3, 40, 20), 0.3, 0.0, 0.2, 0.1), Solids::sphere(9, 3)] as $n => $mesh) {
            $field = new WindingField($mesh, Tree::of($mesh));
            for ($k = 0; $k < 100; $k++) {
                $at = [22 * $chance->uniform() - 11, 22 * $chance->uniform() - 11, 22 * $chance->uniform() - 11];
                self::assertEqualsWithDelta(self::winding($mesh, $at), $field->at(...$at), 0.03);
            }
            if ($n === 1) {
                self::assertEqualsWithDelta(1.0, $field->at(0.3, 0.2, 0.1), 0.03);
                self::assertEqualsWithDelta(0.0, $field->at(12.0, 0.2, 0.1), 0.03);
            }
        }
    }

    /** @param  array{float, float, float}  $at */
    private static function winding(Mesh $mesh, array $at): float
    {
        $sum = 0.0;
        foreach (array_chunk($mesh->corners, 3) as $three) {
            [$a, $b, $c] = array_map(static fn (int $v): array => [$mesh->xyz[3 * $v] - $at[0], $mesh->xyz[3 * $v + 1] - $at[1], $mesh->xyz[3 * $v + 2] - $at[2]], $three);
            $dot = static fn (array $p, array $q): float => $p[0] * $q[0] + $p[1] * $q[1] + $p[2] * $q[2];
            [$la, $lb, $lc] = [sqrt($dot($a, $a)), sqrt($dot($b, $b)), sqrt($dot($c, $c))];
            $det = $dot($a, [$b[1] * $c[2] - $b[2] * $c[1], $b[2] * $c[0] - $b[0] * $c[2], $b[0] * $c[1] - $b[1] * $c[0]]);
            $sum += 2 * atan2($det, $la * $lb * $lc + $dot($a, $b) * $lc + $dot($b, $c) * $la + $dot($c, $a) * $lb);
        }

        return $sum / (4 * M_PI);
    }

    public function test_enclosing_can_be_stopped(): void
    {
        $told = [];
        Enclose::of(Soups::triangles(Solids::sphere(9, 3), 0.1), 0, static function (float $share) use (&$told): void {
            $told[] = $share;
        });
        $sorted = $told;
        sort($sorted);
        self::assertSame($sorted, $told);
        self::assertGreaterThan(10, count($told));
        $this->expectException(RuntimeException::class);
        Enclose::of(Soups::triangles(Solids::sphere(9, 3), 0.1), 0, static fn (float $share) => $share > 0.4 ? throw new RuntimeException('stopped') : null);
    }
}
