<?php

declare(strict_types=1);

namespace Isotome\Cells;

/** Finds the facets near a box: a grid of boxes of about their size, of which only those are kept that facets reach into. */
final class FacetGrid
{
    /** Boxes along one axis at most. */
    private const MOST = 512;

    /** @var array<int, list<int>> box → facets that reach into it */
    private array $facets = [];

    /** @var list<int> */
    private readonly array $all;

    public readonly float $size;

    /** @var array<int, int> number of the question in which a facet was found last */
    private array $seen;

    private int $asked = 0;

    /** @var array{int, int, int} boxes along each axis, an empty one at either end */
    private readonly array $count;

    /** @var array{float, float, float} */
    private array $low = [INF, INF, INF];

    /** @param  list<float>  $boxes  6 a facet: its least x, y, z and its greatest, mm */
    public function __construct(private readonly array $boxes)
    {
        $count = intdiv(count($boxes), 6);
        $this->all = $count === 0 ? [] : range(0, $count - 1);
        $this->seen = array_fill(0, max(1, $count), 0);
        $sum = $extent = 0.0;
        $high = [-INF, -INF, -INF];
        foreach ($this->all as $f) {
            for ($k = 0; $k < 3; $k++) {
                $this->low[$k] = min($this->low[$k], $boxes[6 * $f + $k]);
                $high[$k] = max($high[$k], $boxes[6 * $f + $k + 3]);
            }
            $sum += max($boxes[6 * $f + 3] - $boxes[6 * $f], $boxes[6 * $f + 4] - $boxes[6 * $f + 1], $boxes[6 * $f + 5] - $boxes[6 * $f + 2]);
        }
        for ($k = 0; $k < 3; $k++) {
            $extent = max($extent, $high[$k] - $this->low[$k]);
        }
        $this->size = max($count === 0 ? 1.0 : $sum / $count, $extent / self::MOST, 1e-300);
        $this->count = array_map(fn (int $k): int => (int) floor(max(0.0, $high[$k] - $this->low[$k]) / $this->size) + 3, [0, 1, 2]);
        foreach ($this->all as $f) {
            [$i0, $j0, $k0, $i1, $j1, $k1] = $this->reach($boxes[6 * $f], $boxes[6 * $f + 1], $boxes[6 * $f + 2], $boxes[6 * $f + 3], $boxes[6 * $f + 4], $boxes[6 * $f + 5]);
            for ($i = $i0; $i <= $i1; $i++) {
                for ($j = $j0; $j <= $j1; $j++) {
                    for ($k = $k0; $k <= $k1; $k++) {
                        $this->facets[($i * $this->count[1] + $j) * $this->count[2] + $k][] = $f;
                    }
                }
            }
        }
    }

    /**
     * @param  list<float>  $xyz
     * @return list<bool> whether all facets are farther than the size of a box from each place, along some axis
     */
    public function far(array $xyz): array
    {
        [$p, $q, $r] = $this->count;
        $beside = [];
        foreach ($this->facets as $key => $_) {
            for ($i = -1; $i <= 1; $i++) {
                for ($j = -1; $j <= 1; $j++) {
                    for ($k = -1; $k <= 1; $k++) {
                        $beside[$key + ($i * $q + $j) * $r + $k] = true;
                    }
                }
            }
        }
        [$x, $y, $z] = $this->low;
        $size = $this->size;
        $far = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $u = (int) floor(($xyz[$i] - $x) / $size) + 1;
            $v = (int) floor(($xyz[$i + 1] - $y) / $size) + 1;
            $w = (int) floor(($xyz[$i + 2] - $z) / $size) + 1;
            $far[] = $u < 0 || $v < 0 || $w < 0 || $u >= $p || $v >= $q || $w >= $r || ! isset($beside[($u * $q + $v) * $r + $w]);
        }

        return $far;
    }

    /** @return list<int> all whose boxes meet the box, each once */
    public function near(float $x0, float $y0, float $z0, float $x1, float $y1, float $z1): array
    {
        [$i0, $j0, $k0, $i1, $j1, $k1] = $this->reach($x0, $y0, $z0, $x1, $y1, $z1);
        $lists = [];
        if (($i1 - $i0 + 1) * ($j1 - $j0 + 1) * ($k1 - $k0 + 1) > count($this->facets)) {
            $lists[] = $this->all;
        } else {
            for ($i = $i0; $i <= $i1; $i++) {
                for ($j = $j0; $j <= $j1; $j++) {
                    $key = ($i * $this->count[1] + $j) * $this->count[2];
                    for ($k = $k0; $k <= $k1; $k++) {
                        if (isset($this->facets[$key + $k])) {
                            $lists[] = $this->facets[$key + $k];
                        }
                    }
                }
            }
        }
        if ($lists === []) {
            return [];
        }
        $boxes = $this->boxes;
        $asked = ++$this->asked;
        $near = [];
        foreach ($lists as $list) {
            foreach ($list as $f) {
                $b = 6 * $f;
                if ($boxes[$b] <= $x1 && $boxes[$b + 3] >= $x0 && $boxes[$b + 1] <= $y1 && $boxes[$b + 4] >= $y0 && $boxes[$b + 2] <= $z1 && $boxes[$b + 5] >= $z0 && $this->seen[$f] !== $asked) {
                    $this->seen[$f] = $asked;
                    $near[] = $f;
                }
            }
        }

        return $near;
    }

    /** @return array{int, int, int, int, int, int} first and last box along each axis, counted from 1 */
    private function reach(float $x0, float $y0, float $z0, float $x1, float $y1, float $z1): array
    {
        $size = $this->size;
        [$x, $y, $z] = $this->low;
        [$i, $j, $k] = $this->count;

        return [
            (int) max(0.0, min($i - 1.0, floor(($x0 - $x) / $size) + 1)), (int) max(0.0, min($j - 1.0, floor(($y0 - $y) / $size) + 1)), (int) max(0.0, min($k - 1.0, floor(($z0 - $z) / $size) + 1)),
            (int) max(0.0, min($i - 1.0, floor(($x1 - $x) / $size) + 1)), (int) max(0.0, min($j - 1.0, floor(($y1 - $y) / $size) + 1)), (int) max(0.0, min($k - 1.0, floor(($z1 - $z) / $size) + 1)),
        ];
    }
}
