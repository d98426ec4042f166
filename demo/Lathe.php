<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Mesh\Mesh;

/** Closed profiles turned about the upright axis: a body, or with several profiles a body and its cavities. */
final class Lathe
{
    /**
     * @param  list<list<array{float, float}>>  $profiles  radius and height; closed loops, counter-clockwise for a body and clockwise for a cavity, that touch the axis in two following points or nowhere
     */
    public static function mesh(array $profiles, int $around): Mesh
    {
        $xyz = $corners = [];
        foreach ($profiles as $profile) {
            /** @var list<non-empty-list<int>> $rings */
            $rings = [];
            foreach ($profile as [$r, $z]) {
                $ring = [];
                for ($j = 0; $j < ($r > 0.0 ? $around : 1); $j++) {
                    $angle = 2 * M_PI * $j / $around;
                    $ring[] = intdiv(count($xyz), 3);
                    array_push($xyz, $r * cos($angle), $r * sin($angle), $z);
                }
                $rings[] = $ring;
            }
            $n = count($rings);
            for ($i = 0; $i < $n; $i++) {
                [$low, $high] = [$rings[$i], $rings[($i + 1) % $n]];
                for ($j = 0; $j < $around; $j++) {
                    $k = ($j + 1) % $around;
                    if (count($low) > 1) {
                        array_push($corners, $low[$j], $low[$k], $high[$k % count($high)]);
                    }
                    if (count($high) > 1) {
                        array_push($corners, $low[$j % count($low)], $high[$k], $high[$j]);
                    }
                }
            }
        }

        return Mesh::of($xyz, $corners);
    }
}
