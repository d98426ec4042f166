<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Geometry\Box;

/** The cells of a blade by blocks: rows of boxes over a piece, along the axes or turned. */
final class BlockCells
{
    public static function of(CellsBlade $blade, Box $box, int $attempt): Complex
    {
        $middle = [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
        $turn = self::turn($blade->turned);
        $half = [];
        $isTurned = $blade->turned !== [0.0, 0.0, 0.0];
        for ($k = 0; $k < 3; $k++) {
            // The box about the box, seen along the turned axes.
            $half[$k] = 0.0;
            for ($l = 0; $l < 3; $l++) {
                $half[$k] += ($isTurned ? abs($turn[$l][$k]) : ($k === $l ? 1.0 : 0.0)) * ($box->max[$l] - $box->min[$l]) / 2;
            }
        }
        $reach = CellsBlade::BEYOND * $box->diagonal();
        $shift = $attempt * CellsBlade::ATTEMPT * $reach;
        $low = $high = $min = $max = [];
        for ($k = 0; $k < 3; $k++) {
            $from = $isTurned ? 0.0 : $middle[$k];
            $min[$k] = $from - $half[$k] + $shift;
            $max[$k] = $from + $half[$k] + $shift;
            $low[$k] = $min[$k] - $reach;
            $high[$k] = $max[$k] + $reach;
        }
        /** @var array{float, float, float} $min */
        /** @var array{float, float, float} $max */
        /** @var array{float, float, float} $low */
        /** @var array{float, float, float} $high */
        $blocks = Blocks::of($min, $max, $low, $high, $blade->blocks, $blade->size, $blade->brick, $blade->wander, $blade->seed);

        return $isTurned ? $blocks->mapped($turn, [0.0, 0.0, 0.0])->moved($middle) : $blocks;
    }

    /**
     * About x, then y, then z.
     *
     * @param  array{float, float, float}  $degrees
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}}
     */
    private static function turn(array $degrees): array
    {
        [$a, $b, $c] = [deg2rad($degrees[0]), deg2rad($degrees[1]), deg2rad($degrees[2])];
        [$sa, $ca, $sb, $cb, $sc, $cc] = [sin($a), cos($a), sin($b), cos($b), sin($c), cos($c)];

        return [
            [$cc * $cb, $cc * $sb * $sa - $sc * $ca, $cc * $sb * $ca + $sc * $sa],
            [$sc * $cb, $sc * $sb * $sa + $cc * $ca, $sc * $sb * $ca - $cc * $sa],
            [-$sb, $cb * $sa, $cb * $ca],
        ];
    }
}
