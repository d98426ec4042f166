<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cells\CellsBlade;
use Isotome\Cells\Conform;
use Isotome\Cells\Contacts;
use Isotome\Cells\JoinCells;
use Isotome\Cells\Merging;
use Isotome\Format\Materials;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\NearOrigin;
use Isotome\Mesh\Together;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** Small parts and their neighbours: who joins whom, and what makes it possible. */
final class JoiningTest extends TestCase
{
    public function test_the_smallest_join_first_the_neighbour_with_the_largest_common_face(): void
    {
        // A row of four, 1 and 2 being small: 1 joins 2 by the larger face, both are large enough then.
        $volumes = [10.0, 1.0, 1.5, 10.0];
        $areas = [1 => [0 => 2.0, 2 => 3.0], 0 => [1 => 2.0], 2 => [1 => 3.0, 3 => 9.0], 3 => [2 => 9.0]];
        self::assertSame([0 => [0], 2 => [2, 1], 3 => [3]], Merging::of($volumes, $areas, 2.0));
        // Still too small together: on to the largest face of either.
        self::assertSame([0 => [0], 3 => [3, 2, 1]], Merging::of($volumes, $areas, 3.0));
        // Equal faces: the lower number.
        self::assertSame([0 => [0, 1], 2 => [2]], Merging::of([5.0, 1.0, 5.0], [1 => [2 => 4.0, 0 => 4.0], 0 => [1 => 4.0], 2 => [1 => 4.0]], 2.0));
        // Without a neighbour it stays; nothing small, nothing joined.
        self::assertSame([0 => [0], 1 => [1]], Merging::of([5.0, 0.1], [], 2.0));
        self::assertSame([0 => [0], 1 => [1]], Merging::of([5.0, 3.0], [0 => [1 => 1.0], 1 => [0 => 1.0]], 2.0));
        // What does not fit is passed over for what does.
        $fits = static fn (array $parts): bool => ! in_array(2, $parts, true);
        self::assertSame([0 => [0, 1], 2 => [2], 3 => [3]], Merging::of($volumes, $areas, 1.2, $fits));
    }

    /** Property: joined or not, every part is in one group, groups are as large as asked where there is a neighbour, and hang together. */
    public function test_groups_are_a_division_of_the_parts(): void
    {
        mt_srand(20261125);
        for ($round = 0; $round < 200; $round++) {
            $count = mt_rand(2, 30);
            $volumes = $areas = [];
            for ($n = 0; $n < $count; $n++) {
                $volumes[$n] = mt_rand(1, 1000) / 100;
                for ($k = 0; $k < 2 && $n > 0; $k++) {
                    $other = mt_rand(0, $n - 1);
                    $areas[$n][$other] = $areas[$other][$n] = mt_rand(1, 100) / 10;
                }
            }
            $groups = Merging::of($volumes, $areas, 4.0);
            self::assertEqualsCanonicalizing(range(0, $count - 1), array_merge(...array_values($groups)));
            foreach ($groups as $into => $parts) {
                $sum = array_sum(array_map(static fn (int $part): float => $volumes[$part], $parts));
                self::assertTrue($sum >= 4.0 || count($groups) === 1, "round $round");
                $reached = [$into => true];
                for ($again = true; $again;) {
                    $again = false;
                    foreach ($parts as $part) {
                        if (! isset($reached[$part]) && array_intersect_key($areas[$part], $reached) !== []) {
                            $reached[$part] = $again = true;
                        }
                    }
                }
                self::assertCount(count($parts), $reached);
            }
        }
    }

    public function test_faces_are_divided_until_they_match_corner_for_corner(): void
    {
        // Two boxes side by side; of the second, the edges of the common face have points in their middles.
        $one = self::tagged(Solids::box(10, 10, 10), 10.0);
        $other = Solids::box(10, 10, 10, [10.0, 0.0, 0.0]);
        $xyz = $other->xyz;
        $corners = $other->corners;
        foreach ([[0, 2], [2, 6]] as [$a, $b]) {
            $m = intdiv(count($xyz), 3);
            for ($k = 0; $k < 3; $k++) {
                $xyz[] = ($xyz[3 * $a + $k] + $xyz[3 * $b + $k]) / 2;
            }
            for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
                for ($k = 0; $k < 3; $k++) {
                    [$p, $q, $r] = [$corners[$i + $k], $corners[$i + ($k + 1) % 3], $corners[$i + ($k + 2) % 3]];
                    if (($p === $a && $q === $b) || ($p === $b && $q === $a)) {
                        array_splice($corners, $i, 3, [$p, $m, $r]);
                        array_push($corners, $m, $q, $r);
                        break;
                    }
                }
            }
        }
        $other = self::tagged(Mesh::of($xyz, $corners), 10.0);
        self::assertTrue(EdgeCheck::of($other)->isWatertight());
        self::assertLessThan(100.0, Contacts::areas([$one, $other], 1)[0][1] ?? 0.0);
        [$a, $b] = Conform::of([$one, $other], 1);
        self::assertSame($other, $b, 'what has all points stays as it is');
        self::assertTrue(EdgeCheck::of($a)->isWatertight());
        self::assertSame(Volume::of($one), Volume::of($a));
        self::assertEqualsWithDelta(100.0, Contacts::areas([$a, $b], 1)[0][1] ?? 0.0, 1e-9);
        self::assertSame([$a, $b], Conform::of([$a, $b], 1), 'and once is enough');
    }

    /** Faces in the plane x = at, made by step 1. */
    private static function tagged(Mesh $mesh, float $at): Mesh
    {
        $tags = [];
        foreach ($mesh->tags as $t => $_) {
            $isOn = true;
            for ($k = 0; $k < 3; $k++) {
                $isOn = $isOn && $mesh->xyz[3 * $mesh->corners[3 * $t + $k]] === $at;
            }
            $tags[] = $isOn ? 1 : 0;
        }

        return Mesh::of($mesh->xyz, $mesh->corners, $tags);
    }

    public function test_blocks_join_to_blocks_and_sectors_up_to_half_a_ring(): void
    {
        $box = Solids::box(40, 20, 10);
        $blocks = new CellsBlade('blocks', blocks: [4, 2, 1]);
        $joined = static function (CellsBlade $blade, array $volumes, array $areas) use ($box): array {
            $space = $blade->complex($box);
            $groups = [];
            foreach (JoinCells::of($space, $blade, $volumes, $areas, 2.0)->label as $cell => $label) {
                $groups[$label][] = $space->label[$cell];
            }

            return array_values(array_map(static fn (array $list): array => array_values(array_unique($list)), $groups));
        };
        // Cells 0 to 3 are the first row, 4 to 7 the second: 1 joins its row; but not 0 and 1 together the one block above 0.
        $all = array_fill(0, 8, 9.0);
        self::assertContains([1, 2], $joined($blocks, [1 => 1.0] + $all, [1 => [2 => 5.0, 0 => 4.0]]));
        self::assertContains([1, 5], $joined($blocks, [1 => 1.0] + $all, [1 => [5 => 5.0, 0 => 4.0]]));
        self::assertNotContains([0, 1, 4], $joined($blocks, [0 => 0.5, 1 => 0.5] + $all, [0 => [1 => 5.0, 4 => 4.0], 1 => [0 => 5.0]]));
        // Sectors of one ring; what is across two rings is no cell that a kerf can be taken off.
        $rings = new CellsBlade('rings', rings: 2, sectors: 8);
        $all = array_fill(0, 16, 9.0);
        self::assertContains([2, 3], $joined($rings, [2 => 1.0] + $all, [2 => [10 => 9.0, 3 => 1.0]]));
        self::assertNotContains([2, 10], $joined($rings, [2 => 1.0] + $all, [2 => [10 => 9.0]]));
    }

    public function test_a_far_body_comes_back_to_the_last_bit(): void
    {
        foreach (['torus a kilometre away' => true, 'torus, one handle' => false, 'torus of a hundred kilometres' => false] as $name => $isFar) {
            $mesh = Bodies::named($name);
            $near = NearOrigin::of($mesh);
            self::assertSame($isFar, $near !== null, $name);
            if ($near !== null) {
                $there = $near->there($mesh);
                self::assertLessThan(2 * max(Box::of($mesh->xyz)->size()), max(array_map(abs(...), $there->xyz)));
                self::assertSame($mesh->xyz, $near->back($there)->xyz);
                self::assertSame([$mesh->corners, $mesh->tags], [$there->corners, $there->tags]);
            }
        }
        self::assertNull(NearOrigin::of(Mesh::of([], [])));
    }

    public function test_bodies_together_are_what_they_were(): void
    {
        $one = self::tagged(Solids::box(10, 10, 10), 10.0);
        $other = Solids::torus(20, 7, 24, 16);
        $both = Together::of([$one, $other]);
        self::assertSame($one, Together::of([$one]));
        self::assertSame($one->triangleCount() + $other->triangleCount(), $both->triangleCount());
        self::assertSame([...$one->tags, ...$other->tags], $both->tags);
        self::assertEqualsWithDelta(Volume::of($one) + Volume::of($other), Volume::of($both), 1e-9);
        self::assertTrue(EdgeCheck::of($both)->isWatertight());
    }

    public function test_the_inside_is_lighter_than_any_skin(): void
    {
        self::assertSame('#8c8c8c', Materials::inside('#000000'));
        self::assertSame('#ffffff', Materials::inside('#ffffff'));
        $library = implode('', [...Materials::library(['a post' => ['mesh' => Solids::box(1, 1, 1), 'colour' => '#336699']])]);
        self::assertStringContainsString("newmtl a_post_skin\nKd 0.2000 0.4000 0.6000\n", $library);
        self::assertStringContainsString("newmtl a_post_inside\nKd 0.6392 0.7294 0.8196\n", $library);
    }
}
