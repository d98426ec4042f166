<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Chance;
use Isotome\Motion\Nearby;
use PHPUnit\Framework\TestCase;

/** What may come near what, against looking at every pair. */
final class NearbyTest extends TestCase
{
    /** @return array{list<array{float, float, float, float, float, float}>, list<float>, list<bool>} boxes, margins, and which move */
    private static function bodies(Chance $chance, int $count): array
    {
        $boxes = $margins = $moves = [];
        for ($n = 0; $n < $count; $n++) {
            $at = [100 * $chance->uniform(), 100 * $chance->uniform(), 100 * $chance->uniform()];
            // Some as large as all the room, some of no width.
            $size = $n % 9 === 0 ? [0.0, 5.0, 5.0] : [50 * $chance->uniform() ** 2, 50 * $chance->uniform() ** 2, 50 * $chance->uniform() ** 2];
            $boxes[] = [$at[0], $at[1], $at[2], $at[0] + $size[0], $at[1] + $size[1], $at[2] + $size[2]];
            $margins[] = 3 * $chance->uniform();
            $moves[] = $chance->uniform() > 0.3;
        }

        return [$boxes, $margins, $moves];
    }

    public function test_all_pairs_are_found_and_no_others(): void
    {
        $chance = new Chance(5);
        $found = 0;
        for ($round = 0; $round < 40; $round++) {
            [$boxes, $margins, $moves] = self::bodies($chance, 2 + 2 * $round);
            $expected = [];
            foreach ($boxes as $a => $box) {
                for ($b = $a + 1; $b < count($boxes); $b++) {
                    $isNear = Nearby::areNear($box, $boxes[$b], $margins[$a] + $margins[$b]);
                    if ($isNear && ($moves[$a] || $moves[$b])) {
                        $expected[] = Nearby::pair($b, $a);
                    }
                }
            }
            self::assertSame($expected, Nearby::pairs($boxes, $margins, $moves));
            $found += count($expected);
        }
        self::assertGreaterThan(500, $found);
    }

    public function test_what_hangs_together_with_something_that_stands_may_be_stopped(): void
    {
        $boxes = [[0.0, 0.0, 50.0, 1.0, 1.0, 51.0], [0.0, 0.0, 51.0, 1.0, 1.0, 52.0], [9.0, 0.0, 50.0, 10.0, 1.0, 51.0], [9.0, 0.0, 51.5, 10.0, 1.0, 52.0], [20.0, 0.0, 0.5, 21.0, 1.0, 1.0]];
        $margins = array_fill(0, 5, 1.0);
        $pairs = Nearby::pairs($boxes, $margins, [true, true, false, true, true]);
        self::assertSame([Nearby::pair(0, 1), Nearby::pair(2, 3)], $pairs);
        $stopped = Nearby::mayBeStopped($pairs, $boxes, $margins, [true, true, false, true, true], 0.0);
        ksort($stopped);
        // The one that stands, what is beside it, and what is near the floor.
        self::assertSame([2, 3, 4], array_keys($stopped));
    }

    /** Nothing presses among what falls alike; one that is faster, or spins, makes all that hangs together with it count. */
    public function test_what_falls_alike_is_calm(): void
    {
        $pairs = [Nearby::pair(0, 1), Nearby::pair(1, 2), Nearby::pair(3, 4), Nearby::pair(5, 6)];
        $speeds = array_fill(0, 7, [0.0, 0.0, -500.0]);
        $spins = array_fill(0, 7, [0.0, 0.0, 0.0]);
        self::assertSame([0, 1, 2, 3, 4, 5, 6], array_keys(Nearby::calm($pairs, [], $speeds, $spins)));
        $faster = $speeds;
        $faster[2] = [0.0, 0.0, -500.1];
        self::assertSame([3, 4, 5, 6], array_keys(Nearby::calm($pairs, [], $faster, $spins)));
        $spinning = $spins;
        $spinning[3] = [0.0, 0.1, 0.0];
        self::assertSame([0, 1, 2, 5, 6], array_keys(Nearby::calm($pairs, [], $speeds, $spinning)));
        self::assertSame([0, 1, 2, 3, 4], array_keys(Nearby::calm($pairs, [6 => true, 5 => true], $speeds, $spins)));
    }
}
