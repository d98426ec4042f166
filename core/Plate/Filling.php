<?php

declare(strict_types=1);

namespace Isotome\Plate;

use GMP;

/**
 * One plate while pieces are put on it: a grid of cells, each taken or free, as one whole number of many bits.
 *
 * All places at which a piece meets what is there are found at once: those of one cell are the taken cells moved back by it, those of a stretch of cells are those of two stretches half as long or longer, a power of two, which are kept. (A Minkowski sum of bitmaps; A. Dean 1979 and many since
 * pack by bitmaps.)
 */
final class Filling
{
    /** @var list<GMP> what meets 1, 2, 4, 8 … taken cells from it on; the first are the taken cells themselves */
    private array $taken;

    /** @var list<GMP> the same of cells that are not wholly on a round bed; none on a square one */
    private readonly array $beyond;

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
        $this->taken = [gmp_init(0)];
        $this->beyond = $round === null ? [] : $this->doubled($this->beyond($round / 2));
    }

    /** @return list<GMP> */
    private function doubled(GMP $cells): array
    {
        $all = [$cells];
        for ($length = 1; 2 * $length <= $this->columns; $length *= 2) {
            $all[] = $cells |= $cells >> $length;
        }

        return $all;
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
        if (count($this->taken) === 1) {
            $this->taken = $this->doubled($this->taken[0]);
        }
        $met = $this->met($this->taken, $wide, 0);
        if ($this->beyond !== []) {
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

    /**
     * All places at which a mask meets cells.
     *
     * @param  list<GMP>  $cells  and what meets 2, 4, 8 … of them
     */
    private function met(array $cells, Mask $mask, int $by): GMP
    {
        $met = gmp_init(0);
        foreach ($mask->rows as $k => $row) {
            foreach ($row as [$from, $to]) {
                $at = ($k + $by) * $this->stride + $from + $by;
                for ($level = 0, $half = 1; 2 * $half <= $to - $from && isset($cells[$level + 1]); $level++) {
                    $half *= 2;
                }
                // Two stretches of that length, or more where the mask is wider than the bed, cover all of it.
                for ($done = 0; $done < $to - $from; $done += $half) {
                    $met |= $cells[$level] >> ($at + min($done, $to - $from - $half));
                }
            }
        }

        return $met;
    }

    public function put(Mask $mask, int $column, int $row): void
    {
        $taken = $this->taken[0];
        foreach ($mask->rows as $k => $stretches) {
            foreach ($stretches as [$from, $to]) {
                $taken |= ((gmp_init(1) << ($to - $from)) - 1) << (($row + $k + $this->by) * $this->stride + $column + $from + $this->by);
            }
        }
        $this->taken = [$taken];
    }
}
