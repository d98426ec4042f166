<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Isotome\Exception\BadBlade;
use Isotome\Geometry\Orientation;
use Isotome\Solid\Page;
use Isotome\Solid\Points;

/**
 * A rectangle of a page, divided by lines that may cross, touch and overlap, into convex polygons without gaps.
 *
 * Guarantees: every line is a chain of edges of polygons; two polygons share a whole edge, a corner, or nothing. Polygons that are not parted by lines form one region. Decisions are exact, and all
 * polygons still turn left when crossings are rounded to doubles.
 *
 * Source: polygons by leaving out diagonals of a triangulation, S. Hertel, K. Mehlhorn, "Fast triangulation of simple polygons" (1983).
 */
final readonly class Division
{
    /** So often what rounding turned over is rounded to a coarser grid and divided again. */
    private const ROUNDS = 6;

    private const MOST_CROSSINGS = 12_000;

    /** Binary digits that places of the page keep, of the largest. */
    private const DIGITS = 48;

    /**
     * @param  list<array{float, float}>  $points
     * @param  list<list<int>>  $polygons  corners, turning left
     * @param  list<int>  $region  of each polygon
     * @param  list<array{int, int, int}>  $sides  of each stretch of a segment: its number, the region to its left, and the one to its right
     */
    private function __construct(
        public array $points,
        public array $polygons,
        public array $region,
        public array $sides,
    ) {
    }

    /**
     * @param  list<array{array{float, float}, array{float, float}}>  $segments  within the rectangle
     * @param  array{float, float, float, float}  $rectangle  least u, greatest u, least v, greatest v
     *
     * @throws BadBlade when lines lie too close to each other to be told apart
     */
    public static function of(array $segments, array $rectangle): self
    {
        $largest = max(abs($rectangle[0]), abs($rectangle[1]), abs($rectangle[2]), abs($rectangle[3]));
        $grid = 2.0 ** (ceil(log($largest, 2)) - self::DIGITS);
        $chains = [];
        foreach ($segments as $n => [$p, $q]) {
            $chains[] = [$p, $q, $n];
        }
        for ($round = 0; $round < self::ROUNDS; $round++, $grid *= 4) {
            $made = self::divided($chains, $rectangle, $grid);
            if ($made instanceof self) {
                return $made;
            }
            $chains = $made;
        }

        throw new BadBlade('Lines of the drawing cross so often or so closely that they cannot be told apart; draw it anew with fewer corners.');
    }

    /**
     * @param  list<array{array{float, float}, array{float, float}, int}>  $chains  and the segment that each is a part of
     * @param  array{float, float, float, float}  $rectangle
     * @return self|list<array{array{float, float}, array{float, float}, int}> the chains through rounded crossings, when rounding turned a triangle over
     */
    private static function divided(array $chains, array $rectangle, float $grid): self|array
    {
        $round = static fn (float $x): float => round($x / $grid) * $grid;
        // So that what leads to its rim ends on it.
        [$u0, $u1, $v0, $v1] = array_map($round, $rectangle);
        $span = max($u1 - $u0, $v1 - $v0);
        // Around the rectangle, a triangle.
        $xyz = [];
        $known = [];
        $number = static function (float $x, float $y) use (&$xyz, &$known): int {
            $key = "$x $y";
            if (! isset($known[$key])) {
                $known[$key] = intdiv(count($xyz), 3);
                array_push($xyz, $x, $y, 0.0);
            }

            return $known[$key];
        };
        $far = [$number($u0 - 8 * $span, $v0 - 4 * $span), $number($u1 + 8 * $span, $v0 - 4 * $span), $number(($u0 + $u1) / 2, $v1 + 16 * $span)];
        $rim = [$number($u0, $v0), $number($u1, $v0), $number($u1, $v1), $number($u0, $v1)];
        $laid = [];
        foreach ($chains as [$p, $q, $n]) {
            $a = $number($round($p[0]), $round($p[1]));
            $b = $number($round($q[0]), $round($q[1]));
            if ($a !== $b) {
                $laid[] = [$a, $b, $n];
            }
        }
        $points = new Points($xyz);
        $page = new Page($points, 0, 1, ...$far);
        foreach ($rim as $point) {
            $page->insert($point);
        }
        foreach ($rim as $k => $point) {
            $page->connect($point, $rim[($k + 1) % 4]);
        }
        foreach ($laid as [$a, $b]) {
            $page->insert($a);
            $page->insert($b);
        }
        $given = $points->count();
        foreach ($laid as [$a, $b]) {
            $page->connect($a, $b);
            if ($points->count() - $given > self::MOST_CROSSINGS) {
                throw new BadBlade('Lines of the drawing cross more than '.number_format(self::MOST_CROSSINGS).' times; draw fewer of them at once.');
            }
        }
        $at = [];
        for ($i = 0, $count = $points->count(); $i < $count; $i++) {
            $at[] = [$points->xyz[3 * $i], $points->xyz[3 * $i + 1]];
        }
        $kept = $page->kept();
        $stretches = self::stretches($points, $laid, $kept);
        // What is beyond the rectangle has a corner there.
        $triangles = [];
        $isFar = array_fill_keys($far, true);
        foreach (array_chunk($page->triangles(), 3) as [$a, $b, $c]) {
            if (isset($isFar[$a]) || isset($isFar[$b]) || isset($isFar[$c])) {
                continue;
            }
            if (Orientation::of($at[$a][0], $at[$a][1], $at[$b][0], $at[$b][1], $at[$c][0], $at[$c][1]) <= 0) {
                return array_map(static fn (array $one): array => [$at[$one[0]], $at[$one[1]], $one[2]], $stretches);
            }
            array_push($triangles, $a, $b, $c);
        }

        return self::polygons($at, $triangles, $kept, $stretches);
    }

    /**
     * The kept edges that each segment became.
     *
     * @param  list<array{int, int, int}>  $laid
     * @param  array<int, true>  $kept
     * @return list<array{int, int, int}> from, to, number of the segment
     */
    private static function stretches(Points $points, array $laid, array $kept): array
    {
        $beside = [];
        foreach ($kept as $key => $_) {
            [$p, $q] = [$key >> 32, $key & 0xFFFFFFFF];
            $beside[$p][] = $q;
            $beside[$q][] = $p;
        }
        $stretches = [];
        foreach ($laid as [$p, $q, $n]) {
            // By the axis along which it runs most, exactly: from point to point on its line.
            $axis = abs($points->xyz[3 * $q] - $points->xyz[3 * $p]) >= abs($points->xyz[3 * $q + 1] - $points->xyz[3 * $p + 1]) ? 0 : 1;
            $way = $points->compare($p, $q, $axis);
            for ($at = $p; $at !== $q; $at = $next) {
                $next = -1;
                foreach ($beside[$at] as $to) {
                    if ($to === $q || ($points->compare($at, $to, $axis) === $way && $points->compare($to, $q, $axis) === $way && $points->turn($p, $q, $to, 0, 1) === 0)) {
                        $next = $to;
                        break;
                    }
                }
                if ($next < 0) {
                    break;
                }
                $stretches[] = [$at, $next, $n];
            }
        }

        return $stretches;
    }

    /**
     * @param  list<array{float, float}>  $at
     * @param  list<int>  $corners  three a triangle
     * @param  array<int, true>  $kept
     * @param  list<array{int, int, int}>  $stretches
     */
    private static function polygons(array $at, array $corners, array $kept, array $stretches): self
    {
        $half = [];
        foreach ($corners as $i => $p) {
            $half[$p << 32 | $corners[$i % 3 === 2 ? $i - 2 : $i + 1]] = $i;
        }
        $region = array_fill(0, intdiv(count($corners), 3), -1);
        $regions = 0;
        foreach ($region as $t => $_) {
            if ($region[$t] >= 0) {
                continue;
            }
            $queue = [$t];
            $region[$t] = $regions;
            while ($queue !== []) {
                $s = array_pop($queue);
                for ($k = 0; $k < 3; $k++) {
                    [$p, $q] = [$corners[3 * $s + $k], $corners[3 * $s + ($k + 1) % 3]];
                    $twin = $half[$q << 32 | $p] ?? -1;
                    if ($twin >= 0 && $region[intdiv($twin, 3)] < 0 && ! isset($kept[$p < $q ? $p << 32 | $q : $q << 32 | $p])) {
                        $region[intdiv($twin, 3)] = $regions;
                        $queue[] = intdiv($twin, 3);
                    }
                }
            }
            $regions++;
        }
        $sides = [];
        foreach ($stretches as [$p, $q, $n]) {
            if (isset($half[$p << 32 | $q], $half[$q << 32 | $p])) {
                $sides[] = [$n, $region[intdiv($half[$p << 32 | $q], 3)], $region[intdiv($half[$q << 32 | $p], 3)]];
            }
        }
        // Each edge that is no line's goes, where both its ends stay convex without it.
        $next = $before = [];
        foreach ($corners as $i => $_) {
            $next[$i] = $i % 3 === 2 ? $i - 2 : $i + 1;
            $before[$i] = $i % 3 === 0 ? $i + 2 : $i - 1;
        }
        $turns = static fn (int $a, int $b, int $c): bool => Orientation::of(...$at[$a], ...$at[$b], ...$at[$c]) >= 0;
        foreach ($corners as $i => $p) {
            $q = $corners[$i % 3 === 2 ? $i - 2 : $i + 1];
            $twin = $half[$q << 32 | $p] ?? -1;
            if ($p > $q || $twin < 0 || isset($kept[$p << 32 | $q])) {
                continue;
            }
            if (! $turns($corners[$before[$i]], $p, $corners[$next[$next[$twin]]]) || ! $turns($corners[$before[$twin]], $q, $corners[$next[$next[$i]]])) {
                continue;
            }
            [$one, $two, $three, $four] = [$before[$i], $next[$twin], $before[$twin], $next[$i]];
            $next[$one] = $two;
            $before[$two] = $one;
            $next[$three] = $four;
            $before[$four] = $three;
            $next[$i] = $next[$twin] = -1;
        }
        $polygons = $of = $seen = [];
        foreach ($next as $i => $then) {
            if ($then < 0 || isset($seen[$i])) {
                continue;
            }
            $polygon = [];
            for ($h = $i; ! isset($seen[$h]); $h = $next[$h]) {
                $seen[$h] = true;
                $polygon[] = $corners[$h];
            }
            $polygons[] = $polygon;
            $of[] = $region[intdiv($i, 3)];
        }

        return new self($at, $polygons, $of, $sides);
    }

    public function regions(): int
    {
        return $this->region === [] ? 0 : max($this->region) + 1;
    }

    /** @return list<array{float, float}> a place well within each region: the middle of a polygon of it, the largest */
    public function middles(): array
    {
        $largest = array_fill(0, $this->regions(), -1.0);
        $middles = array_fill(0, $this->regions(), [0.0, 0.0]);
        foreach ($this->polygons as $n => $polygon) {
            [$x0, $y0] = $this->points[$polygon[0]];
            $area = $x = $y = 0.0;
            for ($k = 1; $k + 1 < count($polygon); $k++) {
                [$x1, $y1] = $this->points[$polygon[$k]];
                [$x2, $y2] = $this->points[$polygon[$k + 1]];
                $part = ($x1 - $x0) * ($y2 - $y0) - ($y1 - $y0) * ($x2 - $x0);
                $area += $part;
                $x += $part * ($x0 + $x1 + $x2) / 3;
                $y += $part * ($y0 + $y1 + $y2) / 3;
            }
            if ($area > $largest[$this->region[$n]]) {
                $largest[$this->region[$n]] = $area;
                $middles[$this->region[$n]] = [$x / $area, $y / $area];
            }
        }

        return $middles;
    }
}
