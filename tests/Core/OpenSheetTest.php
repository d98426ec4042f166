<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Seal;
use Isotome\Cut\Series;
use Isotome\Cut\SeriesCut;
use Isotome\Geometry\Plane;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\TestCase;

/** An open sheet is divided along the blade and not sealed, and its surface tags go with it. */
final class OpenSheetTest extends TestCase
{
    /** A square sheet of 10 × 10, waved, with tags in columns. */
    private static function sheet(): Mesh
    {
        $xyz = $corners = $tags = [];
        for ($y = 0; $y <= 10; $y++) {
            for ($x = 0; $x <= 10; $x++) {
                array_push($xyz, (float) $x, (float) $y, sin($x / 2) * cos($y / 3));
                if ($x < 10 && $y < 10) {
                    $v = 11 * $y + $x;
                    array_push($corners, $v, $v + 1, $v + 12, $v, $v + 12, $v + 11);
                    array_push($tags, $x % 3, $x % 3);
                }
            }
        }

        return Mesh::of($xyz, $corners, $tags);
    }

    public function test_it_falls_into_two_open_sheets_of_the_same_area(): void
    {
        $sheet = self::sheet();
        $area = Volume::measure($sheet)->area;
        foreach (Seal::cases() as $seal) {
            foreach ([[[5.3, 0.0, 0.0], [1.0, 0.2, 0.1]], [[5.0, 0.0, 0.0], [1.0, 0.0, 0.0]]] as [$through, $facing]) {
                $outcome = FlatCut::of($sheet, new FlatBlade(Plane::through($through, $facing), seal: $seal), 9);
                self::assertNotNull($outcome);
                self::assertCount(2, $outcome->bodies, $seal->value);
                $sum = 0.0;
                foreach ($outcome->bodies as $body) {
                    $sum += Volume::measure($body)->area;
                    self::assertNotContains(9, $body->tags, 'nothing is sealed');
                    self::assertSame([0, 0], [EdgeCheck::of($body)->nonmanifoldEdges, EdgeCheck::of($body)->flippedEdges]);
                }
                self::assertEqualsWithDelta($area, $sum, 1e-9 * $area);
                self::assertCount($seal === Seal::Open ? 0 : 1, $outcome->unclosed);
            }
        }
    }

    public function test_tags_stay_with_the_surface(): void
    {
        $sheet = self::sheet();
        $before = self::areas($sheet);
        $after = [];
        foreach (SeriesCut::of($sheet, Series::parts([1.0, 0.3, 0.2], 4)->planes($sheet), new FlatBlade(Plane::at(0.0, [1.0, 0.0, 0.0])), 9)->bodies ?? [] as $body) {
            foreach (self::areas($body) as $tag => $area) {
                $after[$tag] = ($after[$tag] ?? 0.0) + $area;
            }
        }
        ksort($after);
        self::assertSame(array_keys($before), array_keys($after));
        foreach ($before as $tag => $area) {
            self::assertEqualsWithDelta($area, $after[$tag], 1e-9);
        }
    }

    /** @return array<int, float> area by tag */
    private static function areas(Mesh $mesh): array
    {
        $areas = [];
        foreach ($mesh->tags as $t => $tag) {
            $areas[$tag] = ($areas[$tag] ?? 0.0) + Volume::measure(Mesh::of($mesh->xyz, array_slice($mesh->corners, 3 * $t, 3)))->area;
        }
        ksort($areas);

        return $areas;
    }
}
