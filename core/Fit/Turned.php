<?php

declare(strict_types=1);

namespace Isotome\Fit;

use Isotome\Geometry\Turn;
use SplPriorityQueue;

/**
 * Does a body go into a printer's space in any turn at all, and if not, by how much does it miss?
 *
 * Guarantees: a turn that is told was measured on all points. When it is said to be too large, no turn whatever makes the largest excess smaller than told by more than the tolerance, unless the search was given up:
 * then only the lower bound holds.
 *
 * Source: branch and bound over rotation vectors, R. I. Hartley, F. Kahl, "Global optimization through rotation space search", International Journal of Computer Vision 82 (2009): within a cube of half side h around a
 * rotation vector no direction is turned by more than √3 h from where the middle brings it. A body is at least as wide along a direction as the distance between the two points that are farthest apart along a direction nearby.
 */
final readonly class Turned
{
    /** Turns that are looked at before the search is given up. */
    private const PATIENCE = 8_000;

    /** Excess that is rounding, mm. */
    private const NOTHING = 1e-9;

    /** Directions whose farthest points stand for the body at first. */
    private const DIRECTIONS = 90;

    /** Cubes along each axis that the search begins with. */
    private const FIRST = 6;

    /**
     * @param  float  $over  mm: the largest excess along a side of the space, of the turn; at most 0, but for rounding, when it fits
     * @param  float  $least  mm: no turn has less; when it fits, the same
     * @param  array{float, float, float}  $vector  the turn: its axis, as long as its angle in radians
     */
    private function __construct(
        public float $over,
        public float $least,
        public array $vector,
    ) {
    }

    public function fits(): bool
    {
        return $this->over <= self::NOTHING;
    }

    /** Was the search given up before it was known whether it fits? */
    public function isUnsure(): bool
    {
        return ! $this->fits() && $this->least <= 0.0;
    }

    /**
     * @param  list<float>  $xyz  3 a point, mm; those of the convex hull are enough
     * @param  float  $tolerance  mm, of the excess of what does not fit
     */
    public static function into(array $xyz, BuildSpace $space, float $tolerance = 0.1): self
    {
        $size = [$space->x, $space->y, $space->z];
        $some = self::farthest($xyz);
        $queue = new SplPriorityQueue;
        $h = M_PI / self::FIRST;
        for ($i = 0; $i < self::FIRST ** 3; $i++) {
            $at = array_map(static fn (int $n): float => -M_PI + $h * (2 * $n + 1), [$i % self::FIRST, intdiv($i, self::FIRST) % self::FIRST, intdiv($i, self::FIRST ** 2)]);
            $queue->insert([$at, $h], INF);
        }
        $over = INF;
        $vector = [0.0, 0.0, 0.0];
        $tried = self::upright();
        $least = self::byDiameter($some, $size);
        for ($n = 0; $n < self::PATIENCE; $n++) {
            $part = null;
            if ($tried !== []) {
                $now = array_pop($tried);
            } elseif ($least >= $over - $tolerance) {
                break;
            } elseif (! $queue->isEmpty()) {
                $queue->setExtractFlags(SplPriorityQueue::EXTR_BOTH);
                /** @var array{data: array{array{float, float, float}, float}, priority: float} $next */
                $next = $queue->extract();
                $least = max($least, -$next['priority']);
                if ($least >= $over - $tolerance) {
                    break;
                }
                $part = $next['data'];
                $now = $part[0];
            } else {
                $least = max($least, $over - $tolerance);
                break;
            }
            $rows = self::rows($now);
            [$excess, $bound] = self::measure($some, $rows, $size, $part === null ? 0.0 : sqrt(3) * $part[1]);
            if ($excess < $over || $part === null) {
                [, $near] = self::nearby($some, $now, $excess, $size);
                foreach ([$now, $near] as $one) {
                    // What stands for the body learns what it missed, so this is measured on all of it.
                    $some = array_merge($some, self::supports($xyz, self::rows($one)));
                    [$excess] = self::measure($some, self::rows($one), $size, 0.0);
                    if ($excess < $over) {
                        [$over, $vector] = [$excess, $one];
                    }
                }
                if ($over <= self::NOTHING) {
                    return new self($over, $over, $vector);
                }
            }
            if ($part !== null && $bound < $over - $tolerance) {
                $half = $part[1] / 2;
                for ($k = 0; $k < 8; $k++) {
                    $at = [$part[0][0] + ($k & 1 ? $half : -$half), $part[0][1] + ($k & 2 ? $half : -$half), $part[0][2] + ($k & 4 ? $half : -$half)];
                    // Beyond half a turn are the same turns again.
                    if (sqrt($at[0] ** 2 + $at[1] ** 2 + $at[2] ** 2) <= M_PI + sqrt(3) * $half) {
                        $queue->insert([$at, $half], -$bound);
                    }
                }
            }
        }

        return new self($over, min($least, $over), $vector);
    }

    /**
     * A better turn near one, by smaller and smaller steps (R. Hooke, T. A. Jeeves, "Direct search", 1961).
     *
     * @param  list<array{float, float, float}>  $some
     * @param  array{float, float, float}  $vector
     * @param  array{float, float, float}  $size
     * @return array{float, array{float, float, float}}
     */
    private static function nearby(array $some, array $vector, float $excess, array $size): array
    {
        for ($step = 0.1; $step > 1e-5 && $excess > self::NOTHING; $step /= 2) {
            foreach ([[1, 0, 0], [-1, 0, 0], [0, 1, 0], [0, -1, 0], [0, 0, 1], [0, 0, -1]] as [$x, $y, $z]) {
                $other = [$vector[0] + $step * $x, $vector[1] + $step * $y, $vector[2] + $step * $z];
                [$now] = self::measure($some, self::rows($other), $size, 0.0);
                if ($now < $excess) {
                    [$excess, $vector] = [$now, $other];
                }
            }
        }

        return [$excess, $vector];
    }

    /** @return list<array{float, float, float}> on each of its sides, turned about the upright; last, which is tried first, as it stands */
    private static function upright(): array
    {
        $turns = [];
        foreach ([[0.0, M_PI / 2, 0.0], [M_PI / 2, 0.0, 0.0], [0.0, 0.0, 0.0]] as $side) {
            for ($degrees = 90; $degrees >= 0; $degrees -= 10) {
                $turns[] = self::after($side, deg2rad($degrees));
            }
        }

        return $turns;
    }

    /**
     * A turn and then one about Z (by quaternions, W. R. Hamilton 1843).
     *
     * @param  array{float, float, float}  $vector
     * @return array{float, float, float}
     */
    private static function after(array $vector, float $aboutZ): array
    {
        $angle = sqrt($vector[0] ** 2 + $vector[1] ** 2 + $vector[2] ** 2);
        $s = $angle > 0.0 ? sin($angle / 2) / $angle : 0.0;
        [$w, $x, $y, $z] = [cos($angle / 2), $s * $vector[0], $s * $vector[1], $s * $vector[2]];
        [$c, $d] = [cos($aboutZ / 2), sin($aboutZ / 2)];
        [$w, $x, $y, $z] = [$c * $w - $d * $z, $c * $x - $d * $y, $c * $y + $d * $x, $c * $z + $d * $w];
        $sine = sqrt($x * $x + $y * $y + $z * $z);
        $length = $sine > 0.0 ? 2 * atan2($sine, $w) / $sine : 0.0;

        return [$length * $x, $length * $y, $length * $z];
    }

    /**
     * What the two points that are farthest from each other say: the sides of a box around them have squares that add up to that of their distance.
     *
     * @param  non-empty-list<array{float, float, float}>  $some
     * @param  array{float, float, float}  $size
     * @return float mm that the space is too small by, at least, however it is turned
     */
    private static function byDiameter(array $some, array $size): float
    {
        $square = 0.0;
        foreach ($some as $n => [$x, $y, $z]) {
            for ($m = 0; $m < $n; $m++) {
                $square = max($square, ($x - $some[$m][0]) ** 2 + ($y - $some[$m][1]) ** 2 + ($z - $some[$m][2]) ** 2);
            }
        }
        $sum = array_sum($size);
        $squares = $size[0] ** 2 + $size[1] ** 2 + $size[2] ** 2;
        // Σ (side + t)² = square.
        $root = $sum ** 2 - 3 * ($squares - $square);

        return $root < 0.0 ? -INF : (sqrt($root) - $sum) / 3;
    }

    /**
     * @param  list<array{float, float, float}>  $some
     * @param  list<array{float, float, float}>  $rows
     * @param  array{float, float, float}  $size
     * @param  float  $angle  by which directions may be off
     * @return array{float, float} the largest excess with these rows, and what it is at least with any that are off by no more
     */
    private static function measure(array $some, array $rows, array $size, float $angle): array
    {
        $excess = $bound = -INF;
        foreach ($rows as $k => [$x, $y, $z]) {
            $low = INF;
            $high = -INF;
            $first = $last = $some[0];
            foreach ($some as $at) {
                $d = $x * $at[0] + $y * $at[1] + $z * $at[2];
                if ($d < $low) {
                    $low = $d;
                    $first = $at;
                }
                if ($d > $high) {
                    $high = $d;
                    $last = $at;
                }
            }
            $wide = $high - $low;
            $length = sqrt(($last[0] - $first[0]) ** 2 + ($last[1] - $first[1]) ** 2 + ($last[2] - $first[2]) ** 2);
            $off = $length > 0.0 ? acos(min(1.0, $wide / $length)) + $angle : M_PI;
            $excess = max($excess, $wide - $size[$k]);
            $bound = max($bound, ($off < M_PI ? $length * cos($off) : 0.0) - $size[$k]);
        }

        return [$excess, $bound];
    }

    /**
     * The points farthest along the rows and against them.
     *
     * @param  list<float>  $xyz
     * @param  list<array{float, float, float}>  $rows
     * @return list<array{float, float, float}>
     */
    private static function supports(array $xyz, array $rows): array
    {
        $points = [];
        foreach ($rows as [$x, $y, $z]) {
            $low = INF;
            $high = -INF;
            $first = $last = 0;
            for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
                $d = $x * $xyz[$i] + $y * $xyz[$i + 1] + $z * $xyz[$i + 2];
                if ($d < $low) {
                    $low = $d;
                    $first = $i;
                }
                if ($d > $high) {
                    $high = $d;
                    $last = $i;
                }
            }
            $points[] = [$xyz[$first], $xyz[$first + 1], $xyz[$first + 2]];
            $points[] = [$xyz[$last], $xyz[$last + 1], $xyz[$last + 2]];
        }

        return $points;
    }

    /**
     * @param  list<float>  $xyz
     * @return non-empty-list<array{float, float, float}> the points farthest along evenly spread directions (A. González, "Measurement of areas on a sphere using Fibonacci and latitude-longitude lattices", 2010)
     */
    private static function farthest(array $xyz): array
    {
        $points = [];
        for ($n = 0; $n < self::DIRECTIONS; $n += 3) {
            $rows = [];
            for ($k = $n; $k < $n + 3; $k++) {
                $z = 1 - ($k + 0.5) / self::DIRECTIONS;
                $turn = $k * M_PI * (3 - sqrt(5));
                $rows[] = [sqrt(1 - $z * $z) * cos($turn), sqrt(1 - $z * $z) * sin($turn), $z];
            }
            foreach (self::supports($xyz, $rows) as $point) {
                $points[pack('d3', ...$point)] = $point;
            }
        }

        return array_values($points) ?: [[0.0, 0.0, 0.0]];
    }

    /**
     * @param  array{float, float, float}  $vector
     * @return list<array{float, float, float}> the directions that come to X, to Y and to Z
     */
    private static function rows(array $vector): array
    {
        $angle = sqrt($vector[0] ** 2 + $vector[1] ** 2 + $vector[2] ** 2);

        return $angle > 0.0 ? Turn::about($vector, rad2deg($angle))->rows() : [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]];
    }
}
