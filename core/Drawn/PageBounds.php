<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Isotome\Cells\Bounds;
use Isotome\Geometry\Direction;

/** Lines of the page with all that cuts on one side, carried along the sight: two where it lies in a narrow strip, up to four around an outline. */
final class PageBounds
{
    /** Directions that are tried for the strip. */
    private const WAYS = 24;

    /** How much of the page, at least, lies beyond a line that is worth its time. */
    private const WORTH = 0.05;

    /**
     * @param  list<int>  $label  shard of each polygon of the page, layer by layer
     * @param  float  $front  two distances along the sight
     * @return Bounds|null null when nothing cuts, or what cuts reaches everywhere
     */
    public static function of(Division $division, array $label, Sight $sight, float $front, float $back): ?Bounds
    {
        $cutting = self::cutting($division, $label);
        if ($cutting === []) {
            return null;
        }
        [$u, $v] = self::narrowest($cutting);
        $planes = $shards = [];
        foreach ([[$u, $v], [-$u, -$v], [-$v, $u], [$v, -$u]] as [$u, $v]) {
            $from = self::farthest($cutting, $u, $v);
            // Beyond it lies nothing that cuts, so all there is in one shard.
            $least = INF;
            $highest = -INF;
            $beyond = -1;
            foreach ($division->polygons as $n => $polygon) {
                foreach ($polygon as $p) {
                    $d = $u * $division->points[$p][0] + $v * $division->points[$p][1];
                    $least = min($least, $d);
                    if ($d > $highest) {
                        [$highest, $beyond] = [$d, $n];
                    }
                }
            }
            if ($highest - $from > self::WORTH * ($highest - $least)) {
                $planes[] = self::carried($sight, $u, $v, $from, $front, $back);
                $shards[] = $label[$beyond];
            }
        }

        return $planes === [] ? null : new Bounds($planes, $shards);
    }

    /**
     * The points of the page where facets part two shards.
     *
     * @param  list<int>  $label
     * @return array<int, array{float, float}>
     */
    private static function cutting(Division $division, array $label): array
    {
        $cutting = $edges = [];
        $polygons = count($division->polygons);
        for ($layer = 0; $layer < count($label); $layer += $polygons) {
            foreach ($division->polygons as $n => $polygon) {
                $isOther = $label[$layer + $n] !== $label[$n];
                $p = $polygon[count($polygon) - 1];
                foreach ($polygon as $q) {
                    $key = $p < $q ? $p << 32 | $q : $q << 32 | $p;
                    $of = $edges[$layer][$key] ??= $label[$layer + $n];
                    if ($isOther || $of !== $label[$layer + $n]) {
                        $cutting[$p] = $division->points[$p];
                        $cutting[$q] = $division->points[$q];
                    }
                    $p = $q;
                }
            }
        }

        return $cutting;
    }

    /**
     * @param  non-empty-array<int, array{float, float}>  $points
     * @return array{float, float} unit, across the narrowest strip
     */
    private static function narrowest(array $points): array
    {
        $narrowest = INF;
        $best = [0.0, 1.0];
        for ($k = 0; $k < self::WAYS; $k++) {
            [$u, $v] = [-sin($k * M_PI / self::WAYS), cos($k * M_PI / self::WAYS)];
            $width = self::farthest($points, $u, $v) + self::farthest($points, -$u, -$v);
            if ($width < $narrowest) {
                [$narrowest, $best] = [$width, [$u, $v]];
            }
        }

        return $best;
    }

    /** @param  array<int, array{float, float}>  $points */
    private static function farthest(array $points, float $u, float $v): float
    {
        $farthest = -INF;
        foreach ($points as [$pu, $pv]) {
            $farthest = max($farthest, $u * $pu + $v * $pv);
        }

        return $farthest;
    }

    /** @return array{float, float, float, float} the plane of a line of the page: unit normal towards the direction, and distance from the origin */
    private static function carried(Sight $sight, float $u, float $v, float $from, float $front, float $back): array
    {
        $a = $sight->place($u * $from, $v * $from, $front);
        $b = $sight->place($u * $from - $v, $v * $from + $u, $front);
        $c = $sight->place($u * $from, $v * $from, $back);
        [$x, $y, $z] = Direction::unit([
            ($b[1] - $a[1]) * ($c[2] - $a[2]) - ($b[2] - $a[2]) * ($c[1] - $a[1]),
            ($b[2] - $a[2]) * ($c[0] - $a[0]) - ($b[0] - $a[0]) * ($c[2] - $a[2]),
            ($b[0] - $a[0]) * ($c[1] - $a[1]) - ($b[1] - $a[1]) * ($c[0] - $a[0]),
        ]) ?? [$u * $sight->right[0] + $v * $sight->up[0], $u * $sight->right[1] + $v * $sight->up[1], $u * $sight->right[2] + $v * $sight->up[2]];
        $offset = $x * $a[0] + $y * $a[1] + $z * $a[2];
        $ahead = $sight->place($u * ($from + 1), $v * ($from + 1), $front);
        if ($x * $ahead[0] + $y * $ahead[1] + $z * $ahead[2] < $offset) {
            return [-$x, -$y, -$z, -$offset];
        }

        return [$x, $y, $z, $offset];
    }
}
