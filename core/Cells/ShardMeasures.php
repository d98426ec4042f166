<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Geometry\Box;

/** Volumes of shards and areas between them, before any of them is made. */
final class ShardMeasures
{
    /**
     * Volumes of the shards and areas of the facets between them, from the outlines alone, by the divergence theorem.
     *
     * @return array{array<int, float>, array<int, array<int, float>>} shard → mm³; shard → shard → mm²
     */
    public static function of(Overlay $overlay): array
    {
        $volumes = $areas = [];
        $xyz = $overlay->xyz;
        $all = $overlay->mesh->corners;
        // From the middle of the box: places far from the origin lose no digits.
        $o = array_map(static fn (float $low, float $high): float => ($low + $high) / 2, Box::of($overlay->mesh->xyz)->min, Box::of($overlay->mesh->xyz)->max);
        [$ox, $oy, $oz] = $o;
        foreach ($overlay->whole as $t => $of) {
            if ($of >= 0) {
                [$a, $b, $c] = [3 * $all[3 * $t], 3 * $all[3 * $t + 1], 3 * $all[3 * $t + 2]];
                $volumes[$of] = ($volumes[$of] ?? 0.0) + self::sixth($xyz, $a, $b, $c, $o) / 6;
            }
        }
        foreach ($overlay->parts as $parts) {
            foreach ($parts as $of => $edges) {
                $volumes[$of] = ($volumes[$of] ?? 0.0) + self::cone($xyz, $edges, $o);
            }
        }
        foreach ($overlay->caps as $f => $edges) {
            $cone = self::cone($xyz, $edges, $o);
            $behind = $overlay->complex->behind[$f] < 0 ? -1 : $overlay->complex->label[$overlay->complex->behind[$f]];
            $ahead = $overlay->complex->ahead[$f] < 0 ? -1 : $overlay->complex->label[$overlay->complex->ahead[$f]];
            $volumes[$behind] = ($volumes[$behind] ?? 0.0) + $cone;
            $volumes[$ahead] = ($volumes[$ahead] ?? 0.0) - $cone;
            [$nx, $ny, $nz] = array_slice($overlay->complex->planes, 4 * $f, 3);
            $area = 0.0;
            foreach ($edges as [$p, $q]) {
                $p *= 3;
                $q *= 3;
                $px = $xyz[$p] - $ox;
                $py = $xyz[$p + 1] - $oy;
                $pz = $xyz[$p + 2] - $oz;
                $qx = $xyz[$q] - $ox;
                $qy = $xyz[$q + 1] - $oy;
                $qz = $xyz[$q + 2] - $oz;
                $area += ($nx * ($py * $qz - $pz * $qy) + $ny * ($pz * $qx - $px * $qz) + $nz * ($px * $qy - $py * $qx)) / 2;
            }
            $areas[$behind][$ahead] = $areas[$ahead][$behind] = ($areas[$behind][$ahead] ?? 0.0) + $area;
        }
        unset($volumes[-1], $areas[-1]);

        return [$volumes, $areas];
    }

    /**
     * Volume of the cone from a place to a flat outline.
     *
     * @param  list<float>  $xyz
     * @param  list<array{int, int}>  $edges
     * @param  array<float>  $o
     */
    private static function cone(array $xyz, array $edges, array $o): float
    {
        [$ox, $oy, $oz] = $o;
        $from = 3 * $edges[0][0];
        $ax = $xyz[$from] - $ox;
        $ay = $xyz[$from + 1] - $oy;
        $az = $xyz[$from + 2] - $oz;
        $sum = 0.0;
        foreach ($edges as [$p, $q]) {
            $p *= 3;
            $q *= 3;
            if ($p === $from || $q === $from) {
                continue;
            }
            $bx = $xyz[$p] - $ox;
            $by = $xyz[$p + 1] - $oy;
            $bz = $xyz[$p + 2] - $oz;
            $cx = $xyz[$q] - $ox;
            $cy = $xyz[$q + 1] - $oy;
            $cz = $xyz[$q + 2] - $oz;
            $sum += $ax * ($by * $cz - $bz * $cy) + $ay * ($bz * $cx - $bx * $cz) + $az * ($bx * $cy - $by * $cx);
        }

        return $sum / 6;
    }

    /**
     * @param  list<float>  $xyz
     * @param  array<float>  $o
     */
    private static function sixth(array $xyz, int $a, int $b, int $c, array $o): float
    {
        $ax = $xyz[$a] - $o[0];
        $ay = $xyz[$a + 1] - $o[1];
        $az = $xyz[$a + 2] - $o[2];
        $bx = $xyz[$b] - $o[0];
        $by = $xyz[$b + 1] - $o[1];
        $bz = $xyz[$b + 2] - $o[2];
        $cx = $xyz[$c] - $o[0];
        $cy = $xyz[$c + 1] - $o[1];
        $cz = $xyz[$c + 2] - $o[2];

        return $ax * ($by * $cz - $bz * $cy) + $ay * ($bz * $cx - $bx * $cz) + $az * ($bx * $cy - $by * $cx);
    }
}
