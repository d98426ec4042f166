<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Isotome\Exception\BrokenPromise;

/**
 * How often each mesh winds around the places on either side of a triangle of an arrangement: counted along a ray that leaves it, with exact signs.
 *
 * Guarantees: right for meshes that close, for every one of them by itself; what lies in the triangle itself is counted between its two sides. A ray that would meet an edge
 * is replaced by one beside it.
 *
 * Source: winding numbers by signed crossings, A. Jacobson, L. Kavan, O. Sorkine-Hornung, "Robust inside-outside segmentation using generalized winding numbers" (2013); one ray a patch,
 * G. Cherchi, F. Pellacini, M. Attene, M. Livesu, "Interactive and robust mesh booleans" (2022).
 */
final class Windings
{
    private const PER_BIN = 2;

    private const MOST_RAYS = 40;

    /** @var array<int, array{float, float, float, float, int, int, array<int, list<int>>}> given triangles by where they are on a page: low ends, bins a millimetre, numbers of bins, and the bins */
    private array $bins = [];

    public function __construct(private readonly Arrangement $all, private readonly int $meshes)
    {
    }

    /** @return list<int> of each mesh: how much more often it winds behind a triangle of the arrangement than before it */
    public function between(int $triangle): array
    {
        $net = array_fill(0, $this->meshes, 0);
        foreach ($this->all->parts[$triangle] as $part) {
            $net[$this->all->mesh[abs($part) - 1]] += $part <=> 0;
        }

        return array_values($net);
    }

    /** @return list<int> of each mesh, just before a triangle of the arrangement: where it is seen turning left */
    public function before(int $triangle): array
    {
        [$a, $b, $c] = [$this->all->corners[3 * $triangle], $this->all->corners[3 * $triangle + 1], $this->all->corners[3 * $triangle + 2]];
        $plane = abs($this->all->parts[$triangle][0]) - 1;
        [$u, $v] = Contact::page($this->all->points, [$this->all->given[3 * $plane], $this->all->given[3 * $plane + 1], $this->all->given[3 * $plane + 2]]);
        $axis = 3 - $u - $v;
        [$u, $v] = [($axis + 1) % 3, ($axis + 2) % 3];
        $points = $this->all->points;
        $way = $points->turn($a, $b, $c, $u, $v);
        for ($ray = 0; $ray < self::MOST_RAYS; $ray++) {
            $from = $points->within($a, $b, $c, [3 + 5 * $ray % 7, 3 + 3 * $ray % 11, 3 + 2 * $ray % 13]);
            $above = $this->above($from, $this->all->parts[$triangle], $u, $v, $axis);
            if ($above !== null) {
                if ($way > 0) {
                    return $above;
                }

                return array_map(static fn (int $behind, int $more): int => $behind - $more, $above, $this->between($triangle));
            }
        }

        throw new BrokenPromise('No ray from a face of an arrangement misses all edges; this is an error of the program.');
    }

    /**
     * @param  list<int>  $parts  what the point lies in
     * @return list<int>|null null when it cannot be told from here
     */
    private function above(int $from, array $parts, int $u, int $v, int $axis): ?array
    {
        $points = $this->all->points;
        $given = $this->all->given;
        $own = [];
        foreach ($parts as $part) {
            $own[abs($part) - 1] = true;
        }
        $counts = array_fill(0, $this->meshes, 0);
        foreach ($this->at($points->xyz[3 * $from + $u], $points->xyz[3 * $from + $v], $u, $v) as $t) {
            if (isset($own[$t])) {
                continue;
            }
            $a = $given[3 * $t];
            $b = $given[3 * $t + 1];
            $c = $given[3 * $t + 2];
            $one = $points->turn($a, $b, $from, $u, $v);
            $two = $points->turn($b, $c, $from, $u, $v);
            $three = $points->turn($c, $a, $from, $u, $v);
            if (min($one, $two, $three) < 0 && max($one, $two, $three) > 0) {
                continue;
            }
            if ($one === 0 || $two === 0 || $three === 0) {
                if ($this->isBelow($t, $from, $axis)) {
                    continue;
                }

                return null;
            }
            $side = $points->side($a, $b, $c, $from);
            if ($side === 0) {
                return null;
            }
            if ($side * $one < 0) {
                $counts[$this->all->mesh[$t]] += $one;
            }
        }

        return array_values($counts);
    }

    /** Surely below a point, with all of its corners: then it does not matter. */
    private function isBelow(int $t, int $from, int $axis): bool
    {
        for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
            if ($this->all->points->compare($this->all->given[$k], $from, $axis) >= 0) {
                return false;
            }
        }

        return true;
    }

    /** @return list<int> given triangles whose boxes may reach over a place of a page */
    private function at(float $x, float $y, int $u, int $v): array
    {
        $this->bins[$u] ??= $this->bin($u, $v);
        [$lowX, $lowY, $perX, $perY, $wide, $deep, $bins] = $this->bins[$u];
        $i = max(0, min($wide - 1, (int) (($x - $lowX) * $perX)));
        $j = max(0, min($deep - 1, (int) (($y - $lowY) * $perY)));

        return $bins[$j * $wide + $i] ?? [];
    }

    /** @return array{float, float, float, float, int, int, array<int, list<int>>} */
    private function bin(int $u, int $v): array
    {
        $xyz = $this->all->points->xyz;
        $given = $this->all->given;
        $lowX = $lowY = INF;
        $highX = $highY = -INF;
        foreach ($given as $p) {
            $lowX = min($lowX, $xyz[3 * $p + $u]);
            $highX = max($highX, $xyz[3 * $p + $u]);
            $lowY = min($lowY, $xyz[3 * $p + $v]);
            $highY = max($highY, $xyz[3 * $p + $v]);
        }
        $count = count($this->all->mesh);
        $wide = $deep = max(1, min(1000, (int) sqrt($count / self::PER_BIN)));
        $perX = $highX > $lowX ? ($wide - 1e-9) / ($highX - $lowX) : 0.0;
        $perY = $highY > $lowY ? ($deep - 1e-9) / ($highY - $lowY) : 0.0;
        $bins = [];
        for ($t = 0; $t < $count; $t++) {
            $x = [$xyz[3 * $given[3 * $t] + $u], $xyz[3 * $given[3 * $t + 1] + $u], $xyz[3 * $given[3 * $t + 2] + $u]];
            $y = [$xyz[3 * $given[3 * $t] + $v], $xyz[3 * $given[3 * $t + 1] + $v], $xyz[3 * $given[3 * $t + 2] + $v]];
            // A point that was rounded may be found in the bin beside its own: a little is added on either side.
            $marginX = 1e-9 / max($perX, 1e-300);
            $marginY = 1e-9 / max($perY, 1e-300);
            $i0 = max(0, (int) ((min($x) - $marginX - $lowX) * $perX));
            $i1 = min($wide - 1, (int) ((max($x) + $marginX - $lowX) * $perX));
            $j0 = max(0, (int) ((min($y) - $marginY - $lowY) * $perY));
            $j1 = min($deep - 1, (int) ((max($y) + $marginY - $lowY) * $perY));
            for ($j = $j0; $j <= $j1; $j++) {
                for ($i = $i0; $i <= $i1; $i++) {
                    $bins[$j * $wide + $i][] = $t;
                }
            }
        }

        return [$lowX, $lowY, $perX, $perY, $wide, $deep, $bins];
    }
}
