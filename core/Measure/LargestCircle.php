<?php

declare(strict_types=1);

namespace Isotome\Measure;

use Closure;
use SplPriorityQueue;

/**
 * The largest circle within outlines: its middle is the place farthest from all of them.
 *
 * Guarantees: the circle lies within, and none is larger by more than the precision. Source: the pole of inaccessibility (D. Garcia-Castellanos, U. Lombardo, "Poles of inaccessibility", Scottish Geographical Journal 123,
 * 2007), found by halving squares, the most promising first: in a square no place is farther from the outlines than its middle and half its diagonal together.
 */
final readonly class LargestCircle
{
    /** Squares that are halved before the best so far is taken. */
    private const MOST = 4_000;

    public function __construct(
        public float $x,
        public float $y,
        public float $radius,
    ) {
    }

    /**
     * @param  list<list<array{float, float}>>  $outlines  material to the left, mm
     * @param  float  $precision  mm
     * @param  list<array{float, float, float}>  $taken  circles that it must not reach into
     * @param  int|null  $within  look only where this outline is
     * @return self|null null when there is no place within
     */
    public static function in(array $outlines, float $precision, array $taken = [], ?int $within = null): ?self
    {
        $ax = $ay = $bx = $by = [];
        $x0 = $y0 = INF;
        $x1 = $y1 = -INF;
        foreach ($outlines as $n => $outline) {
            $last = end($outline);
            foreach ($outline as $at) {
                if ($last === false) {
                    break;
                }
                $ax[] = $last[0];
                $ay[] = $last[1];
                $bx[] = $at[0];
                $by[] = $at[1];
                $last = $at;
                if ($within === null || $within === $n) {
                    [$x0, $y0, $x1, $y1] = [min($x0, $at[0]), min($y0, $at[1]), max($x1, $at[0]), max($y1, $at[1])];
                }
            }
        }
        if ($ax === [] || $x0 > $x1) {
            return null;
        }

        $depth = new Depth($ax, $ay, $bx, $by);

        return self::deepest(static function (float $x, float $y) use ($depth, $taken): float {
            $d = $depth->at($x, $y);
            foreach ($taken as [$cx, $cy, $radius]) {
                $d = min($d, hypot($x - $cx, $y - $cy) - $radius);
            }

            return $d;
        }, [$x0, $y0, $x1, $y1], $precision);
    }

    /**
     * The same of any depth that grows by no more than one goes.
     *
     * @param  Closure(float, float): float  $depth
     * @param  array{float, float, float, float}  $box  x and y from, x and y to
     */
    public static function deepest(Closure $depth, array $box, float $precision): ?self
    {
        [$x0, $y0, $x1, $y1] = $box;
        $half = max(min($x1 - $x0, $y1 - $y0), max($x1 - $x0, $y1 - $y0) / 64) / 2;
        if ($half <= 0.0) {
            return null;
        }
        $queue = new SplPriorityQueue;
        $best = null;
        $look = static function (float $x, float $y, float $half) use (&$best, $queue, $depth, $precision): void {
            $d = $depth($x, $y);
            if ($d > ($best === null ? 0.0 : $best->radius)) {
                $best = new self($x, $y, $d);
            }
            $most = $d + M_SQRT2 * $half;
            if ($most > ($best === null ? 0.0 : $best->radius) + $precision) {
                $queue->insert([$x, $y, $half, $most], $most);
            }
        };
        for ($x = $x0 + $half; $x < $x1 + $half; $x += 2 * $half) {
            for ($y = $y0 + $half; $y < $y1 + $half; $y += 2 * $half) {
                $look($x, $y, $half);
            }
        }
        for ($n = 0; $n < self::MOST && ! $queue->isEmpty(); $n++) {
            /** @var array{float, float, float, float} $square */
            $square = $queue->extract();
            [$x, $y, $half, $most] = $square;
            if ($most <= ($best === null ? 0.0 : $best->radius) + $precision) {
                break;
            }
            $half /= 2;
            foreach ([[-1, -1], [1, -1], [-1, 1], [1, 1]] as [$right, $up]) {
                $look($x + $right * $half, $y + $up * $half, $half);
            }
        }

        return $best;
    }
}
