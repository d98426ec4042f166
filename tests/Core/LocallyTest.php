<?php

declare(strict_types=1);

namespace Tests\Core;

use Closure;
use Isotome\Check\Crossings;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Places;
use Isotome\Mesh\Volume;
use Isotome\Solid\Combined;
use Isotome\Solid\Locally;
use Isotome\Solid\Near;
use Isotome\Solid\Overlaps;
use Isotome\Solid\Partition;
use Isotome\Solid\Survey;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Combining by what is near alone, beside combining by all triangles. */
final class LocallyTest extends TestCase
{
    /** @return array<string, Closure(list<int>): bool> */
    private static function rules(): array
    {
        return [
            'unite' => static fn (array $w): bool => max(0, ...$w) > 0,
            'common' => static fn (array $w): bool => min(1, ...$w) > 0,
            'subtract' => static fn (array $w): bool => $w[0] > 0 && max(0, ...array_slice($w, 1)) <= 0,
        ];
    }

    private static function volume(Mesh $mesh): float
    {
        return $mesh->isEmpty() ? 0.0 : Volume::of($mesh);
    }

    private static function body(Chance $chance): Mesh
    {
        $mesh = match ((int) (6 * $chance->uniform())) {
            0 => Solids::sphere(9, 3),
            1 => Solids::torus(8, 3, 40, 20),
            2 => Solids::torus(8, 3, 24, 40),
            3 => Solids::box(9, 7, 8),
            // Several shells, and a cavity.
            4 => Solids::together(Solids::sphere(5, 2), Solids::sphere(4, 2, 14.0)),
            default => Solids::together(Solids::sphere(9, 3), Solids::insideOut(Solids::sphere(6, 2))),
        };
        $free = static fn (float $most): float => $most * (2 * $chance->uniform() - 1);

        return Solids::moved($mesh, $free(3), $free(3), $free(3), 1.0, [$free(9), $free(9), $free(9)]);
    }

    public function test_it_gives_what_arranging_all_triangles_gives(): void
    {
        $chance = new Chance(20261129);
        $local = $single = $several = 0;
        for ($n = 0; $n < 24; $n++) {
            $meshes = [self::body($chance), self::body($chance), ...($n % 4 === 0 ? [self::body($chance)] : [])];
            foreach (self::rules() as $name => $rule) {
                $made = Locally::combined($meshes, $rule, 5, null, Survey::near($meshes, null, 0, 1.0));
                if ($made === null) {
                    continue;
                }
                $local++;
                $whole = Combined::solid($meshes, $rule);
                self::assertEqualsWithDelta(self::volume($whole), self::volume($made->solid), 1e-9 * (1 + self::volume($whole)), "$name, round $n");
                if (! $made->solid->isEmpty()) {
                    self::assertTrue(EdgeCheck::of($made->solid)->isWatertight(), "$name, round $n");
                    self::assertSame([], Crossings::of(Places::joined($made->solid))->pairs, "$name, round $n");
                    // What it knows of its bodies is what counting them tells.
                    $counted = Bodies::of(Mesh::of($made->solid->xyz, $made->solid->corners, $made->solid->tags));
                    $known = Bodies::of($made->solid);
                    self::assertSame(array_map(Packing::hash(...), $counted), array_map(Packing::hash(...), $known), "$name, round $n");
                    $single += count($known) === 1 && $known[0] === $made->solid ? 1 : 0;
                    $several += count($known) > 1 ? 1 : 0;
                }
            }
        }
        self::assertGreaterThan(54, $local);
        self::assertGreaterThan(10, min($single, $several));
    }

    /** In a plane that several triangles share, the arrangement's all look the same way: some against what goes on from them far away. */
    public function test_what_is_flush_goes_on_far_away_the_way_that_it_looks(): void
    {
        $local = $turned = 0;
        for ($n = 0; $n < 27; $n++) {
            $meshes = [Solids::moved(Solids::nest(2), 0, 0, 0, 1.0, [3.0, 0.0, 0.0]), Solids::moved(Solids::nest(2), 0, 0, 0, 1.0, [3.0 * ($n % 3) - 3, 3.0 * (intdiv($n, 3) % 3), 3.0 * intdiv($n, 9)])];
            $survey = Survey::near($meshes, null, 0, 1.0);
            if ($survey === null) {
                continue;
            }
            $turned += min($survey->all->part) < 0 ? 1 : 0;
            foreach (self::rules() as $name => $rule) {
                $made = Locally::combined($meshes, $rule, null, null, $survey)?->solid;
                if ($made !== null) {
                    $local++;
                    self::assertEqualsWithDelta(self::volume(Combined::solid($meshes, $rule)), self::volume($made), 1e-9, "$name, place $n");
                    self::assertTrue($made->isEmpty() || EdgeCheck::of($made)->isWatertight(), "$name, place $n");
                }
            }
        }
        self::assertGreaterThan(8, $local);
        self::assertGreaterThan(3, $turned);
    }

    public function test_near_is_all_that_meets_another_shell(): void
    {
        $chance = new Chance(7);
        $met = $left = 0;
        for ($n = 0; $n < 25; $n++) {
            $meshes = [self::body($chance), self::body($chance)];
            $near = Near::of($meshes) ?? [];
            $first = $meshes[0]->triangleCount();
            $isNear = array_fill_keys($near[0] ?? [], true) + array_fill_keys(array_map(static fn (int $t): int => $first + $t, $near[1] ?? []), true);
            $left += $first + $meshes[1]->triangleCount() - count($isNear);
            foreach (Crossings::of(Solids::together(...$meshes), most: 1_000_000)->pairs as [$t, $s]) {
                $met++;
                self::assertTrue(isset($isNear[$t]) && isset($isNear[$s]), "round $n: triangles $t and $s");
            }
        }
        self::assertGreaterThan(2000, $met);
        self::assertGreaterThan(10_000, $left);
    }

    public function test_bodies_that_touch_in_a_point_or_along_an_edge_are_near_there_alone(): void
    {
        $ball = Solids::sphere(9, 3);
        $highest = max(array_map(static fn (array $at): float => $at[2], array_chunk($ball->xyz, 3)));
        // The box stands on the highest vertex; then its edge does; then a hair above, and far away.
        foreach ([[Solids::box(4, 4, 4, [-2.0, -2.0, $highest]), true], [Solids::box(4, 4, 4, [0.0, -2.0, $highest]), true], [Solids::box(4, 4, 4, [-2.0, -2.0, $highest + 0.01]), false], [Solids::box(4, 4, 4, [900.0, 0.0, 0.0]), false]] as $n => [$box, $touches]) {
            [$ofBall, $ofBox] = Near::of([$ball, $box]) ?? [[], []];
            self::assertSame($touches, $ofBall !== [] && $ofBox !== [], "case $n");
            self::assertLessThan(60, count($ofBall));
        }
    }

    public function test_long_thin_triangles_are_near_along_themselves_only(): void
    {
        $outline = array_map(static fn (int $k): array => [5 * cos($k * M_PI / 32), 5 * sin($k * M_PI / 32)], range(0, 63));
        $rod = Solids::moved(Solids::prism($outline, 160.0), 0.6, 0.5, 0.2, 1.0, [-30.0, 20.0, -70.0]);
        $ring = Solids::torus(40, 14, 200, 100);
        [$ofRing, $ofRod] = Near::of([$ring, $rod]) ?? [[], []];
        self::assertNotSame([], $ofRod);
        self::assertLessThan(0.1 * $ring->triangleCount(), count($ofRing));
    }

    public function test_nothing_is_touched_away_from_the_tool(): void
    {
        $ring = Solids::torus(40, 14, 120, 60);
        $tool = Solids::moved(Solids::torus(12, 4, 16, 8), 0.4, 0.7, 0.2, 1.0, [40.0, 5.0, 9.0]);
        $made = Locally::combined([$ring, $tool], self::rules()['subtract'], 5, null);
        self::assertNotNull($made);
        $places = [];
        foreach ($made->of as $n => $m) {
            if ($m === 0) {
                $places[self::key($made->solid, $n)] = $made->tags[$n];
            } else {
                self::assertSame(5, $made->tags[$n]);
            }
        }
        $kept = 0;
        foreach ($ring->tags as $t => $tag) {
            $kept += isset($places[self::key($ring, $t)]) ? 1 : 0;
        }
        self::assertGreaterThan(0.95 * $ring->triangleCount(), $kept);
    }

    public function test_what_it_cannot_tell_is_left_to_arranging_all(): void
    {
        $rule = self::rules()['subtract'];
        $tool = Solids::sphere(3, 2, 8.0, 0.0, 0.0);
        // A mesh that winds twice, and one that is turned inside out.
        $twice = Solids::together(Solids::sphere(9, 3), Solids::sphere(9, 3, 4.0, 1.0, 2.0));
        self::assertNull(Locally::combined([$twice, $tool], $rule, 5, null, Survey::near([$twice, $tool], null, 0, 1.0)));
        self::assertNull(Locally::combined([Solids::insideOut(Solids::sphere(9, 3)), $tool], $rule, 5, null, Survey::near([Solids::insideOut(Solids::sphere(9, 3)), $tool], null, 0, 1.0)));
        self::assertNull(Locally::combined([$tool], $rule, 5, null, Survey::near([$tool], null, 0, 1.0)));
        self::assertEqualsWithDelta(
            self::volume(Combined::solid([$twice], static fn (array $w): bool => $w[0] > 0)),
            self::volume(Combined::solid([$twice, $tool], static fn (array $w): bool => $w[0] > 0)), 1e-6,
        );
    }

    public function test_progress_never_goes_back_when_all_has_to_be_arranged_after_all(): void
    {
        // It crosses itself where the tool is, which is found late; and it is large enough for a try.
        $twice = Solids::together(Solids::sphere(9, 4), Solids::sphere(9, 4, 4.0, 1.0, 2.0));
        $tool = Solids::sphere(3, 2, 8.0, 0.0, 0.0);
        foreach ([
            static fn (Closure $progress) => Combined::subtract([$twice, $tool], 5, $progress), static fn (Closure $progress) => Partition::by($twice, [$tool], 5, $progress),
            static fn (Closure $progress) => Overlaps::of([$twice, $tool], self::rules()['unite'], self::rules()['common'], $progress),
        ] as $n => $work) {
            $told = [];
            $work(static function (float $share) use (&$told): void {
                $told[] = $share;
            });
            $sorted = $told;
            sort($sorted);
            self::assertSame($sorted, $told, "work $n");
            self::assertLessThanOrEqual(1.0, max($told));
            self::assertGreaterThan(10, count($told));
        }
    }

    public function test_bodies_that_do_not_meet_go_or_stay_as_a_whole(): void
    {
        $one = Solids::sphere(9, 3);
        foreach ([[0.0, 0, 1], [40.0, 2, 0]] as [$at, $united, $common]) {
            $other = Solids::sphere(3, 3, $at);
            $made = Locally::combined([$one, $other], self::rules()['unite'], null, null, Survey::near([$one, $other], null, 0, 1.0));
            self::assertSame($united === 0 ? 1280 : 2560, $made?->solid->triangleCount());
            $made = Locally::combined([$one, $other], self::rules()['common'], null, null, Survey::near([$one, $other], null, 0, 1.0));
            self::assertSame(1280 * $common, $made?->solid->triangleCount());
            $made = Locally::combined([$one, $other], self::rules()['subtract'], 4, null, Survey::near([$one, $other], null, 0, 1.0));
            self::assertEqualsWithDelta(self::volume($one) - $common * self::volume($other), self::volume($made->solid ?? $one), 1e-9);
        }
    }

    private static function key(Mesh $mesh, int $t): string
    {
        $places = [];
        for ($k = 0; $k < 3; $k++) {
            $places[] = pack('e3', ...array_map(static fn (float $c): float => $c + 0.0, array_slice($mesh->xyz, 3 * $mesh->corners[3 * $t + $k], 3)));
        }
        sort($places);

        return implode('', $places);
    }
}
