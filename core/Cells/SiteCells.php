<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Direction;

/** The cells of a blade by points: to each what is nearest to it, and longer along a direction where that is wanted. */
final class SiteCells
{
    /** @param  list<float>  $sites */
    public static function of(CellsBlade $blade, array $sites, Box $box, int $attempt): Complex
    {
        $min = $box->min;
        $max = $box->max;
        for ($i = 0, $count = count($sites); $i < $count; $i++) {
            $k = $i % 3;
            $min[$k] = min($min[$k], $sites[$i]);
            $max[$k] = max($max[$k], $sites[$i]);
        }
        $diagonal = self::diagonal($min, $max);
        if ($attempt > 0) {
            $chance = new Chance($attempt);
            foreach ($sites as $i => $c) {
                $sites[$i] = $c + CellsBlade::ATTEMPT * $diagonal * (2 * $chance->uniform() - 1);
            }
        }
        if ($blade->along === null || $blade->stretch === 1.0) {
            return Voronoi::of($sites, self::moved($min, -CellsBlade::BEYOND * $diagonal), self::moved($max, CellsBlade::BEYOND * $diagonal));
        }
        // Where lengths along the direction count less, the nearest points give longer cells.
        $about = [($min[0] + $max[0]) / 2, ($min[1] + $max[1]) / 2, ($min[2] + $max[2]) / 2];
        $squeeze = self::along($blade->along, 1 / $blade->stretch);
        for ($i = 0, $count = count($sites); $i < $count; $i += 3) {
            [$sites[$i], $sites[$i + 1], $sites[$i + 2]] = self::apply($squeeze, [$sites[$i] - $about[0], $sites[$i + 1] - $about[1], $sites[$i + 2] - $about[2]]);
        }
        $reach = array_fill(0, 3, 0.0);
        foreach ($squeeze as $k => $row) {
            $reach[$k] = CellsBlade::BEYOND * $diagonal + abs($row[0]) * ($max[0] - $min[0]) / 2 + abs($row[1]) * ($max[1] - $min[1]) / 2 + abs($row[2]) * ($max[2] - $min[2]) / 2;
        }

        return Voronoi::of(array_values($sites), [-$reach[0], -$reach[1], -$reach[2]], [$reach[0], $reach[1], $reach[2]])
            ->mapped(self::along($blade->along, $blade->stretch), [0.0, 0.0, 0.0])->moved($about);
    }

    /**
     * @param  array{float, float, float}  $min
     * @param  array{float, float, float}  $max
     */
    private static function diagonal(array $min, array $max): float
    {
        return sqrt(($max[0] - $min[0]) ** 2 + ($max[1] - $min[1]) ** 2 + ($max[2] - $min[2]) ** 2);
    }

    /**
     * @param  array{float, float, float}  $place
     * @return array{float, float, float}
     */
    private static function moved(array $place, float $by): array
    {
        return [$place[0] + $by, $place[1] + $by, $place[2] + $by];
    }

    /**
     * Longer along a direction, as it is across: the matrix 1 + (f − 1) d dᵗ.
     *
     * @param  array{float, float, float}  $direction
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}}
     */
    private static function along(array $direction, float $times): array
    {
        [$x, $y, $z] = Direction::unit($direction) ?? [0.0, 0.0, 0.0];
        $f = $times - 1;

        return [[1 + $f * $x * $x, $f * $x * $y, $f * $x * $z], [$f * $y * $x, 1 + $f * $y * $y, $f * $y * $z], [$f * $z * $x, $f * $z * $y, 1 + $f * $z * $z]];
    }

    /**
     * @param  array{array{float, float, float}, array{float, float, float}, array{float, float, float}}  $rows
     * @param  array{float, float, float}  $p
     * @return array{float, float, float}
     */
    private static function apply(array $rows, array $p): array
    {
        return [
            $rows[0][0] * $p[0] + $rows[0][1] * $p[1] + $rows[0][2] * $p[2],
            $rows[1][0] * $p[0] + $rows[1][1] * $p[1] + $rows[1][2] * $p[2],
            $rows[2][0] * $p[0] + $rows[2][1] * $p[1] + $rows[2][2] * $p[2],
        ];
    }
}
