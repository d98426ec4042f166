<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Format\Rounded;
use Isotome\Geometry\Affine;
use Isotome\Mesh\Mesh;

/**
 * A miller with a sack on the shoulder, for the entrance of the museum: a dozen parts as they were modelled, pushed into each other and never joined. The sack has no
 * mouth: it is open. 190 mm tall, looking to −y; to be united before it is printed.
 */
final class MillFigure
{
    private const AROUND = 64;

    /** Points of a quarter of a circle. */
    private const QUARTER = 12;

    /** @return array<string, Mesh> by name */
    public static function parts(): array
    {
        $parts = [
            'base' => self::lathe([[0, 0], [44, 0], [46, 2], [46, 5], [43, 8], [0, 8]]),
            'left-boot' => self::ellipsoid([-13, -5, 13], [9.5, 16, 8]), 'right-boot' => self::ellipsoid([14, -7, 13], [9.5, 16, 8]),
            'left-leg' => self::limb([-13, 1, 14], [-10, 0, 66], 8.5, 11), 'right-leg' => self::limb([14, -1, 14], [10, 0, 66], 8.5, 11),
            'coat' => self::lathe([[0, 52], [27, 50], [28.5, 53], [26, 70], [22.5, 88], [24, 104], [25, 118], [20, 128], [10, 133], [0, 134]], [1.0, 0.8]),
            'left-arm' => self::limb([-22, 0, 121], [-33, -17, 90], 8.5, 6.5), 'right-arm' => self::limb([22, 1, 121], [37, -3, 141], 8.5, 7),
            'head' => self::ellipsoid([0, -2, 148], [14.5, 15, 18]), 'beard' => self::ellipsoid([0, -13.5, 134], [9.5, 5.5, 13]),
            'hat' => self::lathe([[0, 158], [26, 157], [27, 158.5], [25, 160], [15, 161], [13.5, 176], [11, 184], [6, 189], [0, 190]]),
            'sack' => self::open(self::limb([30, 8, 134], [17, 19, 151], 16, 12)),
        ];

        return array_map(Rounded::of(...), $parts);
    }

    /**
     * @param  list<array{int|float, int|float}>  $profile  radius and height from the axis to the axis
     * @param  array{float, float}  $across  how many times as wide along x and y
     */
    private static function lathe(array $profile, array $across = [1.0, 1.0]): Mesh
    {
        $mesh = Lathe::mesh([array_map(static fn (array $point): array => [(float) $point[0], (float) $point[1]], $profile)], self::AROUND);

        return Mesh::of(Affine::points($mesh->xyz, [$across[0], 0.0, 0.0, 0.0, $across[1], 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0]), $mesh->corners);
    }

    /**
     * @param  array{int|float, int|float, int|float}  $middle
     * @param  array{int|float, int|float, int|float}  $radii
     */
    private static function ellipsoid(array $middle, array $radii): Mesh
    {
        $ball = Lathe::mesh([self::profile(0.0, 1.0, 1.0)], self::AROUND);

        return Mesh::of(Affine::points($ball->xyz, [(float) $radii[0], 0.0, 0.0, 0.0, (float) $radii[1], 0.0, 0.0, 0.0, (float) $radii[2], ...array_map(floatval(...), $middle)]), $ball->corners);
    }

    /**
     * A cone with round ends.
     *
     * @param  array{int|float, int|float, int|float}  $from
     * @param  array{int|float, int|float, int|float}  $to
     */
    private static function limb(array $from, array $to, float $first, float $last): Mesh
    {
        $along = array_map(static fn (int|float $a, int|float $b): float => $b - $a, $from, $to);
        $length = sqrt($along[0] ** 2 + $along[1] ** 2 + $along[2] ** 2);
        [$x, $y, $z] = array_map(static fn (float $part): float => $part / $length, $along);
        // Square to it: level, and the third.
        $level = sqrt($x * $x + $y * $y);
        $side = $level > 0.0 ? [-$y / $level, $x / $level, 0.0] : [1.0, 0.0, 0.0];
        $third = [$y * $side[2] - $z * $side[1], $z * $side[0] - $x * $side[2], $x * $side[1] - $y * $side[0]];
        $limb = Lathe::mesh([self::profile($length, $first, $last)], self::AROUND);

        return Mesh::of(Affine::points($limb->xyz, [...$side, ...$third, $x, $y, $z, ...array_map(floatval(...), $from)]), $limb->corners);
    }

    /** @return list<array{float, float}> half a circle that is drawn out by a length, of one radius below and another above */
    private static function profile(float $length, float $low, float $high): array
    {
        $profile = [];
        for ($n = 0; $n <= 2 * self::QUARTER; $n++) {
            $angle = M_PI * ($n / (2 * self::QUARTER) - 0.5);
            [$radius, $at] = $n < self::QUARTER ? [$low, 0.0] : [$high, $length];
            $profile[] = [$n % (2 * self::QUARTER) === 0 ? 0.0 : $radius * cos($angle), $at + $radius * sin($angle)];
        }

        return $profile;
    }

    /** Without the cap at its far end. */
    private static function open(Mesh $mesh): Mesh
    {
        $last = $mesh->vertexCount() - 1 - self::AROUND;
        $corners = [];
        foreach (array_chunk($mesh->corners, 3) as $triangle) {
            if (min($triangle) < $last) {
                array_push($corners, ...$triangle);
            }
        }

        return Mesh::of($mesh->xyz, $corners);
    }
}
