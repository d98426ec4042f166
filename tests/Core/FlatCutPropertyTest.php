<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\FaceCheck;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Section;
use Isotome\Format\Rounded;
use Isotome\Geometry\Plane;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Blades;
use Tests\Support\Bodies;

/** Watertight in, watertight out, and nothing lost: for every body and wherever the blade is. Seeds are fixed. */
final class FlatCutPropertyTest extends TestCase
{
    private const ANYWHERE = 75;

    private const UNLUCKY = 50;

    /** @return iterable<string, array{string, int}> */
    public static function bodies(): iterable
    {
        $seed = 20261123;
        foreach (Bodies::names() as $name) {
            yield $name => [$name, $seed++];
        }
    }

    #[DataProvider('bodies')]
    public function test_every_piece_is_watertight_and_nothing_is_lost(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        self::assertTrue(EdgeCheck::of($mesh)->isWatertight(), 'the body itself');
        $blades = new Blades($mesh, $seed);
        $whole = Volume::measure($mesh);
        $cuts = 0;
        // The long outline's cuts take far longer than the others': fewer of them.
        $few = str_contains($name, '3,000') ? 10 : 1;
        $anywhere = intdiv(self::ANYWHERE, $few);
        for ($n = 0; $n < $anywhere + intdiv(self::UNLUCKY, $few); $n++) {
            $cuts += $this->cut($mesh, $n < $anywhere ? $blades->anywhere() : $blades->unlucky(), $whole, $n) ? 1 : 0;
        }
        self::assertGreaterThan($anywhere * 0.8, $cuts, 'blades that cut something');
    }

    private function cut(Mesh $mesh, Plane $plane, Volume $whole, int $n): bool
    {
        $outcome = FlatCut::of($mesh, new FlatBlade($plane), 1);
        if ($outcome === null) {
            return false;
        }
        $volume = $area = 0.0;
        foreach ($outcome->bodies as $b => $body) {
            $measures = Volume::measure($body);
            $volume += $measures->volume;
            $area += $measures->area;
            if (! EdgeCheck::of($body)->isWatertight()) {
                self::fail("blade $n: body $b is not watertight");
            }
            // The promise holds for the file: 32-bit floats, vertices told by their coordinates.
            $file = Rounded::of($body);
            if (! $file->isEmpty() && ! EdgeCheck::of($file)->isWatertight()) {
                self::fail("blade $n: body $b is not watertight in the file");
            }
            if (! $file->isEmpty() && self::folded($file)) {
                self::fail("blade $n: body $b is folded in the file");
            }
        }
        self::assertEqualsWithDelta($whole->volume, $volume, 1e-9 * $whole->volume, "blade $n: volumes");
        $section = Section::of($mesh, $plane);
        self::assertSame([], $section->lines, "blade $n: open lines");
        self::assertSame([], $outcome->unclosed, "blade $n: unclosed");
        if ($outcome->sound) {
            self::assertEqualsWithDelta($whole->area + 2 * $section->area, $area, 1e-9 * $whole->area, "blade $n: areas");
        }

        return true;
    }

    /** Two triangles on the same three corners. */
    private static function folded(Mesh $mesh): bool
    {
        return FaceCheck::of($mesh)->doubled > 0;
    }

    #[DataProvider('bodies')]
    public function test_both_sides_have_the_same_cut_face(string $name, int $seed): void
    {
        $mesh = Bodies::named($name);
        $blades = new Blades($mesh, $seed + 1000);
        $twins = 0;
        for ($n = 0; $n < 6; $n++) {
            $outcome = FlatCut::of($mesh, new FlatBlade($n < 3 ? $blades->anywhere() : $blades->unlucky()), 7);
            $faces = [];
            foreach ($outcome->bodies ?? [] as $body) {
                foreach ($body->tags as $t => $tag) {
                    if ($tag !== 7) {
                        continue;
                    }
                    $points = [];
                    for ($k = 0; $k < 3; $k++) {
                        $points[] = implode(' ', array_slice($body->xyz, 3 * $body->corners[3 * $t + $k], 3));
                    }
                    // Turned so that the first point is the lowest; the other side's twin runs the other way round.
                    $first = array_search(min($points), $points, true);
                    $points = [...array_slice($points, (int) $first), ...array_slice($points, 0, (int) $first)];
                    $twin = implode('|', [$points[0], $points[2], $points[1]]);
                    if (($faces[$twin] ?? 0) > 0) {
                        $twins++;
                        $faces[$twin]--;
                    } else {
                        $faces[implode('|', $points)] = ($faces[implode('|', $points)] ?? 0) + 1;
                    }
                }
            }
            self::assertSame(0, array_sum($faces), "blade $n: faces without their twin");
        }
        self::assertGreaterThan(2, $twins, 'cut faces that were compared');
    }

    public function test_two_cuts_give_the_same_bodies_in_either_order(): void
    {
        $divided = 0;
        foreach (Bodies::names() as $name) {
            $mesh = Bodies::named($name);
            $blades = new Blades($mesh, 77);
            [$one, $two] = [new FlatBlade($blades->anywhere()), new FlatBlade($blades->anywhere())];
            $volumes = [];
            foreach ([[$one, $two], [$two, $one]] as [$first, $second]) {
                $sizes = [];
                foreach (FlatCut::of($mesh, $first, 1)->bodies ?? [$mesh] as $body) {
                    foreach (FlatCut::of($body, $second, 2)->bodies ?? [$body] as $part) {
                        $sizes[] = Volume::of($part);
                    }
                }
                sort($sizes);
                $volumes[] = $sizes;
            }
            $divided += count($volumes[0]) > 2 ? 1 : 0;
            $whole = Volume::of($mesh);
            self::assertSame(count($volumes[0]), count($volumes[1]), "$name: number of bodies");
            foreach ($volumes[0] as $i => $volume) {
                self::assertEqualsWithDelta($volume, $volumes[1][$i], 1e-9 * $whole, "$name: body $i");
            }
        }
        self::assertGreaterThan(0.6 * count(Bodies::names()), $divided, 'bodies that both blades cut');
    }
}
