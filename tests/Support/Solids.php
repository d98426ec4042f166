<?php

declare(strict_types=1);

namespace Tests\Support;

use Isotome\Mesh\Mesh;
use Isotome\Seal\SweepTriangulation;
use LogicException;

/** Closed bodies of known shape, all outward-facing and watertight. Lengths in mm. */
final class Solids
{
    /** @param  array{float, float, float}  $at lower corner */
    public static function box(float $x, float $y, float $z, array $at = [0.0, 0.0, 0.0]): Mesh
    {
        $xyz = [];
        for ($i = 0; $i < 8; $i++) {
            array_push($xyz, $at[0] + ($i & 1) * $x, $at[1] + (($i >> 1) & 1) * $y, $at[2] + ($i >> 2) * $z);
        }

        return Mesh::of($xyz, [
            0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 1, 5, 0, 5, 4, 2, 6, 7, 2, 7, 3, 0, 4, 6, 0, 6, 2, 1, 3, 7, 1, 7, 5,
        ]);
    }

    /** Subdivided icosahedron with its vertices on the sphere: 20 · 4^n triangles. */
    public static function sphere(float $radius, int $subdivisions, float $cx = 0.0, float $cy = 0.0, float $cz = 0.0): Mesh
    {
        $g = (1 + sqrt(5)) / 2;
        $points = [[-1, $g, 0], [1, $g, 0], [-1, -$g, 0], [1, -$g, 0], [0, -1, $g], [0, 1, $g], [0, -1, -$g], [0, 1, -$g], [$g, 0, -1], [$g, 0, 1], [-$g, 0, -1], [-$g, 0, 1]];
        $faces = [[0, 11, 5], [0, 5, 1], [0, 1, 7], [0, 7, 10], [0, 10, 11], [1, 5, 9], [5, 11, 4], [11, 10, 2], [10, 7, 6], [7, 1, 8], [3, 9, 4], [3, 4, 2], [3, 2, 6], [3, 6, 8], [3, 8, 9], [4, 9, 5], [2, 4, 11], [6, 2, 10], [8, 6, 7], [9, 8, 1]];
        for ($n = 0; $n < $subdivisions; $n++) {
            $middle = [];
            $half = function (int $a, int $b) use (&$middle, &$points): int {
                $key = $a < $b ? "$a,$b" : "$b,$a";

                return $middle[$key] ??= array_push($points, [
                    ($points[$a][0] + $points[$b][0]) / 2, ($points[$a][1] + $points[$b][1]) / 2, ($points[$a][2] + $points[$b][2]) / 2,
                ]) - 1;
            };
            $next = [];
            foreach ($faces as [$a, $b, $c]) {
                [$d, $e, $f] = [$half($a, $b), $half($b, $c), $half($c, $a)];
                array_push($next, [$a, $d, $f], [$b, $e, $d], [$c, $f, $e], [$d, $e, $f]);
            }
            $faces = $next;
        }
        $xyz = [];
        foreach ($points as [$x, $y, $z]) {
            $length = sqrt($x * $x + $y * $y + $z * $z);
            array_push($xyz, $cx + $radius * $x / $length, $cy + $radius * $y / $length, $cz + $radius * $z / $length);
        }

        return Mesh::of($xyz, array_merge(...$faces));
    }

    /** Ring about the z axis with vertices on the torus. */
    public static function torus(float $major, float $minor, int $around, int $across): Mesh
    {
        $xyz = [];
        $corners = [];
        for ($i = 0; $i < $around; $i++) {
            for ($j = 0; $j < $across; $j++) {
                $u = 2 * M_PI * $i / $around;
                $v = 2 * M_PI * $j / $across;
                $r = $major + $minor * cos($v);
                array_push($xyz, $r * cos($u), $r * sin($u), $minor * sin($v));
                $a = $i * $across + $j;
                $b = (($i + 1) % $around) * $across + $j;
                $c = (($i + 1) % $around) * $across + ($j + 1) % $across;
                $d = $i * $across + ($j + 1) % $across;
                array_push($corners, $a, $b, $c, $a, $c, $d);
            }
        }

        return Mesh::of($xyz, $corners);
    }

    /** Cone with its base at z = 0 and its apex above: a fan of needle triangles when `$sides` is large. */
    public static function cone(float $radius, float $height, int $sides): Mesh
    {
        $xyz = [0.0, 0.0, 0.0, 0.0, 0.0, $height];
        $corners = [];
        for ($i = 0; $i < $sides; $i++) {
            $angle = 2 * M_PI * $i / $sides;
            array_push($xyz, $radius * cos($angle), $radius * sin($angle), 0.0);
            $a = 2 + $i;
            $b = 2 + ($i + 1) % $sides;
            array_push($corners, 0, $b, $a, 1, $a, $b);
        }

        return Mesh::of($xyz, $corners);
    }

    /**
     * A simple polygon (counter-clockwise, star-shaped about its first point) carried up from z = 0.
     *
     * @param  list<array{float, float}>  $outline
     */
    public static function prism(array $outline, float $height): Mesh
    {
        $n = count($outline);
        $xyz = [];
        foreach ([0.0, $height] as $z) {
            foreach ($outline as [$x, $y]) {
                array_push($xyz, $x, $y, $z);
            }
        }
        $corners = [];
        for ($i = 0; $i < $n; $i++) {
            $j = ($i + 1) % $n;
            array_push($corners, $i, $j, $n + $j, $i, $n + $j, $n + $i);
        }
        $points = range(0, $n - 1);
        $lid = SweepTriangulation::of(array_column($outline, 0), array_column($outline, 1), $points, [...array_slice($points, 1), 0]);
        if ($lid === null || ! $lid['sound']) {
            throw new LogicException('The outline of the prism crosses itself.');
        }
        foreach (array_chunk($lid['triangles'], 3) as [$a, $b, $c]) {
            array_push($corners, $a, $c, $b, $n + $a, $n + $b, $n + $c);
        }

        return Mesh::of($xyz, $corners);
    }

    /**
     * Such a prism with lids fanned from the first corner, so that their triangles overlap where the outline is not convex: a
     * watertight mesh whose sections fold back over themselves.
     *
     * @param  list<array{float, float}>  $outline
     */
    public static function foldedPrism(array $outline, float $height): Mesh
    {
        $sound = self::prism($outline, $height);
        $n = count($outline);
        $corners = array_slice($sound->corners, 0, 6 * $n);
        for ($i = 1; $i < $n - 1; $i++) {
            array_push($corners, 0, $i + 1, $i, $n, $n + $i, $n + $i + 1);
        }

        return Mesh::of($sound->xyz, $corners);
    }

    public static function insideOut(Mesh $mesh): Mesh
    {
        return Mesh::of($mesh->xyz, array_reverse($mesh->corners), array_reverse($mesh->tags));
    }

    public static function together(Mesh ...$meshes): Mesh
    {
        $xyz = [];
        $corners = [];
        $tags = [];
        foreach ($meshes as $mesh) {
            $base = intdiv(count($xyz), 3);
            $xyz = [...$xyz, ...$mesh->xyz];
            foreach ($mesh->corners as $corner) {
                $corners[] = $base + $corner;
            }
            $tags = [...$tags, ...$mesh->tags];
        }

        return Mesh::of($xyz, $corners, $tags);
    }

    /** Boxes inside one another, every second one a cavity. */
    public static function nest(int $depth, float $step = 3.0): Mesh
    {
        $meshes = [];
        $size = 2 * $step * $depth + 5.0;
        for ($i = 0; $i < $depth; $i++) {
            $edge = $size - 2 * $i * $step;
            $box = self::box($edge, $edge, $edge, [$i * $step, $i * $step, $i * $step]);
            $meshes[] = $i % 2 === 1 ? self::insideOut($box) : $box;
        }

        return self::together(...$meshes);
    }

    /**
     * Unit cells of a grid, made into one surface: full of faces in one plane, edges in line, and, for most patterns, parts
     * that touch in an edge or a corner. Vertices are told apart along touching edges so that every edge has two faces.
     *
     * @param  callable(int, int, int): bool  $full
     */
    public static function cells(int $nx, int $ny, int $nz, callable $full): Mesh
    {
        $soup = [];
        $faces = [
            [[1, 0, 0], [[1, 0, 0], [1, 1, 0], [1, 1, 1], [1, 0, 1]]], [[-1, 0, 0], [[0, 0, 0], [0, 0, 1], [0, 1, 1], [0, 1, 0]]],
            [[0, 1, 0], [[0, 1, 0], [0, 1, 1], [1, 1, 1], [1, 1, 0]]], [[0, -1, 0], [[0, 0, 0], [1, 0, 0], [1, 0, 1], [0, 0, 1]]],
            [[0, 0, 1], [[0, 0, 1], [1, 0, 1], [1, 1, 1], [0, 1, 1]]], [[0, 0, -1], [[0, 0, 0], [0, 1, 0], [1, 1, 0], [1, 0, 0]]],
        ];
        $inside = static fn (int $x, int $y, int $z): bool => $x >= 0 && $y >= 0 && $z >= 0 && $x < $nx && $y < $ny && $z < $nz && $full($x, $y, $z);
        for ($x = 0; $x < $nx; $x++) {
            for ($y = 0; $y < $ny; $y++) {
                for ($z = 0; $z < $nz; $z++) {
                    if (! $inside($x, $y, $z)) {
                        continue;
                    }
                    foreach ($faces as [$to, $quad]) {
                        if (! $inside($x + $to[0], $y + $to[1], $z + $to[2])) {
                            $points = array_map(static fn (array $q): array => [$x + $q[0], $y + $q[1], $z + $q[2]], $quad);
                            array_push($soup, [$points[0], $points[1], $points[2]], [$points[0], $points[2], $points[3]]);
                        }
                    }
                }
            }
        }
        $index = [];
        $xyz = [];
        $corners = [];
        foreach ($soup as $triangle) {
            foreach ($triangle as [$px, $py, $pz]) {
                $key = "$px,$py,$pz";
                if (! isset($index[$key])) {
                    $index[$key] = count($index);
                    array_push($xyz, (float) $px, (float) $py, (float) $pz);
                }
                $corners[] = $index[$key];
            }
        }

        return Mesh::of($xyz, $corners);
    }

    /**
     * The mesh turned by three angles (radians, about x, then y, then z), scaled, then moved.
     *
     * @param  array{float, float, float}  $by
     */
    public static function moved(Mesh $mesh, float $a, float $b, float $c, float $scale = 1.0, array $by = [0.0, 0.0, 0.0]): Mesh
    {
        $xyz = [];
        foreach (array_chunk($mesh->xyz, 3) as [$x, $y, $z]) {
            [$y, $z] = [cos($a) * $y - sin($a) * $z, sin($a) * $y + cos($a) * $z];
            [$x, $z] = [cos($b) * $x + sin($b) * $z, -sin($b) * $x + cos($b) * $z];
            [$x, $y] = [cos($c) * $x - sin($c) * $y, sin($c) * $x + cos($c) * $y];
            array_push($xyz, $scale * $x + $by[0], $scale * $y + $by[1], $scale * $z + $by[2]);
        }

        return Mesh::of($xyz, $mesh->corners, $mesh->tags);
    }
}
