<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Closure;
use Isotome\Mesh\Mesh;

/**
 * Which of several meshes overlap or touch face to face, by how much, and the places where a rule holds: all from one arrangement, before anything is made.
 *
 * Guarantees, for closed meshes in any position: the same decisions as Combined takes, so a pair is told exactly when uniting the two would join them. Volumes and areas
 * are those of faces with rounded corners: right to about 1e-12 of the meshes' own.
 *
 * Source: cells and winding numbers, Q. Zhou, E. Grinspun, D. Zorin, A. Jacobson, "Mesh arrangements for solid geometry" (2016); volumes by the divergence theorem.
 */
final readonly class Overlaps
{
    /**
     * @param  list<array{int, int, float, float}>  $pairs  the numbers of two meshes, the lower first; their common volume in mm³ and, where they touch from outside, the common area in
     *     mm². The largest volume first
     * @param  float  $volume  of the places where the rule holds, mm³
     * @param  list<float>  $surface  of the places to be shown: 9 coordinates a triangle, outward
     */
    private function __construct(
        public array $pairs,
        public float $volume,
        public array $surface,
    ) {
    }

    /**
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(list<int>): bool  $rule  of the winding numbers at a place, see Combined
     * @param  Closure(list<int>): bool  $shown  where the surface is wanted
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     */
    public static function of(array $meshes, Closure $rule, Closure $shown, ?Closure $progress = null): self
    {
        $try = new SecondTry($progress);

        return self::told(Survey::near($meshes, $try->first()) ?? Survey::of($meshes, $try->second()), $rule, $shown);
    }

    /**
     * From a survey that is there.
     *
     * @param  Closure(list<int>): bool  $rule
     * @param  Closure(list<int>): bool  $shown
     */
    public static function told(Survey $survey, Closure $rule, Closure $shown): self
    {
        $volumes = $areas = $surface = [];
        $volume = 0.0;
        $origin = self::origin($survey->all);
        $farOf = $survey->farOf();
        foreach ($survey->patches->patches as $n => $patch) {
            [$before, $behind] = [$survey->before[$n], $survey->behind[$n]];
            $way = self::sign($shown($behind), $shown($before));
            $all = [[$survey->all->points->xyz, $survey->all->corners, $patch]];
            foreach ($farOf[$n] ?? [] as $m => $triangles) {
                $mesh = $survey->far?->meshes[$m] ?? null;
                $all[] = [$mesh->xyz ?? [], $mesh->corners ?? [], $triangles];
            }
            $six = $area = 0.0;
            foreach ($all as [$xyz, $corners, $triangles]) {
                [$ownSix, $ownArea] = self::measures($xyz, $corners, $triangles, $origin);
                $six += $ownSix;
                $area += $ownArea;
                if ($way !== 0) {
                    self::faces($xyz, $corners, $triangles, $way < 0, $surface);
                }
            }
            $volume += self::sign($rule($behind), $rule($before)) * $six / 6;
            self::pairs($before, $behind, $six / 6, $area, $volumes, $areas);
        }

        return new self(self::sorted($volumes, $areas), $volume, $surface);
    }

    /** @return int 1 where a patch bounds what is behind it, −1 where it bounds what is before it, else 0 */
    private static function sign(bool $isBehind, bool $isBefore): int
    {
        return (int) $isBehind - (int) $isBefore;
    }

    /**
     * Adds what a patch tells of every two meshes.
     *
     * @param  list<int>  $before  how often each winds before the patch
     * @param  list<int>  $behind
     * @param  float  $cone  volume between the patch and the origin
     * @param  array<int, float>  $volumes  by both numbers, in 32 bits each
     * @param  array<int, float>  $areas
     */
    private static function pairs(array $before, array $behind, float $cone, float $area, array &$volumes, array &$areas): void
    {
        $wasIn = array_map(static fn (int $times): bool => $times > 0, $before);
        $isIn = array_map(static fn (int $times): bool => $times > 0, $behind);
        $near = array_keys(array_filter($wasIn, static fn (bool $was, int $n): bool => $was || $isIn[$n], ARRAY_FILTER_USE_BOTH));
        foreach ($near as $k => $i) {
            foreach (array_slice($near, $k + 1) as $j) {
                $key = $i << 32 | $j;
                $sign = self::sign($isIn[$i] && $isIn[$j], $wasIn[$i] && $wasIn[$j]);
                if ($sign !== 0) {
                    $volumes[$key] = ($volumes[$key] ?? 0.0) + $sign * $cone;
                } elseif ($wasIn[$i] !== $wasIn[$j] && $wasIn[$i] === $isIn[$j] && $wasIn[$j] === $isIn[$i]) {
                    // The one ends where the other begins.
                    $areas[$key] = ($areas[$key] ?? 0.0) + $area;
                }
            }
        }
    }

    /** @return array{float, float, float} a place from which volumes are measured: one far from the origin of the axes costs no digits */
    private static function origin(Arrangement $all): array
    {
        $o = 3 * ($all->corners[0] ?? 0);

        return [$all->points->xyz[$o] ?? 0.0, $all->points->xyz[$o + 1] ?? 0.0, $all->points->xyz[$o + 2] ?? 0.0];
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @param  list<int>  $triangles
     * @param  array{float, float, float}  $origin
     * @return array{float, float} six times the volume between the triangles and the origin; their area
     */
    private static function measures(array $xyz, array $corners, array $triangles, array $origin): array
    {
        [$ox, $oy, $oz] = $origin;
        $six = $area = 0.0;
        foreach ($triangles as $t) {
            $a = 3 * $corners[3 * $t];
            $b = 3 * $corners[3 * $t + 1];
            $c = 3 * $corners[3 * $t + 2];
            $ux = $xyz[$b] - $xyz[$a];
            $uy = $xyz[$b + 1] - $xyz[$a + 1];
            $uz = $xyz[$b + 2] - $xyz[$a + 2];
            $vx = $xyz[$c] - $xyz[$a];
            $vy = $xyz[$c + 1] - $xyz[$a + 1];
            $vz = $xyz[$c + 2] - $xyz[$a + 2];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $six += ($xyz[$a] - $ox) * $nx + ($xyz[$a + 1] - $oy) * $ny + ($xyz[$a + 2] - $oz) * $nz;
            $area += sqrt($nx * $nx + $ny * $ny + $nz * $nz) / 2;
        }

        return [$six, $area];
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @param  list<int>  $triangles
     * @param  list<float>  $surface  they are added to it
     */
    private static function faces(array $xyz, array $corners, array $triangles, bool $isTurned, array &$surface): void
    {
        foreach ($triangles as $t) {
            foreach ($isTurned ? [0, 2, 1] : [0, 1, 2] as $k) {
                $v = 3 * $corners[3 * $t + $k];
                array_push($surface, $xyz[$v], $xyz[$v + 1], $xyz[$v + 2]);
            }
        }
    }

    /**
     * @param  array<int, float>  $volumes
     * @param  array<int, float>  $areas
     * @return list<array{int, int, float, float}>
     */
    private static function sorted(array $volumes, array $areas): array
    {
        $pairs = [];
        foreach ($volumes + $areas as $key => $_) {
            $pairs[] = [$key >> 32, $key & 0xFFFFFFFF, max(0.0, $volumes[$key] ?? 0.0), $areas[$key] ?? 0.0];
        }
        usort($pairs, static fn (array $a, array $b): int => [$b[2], $b[3], $a[0], $a[1]] <=> [$a[2], $a[3], $b[0], $b[1]]);

        return $pairs;
    }
}
