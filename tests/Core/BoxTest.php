<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Box;
use PHPUnit\Framework\TestCase;

final class BoxTest extends TestCase
{
    public function test_a_box_reaches_from_the_least_to_the_greatest_of_each_coordinate(): void
    {
        $box = Box::of([3.0, -1.0, 7.0, -2.0, 5.0, 6.0, 1.0, 0.0, 9.0]);
        self::assertSame([[-2.0, -1.0, 6.0], [3.0, 5.0, 9.0], [5.0, 6.0, 3.0]], [$box->min, $box->max, $box->size()]);
    }

    public function test_it_holds_what_is_within_along_every_axis(): void
    {
        $box = Box::of([0.0, 0.0, 0.0, 10.0, 10.0, 10.0]);
        self::assertTrue($box->holds($box));
        self::assertTrue($box->holds(Box::of([2.0, 2.0, 2.0, 8.0, 8.0, 10.0])));
        foreach ([0, 1, 2] as $k) {
            foreach ([-1.0, 4.0] as $by) {
                $low = [2.0, 2.0, 2.0];
                $high = [8.0, 8.0, 8.0];
                $low[$k] += $by * ($by < 0 ? 3 : 1);
                $high[$k] += $by * ($by < 0 ? 3 : 1);
                self::assertFalse($box->holds(Box::of([...$low, ...$high])), 'XYZ'[$k]);
            }
        }
    }
}
