<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Solid\Combined;
use Isotome\Solid\Overlaps;
use Isotome\Solid\Survey;
use PHPUnit\Framework\TestCase;
use RuntimeException;
use Tests\Support\SolidPairs;
use Tests\Support\Solids;

/** What overlaps what, told before anything is made, against what is made then. */
final class OverlapsTest extends TestCase
{
    /** @param  non-empty-list<Mesh>  $meshes */
    private static function united(array $meshes): Overlaps
    {
        return Overlaps::of($meshes, static fn (array $w): bool => max($w) > 0, static fn (array $w): bool => count(array_filter($w, static fn (int $times): bool => $times > 0)) > 1);
    }

    /** @param  list<float>  $surface */
    private static function volumeOf(array $surface): float
    {
        return $surface === [] ? 0.0 : Volume::of(Mesh::of($surface, range(0, intdiv(count($surface), 3) - 1)));
    }

    /** Closed forms. */
    public function test_boxes_in_a_row_overlap_touch_or_do_neither(): void
    {
        $boxes = [
            Solids::box(10, 10, 10), Solids::box(10, 10, 10, [8.0, 2.0, 0.0]), Solids::box(5, 4, 3, [18.0, 2.0, 1.0]), Solids::box(1, 1, 1, [40.0, 0.0, 0.0]),
            // Touches the first along an edge only, which joins nothing.
            Solids::box(3, 3, 3, [-3.0, -3.0, 0.0]),
        ];
        $told = self::united($boxes);
        self::assertEqualsWithDelta([[0, 1, 160.0, 0.0], [1, 2, 0.0, 12.0]], $told->pairs, 1e-9);
        self::assertEqualsWithDelta(1000 + 840 + 60 + 1 + 27, $told->volume, 1e-9);
        self::assertEqualsWithDelta(160.0, self::volumeOf($told->surface), 1e-9);
    }

    public function test_two_equal_bodies_and_one_within_another(): void
    {
        $ball = Solids::sphere(5, 3);
        $volume = Volume::of($ball);
        self::assertEqualsWithDelta([[0, 1, $volume, 0.0]], self::united([$ball, $ball])->pairs, 1e-9);
        $told = self::united([Solids::box(20, 20, 20, [-10.0, -10.0, -10.0]), $ball]);
        self::assertEqualsWithDelta([[0, 1, $volume, 0.0]], $told->pairs, 1e-9);
        self::assertEqualsWithDelta($volume, self::volumeOf($told->surface), 1e-9);
    }

    public function test_of_random_pairs_it_tells_what_is_made_of_them(): void
    {
        $pairs = new SolidPairs(61);
        for ($n = 0; $n < 60; $n++) {
            [$one, $other] = $pairs->next();
            $told = self::united([$one, $other]);
            $united = Combined::solid([$one, $other], static fn (array $w): bool => max($w) > 0);
            $common = Combined::solid([$one, $other], static fn (array $w): bool => min($w) > 0);
            $scale = 1e-9 * max(1.0, Volume::of($united));
            self::assertEqualsWithDelta(Volume::of($united), $told->volume, $scale, "pair $n");
            self::assertEqualsWithDelta(Volume::of($common), $told->pairs[0][2] ?? 0.0, $scale, "pair $n");
            self::assertEqualsWithDelta(Volume::of($common), self::volumeOf($told->surface), $scale, "pair $n");
        }
    }

    public function test_by_what_is_near_it_tells_the_same(): void
    {
        $pairs = new SolidPairs(29);
        $unite = static fn (array $w): bool => max($w) > 0;
        $common = static fn (array $w): bool => count(array_filter($w, static fn (int $times): bool => $times > 0)) > 1;
        $told = 0;
        for ($n = 0; $n < 60; $n++) {
            $meshes = [...$pairs->next(), Solids::moved(Solids::sphere(4, 2), 0.1 * $n, 0.2, 0.3, 1.0, [3.0, -1.0, 0.5])];
            $local = Survey::near($meshes, null, 0, 1.0);
            if ($local === null) {
                continue;
            }
            $told++;
            $near = Overlaps::told($local, $unite, $common);
            $all = Overlaps::of($meshes, $unite, $common);
            self::assertEqualsWithDelta($all->volume, $near->volume, 1e-9 * (1 + $all->volume), "round $n");
            self::assertEqualsWithDelta(self::volumeOf($all->surface), self::volumeOf($near->surface), 1e-9 * (1 + $all->volume), "round $n");
            $by = static fn (Overlaps $some): array => array_combine(array_map(static fn (array $pair): string => "$pair[0] $pair[1]", $some->pairs), array_map(static fn (array $pair): array => [$pair[2], $pair[3]], $some->pairs));
            self::assertEqualsWithDelta($by($all), $by($near), 1e-9 * (1 + $all->volume), "round $n");
        }
        self::assertGreaterThan(25, $told);
    }

    public function test_of_many_every_pair_is_told_as_it_is_alone(): void
    {
        $pairs = new SolidPairs(8);
        $meshes = [];
        for ($n = 0; $n < 4; $n++) {
            array_push($meshes, ...$pairs->next());
        }
        $told = [];
        foreach (self::united($meshes)->pairs as [$i, $j, $volume]) {
            $told["$i $j"] = $volume;
        }
        $count = 0;
        foreach ($meshes as $i => $one) {
            foreach (array_slice($meshes, $i + 1, null, true) as $j => $other) {
                $alone = Combined::solid([$one, $other], static fn (array $w): bool => min($w) > 0);
                self::assertEqualsWithDelta(Volume::of($alone), $told["$i $j"] ?? 0.0, 1e-9 * max(1.0, Volume::of($one)), "$i and $j");
                $count += $alone->isEmpty() ? 0 : 1;
            }
        }
        self::assertGreaterThan(3, $count);
    }

    public function test_it_tells_how_far_it_is_and_can_be_stopped(): void
    {
        $this->expectException(RuntimeException::class);
        $shares = [];
        Overlaps::of([Solids::sphere(5, 3), Solids::sphere(5, 3, 1.0)], static fn (array $w): bool => max($w) > 0, static fn (): bool => false, static function (float $share) use (&$shares): void {
            $shares[] = $share;
            self::assertGreaterThanOrEqual($shares[count($shares) - 2] ?? 0.0, $share);
            if ($share > 0.85) {
                throw new RuntimeException('stopped');
            }
        });
    }
}
