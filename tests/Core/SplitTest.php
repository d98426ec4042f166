<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\LyingPatches;
use Isotome\Cut\Section;
use Isotome\Cut\Split;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\TestCase;
use Tests\Support\Blades;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** What the division promises before anything is sealed. */
final class SplitTest extends TestCase
{
    public function test_the_rim_of_a_watertight_mesh_comes_back_at_every_point_and_both_sides_share_it(): void
    {
        foreach (Bodies::names() as $name) {
            $mesh = Bodies::named($name);
            $blades = new Blades($mesh, 61);
            $area = Volume::measure($mesh)->area;
            for ($n = 0; $n < 8; $n++) {
                $halves = Split::of($mesh, $n % 2 ? $blades->unlucky() : $blades->anywhere());
                $balance = [];
                foreach ($halves->rim->from as $e => $p) {
                    $q = $halves->rim->to[$e];
                    self::assertNotSame($p, $q);
                    $balance[$p] = ($balance[$p] ?? 0) + 1;
                    $balance[$q] = ($balance[$q] ?? 0) - 1;
                }
                self::assertSame([], array_filter($balance), "$name, blade $n: the rim comes back");
                $sum = 0.0;
                foreach ([[true, $halves->behindBase], [false, $halves->aheadBase]] as [$behind, $base]) {
                    [$xyz, $corners, $tags] = $halves->take($behind);
                    self::assertSame($halves->rim->xyz, array_slice($xyz, 3 * $base), "$name, blade $n: rim points");
                    $sum += Volume::measure(Mesh::of($xyz, $corners, $tags))->area;
                }
                self::assertEqualsWithDelta($area, $sum, 1e-9 * $area, "$name, blade $n: no skin is lost or doubled");
            }
        }
    }

    public function test_a_side_is_handed_out_once(): void
    {
        $halves = Split::of(Solids::box(1, 1, 1), Plane::through([0.0, 0.0, 0.5], [0.0, 0.0, 1.0]));
        self::assertFalse($halves->isOneSided());
        self::assertNotSame([], $halves->take(true)[2]);
        self::assertSame([[], [], []], $halves->take(true));
        self::assertTrue($halves->isOneSided());
    }

    /** Steps of a staircase lie on the blade: treads belong to what is below them, and the section leaves them out. */
    public function test_faces_on_the_blade_go_with_the_material_that_they_bound(): void
    {
        $stairs = Solids::cells(4, 1, 4, static fn (int $x, int $y, int $z): bool => $x + $z < 4);
        foreach ([1, 2, 3] as $z) {
            foreach ([1.0, -1.0] as $facing) {
                $plane = Plane::through([0.0, 0.0, (float) $z], [0.0, 0.0, $facing]);
                self::assertEqualsWithDelta(4.0 - $z, Section::of($stairs, $plane)->area, 1e-12);
                $halves = Split::of($stairs, $plane);
                [$xyz, $corners] = $halves->take($facing > 0);
                $highest = -INF;
                foreach ($corners as $corner) {
                    $highest = max($highest, $xyz[3 * $corner + 2]);
                }
                self::assertSame((float) $z, $highest, 'the lower side ends with its tread');
            }
        }
    }

    public function test_patches_without_area_go_where_their_border_is_longer(): void
    {
        // A sliver on a line, its long edge beside the one side, its two short ones beside the other.
        $line = [0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 3.0, 0.0, 0.0];
        $beside = static fn (bool $long, bool $short): array => [2 => [0 => $long, 1 => $short], 1 => [0 => $short], 0 => [2 => $long]];
        self::assertSame([true], LyingPatches::areBehind([[0, 1, 2]], $line, [0, 1], $beside(true, true)));
        self::assertSame([false], LyingPatches::areBehind([[0, 1, 2]], $line, [0, 1], $beside(false, false)));
        // Two triangles that hang together are decided together, by the larger one.
        $square = [0.0, 0.0, 0.0, 4.0, 0.0, 0.0, 4.0, 4.0, 0.0, 2.0, 2.0 + 1e-15, 0.0];
        self::assertSame([true, true], LyingPatches::areBehind([[0, 1, 2], [0, 2, 3]], $square, [0, 1], []));
        self::assertSame([false, false], LyingPatches::areBehind([[2, 1, 0], [3, 2, 0]], $square, [0, 1], []));
        self::assertSame([], LyingPatches::areBehind([], [], [0, 1], []));
    }
}
