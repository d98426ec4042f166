<?php

declare(strict_types=1);

namespace Isotome\Join;

use Closure;
use Isotome\Geometry\Box;
use Isotome\Geometry\Direction;
use Isotome\Geometry\Plane;
use Isotome\Measure\Simplified;
use Isotome\Mesh\Mark;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Nearest;
use Isotome\Seal\Outlines;

/**
 * The faces that two pieces share: where faces look at each other across no more than a kerf. Two pieces were parted by one step, the first whose faces do so; where there is none, it is their skin.
 *
 * A face of one piece belongs to it when its middle, or one of some further places on it, has the other piece ahead within the reach. What hangs together and leans little is one face; a bend of more is two.
 */
final class CommonFaces
{
    /** Neighbours that lean no more than this from each other (cosine) are one face. */
    private const TOGETHER = 0.5;

    /** And no more than this from the first one, where a face goes round a bend. */
    private const ALONG = 0.866;

    /** Share of the area that may lean more than that from the axis. */
    private const LEANING = 0.02;

    /** Places at which large faces are looked at, along each side at most. */
    private const MOST = 8;

    /** And about so many over all. */
    private const ABOUT = 2_000;

    /**
     * @param  float  $reach  mm
     * @return list<CommonFace> the largest first
     */
    public static function between(Mesh $a, Mesh $b, float $reach): array
    {
        [$byTagA, $byTagB] = [self::byTag($a), self::byTag($b)];
        $shared = array_keys(array_intersect_key($byTagA, $byTagB));
        // The skin last.
        usort($shared, static fn (int $one, int $other): int => ($one === 0) <=> ($other === 0) ?: $one <=> $other);
        foreach ($shared as $tag) {
            $faces = self::of($a, $byTagA[$tag], $b, $byTagB[$tag], $reach);
            if ($faces !== []) {
                return $faces;
            }
        }

        return [];
    }

    /**
     * @param  list<int>  $ofA
     * @param  list<int>  $ofB
     * @return list<CommonFace>
     */
    private static function of(Mesh $a, array $ofA, Mesh $b, array $ofB, float $reach): array
    {
        $ofA = self::near($a, $ofA, $b, $ofB, $reach);
        $ofB = self::near($b, $ofB, $a, $ofA, $reach);
        if ($ofA === [] || $ofB === []) {
            return [];
        }
        [$normalsA, $areasA] = self::normals($a, $ofA);
        [$normalsB, $areasB] = self::normals($b, $ofB);
        // A cut without a kerf leaves the same triangles on both sides.
        [$hitsA, $hitsB] = self::same($a, $ofA, $normalsA, $b, $ofB, $normalsB);
        $hitsA += self::hits($a, $ofA, $hitsA, $normalsA, $areasA, $b, $ofB, $normalsB, $reach);
        $hitsB += self::hits($b, $ofB, $hitsB, $normalsB, $areasB, $a, $ofA, $normalsA, $reach);
        ksort($hitsA);
        ksort($hitsB);

        $faces = [];
        foreach (self::patches($a, $ofA, array_keys($hitsA), $normalsA, $areasA) as [$patch, $axis]) {
            $isIn = array_fill_keys($patch, true);
            $others = [];
            foreach ($hitsB as $n => $hit) {
                if (isset($isIn[$hit])) {
                    $others[$n] = true;
                }
            }
            foreach ($patch as $n) {
                $others[$hitsA[$n]] = true;
            }
            $others = array_keys($others);
            sort($others);
            $plane = Plane::through([0.0, 0.0, 0.0], $axis);
            [$right, $up] = $plane->directions();
            $rims = [self::rim($a, $ofA, $patch, $right, $up), self::rim($b, $ofB, $others, $right, $up)];
            $area = min(array_sum(array_map(static fn (int $n): float => $areasA[$n], $patch)), array_sum(array_map(static fn (int $n): float => $areasB[$n], $others)));
            $box = [max(self::least($rims[0], 0), self::least($rims[1], 0)), max(self::least($rims[0], 1), self::least($rims[1], 1)), min(-self::least($rims[0], 0, -1), -self::least($rims[1], 0, -1)), min(-self::least($rims[0], 1, -1), -self::least($rims[1], 1, -1))];
            if ($box[0] >= $box[2] || $box[1] >= $box[3]) {
                continue;
            }
            [$low, $high] = [INF, -INF];
            foreach ($patch as $n) {
                for ($k = 3 * $ofA[$n]; $k < 3 * $ofA[$n] + 3; $k++) {
                    $i = 3 * $a->corners[$k];
                    $height = $a->xyz[$i] * $axis[0] + $a->xyz[$i + 1] * $axis[1] + $a->xyz[$i + 2] * $axis[2];
                    $low = min($low, $height);
                    $high = max($high, $height);
                }
            }
            $faces[] = new CommonFace(
                $axis, $right, $up,
                [array_map(static fn (int $n): int => $ofA[$n], $patch), array_map(static fn (int $n): int => $ofB[$n], $others)],
                $rims, (float) $area, $box, $low, $high,
            );
        }
        usort($faces, static fn (CommonFace $one, CommonFace $other): int => $other->area <=> $one->area);

        return $faces;
    }

    /** @return array<int, list<int>> triangles by the step that made them; 0 for the skin */
    private static function byTag(Mesh $mesh): array
    {
        $by = [];
        foreach ($mesh->tags as $t => $tag) {
            $by[Mark::tag($tag)][] = $t;
        }

        return $by;
    }

    /**
     * @param  list<int>  $own
     * @param  list<int>  $others
     * @return list<int> those that may be in reach of the others
     */
    private static function near(Mesh $mesh, array $own, Mesh $other, array $others, float $reach): array
    {
        if ($others === []) {
            return [];
        }
        $box = Box::of(self::places($other, $others));
        [[$x0, $y0, $z0], [$x1, $y1, $z1]] = [$box->min, $box->max];
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $near = [];
        foreach ($own as $t) {
            $a = 3 * $corners[3 * $t];
            $b = 3 * $corners[3 * $t + 1];
            $c = 3 * $corners[3 * $t + 2];
            if (
                max($xyz[$a], $xyz[$b], $xyz[$c]) >= $x0 - $reach && min($xyz[$a], $xyz[$b], $xyz[$c]) <= $x1 + $reach
                && max($xyz[$a + 1], $xyz[$b + 1], $xyz[$c + 1]) >= $y0 - $reach && min($xyz[$a + 1], $xyz[$b + 1], $xyz[$c + 1]) <= $y1 + $reach
                && max($xyz[$a + 2], $xyz[$b + 2], $xyz[$c + 2]) >= $z0 - $reach && min($xyz[$a + 2], $xyz[$b + 2], $xyz[$c + 2]) <= $z1 + $reach
            ) {
                $near[] = $t;
            }
        }

        return $near;
    }

    /**
     * @param  list<int>  $faces
     * @return list<float>
     */
    private static function places(Mesh $mesh, array $faces): array
    {
        $places = [];
        foreach ($faces as $t) {
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $i = 3 * $mesh->corners[$k];
                array_push($places, $mesh->xyz[$i], $mesh->xyz[$i + 1], $mesh->xyz[$i + 2]);
            }
        }

        return $places;
    }

    /** @param  list<int>  $faces */
    private static function part(Mesh $mesh, array $faces): Mesh
    {
        $corners = [];
        foreach ($faces as $t) {
            array_push($corners, $mesh->corners[3 * $t], $mesh->corners[3 * $t + 1], $mesh->corners[3 * $t + 2]);
        }

        return Mesh::of($mesh->xyz, $corners);
    }

    /**
     * @param  list<int>  $faces
     * @return array{list<array{float, float, float}>, list<float>} unit normals (zero for one without area), and areas
     */
    private static function normals(Mesh $mesh, array $faces): array
    {
        $xyz = $mesh->xyz;
        $normals = $areas = [];
        foreach ($faces as $t) {
            [$a, $b, $c] = [3 * $mesh->corners[3 * $t], 3 * $mesh->corners[3 * $t + 1], 3 * $mesh->corners[3 * $t + 2]];
            [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
            [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];
            [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
            $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $normals[] = $length > 0.0 ? [$nx / $length, $ny / $length, $nz / $length] : [0.0, 0.0, 0.0];
            $areas[] = $length / 2;
        }

        return [$normals, $areas];
    }

    /**
     * Faces that both have, turned over.
     *
     * @param  list<int>  $ofA
     * @param  list<array{float, float, float}>  $normalsA
     * @param  list<int>  $ofB
     * @param  list<array{float, float, float}>  $normalsB
     * @return array{array<int, int>, array<int, int>} by the place in one list, that in the other
     */
    private static function same(Mesh $a, array $ofA, array $normalsA, Mesh $b, array $ofB, array $normalsB): array
    {
        $of = [];
        foreach ($ofB as $n => $t) {
            $of[self::box($b, $t)] = $n;
        }
        $hitsA = $hitsB = [];
        foreach ($ofA as $n => $t) {
            $hit = $of[self::box($a, $t)] ?? null;
            if ($hit !== null && self::dot($normalsA[$n], $normalsB[$hit]) < -1.0 + 1e-9) {
                $hitsA[$n] = $hit;
                $hitsB[$hit] = $n;
            }
        }

        return [$hitsA, $hitsB];
    }

    /** A triangle's box, as bytes. */
    private static function box(Mesh $mesh, int $t): string
    {
        $xyz = $mesh->xyz;
        $i = 3 * $mesh->corners[3 * $t];
        $j = 3 * $mesh->corners[3 * $t + 1];
        $k = 3 * $mesh->corners[3 * $t + 2];

        return pack(
            'e6', min($xyz[$i], $xyz[$j], $xyz[$k]), max($xyz[$i], $xyz[$j], $xyz[$k]), min($xyz[$i + 1], $xyz[$j + 1], $xyz[$k + 1]), max($xyz[$i + 1], $xyz[$j + 1], $xyz[$k + 1]),
            min($xyz[$i + 2], $xyz[$j + 2], $xyz[$k + 2]), max($xyz[$i + 2], $xyz[$j + 2], $xyz[$k + 2]),
        );
    }

    /**
     * Which of the other's faces each face has ahead; those that have none are left out.
     *
     * @param  list<int>  $faces
     * @param  array<int, int>  $known  those that are found already
     * @param  list<array{float, float, float}>  $normals
     * @param  list<float>  $areas
     * @param  list<int>  $others
     * @param  list<array{float, float, float}>  $theirs
     * @return array<int, int> by the face's place in its list, the other's in the other list
     */
    private static function hits(Mesh $mesh, array $faces, array $known, array $normals, array $areas, Mesh $other, array $others, array $theirs, float $reach): array
    {
        if (count($known) === count($faces)) {
            return [];
        }
        $nearest = new Nearest(self::part($other, $others));
        $spacing = sqrt(array_sum($areas) / self::ABOUT);
        $xyz = $mesh->xyz;
        $hits = [];
        foreach ($faces as $n => $t) {
            if (isset($known[$n])) {
                continue;
            }
            [$a, $b, $c] = [3 * $mesh->corners[3 * $t], 3 * $mesh->corners[3 * $t + 1], 3 * $mesh->corners[3 * $t + 2]];
            [$nx, $ny, $nz] = $normals[$n];
            $parts = 1;
            // The middle first; it is enough where both have the same triangles.
            for ($i = 0; $i < $parts; $i++) {
                for ($j = 0; $j < $parts - $i; $j++) {
                    $u = (3 * $i + 1) / (3 * $parts);
                    $v = (3 * $j + 1) / (3 * $parts);
                    $w = 1.0 - $u - $v;
                    $px = $u * $xyz[$a] + $v * $xyz[$b] + $w * $xyz[$c];
                    $py = $u * $xyz[$a + 1] + $v * $xyz[$b + 1] + $w * $xyz[$c + 1];
                    $pz = $u * $xyz[$a + 2] + $v * $xyz[$b + 2] + $w * $xyz[$c + 2];
                    [$d, $qx, $qy, $qz, $hit] = $nearest->to($px, $py, $pz, $reach * 1.0001 + 1e-9);
                    if ($hit < 0) {
                        continue;
                    }
                    $their = $theirs[$hit];
                    $ahead = ($qx - $px) * $nx + ($qy - $py) * $ny + ($qz - $pz) * $nz;
                    if ($nx * $their[0] + $ny * $their[1] + $nz * $their[2] <= -self::TOGETHER && $ahead >= -0.1 * $d - 1e-9) {
                        $hits[$n] = $hit;
                        break 2;
                    }
                }
                if ($parts === 1 && $areas[$n] > $spacing * $spacing) {
                    $parts = min(self::MOST, 1 + (int) ceil(sqrt($areas[$n]) / $spacing));
                    $i = -1;
                }
            }
        }

        return $hits;
    }

    /**
     * @param  list<int>  $faces
     * @param  list<int>  $common  places in that list
     * @param  list<array{float, float, float}>  $normals
     * @param  list<float>  $areas
     * @return list<array{non-empty-list<int>, array{float, float, float}}> what is one face, and its axis
     */
    private static function patches(Mesh $mesh, array $faces, array $common, array $normals, array $areas): array
    {
        $around = [];
        foreach ($common as $n) {
            for ($k = 0; $k < 3; $k++) {
                $p = $mesh->corners[3 * $faces[$n] + $k];
                $q = $mesh->corners[3 * $faces[$n] + ($k + 1) % 3];
                $around[$p < $q ? $p << 31 | $q : $q << 31 | $p][] = $n;
            }
        }
        $beside = [];
        foreach ($around as $all) {
            foreach ($all as $n) {
                foreach ($all as $m) {
                    if ($n !== $m) {
                        $beside[$n][] = $m;
                    }
                }
            }
        }
        usort($common, static fn (int $n, int $m): int => $areas[$m] <=> $areas[$n] ?: $n <=> $m);
        $patches = [];
        $seen = [];
        foreach ($common as $first) {
            if (isset($seen[$first])) {
                continue;
            }
            $patch = self::grown($first, $beside, $seen, static fn (int $n, int $m): bool => self::dot($normals[$n], $normals[$m]) >= self::TOGETHER || $areas[$m] === 0.0);
            $axis = self::mean($patch, $normals, $areas);
            $leaning = 0.0;
            if ($axis !== null) {
                foreach ($patch as $n) {
                    $leaning += self::dot($normals[$n], $axis) < self::TOGETHER ? $areas[$n] : 0.0;
                }
            }
            if ($axis === null || $leaning > self::LEANING * array_sum(array_map(static fn (int $n): float => $areas[$n], $patch))) {
                // It goes round a bend: from the largest on, no farther than its direction lasts.
                $seen = array_diff_key($seen, array_fill_keys($patch, true));
                $patch = self::grown($first, $beside, $seen, static fn (int $n, int $m): bool => self::dot($normals[$first], $normals[$m]) >= self::ALONG);
                $axis = self::mean($patch, $normals, $areas);
            }
            if ($axis !== null) {
                $patches[] = [$patch, $axis];
            }
        }

        return $patches;
    }

    /**
     * @param  array<int, list<int>>  $beside
     * @param  array<int, true>  $seen
     * @param  Closure(int, int): bool  $goes
     * @return non-empty-list<int>
     */
    private static function grown(int $first, array $beside, array &$seen, Closure $goes): array
    {
        $seen[$first] = true;
        $patch = [$first];
        for ($i = 0; $i < count($patch); $i++) {
            foreach ($beside[$patch[$i]] ?? [] as $next) {
                if (! isset($seen[$next]) && $goes($patch[$i], $next)) {
                    $seen[$next] = true;
                    $patch[] = $next;
                }
            }
        }

        return $patch;
    }

    /**
     * @param  non-empty-list<int>  $patch
     * @param  list<array{float, float, float}>  $normals
     * @param  list<float>  $areas
     * @return array{float, float, float}|null
     */
    private static function mean(array $patch, array $normals, array $areas): ?array
    {
        // Of flat faces exactly their own.
        $first = $normals[$patch[0]];
        $isFlat = true;
        $sum = [0.0, 0.0, 0.0];
        foreach ($patch as $n) {
            $isFlat = $isFlat && self::dot($normals[$n], $first) > 1.0 - 1e-12;
            for ($k = 0; $k < 3; $k++) {
                $sum[$k] += $areas[$n] * $normals[$n][$k];
            }
        }

        return $isFlat ? Direction::unit($first) : Direction::unit([$sum[0], $sum[1], $sum[2]]);
    }

    /**
     * Edges of the faces that no other of them has, on the page, but for bends of no account.
     *
     * @param  list<int>  $faces
     * @param  list<int>  $patch
     * @param  array{float, float, float}  $right
     * @param  array{float, float, float}  $up
     * @return list<array{float, float, float, float}>
     */
    private static function rim(Mesh $mesh, array $faces, array $patch, array $right, array $up): array
    {
        $edges = [];
        foreach ($patch as $n) {
            for ($k = 0; $k < 3; $k++) {
                $p = $mesh->corners[3 * $faces[$n] + $k];
                $q = $mesh->corners[3 * $faces[$n] + ($k + 1) % 3];
                $back = $q << 31 | $p;
                if (isset($edges[$back])) {
                    unset($edges[$back]);
                } else {
                    $edges[$p << 31 | $q] = [3 * $p, 3 * $q];
                }
            }
        }
        $xyz = $mesh->xyz;
        $rim = [];
        foreach (Outlines::of(array_column($edges, 0), array_column($edges, 1))->closed as $loop) {
            $outline = [];
            foreach ($loop as $p) {
                $outline[] = [$xyz[$p] * $right[0] + $xyz[$p + 1] * $right[1] + $xyz[$p + 2] * $right[2], $xyz[$p] * $up[0] + $xyz[$p + 1] * $up[1] + $xyz[$p + 2] * $up[2]];
            }
            $outline = Simplified::of($outline, CommonFace::COARSE, true);
            $last = $outline[count($outline) - 1];
            foreach ($outline as $at) {
                $rim[] = [...$last, ...$at];
                $last = $at;
            }
        }

        return $rim;
    }

    /** @param  list<array{float, float, float, float}>  $rim */
    private static function least(array $rim, int $k, int $sign = 1): float
    {
        $least = INF;
        foreach ($rim as $edge) {
            $least = min($least, $sign * $edge[$k], $sign * $edge[$k + 2]);
        }

        return $least;
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     */
    private static function dot(array $a, array $b): float
    {
        return $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
    }
}
