<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Closure;
use Isotome\Mesh\Mesh;

/**
 * Meshes in one space, in patches, and how often each of them winds on either side of every patch: of all triangles, or of large meshes of which little meets only of those that another shell comes near. What hangs together
 * of the others is then told by a patch that it goes on from.
 *
 * Guarantees for near triangles alone, of closed meshes without edges of more than two faces: every decision is that of an arrangement of all. Where a mesh crosses itself near others, winds in any other way than once
 * where it goes on, or anything else is out of the ordinary, there is no such survey. What crosses itself away from all other meshes is not seen.
 *
 * Source: classifying what hangs together by one ray, G. Cherchi, F. Pellacini, M. Attene, M. Livesu, "Interactive and robust mesh booleans" (2022); common practice.
 */
final readonly class Survey
{
    /** Triangles altogether, below which all are arranged. */
    private const LEAST = 8_000;

    /** Share of them that may be near. */
    private const NEAR = 0.5;

    /**
     * @param  Arrangement  $all  of all triangles, or of the near ones
     * @param  list<list<int>>  $before  of each patch, how often each mesh winds before it
     * @param  list<list<int>>  $behind  and behind it
     * @param  Far|null  $far  the triangles that are not near; null when all are arranged
     * @param  array<int, int>  $patchOf  of each far part, a patch that looks the same way, on whose sides all winds as on its own
     * @param  array<int, array<int, int>>  $pointOf  by mesh and vertex, the points where near and far triangles meet
     */
    private function __construct(
        public Arrangement $all,
        public Patches $patches,
        public array $before,
        public array $behind,
        public ?Far $far = null,
        public array $patchOf = [],
        public array $pointOf = [],
    ) {
    }

    /**
     * Of all triangles.
     *
     * @param  list<Mesh>  $meshes
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     */
    public static function of(array $meshes, ?Closure $progress): self
    {
        $all = Arrangement::of($meshes, $progress === null ? null : static fn (float $share) => $progress(0.8 * $share));

        return self::arranged($all, count($meshes), $progress);
    }

    /**
     * Of an arrangement that is there.
     *
     * @param  Closure(float): void|null  $progress
     */
    public static function arranged(Arrangement $all, int $meshes, ?Closure $progress): self
    {
        $windings = new Windings($all, $meshes);
        $patches = Patches::of($all, $windings);
        $before = $behind = [];
        foreach ($patches->patches as $n => [$t]) {
            $progress === null ?: $progress(0.8 + 0.2 * $n / count($patches->patches));
            $before[] = $windings->before($t);
            $behind[] = self::sum($before[$n], $windings->between($t));
        }

        return new self($all, $patches, $before, $behind);
    }

    /**
     * Of near triangles.
     *
     * @param  non-empty-list<Mesh>  $meshes
     * @param  Closure(float): void|null  $progress
     * @param  int  $least  triangles altogether
     * @param  float  $most  share of them that may be near
     * @param  int  $whole  from this mesh on all triangles are taken for near, and do not count
     */
    public static function near(array $meshes, ?Closure $progress, int $least = self::LEAST, float $most = self::NEAR, int $whole = PHP_INT_MAX): ?self
    {
        $counted = array_slice($meshes, 0, $whole);
        $triangles = array_sum(array_map(static fn (Mesh $mesh): int => $mesh->triangleCount(), $counted));
        if (count($meshes) < 2 || $triangles < $least) {
            return null;
        }
        $near = Near::of($meshes);
        if ($near === null || array_sum(array_map(count(...), array_slice($near, 0, $whole))) > $most * $triangles) {
            return null;
        }
        foreach (array_slice($meshes, count($counted)) as $n => $mesh) {
            $near[count($counted) + $n] = array_keys($mesh->tags);
        }
        $progress === null ?: $progress(0.05);
        $far = Far::of($meshes, array_values($near));
        $progress === null ?: $progress(0.1);
        $all = Arrangement::of(array_map($far->active(...), array_keys($meshes)), $progress === null ? null : static fn (float $share) => $progress(0.1 + 0.6 * $share));
        if ($all->isSelfMet) {
            return null;
        }
        $windings = new Windings($all, count($meshes), $far);
        $patches = Patches::of($all, $windings);
        [$pointOf, $border] = self::meeting($all, $far, $patches);
        $together = $border === null ? null : self::together($all, $patches, $border);
        if ($together === null) {
            return null;
        }
        [$root, $patchOf, $isTurned] = $together;
        $hasFar = [];
        foreach ($patchOf as $n) {
            $hasFar[$root[$n]] = true;
        }
        /** @var list<list<int>> $before */
        $before = [];
        /** @var list<list<int>> $behind */
        $behind = [];
        foreach ($root as $n => $r) {
            $progress === null ?: $progress(0.7 + 0.2 * $n / count($root));
            if ($r < $n) {
                $isOpposite = isset($isTurned[$n]) !== isset($isTurned[$r]);
                $before[] = $isOpposite ? $behind[$r] : $before[$r];
                $behind[] = $isOpposite ? $before[$r] : $behind[$r];

                continue;
            }
            [$t] = $patches->patches[$n];
            $more = $windings->between($t);
            $before[] = $windings->before($t);
            $behind[] = self::sum($before[$n], $more);
            if (isset($hasFar[$n]) && ! self::isSimple($before[$n], $more)) {
                return null;
            }
        }

        return new self($all, $patches, $before, $behind, $far, $patchOf, $pointOf);
    }

    /**
     * @param  list<int>  $one
     * @param  list<int>  $more
     * @return list<int>
     */
    private static function sum(array $one, array $more): array
    {
        return array_map(static fn (int $a, int $b): int => $a + $b, $one, $more);
    }

    /**
     * What a rule takes.
     *
     * @param  Closure(list<int>): bool  $rule  of the winding numbers at a place
     * @return list<bool|null> of each patch, whether the rule holds before it and not behind (then it is turned over), or the other way round; null for neither
     */
    public function taken(Closure $rule): array
    {
        $taken = [];
        foreach ($this->before as $n => $before) {
            $isBefore = $rule($before);
            // Outward is where the rule does not hold.
            $taken[] = $isBefore === $rule($this->behind[$n]) ? null : $isBefore;
        }

        return $taken;
    }

    /** @return array<int, int> the points where near and far triangles meet */
    public function border(): array
    {
        $border = [];
        foreach ($this->pointOf as $points) {
            $border += array_flip($points);
        }

        return $border;
    }

    /** @return array<int, array<int, list<int>>> by patch and mesh, the far triangles on whose sides all winds as on the patch's */
    public function farOf(): array
    {
        $of = [];
        foreach ($this->far->meshes ?? [] as $m => $mesh) {
            $isNear = $this->far->isNear[$m] ?? [];
            $partOf = $this->far->partOf[$m] ?? [];
            foreach ($mesh->tags as $t => $_) {
                if (! $isNear[$t]) {
                    $of[$this->patchOf[$partOf[$mesh->corners[3 * $t]]]][$m][] = $t;
                }
            }
        }

        return $of;
    }

    /**
     * The points that near and far triangles share.
     *
     * @return array{array<int, array<int, int>>, array<int, int>|null} by mesh, points by vertices; far parts by points, null when there is something else at one of them
     */
    private static function meeting(Arrangement $all, Far $far, Patches $patches): array
    {
        $border = $pointOf = $meshAt = [];
        foreach ($all->mesh as $n => $m) {
            $t = 3 * $far->near[$m][$all->source[$n]];
            for ($k = 0; $k < 3; $k++) {
                $v = $far->meshes[$m]->corners[$t + $k];
                $part = $far->border[$m][$v] ?? -1;
                if ($part < 0) {
                    continue;
                }
                $point = $all->given[3 * $n + $k];
                if (isset($all->joined[$point]) || isset($patches->crowded[$point]) || ($border[$point] ?? $part) !== $part || ($meshAt[$point] ?? $m) !== $m) {
                    return [[], null];
                }
                $border[$point] = $part;
                $meshAt[$point] = $m;
                $pointOf[$m][$v] = $point;
            }
        }

        return [$pointOf, $border];
    }

    /**
     * Patches that are joined by far parts, and by patches with these again.
     *
     * @param  array<int, int>  $border
     * @return array{list<int>, array<int, int>, array<int, true>}|null the lowest patch that each patch is joined with; of each far part that has a border, a patch that looks the way the far part does;
     *     the patches that look the other way: in a plane that several triangles share, all look the same way
     */
    private static function together(Arrangement $all, Patches $patches, array $border): ?array
    {
        $root = array_keys($patches->patches);
        $patchOf = $isTurned = $parts = [];
        $find = static function (int $n) use (&$root): int {
            while ($root[$n] !== $n) {
                $n = $root[$n] = $root[$root[$n]];
            }

            return $n;
        };
        foreach ($patches->patches as $n => $patch) {
            foreach ($patch as $t) {
                for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                    $part = $border[$all->corners[$k]] ?? -1;
                    if ($part < 0) {
                        continue;
                    }
                    if (isset($all->more[$t])) {
                        return null;
                    }
                    if ($all->part[$t] < 0) {
                        $isTurned[$n] = true;
                    } else {
                        $patchOf[$part] ??= $n;
                    }
                    $one = $find($n);
                    $two = $find($parts[$part] ??= $n);
                    $root[max($one, $two)] = min($one, $two);
                }
            }
        }
        if (count($patchOf) < count($parts)) {
            return null;
        }

        return [array_map($find, array_keys($root)), $patchOf, $isTurned];
    }

    /**
     * Of a single mesh, which does not wind before it and winds once behind; or turned over.
     *
     * @param  list<int>  $before
     * @param  list<int>  $more
     */
    private static function isSimple(array $before, array $more): bool
    {
        foreach ($more as $m => $one) {
            if ($one !== 0 && ($before[$m] !== ($one > 0 ? 0 : 1) || abs($one) !== 1)) {
                return false;
            }
        }

        return array_filter($more) !== [];
    }
}
