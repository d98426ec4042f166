<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Closure;
use Isotome\Geometry\Box;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Compact;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Tree;
use Isotome\Mesh\Volume;

/**
 * A closed surface around all places that triangles wind around more than half, for triangles that neither touch nor can be joined.
 *
 * Guarantees: watertight, without crossing faces, outward; null when there is no such place. Its points lie on the given triangles where an edge of the grid meets one,
 * and in the gaps where the winding number is 1/2. What is smaller than two cells of the grid may be lost.
 *
 * Source: inside is where the generalized winding number exceeds 1/2, A. Jacobson, L. Kavan, O. Sorkine-Hornung (2013); cubes in six tetrahedra each, H. Freudenthal (1942), and the surface through them,
 * A. Doi, A. Koide, "An efficient method of triangulating equi-valued surfaces by using tetrahedral cells" (1991), followed from cell to cell.
 */
final class Enclose
{
    /** Cells along the longest side, at least and at most. */
    private const LEAST = 40;

    private const MOST = 128;

    /** Parts of an edge nearer to its ends than this are not used: faces would become needles. */
    private const END = 0.04;

    /** Shells with less volume than so many cells are left out, but for the largest. */
    private const SCRAP = 8.0;

    /** Share of the volume that the triangles by themselves enclose about their middle: where less comes out, the gaps are too wide. */
    private const ENOUGH = 0.6;

    /** Share of the new faces that may lie in gaps: where there are more, sheets stand beside each other and enclose nothing. */
    private const GAPS = 0.5;

    /** The six ways from a cube's first corner to its last, along its edges: an axis for each bit; every second one turns the other way. */
    private const WAYS = [[1, 2, 4], [1, 4, 2], [2, 4, 1], [2, 1, 4], [4, 1, 2], [4, 2, 1]];

    /** By which of a tetrahedron's corners lie inside (bit by bit): its corners, turned so that those inside come first. */
    private const TURNED = [
        1 => [0, 1, 2, 3], 2 => [1, 0, 3, 2], 4 => [2, 0, 1, 3], 8 => [3, 0, 2, 1],
        3 => [0, 1, 2, 3], 5 => [0, 2, 3, 1], 9 => [0, 3, 1, 2], 12 => [2, 3, 0, 1], 10 => [1, 3, 2, 0], 6 => [1, 2, 0, 3],
        14 => [0, 1, 2, 3], 13 => [1, 0, 3, 2], 11 => [2, 0, 1, 3], 7 => [3, 0, 2, 1],
    ];

    private readonly WindingField $field;

    private readonly Tree $tree;

    private float $step = 1.0;

    /** @var array{float, float, float} */
    private array $low = [0.0, 0.0, 0.0];

    /** @var array{int, int, int} corners of the grid along each axis */
    private array $many = [1, 1, 1];

    /** @var array<int, float> winding numbers at the corners of the grid that were asked for */
    private array $winding = [];

    /** @var array<int, int> points by edges of the grid */
    private array $onEdge = [];

    /** @var list<float> */
    private array $xyz = [];

    /** @var list<int> of each point the tag of the triangle that it lies on; −1 in a gap */
    private array $tagAt = [];

    /** @param  float  $volume  mm³, that the triangles enclose with the middle of them all */
    private function __construct(private readonly Mesh $soup, private readonly float $volume)
    {
        $this->tree = Tree::of($soup);
        $this->field = new WindingField($soup, $this->tree);
    }

    /**
     * @param  int  $tag  of faces across gaps; others have that of the triangle that they lie on
     * @param  Closure(float): mixed|null  $progress  called with the share done; it may throw to cancel
     */
    public static function of(Mesh $soup, int $tag = 0, ?Closure $progress = null): ?Mesh
    {
        if ($soup->isEmpty()) {
            return null;
        }
        $box = Box::of($soup->xyz);
        $middle = [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
        $volume = Volume::of(Mesh::of(array_map(static fn (float $c, int $i): float => $c - $middle[$i % 3], $soup->xyz, array_keys($soup->xyz)), $soup->corners));
        // Turned inside out they enclose the same.
        $enclose = new self($volume < 0.0 ? Mesh::of($soup->xyz, array_reverse($soup->corners), array_reverse($soup->tags)) : $soup, abs($volume));

        return $enclose->spread() ? $enclose->surface($tag, $progress) : null;
    }

    /** Lays the grid over the soup: about two cells an edge of it. */
    private function spread(): bool
    {
        $box = Box::of($this->soup->xyz);
        $longest = max($box->size());
        if ($longest <= 0.0) {
            return false;
        }
        $this->step = min($longest / self::LEAST, max($longest / self::MOST, JoinGaps::middle($this->soup) / 2));
        // Not in line with faces along the axes, which would lie in planes of the grid.
        $this->low = [$box->min[0] - 2.37 * $this->step, $box->min[1] - 2.41 * $this->step, $box->min[2] - 2.43 * $this->step];
        $this->many = array_map(fn (float $size): int => (int) ceil($size / $this->step) + 6, $box->size());

        return true;
    }

    /** @param  Closure(float): mixed|null  $progress */
    private function surface(int $tag, ?Closure $progress): ?Mesh
    {
        $corners = [];
        $waiting = $this->seeds($progress);
        $known = array_fill_keys($waiting, true);
        [, $manyY, $manyZ] = $this->many;
        $far = $manyY * $manyZ;
        for ($n = 0; $n < count($waiting); $n++) {
            if ($n % 256 === 0 && $progress !== null) {
                $progress(0.2 + 0.7 * $n / count($waiting));
            }
            $cell = $waiting[$n];
            $is = $this->around($cell);
            foreach (self::WAYS as $k => $way) {
                $this->tetrahedron($cell, $way, $k % 2 === 1, $is, $corners);
            }
            // On through every side whose corners are not all on one side of the surface.
            foreach ([[1, $far], [2, $manyZ], [4, 1]] as [$axis, $stride]) {
                for ($side = 0; $side < 2; $side++) {
                    $sum = 0;
                    foreach ($is as $bits => $isInside) {
                        $sum += (($bits & $axis) !== 0) === ($side === 1) && $isInside ? 1 : 0;
                    }
                    $next = $cell + ($side === 1 ? $stride : -$stride);
                    if ($sum > 0 && $sum < 4 && ! isset($known[$next])) {
                        $known[$next] = true;
                        $waiting[] = $next;
                    }
                }
            }
        }

        return $this->without($corners, $tag);
    }

    /**
     * Cells that the surface passes through: those of the triangles' middles, or the next such one along X.
     *
     * @param  Closure(float): mixed|null  $progress
     * @return list<int> each by its first corner
     */
    private function seeds(?Closure $progress): array
    {
        $seeds = $tried = [];
        [$manyX, $manyY, $manyZ] = $this->many;
        $xyz = $this->soup->xyz;
        foreach ($this->soup->tags as $t => $_) {
            if ($t % 256 === 0 && $progress !== null) {
                $progress(0.2 * $t / $this->soup->triangleCount());
            }
            $at = [];
            for ($k = 0; $k < 3; $k++) {
                $at[] = (int) floor((($xyz[3 * $this->soup->corners[3 * $t] + $k] + $xyz[3 * $this->soup->corners[3 * $t + 1] + $k] + $xyz[3 * $this->soup->corners[3 * $t + 2] + $k]) / 3 - $this->low[$k]) / $this->step);
            }
            for ($i = $at[0]; $i < $manyX - 1; $i++) {
                $cell = ($i * $manyY + $at[1]) * $manyZ + $at[2];
                if (isset($tried[$cell])) {
                    break;
                }
                $tried[$cell] = true;
                $inside = array_sum(array_map(intval(...), $this->around($cell)));
                if ($inside > 0 && $inside < 8) {
                    $seeds[] = $cell;
                    break;
                }
            }
        }

        return $seeds;
    }

    /** @return non-empty-array<int, bool> of a cell's corners, by an axis a bit, whether they are inside */
    private function around(int $cell): array
    {
        $is = [];
        for ($bits = 0; $bits < 8; $bits++) {
            $corner = $this->corner($cell, $bits);
            $is[] = ($this->winding[$corner] ??= $this->ask($corner)) > 0.5;
        }

        return $is;
    }

    private function corner(int $cell, int $bits): int
    {
        return $cell + ($bits & 1) * $this->many[1] * $this->many[2] + ($bits >> 1 & 1) * $this->many[2] + ($bits >> 2);
    }

    /** The outermost corners are outside, so that the surface closes. */
    private function ask(int $corner): float
    {
        [$manyX, $manyY, $manyZ] = $this->many;
        $k = $corner % $manyZ;
        $j = intdiv($corner, $manyZ) % $manyY;
        $i = intdiv($corner, $manyY * $manyZ);
        $isWithin = $i > 0 && $j > 0 && $k > 0 && $i < $manyX - 1 && $j < $manyY - 1 && $k < $manyZ - 1;

        return $isWithin ? $this->field->at($this->low[0] + $i * $this->step, $this->low[1] + $j * $this->step, $this->low[2] + $k * $this->step) : 0.0;
    }

    /**
     * @param  array{int, int, int}  $way
     * @param  non-empty-array<int, bool>  $is
     * @param  list<int>  $corners  of faces, added to
     */
    private function tetrahedron(int $cell, array $way, bool $isTurned, array $is, array &$corners): void
    {
        $bits = [0, $way[0], $way[0] | $way[1], 7];
        if ($isTurned) {
            $bits = [0, $bits[2], $bits[1], 7];
        }
        $mask = ($is[$bits[0]] ? 1 : 0) | ($is[$bits[1]] ? 2 : 0) | ($is[$bits[2]] ? 4 : 0) | ($is[$bits[3]] ? 8 : 0);
        if ($mask === 0 || $mask === 15) {
            return;
        }
        [$a, $b, $c, $d] = array_map(static fn (int $n): int => $bits[$n], self::TURNED[$mask]);
        $inside = ($mask & 1) + ($mask >> 1 & 1) + ($mask >> 2 & 1) + ($mask >> 3);
        if ($inside === 2) {
            $one = $this->point($cell, $a, $c);
            $three = $this->point($cell, $b, $d);
            array_push($corners, $one, $this->point($cell, $a, $d), $three, $one, $three, $this->point($cell, $b, $c));

            return;
        }
        $one = $this->point($cell, $a, $b);
        $two = $this->point($cell, $a, $c);
        $three = $this->point($cell, $a, $d);
        if ($inside === 1) {
            array_push($corners, $one, $two, $three);
        } else {
            array_push($corners, $one, $three, $two);
        }
    }

    /** The point at which the surface passes an edge between two corners of a cell. */
    private function point(int $cell, int $one, int $two): int
    {
        [$from, $to] = $one < $two ? [$one, $two] : [$two, $one];
        [, $manyY, $manyZ] = $this->many;
        $corner = $this->corner($cell, $from);
        // Along a way bits are only added.
        $along = $to - $from;
        $key = 8 * $corner + $along;
        if (isset($this->onEdge[$key])) {
            return $this->onEdge[$key];
        }
        $at = [
            $this->low[0] + intdiv($corner, $manyY * $manyZ) * $this->step, $this->low[1] + intdiv($corner, $manyZ) % $manyY * $this->step, $this->low[2] + $corner % $manyZ * $this->step,
        ];
        $edge = [($along & 1) !== 0 ? $this->step : 0.0, ($along & 2) !== 0 ? $this->step : 0.0, ($along & 4) !== 0 ? $this->step : 0.0];
        [$share, $tag] = $this->met($at, $edge) ?? [$this->half($at, $edge, $this->winding[$corner], $this->winding[$this->corner($cell, $to)]), -1];
        $share = max(self::END, min(1.0 - self::END, $share));
        array_push($this->xyz, $at[0] + $share * $edge[0], $at[1] + $share * $edge[1], $at[2] + $share * $edge[2]);
        $this->tagAt[] = $tag;

        return $this->onEdge[$key] = count($this->tagAt) - 1;
    }

    /**
     * The middle one of the places where an edge of the grid meets triangles.
     *
     * Source: T. Möller, B. Trumbore, "Fast, minimum storage ray/triangle intersection" (1997).
     *
     * @param  array{float, float, float}  $at
     * @param  array{float, float, float}  $edge
     * @return array{float, int}|null its share of the edge, and the triangle's tag
     */
    private function met(array $at, array $edge): ?array
    {
        $xyz = $this->soup->xyz;
        $met = [];
        foreach ($this->tree->around([$at[0], $at[0] + $edge[0], $at[1], $at[1] + $edge[1], $at[2], $at[2] + $edge[2]]) as $t) {
            $a = 3 * $this->soup->corners[3 * $t];
            $b = 3 * $this->soup->corners[3 * $t + 1];
            $c = 3 * $this->soup->corners[3 * $t + 2];
            [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
            [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];
            [$px, $py, $pz] = [$edge[1] * $vz - $edge[2] * $vy, $edge[2] * $vx - $edge[0] * $vz, $edge[0] * $vy - $edge[1] * $vx];
            $det = $ux * $px + $uy * $py + $uz * $pz;
            if ($det === 0.0) {
                continue;
            }
            [$sx, $sy, $sz] = [$at[0] - $xyz[$a], $at[1] - $xyz[$a + 1], $at[2] - $xyz[$a + 2]];
            $one = ($sx * $px + $sy * $py + $sz * $pz) / $det;
            [$qx, $qy, $qz] = [$sy * $uz - $sz * $uy, $sz * $ux - $sx * $uz, $sx * $uy - $sy * $ux];
            $two = ($edge[0] * $qx + $edge[1] * $qy + $edge[2] * $qz) / $det;
            $share = ($vx * $qx + $vy * $qy + $vz * $qz) / $det;
            if ($one >= 0.0 && $two >= 0.0 && $one + $two <= 1.0 && $share >= 0.0 && $share <= 1.0) {
                $met[] = [$share, $this->soup->tags[$t]];
            }
        }
        sort($met);

        return $met[intdiv(count($met), 2)] ?? null;
    }

    /**
     * The place on an edge of the grid where the winding number is 1/2: in a gap it changes smoothly, so that a straight line and a second one come near.
     *
     * @param  array{float, float, float}  $at
     * @param  array{float, float, float}  $edge
     * @param  float  $from  the winding number where the edge begins
     * @param  float  $to  and where it ends, on the other side of 1/2
     */
    private function half(array $at, array $edge, float $from, float $to): float
    {
        $share = (0.5 - $from) / ($to - $from);
        $there = $this->field->at($at[0] + $share * $edge[0], $at[1] + $share * $edge[1], $at[2] + $share * $edge[2]);

        return ($there > 0.5) === ($from > 0.5) ? $share + (1.0 - $share) * (0.5 - $there) / ($to - $there) : $share * (0.5 - $from) / ($there - $from);
    }

    /**
     * Without shells of a few cells.
     *
     * @param  list<int>  $corners
     */
    private function without(array $corners, int $tag): ?Mesh
    {
        if ($corners === []) {
            return null;
        }
        $tags = [];
        $gaps = 0;
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            $own = max($this->tagAt[$corners[$i]], $this->tagAt[$corners[$i + 1]], $this->tagAt[$corners[$i + 2]]);
            $tags[] = $own < 0 ? $tag : $own;
            $gaps += $own < 0 ? 1 : 0;
        }
        if ($gaps > self::GAPS * count($tags)) {
            return null;
        }
        $mesh = Mesh::of($this->xyz, $corners, $tags);
        $shells = Bodies::shells($mesh);
        $cornersOf = [];
        foreach ($tags as $t => $_) {
            $cornersOf[$shells[$corners[3 * $t]]] ??= [];
            array_push($cornersOf[$shells[$corners[3 * $t]]], $corners[3 * $t], $corners[3 * $t + 1], $corners[3 * $t + 2]);
        }
        $volumes = array_map(fn (array $of): float => Volume::of(Mesh::of($this->xyz, $of)), $cornersOf);
        $most = max(0.0, ...$volumes);
        if (array_sum($volumes) < max(self::SCRAP * $this->step ** 3, self::ENOUGH * $this->volume)) {
            return null;
        }
        $kept = $keptTags = [];
        foreach ($tags as $t => $own) {
            $volume = $volumes[$shells[$corners[3 * $t]]];
            if ($volume === $most || abs($volume) >= self::SCRAP * $this->step ** 3) {
                array_push($kept, $corners[3 * $t], $corners[3 * $t + 1], $corners[3 * $t + 2]);
                $keptTags[] = $own;
            }
        }
        [$xyz, $kept] = Compact::of($this->xyz, $kept);

        return Mesh::of($xyz, $kept, $keptTags);
    }
}
