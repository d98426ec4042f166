<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Fit\BuildSpace;
use Isotome\Fit\Turned;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Turn;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Whether a body fits in any turn, against closed forms, published results and turning it at random. */
final class TurnedTest extends TestCase
{
    /**
     * @param  list<float>  $xyz
     * @return array{float, float, float} the box around it when it is turned
     */
    private static function around(array $xyz, Turned $turned): array
    {
        $angle = sqrt($turned->vector[0] ** 2 + $turned->vector[1] ** 2 + $turned->vector[2] ** 2);
        $made = $angle > 0.0 ? Turn::about($turned->vector, rad2deg($angle))->of($xyz) : $xyz;
        $sizes = [];
        foreach ([0, 1, 2] as $k) {
            $along = array_column(array_chunk($made, 3), $k);
            $sizes[] = max($along) - min($along);
        }

        return [$sizes[0], $sizes[1], $sizes[2]];
    }

    public function test_a_thin_rod_fits_up_to_the_diagonal(): void
    {
        $space = new BuildSpace(200, 150, 100);
        $diagonal = sqrt(200 ** 2 + 150 ** 2 + 100 ** 2);
        foreach ([0.5, 0.9, 0.995] as $share) {
            $rod = Solids::box($share * $diagonal, 0.1, 0.1)->xyz;
            $turned = Turned::into($rod, $space);
            self::assertTrue($turned->fits(), "$share");
            foreach (self::around($rod, $turned) as $k => $size) {
                self::assertLessThanOrEqual([200, 150, 100][$k] + 1e-9, $size);
            }
        }
        // Longer by ten: each side must grow until the diagonal is as long as it.
        $turned = Turned::into(Solids::box($diagonal + 10, 0.1, 0.1)->xyz, $space);
        self::assertFalse($turned->fits() || $turned->isUnsure());
        self::assertEqualsWithDelta($diagonal + 10, sqrt((200 + $turned->least) ** 2 + (150 + $turned->least) ** 2 + (100 + $turned->least) ** 2), 0.1);
    }

    public function test_rectangles_in_rectangles_as_is_known(): void
    {
        // J. E. Wetzel (2000): as tall as the space, they can only be turned about the upright.
        $chance = new Chance(5);
        $space = new BuildSpace(200, 120, 80);
        $fit = 0;
        for ($n = 0; $n < 40; $n++) {
            [$p, $q] = [150 + 80 * $chance->uniform(), 4 + 60 * $chance->uniform()];
            $inner = $space->holds([$p + 0.5, $q + 0.5, 80.0])['how'];
            $outer = $space->holds([$p - 0.5, $q - 0.5, 80.0])['how'];
            $turned = Turned::into(Solids::box($p, $q, 80.0)->xyz, $space);
            if ($inner === 'turned' || $inner === 'stands') {
                $fit++;
                self::assertTrue($turned->fits(), "$p × $q");
            } elseif ($outer === 'too large') {
                self::assertFalse($turned->fits(), "$p × $q");
            }
        }
        self::assertGreaterThan(5, $fit);
    }

    public function test_no_turn_at_random_is_better_than_told(): void
    {
        $chance = new Chance(77);
        $space = new BuildSpace(20, 14, 9);
        foreach ([Solids::box(19, 10, 7), Solids::cone(8, 17, 7), Solids::torus(7, 3, 12, 8), Solids::prism([[0.0, 0.0], [24.0, 0.0], [3.0, 6.0]], 5.0)] as $n => $mesh) {
            $xyz = Solids::moved($mesh, 1.0, 2.0, 0.5)->xyz;
            $turned = Turned::into($xyz, $space, 0.2);
            self::assertEqualsWithDelta($turned->over, max(self::around($xyz, $turned)[0] - 20, self::around($xyz, $turned)[1] - 14, self::around($xyz, $turned)[2] - 9), 1e-9, "body $n");
            for ($k = 0; $k < 1500; $k++) {
                $axis = [$chance->uniform() - 0.5, $chance->uniform() - 0.5, $chance->uniform() - 0.5];
                $made = Turn::about($axis, 360 * $chance->uniform())->of($xyz);
                $over = -INF;
                foreach ([20, 14, 9] as $side => $most) {
                    $along = array_column(array_chunk($made, 3), $side);
                    $over = max($over, max($along) - min($along) - $most);
                }
                self::assertGreaterThanOrEqual($turned->fits() ? -INF : $turned->least - 1e-9, $over, "body $n");
            }
        }
    }

    public function test_a_body_that_was_turned_is_found_again(): void
    {
        foreach ([[0.3, 0.2, 0.7], [2.0, 1.0, 0.1], [0.0, 0.8, 2.2]] as [$a, $b, $c]) {
            $xyz = Solids::moved(Solids::box(199.8, 149.8, 99.8), $a, $b, $c)->xyz;
            self::assertTrue(Turned::into($xyz, new BuildSpace(200, 150, 100))->fits());
            self::assertFalse(Turned::into($xyz, new BuildSpace(199, 149, 99))->fits());
        }
    }
}
