<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Chance;
use Isotome\Geometry\Extent;
use PHPUnit\Framework\TestCase;

final class ExtentTest extends TestCase
{
    public function test_it_is_the_largest_absolute_coordinate(): void
    {
        self::assertSame(0.0, Extent::of([]));
        self::assertSame(3.0, Extent::of([1.0, 2.0, 3.0]));
        self::assertSame(3.0, Extent::of([-1.0, -2.0, -3.0]));
        $chance = new Chance(4);
        for ($n = 0; $n < 50; $n++) {
            $xyz = [];
            for ($k = 0; $k < 30; $k++) {
                $xyz[] = (2.0 * $chance->uniform() - 1.0) * 10 ** ($n % 9 - 4);
            }
            self::assertSame(max(array_map(abs(...), $xyz)), Extent::of($xyz));
        }
    }

    public function test_what_is_not_finite_is_infinite_wherever_it_stands(): void
    {
        foreach ([NAN, INF, -INF] as $bad) {
            foreach ([0, 1, 2, 3, 4, 5] as $place) {
                $xyz = [1.0, -2.0, 3.0, 0.5, 5.0, -9.0];
                $xyz[$place] = $bad;
                self::assertSame(INF, Extent::of($xyz));
            }
        }
    }
}
