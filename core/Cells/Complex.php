<?php

declare(strict_types=1);

namespace Isotome\Cells;

/**
 * A division of space into convex cells by flat facets that share vertices and edges: what a cells blade is while it cuts.
 *
 * xyz     3 floats a vertex, mm.
 * loops   a facet's vertices, counter-clockwise seen from ahead; flat but for rounding, convex; straight corners are allowed.
 * behind, ahead  the cell on either side of a facet, −1 for none: the outside, or the width that a kerf removes.
 * label   the shard that each cell belongs to; facets between cells of one shard cut nothing.
 *
 * A rough one has walls only, which are triangles: each shard is one cell, of any shape (RoughWalls).
 */
final readonly class Complex
{
    /** @var list<list<int>> facets of each cell */
    public array $facetsOf;

    /** @var list<float> 4 a facet: unit normal towards ahead, and its distance from the origin, mm */
    public array $planes;

    public int $labels;

    /**
     * @param  list<float>  $xyz
     * @param  list<list<int>>  $loops
     * @param  list<int>  $behind
     * @param  list<int>  $ahead
     * @param  list<int>  $label
     * @param  Bounds|null  $bounds  of the facets that cut, if they are known
     * @param  bool  $isRough  see above
     */
    public function __construct(
        public array $xyz,
        public array $loops,
        public array $behind,
        public array $ahead,
        public array $label,
        public ?Bounds $bounds = null,
        public bool $isRough = false,
    ) {
        $facets = array_fill(0, max(1, count($label)), []);
        $planes = [];
        foreach ($loops as $f => $loop) {
            if ($behind[$f] >= 0) {
                $facets[$behind[$f]][] = $f;
            }
            if ($ahead[$f] >= 0) {
                $facets[$ahead[$f]][] = $f;
            }
            array_push($planes, ...self::plane($xyz, $loop));
        }
        $this->facetsOf = $facets;
        $this->planes = $planes;
        $this->labels = $label === [] ? 0 : max($label) + 1;
    }

    public function cells(): int
    {
        return count($this->label);
    }

    /**
     * The corners of each cell, mm: its convex hull is the cell.
     *
     * @return list<list<array{float, float, float}>>
     */
    public function corners(): array
    {
        $cells = [];
        foreach ($this->facetsOf as $facets) {
            $corners = [];
            foreach ($facets as $f) {
                foreach ($this->loops[$f] as $v) {
                    $corners[$v] = [$this->xyz[3 * $v], $this->xyz[3 * $v + 1], $this->xyz[3 * $v + 2]];
                }
            }
            $cells[] = array_values($corners);
        }

        return $cells;
    }

    /** Does the facet part two shards, or a shard from nothing? */
    public function cuts(int $facet): bool
    {
        $behind = $this->behind[$facet];
        $ahead = $this->ahead[$facet];

        return ($behind < 0 ? -1 : $this->label[$behind]) !== ($ahead < 0 ? -1 : $this->label[$ahead]);
    }

    /**
     * The volume of each cell, mm³, by the divergence theorem over its facets.
     *
     * @return list<float>
     */
    public function volumes(): array
    {
        $volumes = array_fill(0, max(1, count($this->label)), 0.0);
        foreach ($this->loops as $f => $loop) {
            $sixth = 0.0;
            $o = 3 * $loop[0];
            [$ox, $oy, $oz] = [$this->xyz[$o], $this->xyz[$o + 1], $this->xyz[$o + 2]];
            for ($k = 1, $n = count($loop) - 1; $k < $n; $k++) {
                $a = 3 * $loop[$k];
                $b = 3 * $loop[$k + 1];
                $sixth += $ox * ($this->xyz[$a + 1] * $this->xyz[$b + 2] - $this->xyz[$a + 2] * $this->xyz[$b + 1])
                    + $oy * ($this->xyz[$a + 2] * $this->xyz[$b] - $this->xyz[$a] * $this->xyz[$b + 2])
                    + $oz * ($this->xyz[$a] * $this->xyz[$b + 1] - $this->xyz[$a + 1] * $this->xyz[$b]);
            }
            if ($this->behind[$f] >= 0) {
                $volumes[$this->behind[$f]] += $sixth / 6;
            }
            if ($this->ahead[$f] >= 0) {
                $volumes[$this->ahead[$f]] -= $sixth / 6;
            }
        }

        return array_values($volumes);
    }

    /**
     * The same cells under a linear map that keeps hands (determinant more than 0).
     *
     * @param  array{array{float, float, float}, array{float, float, float}, array{float, float, float}}  $rows
     * @param  array{float, float, float}  $about  the place that stays
     */
    public function mapped(array $rows, array $about): self
    {
        $xyz = [];
        for ($i = 0, $count = count($this->xyz); $i < $count; $i += 3) {
            $x = $this->xyz[$i] - $about[0];
            $y = $this->xyz[$i + 1] - $about[1];
            $z = $this->xyz[$i + 2] - $about[2];
            foreach ($rows as $k => $row) {
                $xyz[] = $about[$k] + $row[0] * $x + $row[1] * $y + $row[2] * $z;
            }
        }

        return new self($xyz, $this->loops, $this->behind, $this->ahead, $this->label);
    }

    /** @param  array{float, float, float}  $by  mm */
    public function moved(array $by): self
    {
        $xyz = [];
        foreach ($this->xyz as $i => $c) {
            $xyz[] = $c + $by[$i % 3];
        }

        return new self($xyz, $this->loops, $this->behind, $this->ahead, $this->label);
    }

    /** @param  list<int>  $label  another shard for each cell */
    public function relabelled(array $label): self
    {
        return new self($this->xyz, $this->loops, $this->behind, $this->ahead, $label);
    }

    /**
     * By the mean normal of the loop (M. E. Newell's method) through the mean of its vertices.
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $loop
     * @return array{float, float, float, float}
     */
    public static function plane(array $xyz, array $loop): array
    {
        $nx = $ny = $nz = $mx = $my = $mz = 0.0;
        $o = 3 * $loop[0];
        $ox = $xyz[$o];
        $oy = $xyz[$o + 1];
        $oz = $xyz[$o + 2];
        $p = 3 * $loop[count($loop) - 1];
        $px = $xyz[$p] - $ox;
        $py = $xyz[$p + 1] - $oy;
        $pz = $xyz[$p + 2] - $oz;
        foreach ($loop as $v) {
            $q = 3 * $v;
            $qx = $xyz[$q] - $ox;
            $qy = $xyz[$q + 1] - $oy;
            $qz = $xyz[$q + 2] - $oz;
            $nx += $py * $qz - $pz * $qy;
            $ny += $pz * $qx - $px * $qz;
            $nz += $px * $qy - $py * $qx;
            $mx += $qx;
            $my += $qy;
            $mz += $qz;
            $px = $qx;
            $py = $qy;
            $pz = $qz;
        }
        $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        if ($length == 0.0) {
            return [0.0, 0.0, 1.0, $oz];
        }
        $n = count($loop);
        [$nx, $ny, $nz] = [$nx / $length, $ny / $length, $nz / $length];

        return [$nx, $ny, $nz, $nx * ($ox + $mx / $n) + $ny * ($oy + $my / $n) + $nz * ($oz + $mz / $n)];
    }
}
