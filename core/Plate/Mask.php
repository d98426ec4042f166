<?php

declare(strict_types=1);

namespace Isotome\Plate;

/** The cells of a plate's grid that a turned silhouette may touch: rows of stretches, from the lower left corner of the box around it. */
final readonly class Mask
{
    /** Share of a cell that is rounding. */
    private const ROUNDING = 1e-7;

    /**
     * @param  list<list<array{int, int}>>  $rows  of each row, stretches: the first cell, and the one after the last
     * @param  int  $columns  wide
     */
    private function __construct(
        public array $rows,
        public int $columns,
    ) {
    }

    /** @param  float  $cell  its side, mm */
    public static function of(Silhouette $silhouette, float $degrees, float $cell): self
    {
        [$c, $s] = Silhouette::turn($degrees);
        [$x0, $y0, $x1, $y1] = $silhouette->box($degrees);
        $columns = max(1, (int) ceil(($x1 - $x0) / $cell - self::ROUNDING));
        $count = max(1, (int) ceil(($y1 - $y0) / $cell - self::ROUNDING));
        $spans = array_fill(0, $count, []);
        foreach ($silhouette->stretches as [$ax, $ay, $bx, $by]) {
            $corners = [];
            foreach ([[$ax, $ay], [$bx, $ay], [$bx, $by], [$ax, $by]] as [$x, $y]) {
                $corners[] = [($c * $x - $s * $y - $x0) / $cell, ($s * $x + $c * $y - $y0) / $cell];
            }
            $ys = array_column($corners, 1);
            // Stretches reach a little beyond the piece; what is outside of its box is not the piece.
            $first = max(0, (int) floor(min($ys) + self::ROUNDING));
            $last = min($count - 1, (int) floor(max($ys) - self::ROUNDING));
            for ($k = $first; $k <= $last; $k++) {
                [$low, $high] = Strip::reach($corners, (float) $k, $k + 1.0);
                $from = max(0, (int) floor($low + self::ROUNDING));
                $to = min($columns, (int) floor($high - self::ROUNDING) + 1);
                if ($low <= $high && $from < $to) {
                    $spans[$k][$from] = max($spans[$k][$from] ?? $to, $to);
                }
            }
        }

        return new self(array_map(Strip::joined(...), $spans), $columns);
    }

    /**
     * The same and all around it within a distance: what has no cell in common with it is at least that far away.
     *
     * @param  float  $distance  in cells
     * @param  int  $by  cells that it grows on every side
     */
    public function widened(float $distance, int $by): self
    {
        $spans = array_fill(0, count($this->rows) + 2 * $by, []);
        foreach ($this->rows as $k => $row) {
            for ($up = -$by; $up <= $by; $up++) {
                // Places in two cells are nearer to each other than their cells' corners that face away.
                $left = $distance ** 2 - max(0, abs($up) - 1) ** 2;
                $reach = $left > 0.0 ? (int) ceil(1 + sqrt($left)) - 1 : ($up === 0 ? 0 : -1);
                foreach ($reach < 0 ? [] : $row as [$from, $to]) {
                    $begin = $from + $by - $reach;
                    $spans[$k + $by + $up][$begin] = max($spans[$k + $by + $up][$begin] ?? 0, $to + $by + $reach);
                }
            }
        }

        return new self(array_map(Strip::joined(...), $spans), $this->columns + 2 * $by);
    }

    /** Cells by which it grows on every side when it is widened. */
    public static function reach(float $distance): int
    {
        return $distance > 0.0 ? (int) ceil(1 + $distance) - 1 : 0;
    }
}
