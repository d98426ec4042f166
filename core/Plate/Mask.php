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
                $low = INF;
                $high = -INF;
                foreach ($corners as $n => [$px, $py]) {
                    [$qx, $qy] = $corners[($n + 1) & 3];
                    if ($py > $qy) {
                        [$px, $py, $qx, $qy] = [$qx, $qy, $px, $py];
                    }
                    if ($qy < $k || $py > $k + 1) {
                        continue;
                    }
                    $slope = $qy > $py ? ($qx - $px) / ($qy - $py) : 0.0;
                    foreach ($qy > $py ? [$px + $slope * (max($py, $k) - $py), $px + $slope * (min($qy, $k + 1) - $py)] : [$px, $qx] as $x) {
                        $low = $x < $low ? $x : $low;
                        $high = $x > $high ? $x : $high;
                    }
                }
                $from = max(0, (int) floor($low + self::ROUNDING));
                $to = min($columns, (int) floor($high - self::ROUNDING) + 1);
                if ($from < $to) {
                    $spans[$k][$from] = max($spans[$k][$from] ?? $to, $to);
                }
            }
        }

        return new self(array_map(self::joined(...), $spans), $columns);
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

        return new self(array_map(self::joined(...), $spans), $this->columns + 2 * $by);
    }

    /** Cells by which it grows on every side when it is widened. */
    public static function reach(float $distance): int
    {
        return $distance > 0.0 ? (int) ceil(1 + $distance) - 1 : 0;
    }

    /**
     * @param  array<int, int>  $spans  ends by beginnings
     * @return list<array{int, int}>
     */
    private static function joined(array $spans): array
    {
        ksort($spans);
        $row = [];
        $begin = $end = -1;
        foreach ($spans as $from => $to) {
            if ($from <= $end) {
                $end = max($end, $to);

                continue;
            }
            if ($end >= 0) {
                $row[] = [$begin, $end];
            }
            [$begin, $end] = [$from, $to];
        }
        if ($end >= 0) {
            $row[] = [$begin, $end];
        }

        return $row;
    }
}
