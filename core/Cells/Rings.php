<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Exception\BadBlade;
use Isotome\Geometry\Chance;

/**
 * Rings, sectors and layers about an axis, as cracks run round a blow. A ring's walls are flat facets, 15° or less each, whose corners lie on
 * the ring's radius; so a cell's ends are polygons, not arcs. Given with the axis along z through the origin; see Complex::mapped.
 */
final class Rings
{
    /** Rings, and layers, at most. */
    private const MOST = 500;

    private const DEGREES = 15.0;

    /**
     * @param  list<float>  $radii  of the walls between rings, ascending, mm
     * @param  int  $sectors  1 for whole rings
     * @param  list<float>  $heights  of the faces between layers, ascending, mm
     * @param  float  $outer  how far the outermost ring reaches at least, mm
     * @param  float  $wander  0 to 0.45: share of a sector's angle by which its walls are turned by chance; no sector becomes wider than half a turn
     *
     * @throws BadBlade
     */
    public static function of(array $radii, int $sectors, array $heights, float $outer, float $low, float $high, float $wander = 0.0, int $seed = 1): Complex
    {
        self::refuse(count($radii) + 1, $sectors, count($heights) + 1);
        if ($wander < 0.0 || $wander > 0.45) {
            throw new BadBlade("The sectors wander by $wander of their angle; give 0 to 0.45.");
        }
        // Wider than half a turn, a sector's two walls would not meet where a kerf moves them.
        $wander = min($wander, max(0.0, ($sectors / 2 - 1) / 2));
        $chance = new Chance($seed);
        $steps = max(1, (int) ceil(360.0 / $sectors / self::DEGREES));
        $starts = [];
        for ($s = 0; $s < $sectors; $s++) {
            $starts[] = ($s + ($wander > 0.0 && $sectors > 1 ? (2 * $chance->uniform() - 1) * $wander : 0.0)) / $sectors;
        }
        $starts[] = $starts[0] + 1.0;
        $angles = [];
        for ($s = 0; $s < $sectors; $s++) {
            for ($k = 0; $k < $steps; $k++) {
                $angles[] = 2 * M_PI * ($starts[$s] + ($starts[$s + 1] - $starts[$s]) * $k / $steps);
            }
        }
        $n = count($angles);
        $widest = 0.0;
        foreach ($angles as $a => $angle) {
            $widest = max($widest, ($a + 1 < $n ? $angles[$a + 1] : $angles[0] + 2 * M_PI) - $angle);
        }
        $radii[] = max($outer, $radii === [] ? 0.0 : 1.01 * max($radii)) / cos($widest / 2) * 1.01;
        $planes = [$low, ...$heights, $high];
        $rings = count($radii);
        $levels = count($planes);
        $xyz = [];
        foreach ($planes as $z) {
            array_push($xyz, 0.0, 0.0, $z);
            foreach ($radii as $r) {
                foreach ($angles as $angle) {
                    array_push($xyz, $r * cos($angle), $r * sin($angle), $z);
                }
            }
        }
        $level = 1 + $rings * $n;
        $at = static fn (int $l, int $r, int $a): int => $l * $level + ($r < 0 ? 0 : 1 + $r * $n + $a % $n);
        $cell = static fn (int $l, int $r, int $a): int => ($l * $rings + $r) * $n + ($a + $n) % $n;
        $behind = $ahead = $label = [];
        /** @var list<list<int>> $loops */
        $loops = [];
        $facet = static function (array $loop, int $back, int $front) use (&$loops, &$behind, &$ahead): void {
            $loops[] = self::corners($loop);
            $behind[] = $back;
            $ahead[] = $front;
        };
        for ($l = 0; $l + 1 < $levels; $l++) {
            for ($r = 0; $r < $rings; $r++) {
                for ($a = 0; $a < $n; $a++) {
                    $label[] = ($l * $rings + $r) * $sectors + intdiv($a, $steps);
                    // Towards greater angle the wall at a + 1, outwards the ring's wall, upwards the next layer.
                    $facet([$at($l, $r - 1, $a + 1), $at($l + 1, $r - 1, $a + 1), $at($l + 1, $r, $a + 1), $at($l, $r, $a + 1)], $cell($l, $r, $a), $cell($l, $r, $a + 1));
                    $facet([$at($l, $r, $a), $at($l, $r, $a + 1), $at($l + 1, $r, $a + 1), $at($l + 1, $r, $a)], $cell($l, $r, $a), $r + 1 < $rings ? $cell($l, $r + 1, $a) : -1);
                    $facet([$at($l + 1, $r - 1, $a), $at($l + 1, $r, $a), $at($l + 1, $r, $a + 1), $at($l + 1, $r - 1, $a + 1)], $cell($l, $r, $a), $l + 2 < $levels ? $cell($l + 1, $r, $a) : -1);
                    if ($l === 0) {
                        $facet([$at(0, $r - 1, $a), $at(0, $r - 1, $a + 1), $at(0, $r, $a + 1), $at(0, $r, $a)], $cell(0, $r, $a), -1);
                    }
                }
            }
        }

        return new Complex($xyz, $loops, $behind, $ahead, $label);
    }

    /**
     * At the axis two corners are one.
     *
     * @param  array<mixed>  $loop
     * @return list<int>
     */
    private static function corners(array $loop): array
    {
        $corners = [];
        foreach ($loop as $v) {
            if (is_int($v) && ! in_array($v, $corners, true)) {
                $corners[] = $v;
            }
        }

        return $corners;
    }

    /** @throws BadBlade when there would be none, or too many */
    public static function refuse(int $rings, int $sectors, int $layers): void
    {
        if ($rings < 1 || $sectors < 1 || $layers < 1 || $sectors > 360 || $rings > self::MOST || $layers > self::MOST) {
            throw new BadBlade("The rings have $sectors sectors, $rings rings and $layers layers; give 1 to 360 sectors, and 1 to ".self::MOST.' rings and layers.');
        }
        if ($rings * $sectors * $layers > Blocks::MOST) {
            throw new BadBlade('The rings would have more than '.Blocks::MOST.' cells; give fewer sectors, rings or layers.');
        }
    }
}
