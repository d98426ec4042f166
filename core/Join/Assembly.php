<?php

declare(strict_types=1);

namespace Isotome\Join;

use Closure;
use Isotome\Mesh\Mesh;

/**
 * An order in which pieces can be put together, each straight in along a direction without another being in its way.
 *
 * Found backwards: whatever can be drawn out of what is left goes first, the highest first, and if it can be so that the rest still hangs together. Where no single piece comes out, the smallest group that does is drawn out and taken apart
 * by itself. What blocks itself in every direction that is tried is told as such. Source: non-directional blocking graphs, R. H. Wilson, J.-C. Latombe, 1994.
 */
final class Assembly
{
    /** Directions that are tried in all. */
    private const MOST = 40;

    /** Directions nearer to each other are one: cosine of the angle. */
    private const SAME = 0.99999;

    /** @var list<AssemblyStep> in the order of taking apart */
    private array $steps = [];

    /**
     * @param  list<list<array<int, true>>>  $blockers  by direction, then by piece: which ones are in its way
     * @param  list<array{float, float, float}>  $ways
     * @param  array<int, list<int>>  $own  by piece, the directions of its own joints
     * @param  array<int, list<int>>  $neighbours
     * @param  list<float>  $heights
     */
    private function __construct(
        private readonly array $blockers,
        private readonly array $ways,
        private readonly array $own,
        private readonly array $neighbours,
        private readonly array $heights,
    ) {
    }

    /**
     * @param  list<Mesh>  $pieces  closed, as they stand together
     * @param  list<array{int, int, list<CommonFace>}>  $joints  see Joints
     * @param  Closure(float): void|null  $progress
     * @return list<AssemblyStep> in the order of putting together
     */
    public static function of(array $pieces, array $joints, ?Closure $progress = null): array
    {
        /** @var list<array{float, float, float}> $ways */
        $ways = [];
        $own = $neighbours = array_fill(0, count($pieces), []);
        $add = static function (float $x, float $y, float $z) use (&$ways): ?int {
            foreach ($ways as $n => $known) {
                if ($known[0] * $x + $known[1] * $y + $known[2] * $z > self::SAME) {
                    return $n;
                }
            }
            if (count($ways) >= self::MOST) {
                return null;
            }
            // Each axis both ways: one after the other.
            array_push($ways, [$x, $y, $z], [0.0 - $x, 0.0 - $y, 0.0 - $z]);

            return count($ways) - 2;
        };
        foreach ([[0.0, 0.0, 1.0], [1.0, 0.0, 0.0], [0.0, 1.0, 0.0]] as $way) {
            $add(...$way);
        }
        foreach ($joints as [$first, $second, $faces]) {
            $neighbours[$first][] = $second;
            $neighbours[$second][] = $first;
            foreach ($faces as $face) {
                // The axis leads from the first piece into the second.
                $way = $add(...$face->axis);
                if ($way !== null) {
                    $own[$second][] = $way;
                    $own[$first][] = $way ^ 1;
                }
            }
        }
        $blockers = [];
        for ($n = 0, $count = count($ways); $n < $count; $n += 2) {
            array_push($blockers, ...Passage::blockers($pieces, $ways[$n]));
            $progress !== null && $progress(($n + 2) / $count);
        }
        $heights = array_map(static function (Mesh $mesh): float {
            $low = INF;
            for ($i = 2, $count = count($mesh->xyz); $i < $count; $i += 3) {
                $low = $mesh->xyz[$i] < $low ? $mesh->xyz[$i] : $low;
            }

            return $low;
        }, $pieces);
        $assembly = new self($blockers, $ways, array_map(static fn (array $some): array => array_values(array_unique($some)), $own), array_map(static fn (array $some): array => array_values(array_unique($some)), $neighbours), $heights);
        $assembly->takeApart(array_keys($pieces), false);

        return array_reverse($assembly->steps);
    }

    /**
     * @param  list<int>  $left
     * @param  bool  $isApart  whether this is a group that is put together by itself
     */
    private function takeApart(array $left, bool $isApart): void
    {
        usort($left, fn (int $a, int $b): int => $this->heights[$b] <=> $this->heights[$a] ?: $b <=> $a);
        $left = array_fill_keys($left, true);
        while (count($left) > 1) {
            [$group, $way] = $this->single($left, true) ?? $this->single($left, false) ?? $this->group($left) ?? [null, null];
            if ($group === null || $way === null) {
                break;
            }
            $left = array_diff_key($left, $group);
            $in = $this->ways[$way];
            $this->steps[] = new AssemblyStep(array_keys($group), $this->touched($group, $left), [0.0 - $in[0], 0.0 - $in[1], 0.0 - $in[2]], $isApart, false);
            if (count($group) > 1) {
                $this->takeApart(array_keys($group), true);
            }
        }
        // The first one, or those that hold each other.
        $this->steps[] = new AssemblyStep(array_keys($left), [], null, $isApart, count($left) > 1);
    }

    /**
     * @param  array<int, true>  $left
     * @param  bool  $isWhole  whether the rest must hang together as far as it did
     * @return array{array<int, true>, int}|null a piece that comes out, and along which way
     */
    private function single(array $left, bool $isWhole): ?array
    {
        $parts = $isWhole ? $this->parts($left) : 0;
        foreach ($left as $piece => $_) {
            foreach ([...$this->own[$piece], ...array_keys($this->ways)] as $way) {
                if (array_intersect_key($this->blockers[$way][$piece], $left) === []) {
                    if ($isWhole && $this->parts(array_diff_key($left, [$piece => true])) > $parts) {
                        continue 2;
                    }

                    return [[$piece => true], $way];
                }
            }
        }

        return null;
    }

    /**
     * @param  array<int, true>  $left
     * @return array{array<int, true>, int}|null the smallest group that comes out together
     */
    private function group(array $left): ?array
    {
        $best = null;
        foreach (array_keys($this->ways) as $way) {
            foreach ($left as $piece => $_) {
                $group = [$piece => true];
                for ($next = [$piece]; $next !== [];) {
                    $last = array_pop($next);
                    foreach (array_intersect_key($this->blockers[$way][$last], $left) as $other => $_) {
                        if (! isset($group[$other])) {
                            $group[$other] = true;
                            $next[] = $other;
                        }
                    }
                }
                if (count($group) < count($left) && ($best === null || count($group) < count($best[0]))) {
                    $best = [$group, $way];
                }
            }
        }

        return $best;
    }

    /** @param  array<int, true>  $left */
    private function parts(array $left): int
    {
        $seen = [];
        $parts = 0;
        foreach ($left as $piece => $_) {
            if (isset($seen[$piece])) {
                continue;
            }
            $parts++;
            $seen[$piece] = true;
            for ($next = [$piece]; $next !== [];) {
                $last = array_pop($next);
                foreach ($this->neighbours[$last] as $other) {
                    if (isset($left[$other]) && ! isset($seen[$other])) {
                        $seen[$other] = true;
                        $next[] = $other;
                    }
                }
            }
        }

        return $parts;
    }

    /**
     * @param  array<int, true>  $group
     * @param  array<int, true>  $left
     * @return list<int>
     */
    private function touched(array $group, array $left): array
    {
        $touched = [];
        foreach ($group as $piece => $_) {
            foreach ($this->neighbours[$piece] as $other) {
                if (isset($left[$other])) {
                    $touched[$other] = true;
                }
            }
        }

        return array_keys($touched);
    }
}
