<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Exception\BadBlade;
use Isotome\Exception\BrokenPromise;

/**
 * The Voronoi cells of points, in a box: cell k is where site k is the nearest.
 *
 * Guarantees cells that share vertices, edges and facets, whatever the sites: each vertex is compared with a new site once, for all
 * cells that meet in it, and counts as equally near within a band of rounding; so sites on a lattice, where many cells meet in one
 * vertex, give no splinters between them. Sites are added one after the other (P. J. Green, R. Sibson, "Computing Dirichlet tessellations in
 * the plane", The Computer Journal 21, 1978, carried to three dimensions): only cells that lose something are touched.
 */
final class Voronoi
{
    /** Share of the box's diagonal within which a vertex is equally near to two sites. */
    private const BAND = 1e-10;

    /** Share of the box's diagonal by which sites must lie apart. */
    private const APART = 1e-6;

    /** @var list<float> */
    private array $xyz = [];

    /** @var array<int, int> a cell at each vertex */
    private array $near = [];

    /** @var array<int, list<int>> */
    private array $loops = [];

    /** @var array<int, int> */
    private array $behind = [];

    /** @var array<int, int> the cell ahead, or below 0 the side of the box */
    private array $ahead = [];

    /** @var list<array<int, true>> facets of each cell */
    private array $facets = [];

    /** @var array<int, int> the insertion in which the vertex was compared, and how: −1 nearer to the new site, 0 as near, 1 not */
    private array $stamp = [];

    /** @var array<int, int> */
    private array $side = [];

    private int $next = 6;

    /** @param  list<float>  $sites */
    private function __construct(private readonly array $sites, private readonly float $band)
    {
    }

    /**
     * @param  list<float>  $sites  3 a site, mm, inside the box
     * @param  array{float, float, float}  $min
     * @param  array{float, float, float}  $max
     *
     * @throws BadBlade when two sites are in one place
     */
    public static function of(array $sites, array $min, array $max): Complex
    {
        $diagonal = sqrt(($max[0] - $min[0]) ** 2 + ($max[1] - $min[1]) ** 2 + ($max[2] - $min[2]) ** 2);
        $building = new self($sites, self::BAND * $diagonal);
        $building->box($min, $max);
        for ($k = 1, $count = intdiv(count($sites), 3); $k < $count; $k++) {
            $building->insert($k, self::APART * $diagonal);
        }

        return $building->complex();
    }

    /**
     * @param  array{float, float, float}  $min
     * @param  array{float, float, float}  $max
     */
    private function box(array $min, array $max): void
    {
        for ($v = 0; $v < 8; $v++) {
            array_push($this->xyz, ($v & 1 ? $max : $min)[0], ($v & 2 ? $max : $min)[1], ($v & 4 ? $max : $min)[2]);
            $this->near[] = 0;
            $this->stamp[] = $this->side[] = 0;
        }
        // Outward, so that ahead is the outside.
        $this->loops = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]];
        $this->behind = array_fill(0, 6, 0);
        $this->ahead = [-1, -2, -3, -4, -5, -6];
        $this->facets = [array_fill(0, 6, true)];
    }

    private function insert(int $k, float $apart): void
    {
        $made = [];
        /** @var array<int, array<int, int>> $rims edges of each old cell's new facet, from << 32 | to => to */
        $rims = [];
        /** @var array<int, array<int, int>> $outer edges of the new cell's facets on the box, by side of the box */
        $outer = [];
        $reached = $this->reached($k, $this->nearest($k, $apart));
        // As locals of their own: nothing is copied, and looked up fast.
        $side = $this->side;
        $this->side = [];
        $loops = $this->loops;
        $this->loops = [];
        $next = count($side);
        foreach ($reached as $f => $_) {
            $loop = $loops[$f];
            $kept = $lost = $new = [];
            $isKept = false;
            $b = $this->behind[$f];
            $a = $this->ahead[$f];
            $p = $loop[count($loop) - 1];
            $sp = $side[$p];
            foreach ($loop as $q) {
                $sq = $side[$q];
                if ($sp + $sq === 0 && $sp !== 0) {
                    $key = $p < $q ? $p << 32 | $q : $q << 32 | $p;
                    $m = $made[$key] ?? -1;
                    if ($m < 0) {
                        $m = $made[$key] = $next++;
                        $p < $q ? $this->between($p, $q, $b, $k) : $this->between($q, $p, $b, $k);
                        $side[] = 0;
                    }
                    $kept[] = $m;
                    $lost[] = $m;
                    $new[] = true;
                }
                if ($sq >= 0) {
                    $kept[] = $q;
                    $new[] = $sq === 0;
                    $isKept = $isKept || $sq > 0;
                }
                if ($sq <= 0) {
                    $lost[] = $q;
                }
                $p = $q;
                $sp = $sq;
            }
            if ($a < 0) {
                $q = $lost[count($lost) - 1];
                foreach ($lost as $r) {
                    // A corner of the box goes over to the new cell.
                    $this->near[$r] = $k;
                    if (isset($outer[-$a][$r << 32 | $q])) {
                        unset($outer[-$a][$r << 32 | $q]);
                    } else {
                        $outer[-$a][$q << 32 | $r] = $r;
                    }
                    $q = $r;
                }
            }
            if (! $isKept) {
                // What ran along the bisector on a facet that goes, is taken over by the new one.
                $q = $loop[count($loop) - 1];
                foreach ($loop as $r) {
                    if ($side[$q] === 0 && $side[$r] === 0) {
                        self::edge($rims, $b, $q, $r);
                        $a >= 0 && self::edge($rims, $a, $r, $q);
                    }
                    $q = $r;
                }
                unset($loops[$f], $this->behind[$f], $this->ahead[$f], $this->facets[$b][$f]);
                if ($a >= 0) {
                    unset($this->facets[$a][$f]);
                }

                continue;
            }
            $loops[$f] = $kept;
            $i = count($kept) - 1;
            foreach ($kept as $j => $r) {
                if ($new[$i] && $new[$j]) {
                    $q = $kept[$i];
                    self::edge($rims, $b, $r, $q);
                    $a >= 0 && self::edge($rims, $a, $q, $r);
                }
                $i = $j;
            }
        }
        $this->side = $side;
        $this->loops = $loops;
        unset($side, $loops);
        $this->facets[$k] = [];
        foreach ($rims as $c => $edges) {
            $this->facet($c, $k, $edges);
        }
        foreach ($outer as $side => $edges) {
            $this->facet($k, -$side, $edges);
        }
    }

    /** @param  array<int, int>  $edges from << 32 | to => to */
    private function facet(int $behind, int $ahead, array $edges): void
    {
        $after = [];
        foreach ($edges as $key => $q) {
            $after[$key >> 32] = $q;
        }
        if (count($after) !== count($edges)) {
            throw new BrokenPromise('The cells around a point do not close; give it another place or another seed.');
        }
        $loop = [];
        $p = $start = array_key_first($after);
        while ($p !== null) {
            $q = $after[$p] ?? null;
            if ($q === null || count($loop) > count($after)) {
                throw new BrokenPromise('The cells around a point do not close; give it another place or another seed.');
            }
            $loop[] = $q;
            $p = $q === $start ? null : $q;
        }
        if (count($loop) < 3) {
            return;
        }
        $f = $this->next++;
        $this->loops[$f] = $loop;
        $this->behind[$f] = $behind;
        $this->ahead[$f] = $ahead;
        $this->facets[$behind][$f] = true;
        if ($ahead >= 0) {
            $this->facets[$ahead][$f] = true;
        }
    }

    /**
     * Edges that run both ways bound nothing.
     *
     * @param  array<int, array<int, int>>  $rims
     */
    private static function edge(array &$rims, int $of, int $from, int $to): void
    {
        if (isset($rims[$of][$to << 32 | $from])) {
            unset($rims[$of][$to << 32 | $from]);
        } else {
            $rims[$of][$from << 32 | $to] = $to;
        }
    }

    /** Makes the vertex where an edge of cell c meets the bisector of c and k; its side is the caller's to tell. */
    private function between(int $p, int $q, int $c, int $k): void
    {
        $sites = $this->sites;
        $c *= 3;
        $nx = $sites[3 * $k] - $sites[$c];
        $ny = $sites[3 * $k + 1] - $sites[$c + 1];
        $nz = $sites[3 * $k + 2] - $sites[$c + 2];
        $mx = 0.5 * ($sites[3 * $k] + $sites[$c]);
        $my = 0.5 * ($sites[3 * $k + 1] + $sites[$c + 1]);
        $mz = 0.5 * ($sites[3 * $k + 2] + $sites[$c + 2]);
        [$px, $py, $pz] = [$this->xyz[3 * $p], $this->xyz[3 * $p + 1], $this->xyz[3 * $p + 2]];
        [$qx, $qy, $qz] = [$this->xyz[3 * $q], $this->xyz[3 * $q + 1], $this->xyz[3 * $q + 2]];
        $dp = $nx * ($px - $mx) + $ny * ($py - $my) + $nz * ($pz - $mz);
        $dq = $nx * ($qx - $mx) + $ny * ($qy - $my) + $nz * ($qz - $mz);
        $t = $dp === $dq ? 0.5 : $dp / ($dp - $dq);
        $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);
        // Along a coordinate that both ends share nothing is rounded: the box stays flat.
        $this->xyz[] = $px === $qx ? $px : $px + $t * ($qx - $px);
        $this->xyz[] = $py === $qy ? $py : $py + $t * ($qy - $py);
        $this->xyz[] = $pz === $qz ? $pz : $pz + $t * ($qz - $pz);
        $this->near[] = $k;
        $this->stamp[] = $k;
    }

    /**
     * The facets with a vertex that is nearer to site k, found from cell to cell; the side of all their vertices is told.
     *
     * @return array<int, true>
     */
    private function reached(int $k, int $start): array
    {
        $sites = $this->sites;
        [$kx, $ky, $kz] = [$sites[3 * $k], $sites[3 * $k + 1], $sites[3 * $k + 2]];
        $xyz = $this->xyz;
        $near = $this->near;
        $stamp = $this->stamp;
        $side = $this->side;
        $this->stamp = $this->side = [];
        $facets = $this->facets;
        $loops = $this->loops;
        $behind = $this->behind;
        $ahead = $this->ahead;
        $band = 2 * $this->band;
        // No two sites are as far apart as the box's diagonal.
        $widest = $band * $this->band / self::BAND;
        $reached = [];
        $seen = [$start => true];
        $queue = [$start];
        while ($queue !== []) {
            $c = array_pop($queue);
            foreach ($facets[$c] as $f => $_) {
                if (isset($reached[$f])) {
                    continue;
                }
                $is = false;
                foreach ($loops[$f] as $v) {
                    if ($stamp[$v] !== $k) {
                        $s = 3 * $near[$v];
                        $sx = $sites[$s];
                        $sy = $sites[$s + 1];
                        $sz = $sites[$s + 2];
                        $dx = $kx - $sx;
                        $dy = $ky - $sy;
                        $dz = $kz - $sz;
                        // Twice the distance beyond the bisector, times the sites' distance.
                        $v3 = 3 * $v;
                        $g = $dx * (2 * $xyz[$v3] - $kx - $sx) + $dy * (2 * $xyz[$v3 + 1] - $ky - $sy) + $dz * (2 * $xyz[$v3 + 2] - $kz - $sz);
                        $stamp[$v] = $k;
                        if ($g > $widest) {
                            $side[$v] = -1;
                            $is = true;
                        } elseif ($g < -$widest) {
                            $side[$v] = 1;
                        } else {
                            $limit = $band * sqrt($dx * $dx + $dy * $dy + $dz * $dz);
                            $side[$v] = $g > $limit ? -1 : ($g < -$limit ? 1 : 0);
                            $is = $is || $g > $limit;
                        }
                    } elseif ($side[$v] < 0) {
                        $is = true;
                    }
                }
                if ($is) {
                    $reached[$f] = true;
                    $other = $behind[$f] === $c ? $ahead[$f] : $behind[$f];
                    if ($other >= 0 && ! isset($seen[$other])) {
                        $seen[$other] = true;
                        $queue[] = $other;
                    }
                }
            }
        }
        $this->stamp = $stamp;
        $this->side = $side;

        return $reached;
    }

    /** The nearest of the sites before k. */
    private function nearest(int $k, float $apart): int
    {
        $sites = $this->sites;
        $x = $sites[3 * $k];
        $y = $sites[3 * $k + 1];
        $z = $sites[3 * $k + 2];
        $nearest = 0;
        $least = INF;
        for ($c = 0, $i = 0; $c < $k; $c++, $i += 3) {
            $dx = $sites[$i] - $x;
            $dy = $sites[$i + 1] - $y;
            $dz = $sites[$i + 2] - $z;
            $d = $dx * $dx + $dy * $dy + $dz * $dz;
            if ($d < $least) {
                $least = $d;
                $nearest = $c;
            }
        }
        if ($least < $apart * $apart) {
            throw new BadBlade("Points $nearest and $k of the cells are in one place (counted from 0); leave one out.");
        }

        return $nearest;
    }

    private function complex(): Complex
    {
        $number = [];
        $xyz = $loops = $behind = $ahead = [];
        foreach ($this->loops as $f => $loop) {
            $renumbered = [];
            foreach ($loop as $v) {
                if (! isset($number[$v])) {
                    $number[$v] = count($number);
                    $xyz[] = $this->xyz[3 * $v];
                    $xyz[] = $this->xyz[3 * $v + 1];
                    $xyz[] = $this->xyz[3 * $v + 2];
                }
                $renumbered[] = $number[$v];
            }
            $loops[] = $renumbered;
            $behind[] = $this->behind[$f];
            $ahead[] = max(-1, $this->ahead[$f]);
        }

        return new Complex($xyz, $loops, $behind, $ahead, range(0, count($this->facets) - 1));
    }
}
