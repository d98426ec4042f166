<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Isotome\Measure\Inertia;
use Isotome\Mesh\Mesh;
use Isotome\Plate\Hull;

/**
 * A piece as a rigid body: its mass, its inertia and the convex body by which it touches others.
 *
 * Mass and inertia are those of the piece itself; what touches other pieces is its convex hull, of which corners are left out that stick out of the rest by less than 0.6 % of its radius; what touches a floor is all of the hull. Lengths
 * are in mm from the centre of mass, masses in g.
 */
final readonly class Shape
{
    /** Corners of a hull that are all kept. */
    private const FEW = 40;

    /** Corners that are left out and stick out by less, mm, do not matter on a floor either. */
    private const SLIGHT = 0.01;

    /** Of others those farthest along so many directions, and then whatever is farthest outside of what those enclose, until it is less than a share of the radius, or there are so many. */
    private const DIRECTIONS = 24;

    private const OUTSIDE = 0.006;

    private const MOST = 300;

    /** Faces whose normals differ by less are one: cosine of the angle. */
    private const FLAT = 0.9999;

    /**
     * @param  array{float, float, float}  $centre  of mass, where the piece stands
     * @param  array{array{float, float, float}, array{float, float, float}, array{float, float, float}}  $inertia  about it, g mm²
     * @param  list<float>  $points  corners of the hull, three numbers each
     * @param  list<array{array{float, float, float}, list<int>}>  $faces  of the hull: normal outwards, and corners counter-clockwise
     * @param  list<float>  $normals  those of the faces, three numbers each
     * @param  float  $radius  of the ball about the centre of mass that holds it
     * @param  list<float>  $more  corners of the whole hull that were left out, three numbers each
     * @param  float  $out  how far they stick out at most, mm
     */
    private function __construct(
        public array $centre,
        public float $mass,
        public array $inertia,
        public array $points,
        public array $faces,
        public array $normals,
        public float $radius,
        public array $more,
        public float $out,
    ) {
    }

    /** @param  float  $density  g/cm³ */
    public static function of(Mesh $mesh, float $density): self
    {
        $measures = Inertia::of($mesh);
        $grams = $density / 1000;
        [$cx, $cy, $cz] = $measures->centroid;
        $xyz = [];
        foreach (array_unique(Hull::of($mesh->xyz)) as $v) {
            array_push($xyz, $mesh->xyz[3 * $v] - $cx, $mesh->xyz[3 * $v + 1] - $cy, $mesh->xyz[3 * $v + 2] - $cz);
        }
        $radius = 0.0;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $radius = max($radius, sqrt($xyz[$i] ** 2 + $xyz[$i + 1] ** 2 + $xyz[$i + 2] ** 2));
        }
        $all = $xyz;
        $xyz = count($xyz) > 3 * self::FEW ? self::farthest($xyz) : $xyz;
        $faces = self::faces($xyz, Hull::of($xyz));
        [$more, $out] = count($xyz) < count($all) ? self::leftOut($all, $xyz, $faces) : [[], 0.0];
        $inertia = [self::times($measures->tensor[0], $grams), self::times($measures->tensor[1], $grams), self::times($measures->tensor[2], $grams)];

        return new self([$cx, $cy, $cz], $measures->volume * $grams, $inertia, $xyz, $faces, array_merge(...array_column($faces, 0)), $radius, $more, $out);
    }

    /**
     * @param  list<float>  $all
     * @param  list<float>  $kept
     * @param  list<array{array{float, float, float}, list<int>}>  $faces  of the kept ones
     * @return array{list<float>, float} those that stick out, and how far at most
     */
    private static function leftOut(array $all, array $kept, array $faces): array
    {
        $more = [];
        $out = 0.0;
        for ($i = 0, $count = count($all); $i < $count; $i += 3) {
            $by = -INF;
            foreach ($faces as [[$x, $y, $z], $corners]) {
                $v = 3 * $corners[0];
                $d = $x * ($all[$i] - $kept[$v]) + $y * ($all[$i + 1] - $kept[$v + 1]) + $z * ($all[$i + 2] - $kept[$v + 2]);
                $by = $d > $by ? $d : $by;
            }
            if ($by > self::SLIGHT) {
                array_push($more, $all[$i], $all[$i + 1], $all[$i + 2]);
                $out = max($out, $by);
            }
        }

        return [$more, $out];
    }

    /**
     * @param  array{float, float, float}  $row
     * @return array{float, float, float}
     */
    private static function times(array $row, float $by): array
    {
        return [$row[0] * $by, $row[1] * $by, $row[2] * $by];
    }

    /**
     * @param  list<float>  $xyz
     * @return list<float>
     */
    private static function farthest(array $xyz): array
    {
        $kept = [];
        for ($n = 0; $n < self::DIRECTIONS; $n++) {
            // Evenly spread (A. González 2010).
            $z = 1 - 2 * ($n + 0.5) / self::DIRECTIONS;
            $turn = $n * M_PI * (3 - sqrt(5));
            [$x, $y] = [sqrt(1 - $z * $z) * cos($turn), sqrt(1 - $z * $z) * sin($turn)];
            $most = -INF;
            $best = 0;
            for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
                $d = $x * $xyz[$i] + $y * $xyz[$i + 1] + $z * $xyz[$i + 2];
                if ($d > $most) {
                    $most = $d;
                    $best = $i;
                }
            }
            $kept[$best] = true;
        }
        do {
            $some = [];
            foreach ($kept as $i => $_) {
                array_push($some, $xyz[$i], $xyz[$i + 1], $xyz[$i + 2]);
            }
            // A face that stands for several nearly flat ones may leave out corners of its own.
            $next = array_values(array_diff(self::outside($xyz, $some, self::MOST - count($kept)), array_keys($kept)));
            foreach ($next as $i) {
                $kept[$i] = true;
            }
        } while ($next !== [] && count($kept) < self::MOST);
        foreach ($next as $i) {
            array_push($some, $xyz[$i], $xyz[$i + 1], $xyz[$i + 2]);
        }

        return $some;
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<float>  $some  of these points
     * @return list<int> where points begin that are outside of the hull of some by more than the share: of each face the farthest, the farthest of all first
     */
    private static function outside(array $xyz, array $some, int $most): array
    {
        $square = 0.0;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $square = max($square, $xyz[$i] * $xyz[$i] + $xyz[$i + 1] * $xyz[$i + 1] + $xyz[$i + 2] * $xyz[$i + 2]);
        }
        $least = self::OUTSIDE * sqrt($square);
        $found = [];
        foreach (self::faces($some, Hull::of($some)) as [[$x, $y, $z], $corners]) {
            $v = 3 * $corners[0];
            $far = $least + $x * $some[$v] + $y * $some[$v + 1] + $z * $some[$v + 2];
            $level = $far - $least;
            $next = null;
            for ($i = 0; $i < $count; $i += 3) {
                $by = $x * $xyz[$i] + $y * $xyz[$i + 1] + $z * $xyz[$i + 2];
                if ($by > $far) {
                    $far = $by;
                    $next = $i;
                }
            }
            if ($next !== null) {
                $found[$next] = max($found[$next] ?? 0.0, $far - $level);
            }
        }
        arsort($found);

        return array_slice(array_keys($found), 0, $most);
    }

    /**
     * Triangles of a hull that lie in one plane become one face.
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @return list<array{array{float, float, float}, list<int>}>
     */
    private static function faces(array $xyz, array $corners): array
    {
        /** @var list<array{array{float, float, float}, list<int>}> $groups */
        $groups = [];
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            [$a, $b, $c] = [3 * $corners[$i], 3 * $corners[$i + 1], 3 * $corners[$i + 2]];
            [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
            [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];
            $normal = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
            $long = sqrt($normal[0] ** 2 + $normal[1] ** 2 + $normal[2] ** 2);
            if ($long <= 0.0) {
                continue;
            }
            $normal = [$normal[0] / $long, $normal[1] / $long, $normal[2] / $long];
            $found = null;
            foreach ($groups as $g => [$known]) {
                if ($known[0] * $normal[0] + $known[1] * $normal[1] + $known[2] * $normal[2] > self::FLAT) {
                    $found = $g;
                    break;
                }
            }
            $three = [$corners[$i], $corners[$i + 1], $corners[$i + 2]];
            if ($found === null) {
                $groups[] = [$normal, $three];
            } else {
                $groups[$found] = [$groups[$found][0], [...$groups[$found][1], ...$three]];
            }
        }
        $faces = [];
        foreach ($groups as [$normal, $some]) {
            $faces[] = [$normal, self::around($xyz, $normal, array_values(array_unique($some)))];
        }

        return $faces;
    }

    /**
     * @param  list<float>  $xyz
     * @param  array{float, float, float}  $normal
     * @param  list<int>  $corners
     * @return list<int> in their order around the face
     */
    private static function around(array $xyz, array $normal, array $corners): array
    {
        $middle = [0.0, 0.0, 0.0];
        foreach ($corners as $v) {
            foreach ([0, 1, 2] as $k) {
                $middle[$k] += $xyz[3 * $v + $k] / count($corners);
            }
        }
        $first = 3 * $corners[0];
        $right = [$xyz[$first] - $middle[0], $xyz[$first + 1] - $middle[1], $xyz[$first + 2] - $middle[2]];
        $up = [$normal[1] * $right[2] - $normal[2] * $right[1], $normal[2] * $right[0] - $normal[0] * $right[2], $normal[0] * $right[1] - $normal[1] * $right[0]];
        $angles = [];
        foreach ($corners as $v) {
            $way = [$xyz[3 * $v] - $middle[0], $xyz[3 * $v + 1] - $middle[1], $xyz[3 * $v + 2] - $middle[2]];
            $angles[$v] = atan2($way[0] * $up[0] + $way[1] * $up[1] + $way[2] * $up[2], $way[0] * $right[0] + $way[1] * $right[1] + $way[2] * $right[2]);
        }
        asort($angles);

        return array_keys($angles);
    }
}
