<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Isotome\Geometry\Box;
use Isotome\Geometry\Direction;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\TriangleAreas;
use Isotome\Mesh\Volume;

/**
 * The faces on which a closed body can stand, the best first.
 *
 * A body stands on a face of its convex hull. It is stable when its centre of mass is above the polygon that its supports span, and the margin is the least angle by which it must be tilted to fall over an edge
 * of that polygon (common practice in mechanics). Overhang is skin that looks down within the limit, measured from straight down, and is not on the bed (common practice in printing: 45°).
 */
final class Rests
{
    /** Of so many faces, those with the largest support, all is worked out. */
    private const MOST = 12;

    /** Roughly, of so many columns along each axis and so many triangles. */
    private const COLUMNS = 9;

    private const SOME = 1_200;

    /** So many places of a page are all sorted; of more, what is well within eight of them is left out first. */
    private const FEW = 200;

    /** Triangles of the hull are one face when they look the same way within this. */
    private const ALIKE = 0.2;

    /** What lies this near to the lowest plane lies on it: a share of the size, as flat faces come from files with single numbers. */
    public const ON = 2e-5;

    /** Degrees from an axis that are taken for rounding. */
    private const AXIS = 0.01;

    /** Degrees of margin beyond which more is no better. */
    private const ENOUGH = 10.0;

    /**
     * @param  Mesh  $mesh  closed
     * @param  float  $limit  degrees
     * @return list<Rest> none when it is flat
     */
    public static function of(Mesh $mesh, float $limit = 45.0): array
    {
        return self::best($mesh, Hull::of($mesh->xyz), $mesh, $limit);
    }

    /**
     * The same quickly, for many pieces at a time: faces of the hull of some hundred points, and overhang of some of the triangles.
     *
     * @param  Mesh  $mesh  closed
     * @return list<Rest> none when it is flat
     */
    public static function roughly(Mesh $mesh): array
    {
        $points = self::outermost($mesh->xyz);
        $xyz = [];
        foreach ($points as $v) {
            array_push($xyz, $mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]);
        }
        $corners = [];
        $step = max(1, intdiv($mesh->triangleCount(), self::SOME));
        for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t += $step) {
            array_push($corners, $mesh->corners[3 * $t], $mesh->corners[3 * $t + 1], $mesh->corners[3 * $t + 2]);
        }

        return self::best($mesh, array_map(static fn (int $n): int => $points[$n], Hull::of($xyz)), Mesh::of($mesh->xyz, $corners), 45.0);
    }

    /**
     * Of each column of a grid along each axis the first and the last point.
     *
     * @param  list<float>  $xyz
     * @return list<int> their numbers; all of few
     */
    private static function outermost(array $xyz): array
    {
        $count = intdiv(count($xyz), 3);
        if ($count < 6 * self::COLUMNS ** 2) {
            return range(0, max(0, $count - 1));
        }
        $box = Box::of($xyz);
        $scale = array_map(static fn (float $side): float => $side > 0.0 ? (self::COLUMNS - 1e-6) / $side : 0.0, $box->size());
        $ends = [];
        for ($v = 0; $v < $count; $v++) {
            $at = [$xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]];
            $cell = [(int) (($at[0] - $box->min[0]) * $scale[0]), (int) (($at[1] - $box->min[1]) * $scale[1]), (int) (($at[2] - $box->min[2]) * $scale[2])];
            foreach ([[0, 1, 2], [1, 2, 0], [2, 0, 1]] as [$k, $i, $j]) {
                $key = ($k * self::COLUMNS + $cell[$i]) * self::COLUMNS + $cell[$j];
                if (! isset($ends[$key])) {
                    $ends[$key] = [$v, $v];
                } elseif ($at[$k] < $xyz[3 * $ends[$key][0] + $k]) {
                    $ends[$key][0] = $v;
                } elseif ($at[$k] > $xyz[3 * $ends[$key][1] + $k]) {
                    $ends[$key][1] = $v;
                }
            }
        }
        $points = [];
        foreach ($ends as [$first, $last]) {
            $points[$first] = true;
            $points[$last] = true;
        }
        ksort($points);

        return array_keys($points);
    }

    /**
     * @param  list<int>  $hull  corners of its triangles
     * @param  Mesh  $some  those of its triangles by which overhang is judged
     * @return list<Rest>
     */
    private static function best(Mesh $mesh, array $hull, Mesh $some, float $limit): array
    {
        $facings = self::faces($mesh->xyz, $hull);
        if ($facings === []) {
            return [];
        }
        $measures = Volume::measure($mesh);
        $area = $some === $mesh ? $measures->area : array_sum(TriangleAreas::of($some));
        $vertices = [];
        foreach ($hull as $v) {
            $vertices[$v] = [$mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]];
        }
        $diagonal = Box::of(array_merge(...$vertices))->diagonal();
        $rests = [];
        foreach ($facings as $facing) {
            $rests[] = self::rest(array_values($vertices), $facing, $measures->centroid, self::ON * $diagonal);
        }
        usort($rests, static fn (Rest $a, Rest $b): int => $b->isStable() <=> $a->isStable() ?: $b->footprint <=> $a->footprint);
        $rests = array_slice($rests, 0, self::MOST);
        $corners = array_merge(...array_values($vertices));
        $overhangs = self::overhangs($some, array_map(static fn (Rest $rest): array => $rest->facing, $rests), $limit, self::ON * $diagonal, array_map(static fn (Rest $rest): float => self::reach($corners, $rest->facing), $rests));
        $rests = array_map(static fn (Rest $rest, float $overhang): Rest => new Rest($rest->facing, $rest->footprint, $rest->margin, $rest->height, $overhang), $rests, $overhangs);
        $cost = static fn (Rest $rest): float => ($rest->overhang / $area - 0.5 * $rest->footprint / $measures->area) + 0.5 * $rest->height / $diagonal - min($rest->margin, self::ENOUGH) / self::ENOUGH;
        usort($rests, static fn (Rest $a, Rest $b): int => $b->isStable() <=> $a->isStable() ?: $cost($a) <=> $cost($b));

        return $rests;
    }

    /**
     * The first of several, and of the others those that look another way than all before them.
     *
     * @param  list<Rest>  $rests
     * @param  float  $apart  degrees
     * @return list<Rest>
     */
    public static function apart(array $rests, float $apart): array
    {
        $most = cos(deg2rad($apart));
        $kept = [];
        foreach ($rests as $rest) {
            foreach ($kept as $other) {
                if (self::along($rest->facing, $other->facing) > $most) {
                    continue 2;
                }
            }
            $kept[] = $rest;
        }

        return $kept;
    }

    /**
     * How it stands when a direction is below; without overhang.
     *
     * @param  array{float, float, float}  $facing
     */
    public static function on(Mesh $mesh, array $facing): Rest
    {
        $xyz = array_chunk($mesh->xyz, 3);
        $places = array_map(static fn (array $at): array => [$at[0], $at[1], $at[2]], $xyz);

        return self::rest($places, Direction::unit($facing) ?? [0.0, 0.0, -1.0], Volume::measure($mesh)->centroid, self::ON * Box::of($mesh->xyz)->diagonal());
    }

    /**
     * The directions of the hull's faces, those with the largest area first.
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $hull
     * @return list<array{float, float, float}>
     */
    private static function faces(array $xyz, array $hull): array
    {
        /** @var list<array{float, float, float}> $normals */
        $normals = [];
        /** @var list<float> $areas */
        $areas = [];
        $beside = [];
        for ($i = 0, $count = count($hull); $i < $count; $i += 3) {
            $t = intdiv($i, 3);
            [$a, $b, $c] = [3 * $hull[$i], 3 * $hull[$i + 1], 3 * $hull[$i + 2]];
            [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
            [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];
            $n = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
            $normals[] = $n;
            $areas[] = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);
            for ($k = 0; $k < 3; $k++) {
                $beside[$hull[$i + $k] << 32 | $hull[$i + ($k + 1) % 3]] = $t;
            }
        }
        arsort($areas);
        $least = cos(deg2rad(self::ALIKE));
        $seen = $faces = $sums = [];
        foreach ($areas as $seed => $size) {
            if (isset($seen[$seed]) || $size == 0.0) {
                continue;
            }
            $seen[$seed] = true;
            $queue = [$seed];
            $sum = [0.0, 0.0, 0.0];
            while ($queue !== []) {
                $t = array_pop($queue);
                for ($k = 0; $k < 3; $k++) {
                    $sum[$k] += $normals[$t][$k];
                    $other = $beside[$hull[3 * $t + ($k + 1) % 3] << 32 | $hull[3 * $t + $k]] ?? $t;
                    if (isset($seen[$other])) {
                        continue;
                    }
                    [$x, $y, $z] = $normals[$other];
                    if ($x * $normals[$seed][0] + $y * $normals[$seed][1] + $z * $normals[$seed][2] >= $least * $size * $areas[$other]) {
                        $seen[$other] = true;
                        $queue[] = $other;
                    }
                }
            }
            $unit = Direction::unit($sum);
            if ($unit !== null) {
                $faces[] = self::snapped($unit);
                $sums[] = $sum[0] ** 2 + $sum[1] ** 2 + $sum[2] ** 2;
            }
        }
        arsort($sums);

        return array_map(static fn (int $n): array => $faces[$n], array_slice(array_keys($sums), 0, 4 * self::MOST));
    }

    /**
     * The axis that a direction runs along but for rounding: a turn by quarters is exact.
     *
     * @param  array{float, float, float}  $unit
     * @return array{float, float, float}
     */
    private static function snapped(array $unit): array
    {
        foreach ($unit as $k => $part) {
            $sign = $part > 0.0 ? 1.0 : -1.0;
            $others = [$unit[($k + 1) % 3], $unit[($k + 2) % 3]];
            if (hypot(...$others) < sin(deg2rad(self::AXIS))) {
                return [$k === 0 ? $sign : 0.0, $k === 1 ? $sign : 0.0, $k === 2 ? $sign : 0.0];
            }
        }

        return $unit;
    }

    /**
     * @param  list<array{float, float, float}>  $places  corners of the hull, and others
     * @param  array{float, float, float}  $down
     * @param  array{float, float, float}  $centre
     */
    private static function rest(array $places, array $down, array $centre, float $on): Rest
    {
        [$right, $ahead] = Plane::through([0.0, 0.0, 0.0], $down)->directions();
        $heights = array_map(static fn (array $at): float => self::along($at, $down), $places);
        $lowest = $heights === [] ? 0.0 : max($heights);
        $supports = [];
        foreach ($places as $n => $at) {
            if ($heights[$n] >= $lowest - $on) {
                $supports[] = [self::along($at, $right), self::along($at, $ahead)];
            }
        }
        $polygon = self::around($supports);
        $up = $lowest - self::along($centre, $down);
        [$x, $y] = [self::along($centre, $right), self::along($centre, $ahead)];
        $area = 0.0;
        $nearest = count($polygon) < 3 ? -INF : INF;
        foreach ($polygon as $n => [$px, $py]) {
            [$qx, $qy] = $polygon[($n + 1) % count($polygon)];
            $area += ($px - $polygon[0][0]) * ($qy - $polygon[0][1]) - ($qx - $polygon[0][0]) * ($py - $polygon[0][1]);
            $length = hypot($qx - $px, $qy - $py);
            $nearest = $length > 0.0 ? min($nearest, (($qx - $px) * ($y - $py) - ($qy - $py) * ($x - $px)) / $length) : $nearest;
        }

        return new Rest($down, $area / 2, is_finite($nearest) ? rad2deg(atan2($nearest, max($up, 1e-300))) : -90.0, $heights === [] ? 0.0 : $lowest - min($heights), 0.0);
    }

    /**
     * @param  array{float, float, float}  $at
     * @param  array{float, float, float}  $direction
     */
    private static function along(array $at, array $direction): float
    {
        return $at[0] * $direction[0] + $at[1] * $direction[1] + $at[2] * $direction[2];
    }

    /**
     * The convex polygon around places of a page (A. M. Andrew, "Another efficient algorithm for convex hulls in two dimensions", 1979).
     *
     * @param  list<array{float, float}>  $places
     * @return list<array{float, float}> counter-clockwise
     */
    public static function around(array $places): array
    {
        $places = count($places) > self::FEW ? self::outer($places) : $places;
        sort($places);
        $polygon = [];
        foreach ([$places, array_reverse($places)] as $way) {
            $chain = [];
            foreach ($way as $at) {
                while (count($chain) > 1) {
                    [$p, $q] = [$chain[count($chain) - 2], $chain[count($chain) - 1]];
                    if (($q[0] - $p[0]) * ($at[1] - $p[1]) - ($q[1] - $p[1]) * ($at[0] - $p[0]) > 0.0) {
                        break;
                    }
                    array_pop($chain);
                }
                $chain[] = $at;
            }
            array_pop($chain);
            array_push($polygon, ...$chain);
        }

        return $polygon;
    }

    /**
     * Without most of those that cannot be corners of the polygon around all: what lies well within the polygon of the eight that are farthest along the axes and between them (S. G. Akl, G. T. Toussaint, "A fast convex hull algorithm", 1978).
     *
     * @param  list<array{float, float}>  $places
     * @return list<array{float, float}>
     */
    private static function outer(array $places): array
    {
        $extremes = [];
        foreach ([[1, 0], [1, 1], [0, 1], [-1, 1]] as [$c, $s]) {
            $low = INF;
            $high = -INF;
            $first = $last = [0.0, 0.0];
            foreach ($places as $at) {
                $along = $c * $at[0] + $s * $at[1];
                if ($along < $low) {
                    $low = $along;
                    $first = $at;
                }
                if ($along > $high) {
                    $high = $along;
                    $last = $at;
                }
            }
            array_push($extremes, $first, $last);
        }
        $polygon = self::around($extremes);
        $large = max(array_map(static fn (array $at): float => max(abs($at[0]), abs($at[1])), $polygon ?: [[0.0, 0.0]]));
        $sides = [];
        foreach ($polygon as $n => [$px, $py]) {
            [$qx, $qy] = $polygon[($n + 1) % count($polygon)];
            $sides[] = [$py - $qy, $qx - $px, ($qx - $px) * $py - ($qy - $py) * $px + 1e-9 * $large * (abs($qx - $px) + abs($qy - $py))];
        }
        $outer = [];
        foreach ($places as $at) {
            $x = $at[0];
            $y = $at[1];
            foreach ($sides as $side) {
                if ($side[2] >= $side[0] * $x + $side[1] * $y) {
                    $outer[] = $at;
                    break;
                }
            }
        }

        return count($polygon) < 3 ? $places : $outer;
    }

    /**
     * Skin that would have to be supported when a direction is below, mm².
     *
     * @param  array{float, float, float}  $facing  a unit vector
     * @param  float  $limit  degrees from straight down
     * @param  float|null  $on  mm from the lowest place within which it lies on the bed
     */
    public static function overhang(Mesh $mesh, array $facing, float $limit = 45.0, ?float $on = null): float
    {
        return max(self::overhangs($mesh, [$facing], $limit, $on));
    }

    /**
     * The same for several directions at a time, each of which may be the one below.
     *
     * @param  non-empty-list<array{float, float, float}>  $facings  unit vectors
     * @param  list<float>|null  $lowest  how far the mesh reaches along each, where that is known
     * @return non-empty-array<int, float> in their order
     */
    public static function overhangs(Mesh $mesh, array $facings, float $limit = 45.0, ?float $on = null, ?array $lowest = null): array
    {
        $on ??= self::ON * Box::of($mesh->xyz)->diagonal();
        $least = cos(deg2rad($limit));
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $ways = $overhangs = [];
        foreach ($facings as $n => [$dx, $dy, $dz]) {
            $ways[] = [$dx, $dy, $dz, ($lowest[$n] ?? self::reach($xyz, $facings[$n])) - $on];
            $overhangs[] = 0.0;
        }
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $ux = $xyz[$b] - $xyz[$a];
            $uy = $xyz[$b + 1] - $xyz[$a + 1];
            $uz = $xyz[$b + 2] - $xyz[$a + 2];
            $vx = $xyz[$c] - $xyz[$a];
            $vy = $xyz[$c + 1] - $xyz[$a + 1];
            $vz = $xyz[$c + 2] - $xyz[$a + 2];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $size = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $enough = $least * $size;
            foreach ($ways as $n => $way) {
                $dx = $way[0];
                $dy = $way[1];
                $dz = $way[2];
                if ($nx * $dx + $ny * $dy + $nz * $dz <= $enough) {
                    continue;
                }
                $bed = $way[3];
                if ($bed <= $xyz[$a] * $dx + $xyz[$a + 1] * $dy + $xyz[$a + 2] * $dz && $bed <= $xyz[$b] * $dx + $xyz[$b + 1] * $dy + $xyz[$b + 2] * $dz
                    && $bed <= $xyz[$c] * $dx + $xyz[$c + 1] * $dy + $xyz[$c + 2] * $dz) {
                    continue;
                }
                $overhangs[$n] += $size / 2;
            }
        }

        return $overhangs;
    }

    /**
     * How far points reach along a direction.
     *
     * @param  list<float>  $xyz
     * @param  array{float, float, float}  $facing
     */
    private static function reach(array $xyz, array $facing): float
    {
        [$x, $y, $z] = $facing;
        $farthest = -INF;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $along = $xyz[$i] * $x + $xyz[$i + 1] * $y + $xyz[$i + 2] * $z;
            $farthest = $along > $farthest ? $along : $farthest;
        }

        return $farthest;
    }
}
