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
final readonly class Windings
{
    private const MOST_RAYS = 40;

    /** A rounded point is looked for a little around where it is: this part of its coordinates. */
    private const AROUND = 1e-12;

    /** @param  Far|null  $far  further triangles of the meshes, that are not in the arrangement */
    public function __construct(private Arrangement $all, private int $meshes, private ?Far $far = null)
    {
    }

    /** @return list<int> of each mesh: how much more often it winds behind a triangle of the arrangement than before it */
    public function between(int $triangle): array
    {
        $net = array_fill(0, $this->meshes, 0);
        foreach ($this->all->parts($triangle) as $part) {
            $net[$this->all->mesh[abs($part) - 1]] += $part <=> 0;
        }

        return array_values($net);
    }

    /** @return list<int> of each mesh, just before a triangle of the arrangement: where it is seen turning left */
    public function before(int $triangle): array
    {
        [$a, $b, $c] = [$this->all->corners[3 * $triangle], $this->all->corners[3 * $triangle + 1], $this->all->corners[3 * $triangle + 2]];
        $plane = abs($this->all->part[$triangle]) - 1;
        [$u, $v] = Contact::page($this->all->points, [$this->all->given[3 * $plane], $this->all->given[3 * $plane + 1], $this->all->given[3 * $plane + 2]]);
        $axis = 3 - $u - $v;
        $points = $this->all->points;
        // An axis that was asked for before is preferred: the far triangles along it are known already.
        foreach ($this->far?->axes() ?? [] as $known) {
            if ($points->turn($a, $b, $c, ($known + 1) % 3, ($known + 2) % 3) !== 0) {
                $axis = $known;
                break;
            }
        }
        [$u, $v] = [($axis + 1) % 3, ($axis + 2) % 3];
        $way = $points->turn($a, $b, $c, $u, $v);
        for ($ray = 0; $ray < self::MOST_RAYS; $ray++) {
            $from = $points->within($a, $b, $c, [3 + 5 * $ray % 7, 3 + 3 * $ray % 11, 3 + 2 * $ray % 13]);
            $above = $this->above($from, $this->all->parts($triangle), $u, $v, $axis);
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
        $met = [];
        [$low, $high] = $this->ray($from, $axis);
        foreach ($this->all->tree->around([$low[0], $high[0], $low[1], $high[1], $low[2], $high[2]]) as $t) {
            if (! isset($own[$t])) {
                $met[] = [$given[3 * $t], $given[3 * $t + 1], $given[3 * $t + 2], $this->all->mesh[$t]];
            }
        }
        foreach ($this->far?->around($low, $high) ?? [] as [$m, $a, $b, $c]) {
            $met[] = [$points->put($a), $points->put($b), $points->put($c), $m];
        }
        $counts = array_fill(0, $this->meshes, 0);
        foreach ($met as [$a, $b, $c, $m]) {
            $one = $points->turn($a, $b, $from, $u, $v);
            $two = $points->turn($b, $c, $from, $u, $v);
            $three = $points->turn($c, $a, $from, $u, $v);
            if (min($one, $two, $three) < 0 && max($one, $two, $three) > 0) {
                continue;
            }
            if ($one === 0 || $two === 0 || $three === 0) {
                if ($points->compare($a, $from, $axis) < 0 && $points->compare($b, $from, $axis) < 0 && $points->compare($c, $from, $axis) < 0) {
                    // Surely below, with all of its corners: then it does not matter.
                    continue;
                }

                return null;
            }
            $side = $points->side($a, $b, $c, $from);
            if ($side === 0) {
                return null;
            }
            if ($side * $one < 0) {
                $counts[$m] += $one;
            }
        }

        return array_values($counts);
    }

    /** @return array{array{float, float, float}, array{float, float, float}} least and greatest coordinates of what may lie over a place of a page, and not only below a third coordinate */
    private function ray(int $from, int $axis): array
    {
        $low = $high = [0.0, 0.0, 0.0];
        foreach ([0, 1, 2] as $k) {
            $at = $this->all->points->xyz[3 * $from + $k];
            $low[$k] = $at - self::AROUND * abs($at);
            $high[$k] = $k === $axis ? INF : $at + self::AROUND * abs($at);
        }

        return [$low, $high];
    }
}
