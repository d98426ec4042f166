<?php

declare(strict_types=1);

namespace Isotome\Plate;

use GMP;

/**
 * One plate while pieces are put on it: a grid of cells, each taken or free, as one whole number of many bits.
 *
 * All places at which a piece meets what is there are found at once: those of one cell are the taken cells moved back by it, those of a stretch of cells are found by doubling. (A Minkowski sum of bitmaps; A. Dean 1979 and many since
 * pack by bitmaps.)
 */
final class Filling
{
    private GMP $taken;

    /** Cells that are not wholly on a round bed. */
    private readonly ?GMP $beyond;

    private readonly int $stride;

    /**
     * @param  int  $by  cells that masks are widened by
     * @param  float|null  $round  diameter of a round bed, in cells
     */
    public function __construct(
        private readonly int $columns,
        private readonly int $rows,
        private readonly int $by,
        ?float $round = null,
    ) {
        $this->stride = $columns + 2 * $by;
        $this->taken = gmp_init(0);
        $this->beyond = $round === null ? null : $this->beyond($round / 2);
    }

    private function beyond(float $radius): GMP
    {
        $beyond = gmp_init(0);
        for ($row = 0; $row < $this->rows; $row++) {
            $high = max($radius - $row, $row + 1 - $radius);
            $half = $high < $radius ? sqrt($radius * $radius - $high * $high) : 0.0;
            $from = (int) ceil($radius - $half - 1e-9);
            $to = max($from, (int) floor($radius + $half + 1e-9));
            $at = ($row + $this->by) * $this->stride + $this->by;
            $beyond |= ((gmp_init(1) << $from) - 1) << $at;
            $beyond |= ((gmp_init(1) << max(0, $this->columns - $to)) - 1) << ($at + $to);
        }

        return $beyond;
    }

    /**
     * The lowest place at which a piece has room, of those the one farthest to the left.
     *
     * @param  Mask  $wide  the mask, widened
     * @return array{int, int}|null column and row of its lower left corner
     */
    public function room(Mask $mask, Mask $wide): ?array
    {
        $across = $this->columns - $mask->columns + 1;
        $up = $this->rows - count($mask->rows) + 1;
        if ($across < 1 || $up < 1) {
            return null;
        }
        $met = $this->met($this->taken, $wide, 0);
        if ($this->beyond !== null) {
            $met |= $this->met($this->beyond, $mask, $this->by);
        }
        $one = (gmp_init(1) << $across) - 1;
        $all = $one * gmp_div_q((gmp_init(1) << ($this->stride * $up)) - 1, (gmp_init(1) << $this->stride) - 1);
        $free = $all & ~$met;
        if (gmp_sign($free) === 0) {
            return null;
        }
        $at = gmp_scan1($free, 0);

        return [$at % $this->stride, intdiv($at, $this->stride)];
    }

    /** All places at which a mask meets cells. */
    private function met(GMP $cells, Mask $mask, int $by): GMP
    {
        $met = gmp_init(0);
        foreach ($mask->rows as $k => $row) {
            foreach ($row as [$from, $to]) {
                $meets = $cells >> (($k + $by) * $this->stride + $from + $by);
                for ($n = 1, $length = $to - $from; $n < $length; $n += $step) {
                    $step = min($n, $length - $n);
                    $meets |= $meets >> $step;
                }
                $met |= $meets;
            }
        }

        return $met;
    }

    public function put(Mask $mask, int $column, int $row): void
    {
        foreach ($mask->rows as $k => $stretches) {
            foreach ($stretches as [$from, $to]) {
                $this->taken |= ((gmp_init(1) << ($to - $from)) - 1) << (($row + $k + $this->by) * $this->stride + $column + $from + $this->by);
            }
        }
    }
}
