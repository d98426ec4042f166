<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Isotome\Cells\Bounds;
use Isotome\Cells\Complex;

/**
 * The space around a body, divided by what was drawn: each polygon of the page carried along the sight is a convex cell.
 */
final readonly class Space
{
    /** How far before and behind the body the cells reach, as a share of its depth. */
    private const BEYOND = 0.25;

    /** Depth of what is divided, at least: as a share of its width, or of its distance from the eye. */
    private const LEAST = 0.01;

    /**
     * @param  list<int>  $sides  of each shard of the complex: 1 ahead, −1 behind, 0 for what is removed
     * @param  int  $loose  ends of lines from which no way leads past the body: beside them it hangs together
     * @param  list<array{list<array{float, float}>, int}>  $page  the convex polygons of the page that was carried, and the side of each
     */
    public function __construct(
        public Complex $complex,
        public array $sides,
        public int $loose = 0,
        public array $page = [],
    ) {
    }

    /**
     * @param  list<int>  $sides  of each region
     * @param  float  $nearest  distance at which the body begins
     * @param  float|null  $floor  distance down to which it goes; null for through everything
     * @param  int  $loose  see above
     */
    public static function of(Division $division, array $sides, Sight $sight, float $nearest, float $farthest, ?float $floor, int $loose): self
    {
        // A sheet that is looked at squarely has no depth of its own.
        $us = array_column($division->points, 0);
        $depth = max($farthest - $nearest, $sight->eye === null && $us !== [] ? self::LEAST * (max($us) - min($us)) : self::LEAST * $farthest);
        $front = $sight->eye === null ? min($nearest, $floor ?? $nearest) - self::BEYOND * $depth : 0.5 * min($nearest, $floor ?? $nearest);
        $back = $farthest + self::BEYOND * $depth;
        $levels = $floor !== null && $floor < $back ? [$front, $floor, $back] : [$front, $back];
        [$label, $of] = self::labels($division, $sides, count($levels) === 3);
        $count = count($division->points);
        $page = [];
        foreach ($division->polygons as $n => $polygon) {
            $page[] = [array_map(static fn (int $p): array => $division->points[$p], $polygon), $sides[$division->region[$n]]];
        }

        return new self(self::stacked($division->points, $division->polygons, $sight, array_map(static fn (float $w): array => array_fill(0, $count, $w), $levels), $label, PageBounds::of($division, $label, $sight, $front, $back)), $of, $loose, $page);
    }

    /**
     * Polygons of a page carried along the sight, in layers one behind the other.
     *
     * @param  list<array{float, float}>  $points
     * @param  list<list<int>>  $polygons
     * @param  list<list<float>>  $levels  distances of all points, from the foremost surface to the backmost; between two that bound a layer a polygon has flat faces
     * @param  list<int>  $label  of the polygons of each layer, the foremost layer first
     * @param  Bounds|null  $bounds  of all that cuts, if they are known
     */
    public static function stacked(array $points, array $polygons, Sight $sight, array $levels, array $label, ?Bounds $bounds = null): Complex
    {
        $xyz = [];
        foreach ($levels as $distances) {
            foreach ($points as $n => [$u, $v]) {
                array_push($xyz, ...$sight->place($u, $v, $distances[$n]));
            }
        }
        $count = count($points);
        $cells = count($polygons);
        $edges = [];
        foreach ($polygons as $n => $polygon) {
            $p = $polygon[count($polygon) - 1];
            foreach ($polygon as $q) {
                $edges[$p << 32 | $q] = $n;
                $p = $q;
            }
        }
        $loops = $behind = $ahead = [];
        for ($level = 0; $level + 1 < count($levels); $level++) {
            $near = $level * $count;
            $far = $near + $count;
            foreach ($edges as $key => $n) {
                [$p, $q] = [$key >> 32, $key & 0xFFFFFFFF];
                $other = $edges[$q << 32 | $p] ?? -1;
                if ($other >= 0 && $p > $q) {
                    continue;
                }
                // It looks to the right of the edge, away from the polygon.
                $loops[] = [$p + $far, $q + $far, $q + $near, $p + $near];
                $behind[] = $n + $level * $cells;
                $ahead[] = $other < 0 ? -1 : $other + $level * $cells;
            }
        }
        // Between the layers, looking towards who looks. Before the first and behind the last is no body.
        for ($level = 1; $level + 1 < count($levels); $level++) {
            foreach ($polygons as $n => $polygon) {
                $loop = [];
                foreach ($polygon as $p) {
                    $loop[] = $p + $level * $count;
                }
                $loops[] = $loop;
                $behind[] = $n + $level * $cells;
                $ahead[] = $n + ($level - 1) * $cells;
            }
        }

        return new Complex($xyz, $loops, $behind, $ahead, $label, $bounds);
    }

    /**
     * @param  list<int>  $sides
     * @return array{list<int>, list<int>} the shard of each cell, and the side of each shard
     */
    private static function labels(Division $division, array $sides, bool $hasFloor): array
    {
        $shard = $of = [];
        $removed = $around = -1;
        $new = static function (int $side) use (&$of): int {
            $of[] = $side;

            return count($of) - 1;
        };
        foreach ($sides as $region => $side) {
            if ($side === 0) {
                $shard[$region] = $removed = $removed < 0 ? $new(0) : $removed;
            } elseif ($hasFloor && $side > 0) {
                // What is around it hangs together beneath.
                $shard[$region] = $around = $around < 0 ? $new(1) : $around;
            } else {
                $shard[$region] = $new($side);
            }
        }
        $label = array_map(static fn (int $region): int => $shard[$region], $division->region);
        if ($hasFloor) {
            $around = $around < 0 ? $new(1) : $around;
            $label = [...$label, ...array_fill(0, count($label), $around)];
        }

        return [$label, $of];
    }
}
