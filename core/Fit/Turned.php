<?php

declare(strict_types=1);

namespace Isotome\Fit;

use Isotome\Geometry\EnclosingCircle;
use Isotome\Geometry\Plane;
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

    /** Points among which those are looked for; a turn that is better than all before it is measured on every point. */
    private const SOME = 4_000;

    /** What is gained, as a share of the tolerance, where it is followed. */
    private const GAIN = 0.05;

    /** Turns about the diagonal of the space that a long body is tried in. */
    private const ABOUT = 6;

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
     * @param  int  $patience  turns that are looked at before the search is given up, beside standing on each side
     * @param  bool  $byHowMuch  whether it matters by how much it misses; else the search ends when it is proved that it does
     */
    public static function into(array $xyz, BuildSpace $space, float $tolerance = 0.1, int $patience = self::PATIENCE, bool $byHowMuch = true): self
    {
        $size = $space->sides();
        $some = self::farthest(self::thinned($xyz));
        $queue = new SplPriorityQueue;
        $h = M_PI / self::FIRST;
        for ($i = 0; $i < self::FIRST ** 3; $i++) {
            $at = array_map(static fn (int $n): float => -M_PI + $h * (2 * $n + 1), [$i % self::FIRST, intdiv($i, self::FIRST) % self::FIRST, intdiv($i, self::FIRST ** 2)]);
            $queue->insert([$at, $h], INF);
        }
        $over = INF;
        $vector = [0.0, 0.0, 0.0];
        $tried = self::upright();
        $patience += count($tried);
        $least = self::byDiameter($some, $size);
        for ($n = 0; $n < $patience; $n++) {
            $part = null;
            if (! $byHowMuch && $least > self::NOTHING) {
                break;
            }
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
            // Gains that do not matter are not followed: on a ball there is one at every turn.
            if ($excess < $over - self::GAIN * $tolerance || $excess <= self::NOTHING || $part === null) {
                [, $near] = self::nearby($some, $now, $excess, $size);
                foreach ([$now, $near] as $one) {
                    // What stands for the body learns what it missed, so this is measured on all of it.
                    $some = self::joined($some, self::supports($xyz, self::rows($one)), self::onCircle($xyz, $some, self::rows($one), $size));
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
     * The same looked for near some turns only: quick, and no proof when none is found.
     *
     * @param  list<float>  $xyz  3 a point, mm
     * @param  list<array{array{float, float, float}, array{float, float, float}, array{float, float, float}}>  $frames  square unit directions, in which the body is a box that is laid on each of its sides, and turned about the upright so that it just fits
     */
    public static function near(array $xyz, BuildSpace $space, array $frames): self
    {
        $size = $space->sides();
        $some = self::farthest(self::thinned($xyz));
        $over = INF;
        $vector = [0.0, 0.0, 0.0];
        foreach ($frames as $frame) {
            foreach ([[0, 1, 2], [1, 0, 2], [0, 2, 1], [2, 0, 1], [1, 2, 0], [2, 1, 0]] as [$i, $j, $k]) {
                $wide = array_map(static fn (array $row): float => self::measure($some, [$row], [0.0], 0.0)[0], [$frame[$i], $frame[$j]]);
                foreach (self::angles($wide[0], $wide[1], $size[0], $size[1]) as $angle) {
                    $now = self::after(self::vector($frame[$i], $frame[$j], $frame[$k]), $angle);
                    [$excess] = self::measure($some, self::rows($now), $size, 0.0);
                    if ($excess < $over) {
                        [$over, $vector] = [$excess, $now];
                    }
                }
            }
            foreach (self::alongDiagonal($some, $frame, $size) as $now) {
                [$excess] = self::measure($some, self::rows($now), $size, 0.0);
                if ($excess < $over) {
                    [$over, $vector] = [$excess, $now];
                }
            }
        }

        return self::refined($xyz, $some, $vector, $size);
    }

    /**
     * Turns that bring the longest side of a box along the space's diagonal; none when it is no longer than the space.
     *
     * @param  list<array{float, float, float}>  $some
     * @param  array{array{float, float, float}, array{float, float, float}, array{float, float, float}}  $frame
     * @param  array<int, float>  $size  see BuildSpace::sides()
     * @return list<array{float, float, float}>
     */
    private static function alongDiagonal(array $some, array $frame, array $size): array
    {
        $wide = array_map(static fn (array $row): float => self::measure($some, [$row], [0.0], 0.0)[0], $frame);
        $long = (int) array_search(max($wide), $wide, true);
        if ($wide[$long] <= max($size[0], $size[1], $size[2])) {
            return [];
        }
        [$f, $g, $h] = [$frame[$long], $frame[($long + 1) % 3], $frame[($long + 2) % 3]];
        [$right, $up] = Plane::through([0.0, 0.0, 0.0], [$size[0], $size[1], $size[2]])->directions();
        $diagonal = sqrt($size[0] ** 2 + $size[1] ** 2 + $size[2] ** 2);
        $turns = [];
        for ($n = 0; $n < self::ABOUT; $n++) {
            [$c, $s] = [cos(M_PI * $n / self::ABOUT), sin(M_PI * $n / self::ABOUT)];
            $rows = [];
            foreach ([0, 1, 2] as $k) {
                [$e, $a, $b] = [$size[$k] / $diagonal, $c * $right[$k] + $s * $up[$k], $c * $up[$k] - $s * $right[$k]];
                $rows[] = [$e * $f[0] + $a * $g[0] + $b * $h[0], $e * $f[1] + $a * $g[1] + $b * $h[1], $e * $f[2] + $a * $g[2] + $b * $h[2]];
            }
            $turns[] = self::vector($rows[0], $rows[1], $rows[2]);
        }

        return $turns;
    }

    /**
     * The same from one turn on.
     *
     * @param  list<float>  $xyz  3 a point, mm
     * @param  array{float, float, float}  $vector
     */
    public static function from(array $xyz, BuildSpace $space, array $vector): self
    {
        return self::refined($xyz, self::farthest(self::thinned($xyz)), $vector, $space->sides());
    }

    /**
     * @param  list<float>  $xyz
     * @param  non-empty-list<array{float, float, float}>  $some  that stand for all; they learn what they missed
     * @param  array{float, float, float}  $vector
     * @param  array<int, float>  $size  see BuildSpace::sides()
     */
    private static function refined(array $xyz, array $some, array $vector, array $size): self
    {
        $over = INF;
        for ($round = 0; $round < 3; $round++) {
            $some = self::joined($some, self::supports($xyz, self::rows($vector)), self::onCircle($xyz, $some, self::rows($vector), $size));
            [$over] = self::measure($some, self::rows($vector), $size, 0.0);
            if ($over <= self::NOTHING) {
                break;
            }
            if ($round < 2) {
                [, $vector] = self::nearby($some, $vector, $over, $size);
            }
        }

        return new self($over, -INF, $vector);
    }

    /** @return list<float> angles in radians at which a rectangle p by q is just as wide as a, or as deep as b, and 0 */
    private static function angles(float $p, float $q, float $a, float $b): array
    {
        $long = hypot($p, $q);
        $flat = atan2($q, $p);
        $angles = [0.0];
        if ($long > 0.0 && $a < $long) {
            array_push($angles, $flat + acos($a / $long), $flat - acos($a / $long));
        }
        if ($long > 0.0 && $b < $long) {
            $angles[] = asin($b / $long) - $flat;
        }

        return array_values(array_filter($angles, static fn (float $angle): bool => $angle >= 0.0 && $angle <= M_PI_2));
    }

    /**
     * The turn that brings three square directions to X, Y and Z, or against them (S. W. Shepperd, "Quaternion from rotation matrix", 1978).
     *
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @param  array{float, float, float}  $c
     * @return array{float, float, float}
     */
    private static function vector(array $a, array $b, array $c): array
    {
        $hand = $a[0] * ($b[1] * $c[2] - $b[2] * $c[1]) - $a[1] * ($b[0] * $c[2] - $b[2] * $c[0]) + $a[2] * ($b[0] * $c[1] - $b[1] * $c[0]);
        $c = $hand < 0.0 ? [-$c[0], -$c[1], -$c[2]] : $c;
        $squares = [1 + $a[0] + $b[1] + $c[2], 1 + $a[0] - $b[1] - $c[2], 1 - $a[0] + $b[1] - $c[2], 1 - $a[0] - $b[1] + $c[2]];
        $products = [[0, $c[1] - $b[2], $a[2] - $c[0], $b[0] - $a[1]], [$c[1] - $b[2], 0, $b[0] + $a[1], $c[0] + $a[2]], [$a[2] - $c[0], $b[0] + $a[1], 0, $c[1] + $b[2]], [$b[0] - $a[1], $c[0] + $a[2], $c[1] + $b[2], 0]];
        $k = (int) array_search(max($squares), $squares, true);
        $root = sqrt($squares[$k]);
        $q = array_map(static fn (float|int $product): float => $product / (2 * $root), $products[$k]);
        $q[$k] = $root / 2;
        $q = $q[0] < 0.0 ? [-$q[0], -$q[1], -$q[2], -$q[3]] : $q;
        $sine = sqrt($q[1] ** 2 + $q[2] ** 2 + $q[3] ** 2);
        $length = $sine > 0.0 ? 2 * atan2($sine, $q[0]) / $sine : 0.0;

        return [$length * $q[1], $length * $q[2], $length * $q[3]];
    }

    /**
     * A better turn near one, by smaller and smaller steps (R. Hooke, T. A. Jeeves, "Direct search", 1961).
     *
     * @param  list<array{float, float, float}>  $some
     * @param  array{float, float, float}  $vector
     * @param  array<int, float>  $size  see BuildSpace::sides()
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
     * @param  array<int, float>  $size  see BuildSpace::sides()
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
        $sum = $size[0] + $size[1] + $size[2];
        $squares = $size[0] ** 2 + $size[1] ** 2 + $size[2] ** 2;
        // Σ (side + t)² = square.
        $root = $sum ** 2 - 3 * ($squares - $square);

        return $root < 0.0 ? -INF : (sqrt($root) - $sum) / 3;
    }

    /**
     * @param  list<array{float, float, float}>  $some
     * @param  list<array{float, float, float}>  $rows
     * @param  array<int, float>  $size  see BuildSpace::sides()
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
        // A round bed holds what is no wider than it along any direction, and more: a circle around it.
        if (isset($size[3])) {
            $excess = max($excess, 2 * EnclosingCircle::of(self::seen($some, $rows))->radius - $size[3]);
        }

        return [$excess, $bound];
    }

    /**
     * Points as seen from above.
     *
     * @param  array<int, array{float, float, float}>  $some
     * @param  list<array{float, float, float}>  $rows
     * @return non-empty-list<array{float, float}>
     */
    private static function seen(array $some, array $rows): array
    {
        [[$a, $b, $c], [$d, $e, $f]] = $rows;
        $seen = [];
        foreach ($some as [$x, $y, $z]) {
            $seen[] = [$a * $x + $b * $y + $c * $z, $d * $x + $e * $y + $f * $z];
        }

        return $seen ?: [[0.0, 0.0]];
    }

    /**
     * The points that decide the smallest circle around all, as seen from above; none when the bed is not round.
     *
     * @param  list<float>  $xyz
     * @param  list<array{float, float, float}>  $some
     * @param  list<array{float, float, float}>  $rows
     * @param  array<int, float>  $size
     * @return list<array{float, float, float}>
     */
    private static function onCircle(array $xyz, array $some, array $rows, array $size): array
    {
        $found = [];
        if (! isset($size[3])) {
            return $found;
        }
        [[$a, $b, $c], [$d, $e, $f]] = $rows;
        do {
            $circle = EnclosingCircle::of(self::seen(array_merge($some, $found), $rows));
            $most = $circle->radius ** 2 * (1 + self::NOTHING);
            $next = null;
            for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
                $u = $a * $xyz[$i] + $b * $xyz[$i + 1] + $c * $xyz[$i + 2] - $circle->x;
                $v = $d * $xyz[$i] + $e * $xyz[$i + 1] + $f * $xyz[$i + 2] - $circle->y;
                if ($u * $u + $v * $v > $most) {
                    $most = $u * $u + $v * $v;
                    $next = [$xyz[$i], $xyz[$i + 1], $xyz[$i + 2]];
                }
            }
            if ($next !== null) {
                $found[] = $next;
            }
        } while ($next !== null);

        return $found;
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
     * Every point once: each is gone through for every turn.
     *
     * @param  non-empty-list<array{float, float, float}>  $some
     * @param  list<array{float, float, float}>  ...$others
     * @return non-empty-list<array{float, float, float}>
     */
    private static function joined(array $some, array ...$others): array
    {
        $known = [];
        foreach ($some as $point) {
            $known[pack('d3', ...$point)] = true;
        }
        foreach (array_merge(...$others) as $point) {
            $key = pack('d3', ...$point);
            if (! isset($known[$key])) {
                $known[$key] = true;
                $some[] = $point;
            }
        }

        return $some;
    }

    /**
     * @param  list<float>  $xyz
     * @return list<float> some of many points, evenly chosen in their order
     */
    private static function thinned(array $xyz): array
    {
        $step = 3 * max(1, intdiv(intdiv(count($xyz), 3), self::SOME));
        if ($step === 3) {
            return $xyz;
        }
        $some = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += $step) {
            $some[] = $xyz[$i];
            $some[] = $xyz[$i + 1];
            $some[] = $xyz[$i + 2];
        }

        return $some;
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
