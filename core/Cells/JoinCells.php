<?php

declare(strict_types=1);

namespace Isotome\Cells;

/**
 * Joins cells of which a body has too little to the neighbour with the largest common face, before they are cut: where a kerf will part them, their
 * pieces will have no face in common along which they could be joined afterwards.
 *
 * Only such cells as a kerf can still be taken off: blocks that make a longer block, sectors of one ring up to half a turn, or the whole ring.
 */
final class JoinCells
{
    /**
     * @param  array<int, float>  $volumes  of the body in each shard, mm³
     * @param  array<int, array<int, float>>  $areas  common to two shards, mm²
     * @param  float  $least  mm³
     */
    public static function of(Complex $space, CellsBlade $blade, array $volumes, array $areas, float $least): Complex
    {
        $members = Merging::of($volumes, $areas, $least, static fn (array $labels): bool => self::fits($space, $blade, $labels));
        $to = [];
        foreach ($members as $label => $list) {
            foreach ($list as $one) {
                $to[$one] = $label;
            }
        }

        return $space->relabelled(array_map(static fn (int $label): int => $to[$label] ?? $label, $space->label));
    }

    /** @param  list<int>  $labels */
    private static function fits(Complex $space, CellsBlade $blade, array $labels): bool
    {
        if ($blade->by === 'blocks') {
            return self::isBlock($space, $labels);
        }
        $rings = array_unique(array_map(static fn (int $label): int => intdiv($label, $blade->sectors), $labels));
        // Inner walls of sectors that are not alike would not meet where a kerf moves them.
        if (count($rings) > 1 || ($blade->wander > 0.0 && $rings[0] % $blade->rings > 0)) {
            return false;
        }
        $many = count($labels);

        return $many === $blade->sectors || ($many + 2 * $blade->wander) / $blade->sectors <= 0.5;
    }

    /**
     * Do blocks fill the box around them?
     *
     * @param  list<int>  $labels  blocks are numbered as their cells
     */
    private static function isBlock(Complex $space, array $labels): bool
    {
        $axes = [];
        foreach ($space->facetsOf[$labels[0]] as $f) {
            $normal = [$space->planes[4 * $f], $space->planes[4 * $f + 1], $space->planes[4 * $f + 2]];
            foreach ($axes as $axis) {
                if (abs($normal[0] * $axis[0] + $normal[1] * $axis[1] + $normal[2] * $axis[2]) > 0.5) {
                    continue 2;
                }
            }
            $axes[] = $normal;
        }
        $low = array_fill(0, count($axes), INF);
        $high = array_fill(0, count($axes), -INF);
        $filled = 0.0;
        foreach ($labels as $cell) {
            $box = 1.0;
            foreach ($axes as $k => [$x, $y, $z]) {
                $from = INF;
                $to = -INF;
                foreach ($space->facetsOf[$cell] as $f) {
                    foreach ($space->loops[$f] as $v) {
                        $at = $x * $space->xyz[3 * $v] + $y * $space->xyz[3 * $v + 1] + $z * $space->xyz[3 * $v + 2];
                        $from = min($from, $at);
                        $to = max($to, $at);
                    }
                }
                $low[$k] = min($low[$k], $from);
                $high[$k] = max($high[$k], $to);
                $box *= $to - $from;
            }
            $filled += $box;
        }
        $around = 1.0;
        foreach ($axes as $k => $_) {
            $around *= $high[$k] - $low[$k];
        }

        return $filled > (1 - 1e-9) * $around;
    }
}
