<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Generator;
use Isotome\Exception\BadBed;
use Isotome\Fit\BuildSpace;
use Isotome\Geometry\Chance;
use Isotome\Geometry\EnclosingCircle;

/**
 * Silhouettes on as few plates as are found.
 *
 * Guarantees: each lies within the bed, any two on a plate are at least the spacing apart, and, on a bed of four corners, there are no more plates than when their boxes are laid in shelves. Greedy: the largest first, each on the first plate with room, in the turn that
 * reaches least far up ("bottom left", B. S. Baker, E. G. Coffman, R. L. Rivest 1980, with true outlines), in several orders, of which the best is kept. Shelves: first fit by decreasing height (E. G. Coffman, M. R. Garey,
 * D. S. Johnson, R. E. Tarjan 1980).
 */
final readonly class Packed
{
    /** Cells along the bed's longer side. */
    private const CELLS = 160;

    /** Turns that are tried, evenly spread; beside them the four in which its box is smallest. Of many pieces each is tried in fewer, so many in all. */
    private const TURNS = 12;

    private const TURNS_IN_ALL = 400;

    /** What is as wide in every turn, within this share, is round and is not turned. */
    private const ROUND = 0.02;

    /** Placings in all, after which no further order is tried. */
    private const PATIENCE = 2_000;

    /**
     * @param  list<Placed>  $placed
     * @param  list<float>  $reach  how far up each plate is taken, mm
     */
    private function __construct(
        public array $placed,
        public array $reach,
    ) {
    }

    /** How far up the last plate is taken, mm. */
    public function last(): float
    {
        return $this->reach[count($this->reach) - 1] ?? 0.0;
    }

    /** How wide the strips of silhouettes are for a bed, mm. */
    public static function strip(float $x, float $y): float
    {
        return max($x, $y) / self::CELLS / 2;
    }

    /**
     * @param  non-empty-list<Silhouette>  $silhouettes
     * @param  BuildSpace  $bed  of which the height does not matter
     * @param  float  $spacing  mm
     * @param  bool  $isTurned  whether they may be turned
     * @param  int  $patience  placings in all, after which no further order is tried
     * @param  float  $step  degrees: they are turned by multiples of it only; 0 for freely
     *
     * @throws BadBed when one is larger than the bed; its number is the exception's code
     */
    public static function on(array $silhouettes, BuildSpace $bed, float $spacing, bool $isTurned, int $patience = self::PATIENCE, float $step = 0.0): self
    {
        [$x, $y] = [$bed->x, $bed->y];
        $cell = max($x, $y) / self::CELLS;
        $columns = max(1, (int) floor($x / $cell + 1e-9));
        $rows = max(1, (int) floor($y / $cell + 1e-9));
        $by = Mask::reach($spacing / $cell);
        $turns = $boxes = [];
        foreach ($silhouettes as $n => $silhouette) {
            [$turns[$n], $boxes[$n]] = self::turns($silhouette, $bed, $isTurned, max(4, min(self::TURNS, intdiv(self::TURNS_IN_ALL, count($silhouettes)))), $step);
            if ($turns[$n] === []) {
                throw new BadBed('is larger than the bed however it is turned about the upright; turn or cut it first', $n);
            }
        }
        $masks = [];
        $best = $bed->isRound ? null : self::shelves($silhouettes, $boxes, $x, $y, $spacing);
        $looked = 0;
        foreach (self::orders($silhouettes, $boxes) as $order) {
            $found = self::inOrder($order, $silhouettes, $turns, $boxes, $masks, $cell, $columns, $rows, $by, $spacing, $bed->isRound ? $x : null);
            $looked += array_sum(array_map(count(...), $turns));
            if ($best === null || [count($found->reach), $found->last()] < [count($best->reach), $best->last()]) {
                $best = $found;
            }
            if ($looked > $patience || count($silhouettes) === 1) {
                break;
            }
        }

        return $best ?? new self([], []);
    }

    /** Does a silhouette go on an empty bed? */
    public static function holds(Silhouette $silhouette, BuildSpace $bed, bool $isTurned, float $step = 0.0): bool
    {
        return self::turns($silhouette, $bed, $isTurned, 4, $step)[0] !== [];
    }

    /**
     * The turns in which a silhouette may lie, and the one in which its box is best.
     *
     * @return array{list<float>, array{float, float, float}} degrees, none when it is larger than the bed; and degrees, width and depth of the box
     */
    private static function turns(Silhouette $silhouette, BuildSpace $bed, bool $isTurned, int $count, float $step): array
    {
        if ($bed->isRound && 2 * EnclosingCircle::of($silhouette->hull ?: [[0.0, 0.0]])->radius > $bed->x + 1e-7) {
            return [[], [0.0, 0.0, 0.0]];
        }
        $all = [0.0];
        if ($isTurned && $step > 0.0) {
            for ($degrees = $step; $degrees < 360.0 - 1e-9; $degrees += $step) {
                $all[] = $degrees;
            }
        } elseif ($isTurned && ! self::isRound($silhouette)) {
            for ($k = 1; $k < $count; $k++) {
                $all[] = 360.0 * $k / $count;
            }
            // The smallest box has a side along one of the hull's (H. Freeman, R. Shapira 1975).
            $least = INF;
            $flat = 0.0;
            foreach ($silhouette->hull as $i => [$px, $py]) {
                [$qx, $qy] = $silhouette->hull[($i + 1) % count($silhouette->hull)];
                $degrees = -rad2deg(atan2($qy - $py, $qx - $px));
                [$x0, $y0, $x1, $y1] = $silhouette->box($degrees);
                if (($x1 - $x0) * ($y1 - $y0) < $least * (1 - 1e-9)) {
                    $least = ($x1 - $x0) * ($y1 - $y0);
                    $flat = $degrees;
                }
            }
            array_push($all, $flat, $flat + 90, $flat + 180, $flat + 270);
        }
        $turns = [];
        $best = null;
        // Finer steps when none of these goes in: a long piece lies from corner to corner.
        foreach ($isTurned && $step <= 0.0 ? [$all, range(0.5, 179.5, 0.5)] : [$all] as $some) {
            foreach ($some as $degrees) {
                [$x0, $y0, $x1, $y1] = $silhouette->box((float) $degrees);
                if ($bed->isRound || ($x1 - $x0 <= $bed->x + 1e-7 && $y1 - $y0 <= $bed->y + 1e-7)) {
                    $turns[] = (float) $degrees;
                    if ($best === null || ($y1 - $y0) < $best[2]) {
                        $best = [(float) $degrees, $x1 - $x0, $y1 - $y0];
                    }
                }
            }
            if ($turns !== []) {
                break;
            }
        }

        return [$turns, $best ?? [0.0, 0.0, 0.0]];
    }

    private static function isRound(Silhouette $silhouette): bool
    {
        $widths = [];
        for ($degrees = 0.0; $degrees < 180.0; $degrees += 15.0) {
            [$x0, , $x1] = $silhouette->box($degrees);
            $widths[] = $x1 - $x0;
        }

        // What has notches may be turned so that others reach into them.
        return max($widths) < (1 + self::ROUND) * min($widths) && $silhouette->area() > 0.9 * M_PI_4 * min($widths) ** 2;
    }

    /**
     * @param  non-empty-list<Silhouette>  $silhouettes
     * @param  array<int, array{float, float, float}>  $boxes
     * @return Generator<int, list<int>> the best first; then endlessly the first with some pieces exchanged, the same ones every time
     */
    private static function orders(array $silhouettes, array $boxes): Generator
    {
        $area = array_map(static fn (Silhouette $of): float => $of->area(), $silhouettes);
        $size = array_map(static fn (array $box): float => max($box[1], $box[2]), $boxes);
        $around = array_map(static fn (array $box): float => $box[1] + $box[2], $boxes);
        $tall = array_map(static fn (array $box): float => $box[2], $boxes);
        foreach ([$area, $size, $around, $tall] as $by) {
            arsort($by);
            yield array_keys($by);
        }
        $chance = new Chance(1);
        arsort($area);
        for ($first = array_keys($area), $last = count($first) - 1; $last > 0;) {
            $order = $first;
            for ($n = 0; $n <= $last; $n += 3) {
                $i = (int) ($chance->uniform() * $last);
                $j = min($last, $i + 1 + (int) (0.2 * $chance->uniform() * $last));
                [$order[$i], $order[$j]] = [$order[$j], $order[$i]];
            }
            yield array_values($order);
        }
    }

    /**
     * @param  list<int>  $order
     * @param  list<Silhouette>  $silhouettes
     * @param  array<int, list<float>>  $turns
     * @param  array<int, array{float, float, float}>  $boxes
     * @param  array<int, list<array{Mask, Mask}>>  $masks  made when they are needed
     */
    private static function inOrder(array $order, array $silhouettes, array $turns, array $boxes, array &$masks, float $cell, int $columns, int $rows, int $by, float $spacing, ?float $round): self
    {
        /** @var list<Filling> $plates */
        $plates = [];
        $placed = $reach = [];
        foreach ($order as $n) {
            $masks[$n] ??= array_map(static function (float $degrees) use ($silhouettes, $n, $cell, $by, $spacing): array {
                $mask = Mask::of($silhouettes[$n], $degrees, $cell);

                return [$mask, $mask->widened($spacing / $cell, $by)];
            }, $turns[$n]);
            $done = false;
            for ($plate = 0; ! $done; $plate++) {
                $isNew = ! isset($plates[$plate]);
                $plates[$plate] ??= new Filling($columns, $rows, $by, $round === null ? null : $round / $cell);
                $least = INF;
                $found = null;
                foreach ($masks[$n] as $k => [$mask, $wide]) {
                    $room = $plates[$plate]->room($mask, $wide);
                    $top = $room === null ? INF : $room[1] + count($mask->rows) + 1e-3 * ($room[0] + $mask->columns);
                    if ($room !== null && $top < $least) {
                        $least = $top;
                        $found = [$k, $room[0], $room[1]];
                    }
                }
                // On a plate of its own it has room, though its cells may reach beyond by a hair.
                $isAlone = $found === null && $isNew;
                if ($isAlone) {
                    $found = [(int) array_search($boxes[$n][0], $turns[$n], true), 0, 0];
                }
                if ($found !== null) {
                    [$k, $column, $row] = $found;
                    $plates[$plate]->put($masks[$n][$k][0], $column, $row);
                    [$x0, $y0, , $y1] = $silhouettes[$n]->box($turns[$n][$k]);
                    [$x, $y] = $isAlone && $round !== null ? self::inMiddle($silhouettes[$n], $turns[$n][$k], $round) : [$column * $cell - $x0, $row * $cell - $y0];
                    $placed[] = new Placed($n, $plate, $turns[$n][$k], $x, $y);
                    $reach[$plate] = max($reach[$plate] ?? 0.0, $row * $cell + $y1 - $y0);
                    $done = true;
                }
            }
        }

        return new self($placed, array_values($reach));
    }

    /** @return array{float, float} by what a silhouette is moved, after its turn, to lie in the middle of a round bed */
    private static function inMiddle(Silhouette $silhouette, float $degrees, float $diameter): array
    {
        [$c, $s] = Silhouette::turn($degrees);
        $circle = EnclosingCircle::of($silhouette->hull ?: [[0.0, 0.0]]);

        return [$diameter / 2 - $c * $circle->x + $s * $circle->y, $diameter / 2 - $s * $circle->x - $c * $circle->y];
    }

    /**
     * @param  list<Silhouette>  $silhouettes
     * @param  array<int, array{float, float, float}>  $boxes  degrees, width, depth
     */
    private static function shelves(array $silhouettes, array $boxes, float $x, float $y, float $spacing): self
    {
        uasort($boxes, static fn (array $a, array $b): int => $b[2] <=> $a[2]);
        /** @var list<array{int, float, float, float}> $shelves plate, from, as high as, taken so far */
        $shelves = [];
        $tops = [];
        $placed = $reach = [];
        foreach ($boxes as $n => [$degrees, $wide, $deep]) {
            $at = null;
            foreach ($shelves as $k => [, , $high, $taken]) {
                if ($deep <= $high && $taken + $wide <= $x + 1e-7) {
                    $at = $k;
                    break;
                }
            }
            if ($at === null) {
                $plate = 0;
                while (isset($tops[$plate]) && $y + 1e-7 < $tops[$plate] + $deep) {
                    $plate++;
                }
                $shelves[] = [$plate, $tops[$plate] ?? 0.0, $deep, 0.0];
                $tops[$plate] = ($tops[$plate] ?? 0.0) + $deep + $spacing;
                $at = count($shelves) - 1;
            }
            [$plate, $from, $high, $taken] = $shelves[$at];
            [$x0, $y0] = $silhouettes[$n]->box($degrees);
            $placed[] = new Placed($n, $plate, $degrees, $taken - $x0, $from - $y0);
            $reach[$plate] = max($reach[$plate] ?? 0.0, $from + $deep);
            $shelves[$at] = [$plate, $from, $high, $taken + $wide + $spacing];
        }
        ksort($reach);

        return new self($placed, array_values($reach));
    }
}
