<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Format\Precision;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Zero;
use PHPUnit\Framework\TestCase;

/** What a file holds of coordinates, beside what pack and unpack make of each. */
final class PrecisionTest extends TestCase
{
    /** @return list<float> numbers that 32-bit floats hold, that they nearly hold, and from the ends of their range */
    private static function numbers(Chance $chance, int $count, bool $mixed): array
    {
        $numbers = [];
        while (count($numbers) < $count) {
            $float = self::single(($chance->uniform() - 0.5) * 10 ** self::whole($chance, -3, 4));
            $numbers[] = ! $mixed ? $float : match (self::whole($chance, 0, 9)) {
                0 => $float * (1 + PHP_FLOAT_EPSILON * self::whole($chance, -2, 2)),
                1 => $float * (1 + 2 ** -24),
                2 => 10 ** self::whole($chance, -60, -30) * $chance->uniform(),
                3 => 2.0 ** self::whole($chance, -160, -90),
                4 => 2.0 ** self::whole($chance, 90, 126),
                5 => -0.0,
                6 => 0.0,
                default => $float,
            };
        }

        return $numbers;
    }

    private static function whole(Chance $chance, int $from, int $to): int
    {
        return $from + (int) floor($chance->uniform() * ($to - $from + 1));
    }

    private static function single(float $number): float
    {
        return Zero::plain((float) (unpack('g', pack('g', $number))[1] ?? NAN));
    }

    public function test_coordinates_are_those_that_the_file_gives_back(): void
    {
        $chance = new Chance(7);
        $rounded = 0;
        foreach ([3, 999, 12_285, 12_288, 40_002] as $count) {
            foreach ([false, true] as $mixed) {
                $xyz = self::numbers($chance, $count, $mixed);
                $apart = [];
                foreach (array_chunk($xyz, 3) as $place) {
                    $apart[implode(' ', array_map(self::single(...), $place))] = $place;
                }
                $xyz = array_merge(...array_values($apart));
                $held = array_map(self::single(...), $xyz);
                [$given, $exact] = Precision::single()->apart($xyz) ?? [[], -1];
                self::assertSame($held, $given);
                self::assertSame($held, Precision::single()->nearest($xyz));
                self::assertSame(array_slice($held, 0, $exact), array_slice($xyz, 0, $exact));
                self::assertTrue($mixed || $exact >= $count - $count % 12_288);
                self::assertStringNotContainsString('-0 ', implode(' ', $given).' ');
                $rounded += $held === $xyz ? 0 : 1;
            }
        }
        self::assertSame(5, $rounded);
    }

    public function test_places_that_fall_together_are_told(): void
    {
        $xyz = [1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 1.0, 2.0, 3.0];
        self::assertNull(Precision::single()->apart($xyz));
        self::assertNull(Precision::double()->apart($xyz));
        $xyz[8] = 3.0 + 1e-12;
        self::assertNull(Precision::single()->apart($xyz), 'apart only beyond the digits of a float');
        self::assertSame([$xyz, 9], Precision::double()->apart($xyz));
        self::assertNull(Precision::steps(0.25)->apart($xyz));
        $xyz[8] = 3.2;
        self::assertSame([[...array_slice($xyz, 0, 8), 3.25], 0], Precision::steps(0.25)->apart($xyz));
        // One far behind another, in another stretch of the list.
        $far = [];
        for ($i = 0; $i < 20_000; $i++) {
            array_push($far, (float) $i, 0.5, -1.0);
        }
        self::assertSame([$far, count($far)], Precision::single()->apart($far));
        self::assertNull(Precision::single()->apart([...$far, 3.0, 0.5, -1.0]));
        // 0 and −0 are one place.
        self::assertNull(Precision::single()->apart([0.0, 1.0, 2.0, -0.0, 1.0, 2.0]));
    }
}
