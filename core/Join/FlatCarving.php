<?php

declare(strict_types=1);

namespace Isotome\Join;

use Isotome\Geometry\Orientation;
use Isotome\Mesh\Mesh;
use Isotome\Seal\RimTriangulation;

/**
 * A tool worked into triangles that lie flat: each triangle becomes what of it is beside the tool, and the tool's walls begin on the outline between.
 *
 * The outline is followed from triangle to triangle; every turn is decided exactly. Where a corner lies on an edge, or rounding is in the way, it gives up.
 */
final class FlatCarving
{
    /** Triangles that differ less than this in height are flat, mm. */
    private const FLAT = 1e-6;

    /** Crossings nearer to a corner than this share of the edge are left to others. */
    private const NEAR = 1e-7;

    /** @var list<float> of the given vertices, then of the outline's corners, then of its crossings with edges */
    private array $xyz;

    /** @var array<int, float> on the page of two axes, so that no place is rounded; mirrored where it is seen from behind */
    private array $x = [];

    /** @var array<int, float> */
    private array $y = [];

    /** @var array<string, int> triangle of each directed edge */
    private array $at = [];

    /** @var array<string, list<array{float, int}>> crossings by edge: share of the way from the lower vertex, and point */
    private array $crossed = [];

    /** @var array<int, list<array{int, int}>> parts of the outline by triangle */
    private array $parts = [];

    /** @var list<list<int>> points of each side of the outline */
    private array $sides = [];

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners  three a triangle
     */
    private function __construct(array $xyz, private readonly array $corners, private readonly int $first, private readonly int $axis, private readonly float $seen)
    {
        $this->xyz = $xyz;
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners  three a triangle
     * @param  float  $way  1 where the face looks along the page's axis, else −1
     * @return Mesh|null tags tell the triangle that each one is of, counted from 1; −1 for the tool's. Null where it is not flat, or not to be decided here
     */
    public static function of(array $xyz, array $corners, Tool $tool, float $way): ?Mesh
    {
        $heights = array_map(static fn (int $p): float => $tool->face->onPage($xyz[3 * $p], $xyz[3 * $p + 1], $xyz[3 * $p + 2])[2], $corners);
        if ($heights === [] || max($heights) - min($heights) > self::FLAT) {
            return null;
        }
        $height = (max($heights) + min($heights)) / 2;
        // Upwards pins of the first piece and hollows of the second go; downwards hollows of the first.
        $isUp = $tool->isAdded === ($tool->side === 0);
        $levels = array_values(array_filter($tool->levels, static fn (array $level): bool => $isUp ? $level[0] > $height : $level[0] < $height));
        if ($levels === [] || count($levels) === count($tool->levels)) {
            return null;
        }
        $size = array_map(abs(...), $tool->face->axis);
        $axis = $size[0] >= $size[1] && $size[0] >= $size[2] ? 0 : ($size[1] >= $size[2] ? 1 : 2);
        $carving = new self([...$xyz, ...$tool->ring($height, 1.0)], $corners, intdiv(count($xyz), 3), $axis, $way * $tool->face->axis[$axis] > 0 ? 1.0 : -1.0);
        $count = count($tool->corners);
        $ring = range($carving->first, $carving->first + $count - 1);
        $outline = $way > 0 ? $ring : array_reverse($ring);
        $beside = $carving->follows($outline) ? $carving->beside($outline) : null;
        if ($beside === null) {
            return null;
        }
        [$list, $tags] = $beside;
        foreach ($carving->walls($tool, $isUp ? $levels : array_reverse($levels), $outline, $way > 0) as $p) {
            $list[] = $p;
        }
        $tags = [...$tags, ...array_fill(0, intdiv(count($list), 3) - count($tags), -1)];

        return Mesh::of($carving->xyz, $list, $tags);
    }

    private function place(int $v): void
    {
        $this->x[$v] = $this->seen * $this->xyz[3 * $v + ($this->axis + 1) % 3];
        $this->y[$v] = $this->xyz[3 * $v + ($this->axis + 2) % 3];
    }

    private function turn(int $p, int $q, int $r): int
    {
        foreach ([$p, $q, $r] as $v) {
            isset($this->x[$v]) || $this->place($v);
        }

        return Orientation::of($this->x[$p], $this->y[$p], $this->x[$q], $this->y[$q], $this->x[$r], $this->y[$r]);
    }

    /**
     * Follows the outline through the triangles.
     *
     * @param  non-empty-list<int>  $outline  counter-clockwise, seen from outside
     */
    private function follows(array $outline): bool
    {
        $start = null;
        for ($t = 0, $triangles = intdiv(count($this->corners), 3); $t < $triangles; $t++) {
            $turns = [];
            for ($k = 0; $k < 3; $k++) {
                [$a, $b] = [$this->corners[3 * $t + $k], $this->corners[3 * $t + ($k + 1) % 3]];
                $this->at["$a $b"] = $t;
                $turns[] = $this->turn($a, $b, $outline[0]);
            }
            if (min($turns) > 0) {
                $start = $t;
            }
        }
        if ($start === null) {
            return false;
        }
        $now = $start;
        foreach ($outline as $n => $from) {
            $to = $outline[($n + 1) % count($outline)];
            $side = [$last = $from];
            $entered = '';
            for ($steps = 0; ; $steps++) {
                $out = $this->out($now, $from, $to, $entered);
                if ($out === null || $steps > $triangles) {
                    return false;
                }
                if ($out === []) {
                    break;
                }
                [$a, $b] = $out;
                $next = $this->at["$b $a"] ?? null;
                $point = $next === null ? null : $this->crossing($a, $b, $from, $to);
                if ($next === null || $point === null) {
                    return false;
                }
                $this->parts[$now][] = [$last, $point];
                $side[] = $last = $point;
                $entered = "$b $a";
                $now = $next;
            }
            $this->parts[$now][] = [$last, $to];
            $this->sides[] = $side;
        }

        return $now === $start;
    }

    /** @return array{int, int}|array{}|null the edge of a triangle through which the way leaves it; empty when it ends there, null when that is not clear */
    private function out(int $t, int $from, int $to, string $entered): ?array
    {
        for ($k = 0; $k < 3; $k++) {
            [$a, $b] = [$this->corners[3 * $t + $k], $this->corners[3 * $t + ($k + 1) % 3]];
            if ("$a $b" === $entered) {
                continue;
            }
            $beyond = $this->turn($a, $b, $to);
            if ($beyond > 0) {
                continue;
            }
            [$left, $right] = [$this->turn($from, $to, $a), $this->turn($from, $to, $b)];
            if ($beyond === 0 || $left === 0 || $right === 0) {
                return null;
            }
            // It goes out to the right of the edge: its beginning lies to the right of the way.
            if ($left < 0 && $right > 0) {
                return [$a, $b];
            }
        }

        return [];
    }

    private function crossing(int $a, int $b, int $from, int $to): ?int
    {
        [$low, $high] = [min($a, $b), max($a, $b)];
        [$dx, $dy] = [$this->x[$to] - $this->x[$from], $this->y[$to] - $this->y[$from]];
        $p = $dx * ($this->y[$low] - $this->y[$from]) - $dy * ($this->x[$low] - $this->x[$from]);
        $q = $dx * ($this->y[$high] - $this->y[$from]) - $dy * ($this->x[$high] - $this->x[$from]);
        $share = $p / ($p - $q);
        if (! ($share > self::NEAR && $share < 1.0 - self::NEAR)) {
            return null;
        }
        $point = intdiv(count($this->xyz), 3);
        for ($k = 0; $k < 3; $k++) {
            $this->xyz[] = $this->xyz[3 * $low + $k] + $share * ($this->xyz[3 * $high + $k] - $this->xyz[3 * $low + $k]);
        }
        $this->crossed["$low $high"][] = [$share, $point];

        return $point;
    }

    /**
     * @param  non-empty-list<int>  $outline
     * @return bool|null null on the outline itself
     */
    private function isWithin(array $outline, int $p): ?bool
    {
        isset($this->x[$p]) || $this->place($p);
        [$x, $y] = [$this->x[$p], $this->y[$p]];
        $is = false;
        foreach ($outline as $n => $from) {
            $to = $outline[($n + 1) % count($outline)];
            [$low, $high] = [$this->y[$from], $this->y[$to]];
            if (($low > $y) !== ($high > $y)) {
                $turn = $this->turn($from, $to, $p);
                if ($turn === 0) {
                    return null;
                }
                $is = ($high > $low) === ($turn > 0) ? ! $is : $is;
            } elseif ($low === $y && $high === $y && min($this->x[$from], $this->x[$to]) <= $x && $x <= max($this->x[$from], $this->x[$to])) {
                return null;
            }
        }

        return $is;
    }

    /**
     * What of the triangles is beside the outline.
     *
     * @param  non-empty-list<int>  $outline
     * @return array{list<int>, list<int>}|null three corners a triangle, and which of the given ones each is of, from 1
     */
    private function beside(array $outline): ?array
    {
        $isWithin = [];
        foreach (array_unique($this->corners) as $p) {
            $isWithin[$p] = $this->isWithin($outline, $p);
            if ($isWithin[$p] === null) {
                return null;
            }
        }
        $list = $tags = [];
        for ($t = 0, $triangles = intdiv(count($this->corners), 3); $t < $triangles; $t++) {
            $from = $to = [];
            for ($k = 0; $k < 3; $k++) {
                [$a, $b] = [$this->corners[3 * $t + $k], $this->corners[3 * $t + ($k + 1) % 3]];
                $crossed = $this->crossed[min($a, $b).' '.max($a, $b)] ?? [];
                usort($crossed, static fn (array $one, array $other): int => $a < $b ? $one[0] <=> $other[0] : $other[0] <=> $one[0]);
                $within = $isWithin[$a];
                $last = $a;
                foreach ([...array_column($crossed, 1), $b] as $next) {
                    if (! $within) {
                        $from[] = $last;
                        $to[] = $next;
                    }
                    $within = $next === $b ? $within : ! $within;
                    $last = $next;
                }
                if ($within !== $isWithin[$b]) {
                    return null;
                }
            }
            foreach ($this->parts[$t] ?? [] as [$p, $q]) {
                $from[] = $q;
                $to[] = $p;
            }
            if ($from === []) {
                continue;
            }
            $points = array_values(array_unique([...$from, ...$to]));
            $number = array_flip($points);
            foreach ($points as $p) {
                $this->place($p);
            }
            $made = RimTriangulation::exact(
                array_map(fn (int $p): float => $this->x[$p], $points), array_map(fn (int $p): float => $this->y[$p], $points),
                array_map(static fn (int $p): int => $number[$p], $from), array_map(static fn (int $p): int => $number[$p], $to),
            );
            if ($made === null) {
                return null;
            }
            foreach ($made as $n) {
                $list[] = $points[$n];
            }
            $tags = [...$tags, ...array_fill(0, intdiv(count($made), 3), $t + 1)];
        }

        return [$list, $tags];
    }

    /**
     * The walls from the outline on, and the end. Those of a pin rise towards who looks at the face, those of a hollow go away: so both look out of the material.
     *
     * @param  non-empty-list<array{float, float}>  $levels  from the face on
     * @param  non-empty-list<int>  $outline
     * @return list<int>
     */
    private function walls(Tool $tool, array $levels, array $outline, bool $isAlong): array
    {
        $count = count($outline);
        $base = intdiv(count($this->xyz), 3);
        foreach ($levels as [$height, $size]) {
            $ring = array_chunk($tool->ring($height, $size), 3);
            array_push($this->xyz, ...array_merge(...($isAlong ? $ring : array_reverse($ring))));
        }
        $walls = [];
        for ($n = 0; $n < $count; $n++) {
            [$over, $next] = [$base + $n, $base + ($n + 1) % $count];
            $side = [...$this->sides[$n], $outline[($n + 1) % $count]];
            foreach (array_slice($side, 1) as $k => $q) {
                array_push($walls, $side[$k], $q, $over);
            }
            array_push($walls, $outline[($n + 1) % $count], $next, $over);
        }
        foreach (Tool::walls($count, count($levels)) as $p) {
            $walls[] = $base + $p;
        }
        $last = $base + (count($levels) - 1) * $count;
        foreach ($tool->end() as [$a, $b, $c]) {
            // Numbered along the tool's corners, which the outline may follow backwards.
            array_push($walls, ...($isAlong ? [$last + $a, $last + $b, $last + $c] : [$last + $count - 1 - $a, $last + $count - 1 - $c, $last + $count - 1 - $b]));
        }

        return $walls;
    }
}
