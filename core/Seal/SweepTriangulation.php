<?php

declare(strict_types=1);

namespace Isotome\Seal;

use Isotome\Geometry\Orientation;

/**
 * Triangulates the area to the left of directed edges: any number of outlines, nested to any depth, touching in points.
 *
 * A line sweeps from left to right over the corners. Between a floor edge and the ceiling edge above it lies material; what
 * of it is not triangulated yet is bounded on its left by a chain of points that bends away from the sweep. Each corner
 * starts, splits, merges, ends or goes on with such a chain, and cuts off every triangle that has become visible.
 * Source: S. Hertel, K. Mehlhorn, "Fast triangulation of the plane with respect to simple polygons", Information and
 * Control 64 (1985); monotone chains as in M. de Berg et al., Computational Geometry, ch. 3. O(n log n) but for the
 * sweep's sorted list, which is a packed array.
 *
 * Guarantees, for whatever edges as long as each point has as many ingoing as outgoing ones: when it returns, the
 * triangles' outer edges are exactly the given edges. For edges that do not cross each other (touching is fine) every
 * triangle also turns left; `$sound` tells, exactly. It gives up (null) only on edges that cross each other.
 */
final class SweepTriangulation
{
    private const END = 0;

    private const FLOOR = 1;

    private const CEILING = 2;

    private const MERGE = 3;

    private const SPLIT = 4;

    private const START = 5;

    /** @var list<int> */
    private array $triangles = [];

    private bool $sound = true;

    // Chain nodes: point, neighbour towards the floor, neighbour towards the ceiling.
    /** @var array<int, int> */
    private array $nodePoint = [];

    /** @var array<int, int> */
    private array $nodeDown = [];

    /** @var array<int, int> */
    private array $nodeUp = [];

    // Intervals of material: bounding edges by their end points, chain ends, newest node.
    /** @var array<int, int> */
    private array $floorFrom = [];

    /** @var array<int, int> */
    private array $floorTo = [];

    /** @var array<int, int> */
    private array $ceilingFrom = [];

    /** @var array<int, int> */
    private array $ceilingTo = [];

    /** @var array<int, int> */
    private array $bottom = [];

    /** @var array<int, int> */
    private array $top = [];

    /** @var array<int, int> */
    private array $newest = [];

    /** @var array<int, array<int, int>> intervals whose floor ends at the point */
    private array $byFloorEnd = [];

    /** @var array<int, array<int, int>> */
    private array $byCeilingEnd = [];

    /** @var list<int> intervals now crossed by the sweep line, lowest first */
    private array $status = [];

    /** @var array<int, int> place of each point in the sweep */
    private array $rank = [];

    /**
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     */
    private function __construct(
        private readonly array $x,
        private readonly array $y,
    ) {
    }

    /**
     * @param  array<int, float>  $x  by point number
     * @param  array<int, float>  $y
     * @param  list<int>  $from  edge e runs from[e] → to[e], material to its left
     * @param  list<int>  $to
     * @return array{triangles: list<int>, sound: bool}|null
     */
    public static function of(array $x, array $y, array $from, array $to): ?array
    {
        $sweep = new self($x, $y);

        return $sweep->run($from, $to) ? ['triangles' => $sweep->triangles, 'sound' => $sweep->sound] : null;
    }

    /**
     * @param  list<int>  $from
     * @param  list<int>  $to
     */
    private function run(array $from, array $to): bool
    {
        $in = [];
        $out = [];
        foreach ($from as $e => $p) {
            $out[$p][] = $to[$e];
            $in[$to[$e]][] = $p;
        }
        $order = array_keys($out);
        $xs = [];
        $ys = [];
        foreach ($order as $p) {
            $xs[] = $this->x[$p];
            $ys[] = $this->y[$p];
        }
        array_multisort($xs, SORT_ASC, SORT_NUMERIC, $ys, SORT_ASC, SORT_NUMERIC, $order);
        foreach ($order as $place => $p) {
            $this->rank[$p] = $place;
        }
        foreach ($order as $p) {
            if (count($out[$p]) !== count($in[$p] ?? [])) {
                return false;
            }
            $pairs = count($out[$p]) === 1 ? [[$in[$p][0], $out[$p][0]]] : $this->pairs($p, $in[$p], $out[$p]);
            $corners = [];
            foreach ($pairs as [$before, $after]) {
                $corners[] = [$this->kind($before, $p, $after), $before, $after];
            }
            if (count($corners) > 1) {
                usort($corners, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
            }
            foreach ($corners as [$kind, $before, $after]) {
                $done = match ($kind) {
                    self::END => $this->end($before, $p, $after),
                    self::FLOOR => $this->floor($before, $p, $after),
                    self::CEILING => $this->ceiling($before, $p, $after),
                    self::MERGE => $this->merge($before, $p, $after),
                    self::SPLIT => $this->split($before, $p, $after),
                    default => $this->start($before, $p, $after),
                };
                if (! $done) {
                    return false;
                }
            }
        }

        return $this->status === [];
    }

    /** What the sweep does at the corner before → p → after. */
    private function kind(int $before, int $p, int $after): int
    {
        $here = $this->rank[$p];
        $cameFromLeft = $this->rank[$before] < $here;
        $goesRight = $this->rank[$after] > $here;
        if ($cameFromLeft && $goesRight) {
            return self::FLOOR;
        }
        if (! $cameFromLeft && ! $goesRight) {
            return self::CEILING;
        }
        $convex = $this->turn($before, $p, $after) > 0;
        if ($cameFromLeft) {
            return $convex ? self::END : self::MERGE;
        }

        return $convex ? self::START : self::SPLIT;
    }

    private function turn(int $a, int $b, int $c): int
    {
        return Orientation::of($this->x[$a], $this->y[$a], $this->x[$b], $this->y[$b], $this->x[$c], $this->y[$c]);
    }

    /**
     * Where outlines touch in one point, each wedge of material between an outgoing edge and the next ingoing one,
     * counter-clockwise, is a corner of its own.
     *
     * @param  list<int>  $in
     * @param  list<int>  $out
     * @return list<array{int, int}> ingoing and outgoing neighbour of each corner
     */
    private function pairs(int $p, array $in, array $out): array
    {
        $rays = [];
        foreach ($in as $q) {
            $rays[] = [$q, 0, $this->upperHalf($p, $q)];
        }
        foreach ($out as $q) {
            $rays[] = [$q, 1, $this->upperHalf($p, $q)];
        }
        usort($rays, function (array $a, array $b) use ($p): int {
            // Along one direction the ingoing edge comes first: between the two lies no material.
            return $a[2] <=> $b[2] ?: $this->turn($p, $b[0], $a[0]) ?: $a[1] <=> $b[1];
        });
        $count = count($rays);
        $open = [];
        $pairs = [];
        for ($round = 0; $round < 2 * $count && count($pairs) < count($out); $round++) {
            [$q, $outgoing] = $rays[$round % $count];
            if ($outgoing === 1) {
                if ($round < $count) {
                    $open[] = $q;
                }
            } elseif ($open !== []) {
                $pairs[] = [$q, array_pop($open)];
            }
        }

        return $pairs;
    }

    private function upperHalf(int $p, int $q): int
    {
        return $this->y[$q] > $this->y[$p] || ($this->y[$q] === $this->y[$p] && $this->x[$q] > $this->x[$p]) ? 0 : 1;
    }

    private function start(int $before, int $p, int $after): bool
    {
        $place = $this->locate($p, $after, $before);
        if ($place >= 0) {
            return false;
        }
        $node = $this->node($p);
        $interval = $this->interval($p, $after, $before, $p, $node, $node, $node);
        array_splice($this->status, -$place - 1, 0, [$interval]);

        return true;
    }

    private function end(int $before, int $p, int $after): bool
    {
        $interval = $this->take($this->byFloorEnd, $p, $this->floorFrom, $before);
        $other = $this->take($this->byCeilingEnd, $p, $this->ceilingTo, $after);
        if ($interval === null || $interval !== $other) {
            return false;
        }
        $node = $this->bottom[$interval];
        $last = $this->top[$interval];
        while ($node !== $last) {
            $up = $this->nodeUp[$node];
            $this->emit($this->nodePoint[$node], $p, $this->nodePoint[$up]);
            $node = $up;
        }
        $place = array_search($interval, $this->status, true);
        if ($place === false) {
            return false;
        }
        array_splice($this->status, $place, 1);

        return true;
    }

    private function floor(int $before, int $p, int $after): bool
    {
        $interval = $this->take($this->byFloorEnd, $p, $this->floorFrom, $before);
        if ($interval === null) {
            return false;
        }
        $this->addBelow($interval, $p);
        $this->floorFrom[$interval] = $p;
        $this->floorTo[$interval] = $after;
        $this->byFloorEnd[$after][] = $interval;

        return true;
    }

    private function ceiling(int $before, int $p, int $after): bool
    {
        $interval = $this->take($this->byCeilingEnd, $p, $this->ceilingTo, $after);
        if ($interval === null) {
            return false;
        }
        $this->addAbove($interval, $p);
        $this->ceilingFrom[$interval] = $before;
        $this->ceilingTo[$interval] = $p;
        $this->byCeilingEnd[$before][] = $interval;

        return true;
    }

    private function merge(int $before, int $p, int $after): bool
    {
        $lower = $this->take($this->byCeilingEnd, $p, $this->ceilingTo, $after);
        $upper = $this->take($this->byFloorEnd, $p, $this->floorFrom, $before);
        if ($lower === null || $upper === null || $lower === $upper) {
            return false;
        }
        $place = array_search($upper, $this->status, true);
        if ($place === false || $place === 0 || $this->status[$place - 1] !== $lower) {
            return false;
        }
        array_splice($this->status, $place, 1);
        $this->addAbove($lower, $p);
        $this->addBelow($upper, $p);
        // One node for p: the lower chain's last stands for the upper chain's first.
        $joint = $this->top[$lower];
        $next = $this->nodeUp[$this->bottom[$upper]];
        if ($next >= 0) {
            $this->nodeUp[$joint] = $next;
            $this->nodeDown[$next] = $joint;
            $this->top[$lower] = $this->top[$upper];
        }
        $this->newest[$lower] = $joint;
        $this->ceilingFrom[$lower] = $this->ceilingFrom[$upper];
        $this->ceilingTo[$lower] = $this->ceilingTo[$upper];
        $end = $this->ceilingFrom[$upper];
        foreach ($this->byCeilingEnd[$end] ?? [] as $i => $candidate) {
            if ($candidate === $upper) {
                $this->byCeilingEnd[$end][$i] = $lower;
            }
        }

        return true;
    }

    private function split(int $before, int $p, int $after): bool
    {
        $place = $this->locate($p, $after, $before);
        if ($place < 0) {
            return false;
        }
        $lower = $this->status[$place];
        $joint = $this->newest[$lower];
        // The newest point of the chain sees p: it is doubled, and either part of the chain goes on from it.
        $twin = $this->node($this->nodePoint[$joint]);
        $up = $this->nodeUp[$joint];
        $this->nodeUp[$twin] = $up;
        if ($up >= 0) {
            $this->nodeDown[$up] = $twin;
        }
        $this->nodeUp[$joint] = -1;
        $oldTop = $this->top[$lower];
        $upper = $this->interval(
            $p, $after, $this->ceilingFrom[$lower], $this->ceilingTo[$lower], $twin, $oldTop === $joint ? $twin : $oldTop, $twin, false,
        );
        $end = $this->ceilingFrom[$lower];
        foreach ($this->byCeilingEnd[$end] ?? [] as $i => $candidate) {
            if ($candidate === $lower) {
                $this->byCeilingEnd[$end][$i] = $upper;
            }
        }
        $this->top[$lower] = $joint;
        $this->ceilingFrom[$lower] = $before;
        $this->ceilingTo[$lower] = $p;
        $this->byCeilingEnd[$before][] = $lower;
        array_splice($this->status, $place + 1, 0, [$upper]);
        $this->addAbove($lower, $p);
        $this->addBelow($upper, $p);

        return true;
    }

    private function node(int $p): int
    {
        $this->nodePoint[] = $p;
        $this->nodeDown[] = -1;
        $this->nodeUp[] = -1;

        return count($this->nodePoint) - 1;
    }

    private function interval(
        int $floorFrom, int $floorTo, int $ceilingFrom, int $ceilingTo, int $bottom, int $top, int $newest, bool $newCeiling = true,
    ): int {
        $this->floorFrom[] = $floorFrom;
        $this->floorTo[] = $floorTo;
        $this->ceilingFrom[] = $ceilingFrom;
        $this->ceilingTo[] = $ceilingTo;
        $this->bottom[] = $bottom;
        $this->top[] = $top;
        $this->newest[] = $newest;
        $interval = count($this->floorFrom) - 1;
        $this->byFloorEnd[$floorTo][] = $interval;
        if ($newCeiling) {
            $this->byCeilingEnd[$ceilingFrom][] = $interval;
        }

        return $interval;
    }

    /**
     * The interval whose floor (ceiling) is the edge between p and the point on its left; it is taken off the list.
     *
     * @param  array<int, array<int, int>>  $byEnd
     * @param  array<int, int>  $leftEnd
     */
    private function take(array &$byEnd, int $p, array $leftEnd, int $left): ?int
    {
        foreach ($byEnd[$p] ?? [] as $i => $interval) {
            if ($leftEnd[$interval] === $left) {
                array_splice($byEnd[$p], $i, 1);

                return $interval;
            }
        }

        return null;
    }

    /** Chains p to the interval's lower end, cutting off the triangles that it sees. */
    private function addBelow(int $interval, int $p): void
    {
        $first = $this->bottom[$interval];
        $top = $this->top[$interval];
        while ($first !== $top) {
            $next = $this->nodeUp[$first];
            $a = $this->nodePoint[$first];
            $b = $this->nodePoint[$next];
            $turn = $this->turn($a, $p, $b);
            if ($turn < 0 || ($turn === 0 && $this->rank[$b] < $this->rank[$a])) {
                break;
            }
            array_push($this->triangles, $a, $p, $b);
            $first = $next;
        }
        $node = $this->node($p);
        $this->nodeUp[$node] = $first;
        $this->nodeDown[$first] = $node;
        $this->bottom[$interval] = $node;
        $this->newest[$interval] = $node;
    }

    /** Chains p to the interval's upper end, cutting off the triangles that it sees. */
    private function addAbove(int $interval, int $p): void
    {
        $first = $this->top[$interval];
        $bottom = $this->bottom[$interval];
        while ($first !== $bottom) {
            $next = $this->nodeDown[$first];
            $a = $this->nodePoint[$first];
            $b = $this->nodePoint[$next];
            $turn = $this->turn($b, $p, $a);
            if ($turn < 0 || ($turn === 0 && $this->rank[$b] < $this->rank[$a])) {
                break;
            }
            array_push($this->triangles, $b, $p, $a);
            $first = $next;
        }
        $node = $this->node($p);
        $this->nodeDown[$node] = $first;
        $this->nodeUp[$first] = $node;
        $this->top[$interval] = $node;
        $this->newest[$interval] = $node;
    }

    private function emit(int $a, int $b, int $c): void
    {
        array_push($this->triangles, $a, $b, $c);
        if ($this->sound && $this->turn($a, $b, $c) < 0) {
            $this->sound = false;
        }
    }

    /** @return int index in the status of the interval around p, or −1 − index where a new one belongs */
    private function locate(int $p, int $after, int $before): int
    {
        $low = 0;
        $high = count($this->status);
        while ($low < $high) {
            $middle = ($low + $high) >> 1;
            $interval = $this->status[$middle];
            if ($this->above($this->floorFrom[$interval], $this->floorTo[$interval], $p, $after, $before) < 0) {
                $high = $middle;
            } elseif ($this->above($this->ceilingTo[$interval], $this->ceilingFrom[$interval], $p, $after, $before) > 0) {
                $low = $middle + 1;
            } else {
                return $middle;
            }
        }

        return -1 - $low;
    }

    /** Is p above the edge left → right? When it lies on it, the edges that start at p decide. */
    private function above(int $left, int $right, int $p, int $after, int $before): int
    {
        return $this->turn($left, $right, $p) ?: $this->turn($left, $right, $after) ?: $this->turn($left, $right, $before);
    }
}
