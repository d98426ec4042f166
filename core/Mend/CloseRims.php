<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Closure;
use Isotome\Check\Rims;
use Isotome\Mesh\Mesh;
use Isotome\Seal\RimTriangulation;

/**
 * Closes rims, each with the triangles that fit its direction.
 *
 * Rims in one plane are closed together and exactly, holes in them recognised, with their own points (SweepTriangulation). Other rims
 * get the triangulation of smallest area, refined to the edge length around (SmallestSurface, RefinePatch). A rim that
 * cannot be closed without an edge of more than two faces stays open and is counted. New faces carry the given tag.
 */
final class CloseRims
{
    /** A rim is planar when no point is farther from its plane than this share of its extent. */
    private const PLANAR = 1e-6;

    /**
     * @param  list<int>|null  $which  rims by their place in Rims; all when null
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @return array{mesh: Mesh, closed: int, added: int, left: int} rims closed, triangles added, rims that stay open
     */
    public static function of(Mesh $mesh, ?array $which = null, int $tag = 0, ?Closure $progress = null): array
    {
        $rims = Rims::of($mesh)->list;
        $chosen = $which === null ? $rims : array_values(array_intersect_key($rims, array_fill_keys($which, true)));
        $loops = [];
        $left = 0;
        foreach ($chosen as $rim) {
            if ($rim['closed'] && count($rim['vertices']) > 2) {
                $loops[] = $rim['vertices'];
            } else {
                $left++;
            }
        }
        if ($loops === []) {
            return ['mesh' => $mesh, 'closed' => 0, 'added' => 0, 'left' => $left];
        }
        $xyz = $mesh->xyz;
        [$edges, $length] = self::surroundings($mesh, $loops);
        $added = [];
        $closed = 0;
        $done = 0;
        $all = array_sum(array_map(count(...), $loops));
        foreach (self::groups($xyz, $loops) as $group) {
            $flat = $group['planar'] ? self::planar($xyz, $group['loops'], $group['normal'], $edges) : null;
            if ($flat !== null) {
                $done += array_sum(array_map(count(...), $group['loops']));
                array_push($added, ...$flat);
                $closed += count($group['loops']);
                self::enter($edges, $flat);

                continue;
            }
            foreach ($group['loops'] as $loop) {
                $within = static fn (float $share) => $progress === null ? null : $progress(($done + $share * count($loop)) / $all);
                $within(0.0);
                $alone = count($group['loops']) > 1 && $group['planar'] ? self::planar($xyz, [$loop], $group['normal'], $edges) : null;
                $triangles = $alone ?? self::patch($xyz, $loop, $edges, $group['planar'] ? null : $length, $within);
                if ($triangles === null) {
                    $left++;

                    continue;
                }
                array_push($added, ...$triangles);
                self::enter($edges, $triangles);
                $closed++;
                $done += count($loop);
            }
        }
        $count = intdiv(count($added), 3);

        return [
            'mesh' => Mesh::of($xyz, [...$mesh->corners, ...$added], [...$mesh->tags, ...($count === 0 ? [] : array_fill(0, $count, $tag))]),
            'closed' => $closed, 'added' => $count, 'left' => $left,
        ];
    }

    /**
     * @param  list<list<int>>  $loops
     * @return array{array<int, array<int, true>>, array<int, float>} edges at the rims' vertices by either end, and their mean length there
     */
    private static function surroundings(Mesh $mesh, array $loops): array
    {
        $on = [];
        foreach ($loops as $loop) {
            foreach ($loop as $v) {
                $on[$v] = true;
            }
        }
        $edges = [];
        foreach ($mesh->corners as $h => $a) {
            $b = $mesh->corners[$h % 3 === 2 ? $h - 2 : $h + 1];
            if (isset($on[$a])) {
                $edges[$a][$b] = true;
            }
            if (isset($on[$b])) {
                $edges[$b][$a] = true;
            }
        }
        $length = [];
        foreach ($edges as $v => $ends) {
            $sum = 0.0;
            foreach ($ends as $w => $_) {
                $sum += sqrt(($mesh->xyz[3 * $v] - $mesh->xyz[3 * $w]) ** 2 + ($mesh->xyz[3 * $v + 1] - $mesh->xyz[3 * $w + 1]) ** 2 + ($mesh->xyz[3 * $v + 2] - $mesh->xyz[3 * $w + 2]) ** 2);
            }
            $length[$v] = $sum / count($ends);
        }

        return [$edges, $length];
    }

    /**
     * The smallest surface on one rim, refined; worked out on the rim's own vertices, so that it costs the same in a large mesh.
     *
     * @param  list<float>  $xyz  new vertices are added
     * @param  list<int>  $loop
     * @param  array<int, array<int, true>>  $edges
     * @param  array<int, float>|null  $length  the edge length to refine to; null when it is not refined
     * @param  Closure(float): void  $progress
     * @return list<int>|null
     */
    private static function patch(array &$xyz, array $loop, array $edges, ?array $length, Closure $progress): ?array
    {
        $number = $vertices = $near = $line = $wanted = [];
        foreach ($loop as $v) {
            if (! isset($number[$v])) {
                $number[$v] = count($vertices);
                $vertices[] = $v;
                array_push($near, $xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]);
                $wanted[] = $length[$v] ?? 0.0;
            }
            $line[] = $number[$v];
        }
        $known = [];
        foreach ($vertices as $n => $v) {
            foreach ($edges[$v] ?? [] as $w => $_) {
                if (isset($number[$w])) {
                    $known[$n][$number[$w]] = true;
                }
            }
        }
        $triangles = SmallestSurface::of($near, $line, $known, $progress);
        if ($triangles === null) {
            return null;
        }
        if ($length !== null) {
            [$near, $triangles] = RefinePatch::of($near, $triangles, $wanted, $known, $progress);
        }
        $first = intdiv(count($xyz), 3) - count($vertices);
        for ($i = 3 * count($vertices), $count = count($near); $i < $count; $i++) {
            $xyz[] = $near[$i];
        }

        return array_map(static fn (int $n): int => $vertices[$n] ?? $first + $n, $triangles);
    }

    /**
     * @param  array<int, array<int, true>>  $edges
     * @param  list<int>  $triangles
     */
    private static function enter(array &$edges, array $triangles): void
    {
        foreach ($triangles as $h => $a) {
            $b = $triangles[$h % 3 === 2 ? $h - 2 : $h + 1];
            $edges[$a][$b] = true;
            $edges[$b][$a] = true;
        }
    }

    /**
     * Planar rims of one plane together, every other rim for itself.
     *
     * @param  list<float>  $xyz
     * @param  list<list<int>>  $loops
     * @return list<array{loops: list<list<int>>, planar: bool, normal: array{float, float, float}}>
     */
    private static function groups(array $xyz, array $loops): array
    {
        $groups = [];
        foreach ($loops as $loop) {
            [$normal, $offset, $deviation, $extent] = self::plane($xyz, $loop);
            if ($deviation > self::PLANAR * $extent) {
                $groups[] = ['loops' => [$loop], 'planar' => false, 'normal' => $normal, 'offset' => $offset, 'extent' => $extent];

                continue;
            }
            foreach ($groups as $g => $group) {
                $same = $normal[0] * $group['normal'][0] + $normal[1] * $group['normal'][1] + $normal[2] * $group['normal'][2];
                if ($group['planar'] && abs(abs($same) - 1) < 1e-9 && abs($offset * ($same > 0 ? 1 : -1) - $group['offset']) <= self::PLANAR * max($extent, $group['extent'])) {
                    $group['loops'][] = $loop;
                    $groups[$g] = $group;

                    continue 2;
                }
            }
            $groups[] = ['loops' => [$loop], 'planar' => true, 'normal' => $normal, 'offset' => $offset, 'extent' => $extent];
        }

        return array_values(array_map(static fn (array $group): array => ['loops' => $group['loops'], 'planar' => $group['planar'], 'normal' => $group['normal']], $groups));
    }

    /**
     * Normal by M. E. Newell's method (I. Sutherland, R. Sproull, R. Schumacker 1974), from the first point.
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $loop
     * @return array{array{float, float, float}, float, float, float} normal, offset, largest deviation, extent
     */
    private static function plane(array $xyz, array $loop): array
    {
        [$ox, $oy, $oz] = [$xyz[3 * $loop[0]], $xyz[3 * $loop[0] + 1], $xyz[3 * $loop[0] + 2]];
        $n = [0.0, 0.0, 0.0];
        $extent = 0.0;
        $p = $loop[count($loop) - 1];
        foreach ($loop as $q) {
            [$px, $py, $pz] = [$xyz[3 * $p] - $ox, $xyz[3 * $p + 1] - $oy, $xyz[3 * $p + 2] - $oz];
            [$qx, $qy, $qz] = [$xyz[3 * $q] - $ox, $xyz[3 * $q + 1] - $oy, $xyz[3 * $q + 2] - $oz];
            $n[0] += $py * $qz - $pz * $qy;
            $n[1] += $pz * $qx - $px * $qz;
            $n[2] += $px * $qy - $py * $qx;
            $extent = max($extent, abs($qx), abs($qy), abs($qz));
            $p = $q;
        }
        $size = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);
        if ($size <= 1e-12 * $extent * $extent) {
            return [[0.0, 0.0, 1.0], 0.0, INF, $extent];
        }
        $n = [$n[0] / $size, $n[1] / $size, $n[2] / $size];
        $offset = $n[0] * $ox + $n[1] * $oy + $n[2] * $oz;
        $deviation = 0.0;
        foreach ($loop as $q) {
            $deviation = max($deviation, abs($n[0] * ($xyz[3 * $q] - $ox) + $n[1] * ($xyz[3 * $q + 1] - $oy) + $n[2] * ($xyz[3 * $q + 2] - $oz)));
        }

        return [$n, $offset, $deviation, $extent];
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<list<int>>  $loops
     * @param  array{float, float, float}  $normal
     * @param  array<int, array<int, true>>  $edges
     * @return list<int>|null null when the rims cross each other on the page, or a chord is an edge already
     */
    private static function planar(array $xyz, array $loops, array $normal, array $edges): ?array
    {
        [$nx, $ny, $nz] = [abs($normal[0]), abs($normal[1]), abs($normal[2])];
        [$u, $v] = $nz >= $nx && $nz >= $ny ? [0, 1] : ($nx >= $ny ? [1, 2] : [2, 0]);
        $x = $y = $from = $to = $rim = [];
        foreach ($loops as $loop) {
            $p = $loop[count($loop) - 1];
            foreach ($loop as $q) {
                $x[$q] = $xyz[3 * $q + $u];
                $y[$q] = $xyz[3 * $q + $v];
                $from[] = $p;
                $to[] = $q;
                $rim[min($p, $q)][max($p, $q)] = true;
                $p = $q;
            }
        }
        $flat = RimTriangulation::of($x, $y, $from, $to);
        if (! $flat->sound || $flat->unclosed !== [] || $flat->triangles === []) {
            return null;
        }
        foreach ($flat->triangles as $h => $a) {
            $b = $flat->triangles[$h % 3 === 2 ? $h - 2 : $h + 1];
            if (isset($edges[$a][$b]) && ! isset($rim[min($a, $b)][max($a, $b)])) {
                return null;
            }
        }

        return $flat->triangles;
    }
}
