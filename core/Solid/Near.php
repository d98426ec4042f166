<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Isotome\Geometry\Box;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\InBox;
use Isotome\Mesh\Mesh;

/**
 * The triangles of meshes that another shell comes near: all that can meet a triangle of another shell, and some beside. Told by the cells of a grid that triangles of several shells reach into.
 */
final class Near
{
    /** Cells a triangle that may be near, and altogether. */
    private const CELLS = 3;

    private const MOST_CELLS = 1_000_000;

    /** So many cells are taken without a look at the triangle's plane. */
    private const FEW = 8;

    /** And so many with one, before a triangle is looked at in halves. */
    private const SOME = 64;

    /** Beyond so many shells all triangles are taken to be near. */
    private const MOST_SHELLS = 1000;

    /** Boxes that a shell is compared with one by one; of more, the box around them is taken. */
    private const BOXES = 12;

    /** What cells and boxes are widened by, as a share of the largest coordinate. */
    private const SLACK = 1e-9;

    /**
     * @param  list<Mesh>  $meshes
     * @return list<list<int>>|null triangles of each mesh; null when there are too many shells
     */
    public static function of(array $meshes): ?array
    {
        [$shellOf, $boxes] = self::shells($meshes);
        if (count($boxes) > self::MOST_SHELLS) {
            return null;
        }
        $slack = 0.0;
        foreach ($boxes as $box) {
            $slack = max($slack, self::SLACK * max(array_map(abs(...), $box)));
        }
        $common = self::common($boxes, $slack);
        $some = [];
        $count = 0;
        foreach ($meshes as $m => $mesh) {
            $some[$m] = self::within($mesh, $shellOf[$m], $common);
            $count += count($some[$m]);
        }
        if ($count === 0 || $common === []) {
            return array_fill(0, count($meshes), []);
        }
        $grid = self::grid($common, $count, $slack);
        $cells = array_fill(0, $grid[6] * $grid[7] * $grid[8], 0);
        $cellsOf = [];
        foreach ($meshes as $m => $mesh) {
            $cellsOf[$m] = self::cellsOf($grid, $mesh, $some[$m]);
            self::mark($cells, $grid, $mesh, $some[$m], $shellOf[$m], $cellsOf[$m]);
        }
        $near = [];
        foreach ($meshes as $m => $mesh) {
            $near[] = self::marked($cells, $grid, $mesh, $some[$m], $cellsOf[$m]);
        }

        return $near;
    }

    /**
     * @param  list<Mesh>  $meshes
     * @return array{list<list<int>|int>, array<int, array{float, float, float, float, float, float}>} the shell of each vertex of a mesh, or the only one that it has, numbered from 1 through all meshes;
     *     least x, y, z of each shell and greatest
     */
    private static function shells(array $meshes): array
    {
        $shellOf = $boxes = [];
        $first = 1;
        foreach ($meshes as $mesh) {
            $count = Bodies::shellCount($mesh);
            if ($count <= 1) {
                $box = Box::of($mesh->xyz);
                $boxes[$first] = [...$box->min, ...$box->max];
                $shellOf[] = $first;
                $first += 1;

                continue;
            }
            $shells = [];
            $i = 0;
            foreach (Bodies::shells($mesh) as $shell) {
                $shells[] = $shell += $first;
                if ($shell >= $first) {
                    $box = $boxes[$shell] ?? [INF, INF, INF, -INF, -INF, -INF];
                    for ($k = 0; $k < 3; $k++) {
                        $c = $mesh->xyz[$i + $k];
                        $box[$k] = min($box[$k], $c);
                        $box[$k + 3] = max($box[$k + 3], $c);
                    }
                    $boxes[$shell] = $box;
                }
                $i += 3;
            }
            $shellOf[] = $shells;
            $first += $count;
        }

        return [$shellOf, $boxes];
    }

    /**
     * @param  array<int, array{float, float, float, float, float, float}>  $boxes
     * @return array<int, non-empty-list<array{float, float, float, float, float, float}>> of each shell that has any, what its box has in common with others'
     */
    private static function common(array $boxes, float $slack): array
    {
        $common = [];
        foreach ($boxes as $one => $a) {
            foreach ($boxes as $two => $b) {
                $both = [
                    max($a[0], $b[0]) - $slack, max($a[1], $b[1]) - $slack, max($a[2], $b[2]) - $slack,
                    min($a[3], $b[3]) + $slack, min($a[4], $b[4]) + $slack, min($a[5], $b[5]) + $slack,
                ];
                if ($one !== $two && $both[0] <= $both[3] && $both[1] <= $both[4] && $both[2] <= $both[5]) {
                    $common[$one][] = $both;
                }
            }
            if (count($common[$one] ?? []) > self::BOXES) {
                $common[$one] = [self::around($common[$one])];
            }
        }

        return $common;
    }

    /**
     * @param  non-empty-list<array{float, float, float, float, float, float}>  $boxes
     * @return array{float, float, float, float, float, float}
     */
    private static function around(array $boxes): array
    {
        return [
            min(array_column($boxes, 0)), min(array_column($boxes, 1)), min(array_column($boxes, 2)),
            max(array_column($boxes, 3)), max(array_column($boxes, 4)), max(array_column($boxes, 5)),
        ];
    }

    /**
     * The triangles whose boxes meet a box that their shell has in common with another one.
     *
     * @param  list<int>|int  $shellOf
     * @param  array<int, non-empty-list<array{float, float, float, float, float, float}>>  $common
     * @return list<int>
     */
    private static function within(Mesh $mesh, array|int $shellOf, array $common): array
    {
        $of = [];
        if (is_int($shellOf)) {
            $of[$shellOf] = isset($common[$shellOf]) ? array_keys($mesh->tags) : [];
        } else {
            foreach ($mesh->tags as $t => $_) {
                $of[$shellOf[$mesh->corners[3 * $t]]][] = $t;
            }
        }
        $lists = [];
        foreach ($of as $shell => $triangles) {
            foreach ($common[$shell] ?? [] as $box) {
                $lists[] = InBox::of($mesh, $triangles, [$box[0], $box[1], $box[2]], [$box[3], $box[4], $box[5]]);
            }
        }
        if (count($lists) < 2) {
            return $lists[0] ?? [];
        }
        $within = array_flip(array_merge(...$lists));
        ksort($within);

        return array_keys($within);
    }

    /**
     * @param  non-empty-array<int, non-empty-list<array{float, float, float, float, float, float}>>  $common
     * @return array{float, float, float, float, float, float, int, int, int, float} least x, y, z; cells a millimetre along each; how many along each; what triangles are widened by, mm
     */
    private static function grid(array $common, int $triangles, float $slack): array
    {
        $box = self::around(array_merge(...array_values($common)));
        $size = [max($box[3] - $box[0], 1e-300), max($box[4] - $box[1], 1e-300), max($box[5] - $box[2], 1e-300)];
        $wanted = min(self::MOST_CELLS, self::CELLS * $triangles);
        // Where it is flat there is one layer of cells.
        $edge = max(($size[0] * $size[1] * $size[2] / $wanted) ** (1 / 3), max($size) / $wanted);
        $many = array_map(static fn (float $s): int => (int) max(1, min($wanted, floor($s / $edge))), $size);
        while (2 * self::MOST_CELLS < $many[0] * $many[1] * $many[2]) {
            $many = array_map(static fn (int $n): int => max(1, intdiv($n, 2)), $many);
        }

        return [$box[0], $box[1], $box[2], $many[0] / $size[0], $many[1] / $size[1], $many[2] / $size[2], $many[0], $many[1], $many[2], $slack];
    }

    /**
     * The cells of the triangles' vertices, those beyond the grid in the nearest one. A place that two triangles have in common lies in a cell between those of the corners of either.
     *
     * @param  array{float, float, float, float, float, float, int, int, int, float}  $grid
     * @param  list<int>  $some
     * @return array<int, int> by vertex, 21 bits an axis
     */
    private static function cellsOf(array $grid, Mesh $mesh, array $some): array
    {
        [$x, $y, $z, $perX, $perY, $perZ, $manyX, $manyY, $manyZ] = $grid;
        $lastX = $manyX - 1;
        $lastY = $manyY - 1;
        $lastZ = $manyZ - 1;
        $xyz = $mesh->xyz;
        if (4 * count($some) > $mesh->triangleCount()) {
            $vertices = $mesh->vertexCount() === 0 ? [] : range(0, $mesh->vertexCount() - 1);
        } else {
            $vertices = [];
            foreach ($some as $t) {
                $vertices[] = $mesh->corners[3 * $t];
                $vertices[] = $mesh->corners[3 * $t + 1];
                $vertices[] = $mesh->corners[3 * $t + 2];
            }
        }
        $cells = [];
        foreach ($vertices as $v) {
            $c = 3 * $v;
            $i = ($xyz[$c] - $x) * $perX;
            $j = ($xyz[$c + 1] - $y) * $perY;
            $k = ($xyz[$c + 2] - $z) * $perZ;
            $i = $i > 0.0 ? ($i < $lastX ? (int) $i : $lastX) : 0;
            $j = $j > 0.0 ? ($j < $lastY ? (int) $j : $lastY) : 0;
            $k = $k > 0.0 ? ($k < $lastZ ? (int) $k : $lastZ) : 0;
            $cells[$v] = $i << 42 | $j << 21 | $k;
        }

        return $cells;
    }

    /**
     * Writes the shells of triangles into the cells that they may reach into.
     *
     * @param  array<int, int>  $cells  the shell in each, −1 for several; 0 for none
     * @param  array{float, float, float, float, float, float, int, int, int, float}  $grid
     * @param  list<int>  $some
     * @param  list<int>|int  $shellOf
     * @param  array<int, int>  $of  see cellsOf()
     */
    private static function mark(array &$cells, array $grid, Mesh $mesh, array $some, array|int $shellOf, array $of): void
    {
        $corners = $mesh->corners;
        $manyY = $grid[7];
        $manyZ = $grid[8];
        $mask = (1 << 21) - 1;
        foreach ($some as $t) {
            $v = $corners[3 * $t];
            $shell = is_int($shellOf) ? $shellOf : $shellOf[$v];
            $a = $of[$v];
            $b = $of[$corners[3 * $t + 1]];
            $c = $of[$corners[3 * $t + 2]];
            if ($a === $b && $a === $c) {
                $cell = (($a >> 42) * $manyY + ($a >> 21 & $mask)) * $manyZ + ($a & $mask);
                if ($cells[$cell] !== $shell) {
                    $cells[$cell] = $cells[$cell] === 0 ? $shell : -1;
                }

                continue;
            }
            foreach (self::reached($grid, $mesh, $t, $a, $b, $c) as $cell) {
                if ($cells[$cell] !== $shell) {
                    $cells[$cell] = $cells[$cell] === 0 ? $shell : -1;
                }
            }
        }
    }

    /**
     * @param  array<int, int>  $cells  with all shells
     * @param  array{float, float, float, float, float, float, int, int, int, float}  $grid
     * @param  list<int>  $some
     * @param  array<int, int>  $of
     * @return list<int> those of the triangles that may reach into a cell of several shells
     */
    private static function marked(array $cells, array $grid, Mesh $mesh, array $some, array $of): array
    {
        $corners = $mesh->corners;
        $manyY = $grid[7];
        $manyZ = $grid[8];
        $mask = (1 << 21) - 1;
        $marked = [];
        foreach ($some as $t) {
            $a = $of[$corners[3 * $t]];
            $b = $of[$corners[3 * $t + 1]];
            $c = $of[$corners[3 * $t + 2]];
            if ($a === $b && $a === $c) {
                if ($cells[(($a >> 42) * $manyY + ($a >> 21 & $mask)) * $manyZ + ($a & $mask)] === -1) {
                    $marked[] = $t;
                }

                continue;
            }
            foreach (self::reached($grid, $mesh, $t, $a, $b, $c) as $cell) {
                if ($cells[$cell] === -1) {
                    $marked[] = $t;
                    break;
                }
            }
        }

        return $marked;
    }

    /**
     * The cells that a triangle may reach into: those between its corners', and of many only those that it comes near.
     *
     * @param  array{float, float, float, float, float, float, int, int, int, float}  $grid
     * @return list<int>
     */
    private static function reached(array $grid, Mesh $mesh, int $t, int $p, int $q, int $r): array
    {
        [, , , , , , , $manyY, $manyZ] = $grid;
        $mask = (1 << 21) - 1;
        $i0 = min($p >> 42, $q >> 42, $r >> 42);
        $i1 = max($p >> 42, $q >> 42, $r >> 42);
        $j0 = min($p >> 21 & $mask, $q >> 21 & $mask, $r >> 21 & $mask);
        $j1 = max($p >> 21 & $mask, $q >> 21 & $mask, $r >> 21 & $mask);
        $k0 = min($p & $mask, $q & $mask, $r & $mask);
        $k1 = max($p & $mask, $q & $mask, $r & $mask);
        $cells = [];
        if (($i1 - $i0 + 1) * ($j1 - $j0 + 1) * ($k1 - $k0 + 1) <= self::FEW) {
            for ($i = $i0; $i <= $i1; $i++) {
                for ($j = $j0; $j <= $j1; $j++) {
                    for ($k = $k0; $k <= $k1; $k++) {
                        $cells[] = ($i * $manyY + $j) * $manyZ + $k;
                    }
                }
            }

            return $cells;
        }
        $xyz = $mesh->xyz;
        [$a, $b, $c] = [3 * $mesh->corners[3 * $t], 3 * $mesh->corners[3 * $t + 1], 3 * $mesh->corners[3 * $t + 2]];
        $normal = [
            ($xyz[$b + 1] - $xyz[$a + 1]) * ($xyz[$c + 2] - $xyz[$a + 2]) - ($xyz[$b + 2] - $xyz[$a + 2]) * ($xyz[$c + 1] - $xyz[$a + 1]),
            ($xyz[$b + 2] - $xyz[$a + 2]) * ($xyz[$c] - $xyz[$a]) - ($xyz[$b] - $xyz[$a]) * ($xyz[$c + 2] - $xyz[$a + 2]),
            ($xyz[$b] - $xyz[$a]) * ($xyz[$c + 1] - $xyz[$a + 1]) - ($xyz[$b + 1] - $xyz[$a + 1]) * ($xyz[$c] - $xyz[$a]),
        ];
        // In halves across the longest edge, until few cells are left of each.
        $waiting = [[$xyz[$a], $xyz[$a + 1], $xyz[$a + 2], $xyz[$b], $xyz[$b + 1], $xyz[$b + 2], $xyz[$c], $xyz[$c + 1], $xyz[$c + 2]]];
        while ($waiting !== []) {
            $part = array_pop($waiting);
            $range = self::range($grid, $part);
            if ($range === null) {
                continue;
            }
            [$i0, $i1, $j0, $j1, $k0, $k1] = $range;
            // What is next to nothing has no halves that reach into fewer.
            $isLarge = max(abs($part[0] - $part[3]), abs($part[1] - $part[4]), abs($part[2] - $part[5]), abs($part[0] - $part[6]), abs($part[1] - $part[7]), abs($part[2] - $part[8])) > 4 * $grid[9];
            if ($isLarge && ($i1 - $i0 + 1) * ($j1 - $j0 + 1) * ($k1 - $k0 + 1) > self::SOME) {
                array_push($waiting, ...self::halves($part));

                continue;
            }
            foreach (self::along($grid, $normal, $part, $range) as $cell) {
                $cells[$cell] = $cell;
            }
        }

        return array_values($cells);
    }

    /**
     * The cells that a triangle's box reaches into; null when it is beyond the grid.
     *
     * @param  array{float, float, float, float, float, float, int, int, int, float}  $grid
     * @param  array{float, float, float, float, float, float, float, float, float}  $part  three corners
     * @return array{int, int, int, int, int, int}|null first and last along each axis
     */
    private static function range(array $grid, array $part): ?array
    {
        $range = [];
        for ($k = 0; $k < 3; $k++) {
            $from = (min($part[$k], $part[$k + 3], $part[$k + 6]) - $grid[9] - $grid[$k]) * $grid[$k + 3];
            $to = (max($part[$k], $part[$k + 3], $part[$k + 6]) + $grid[9] - $grid[$k]) * $grid[$k + 3];
            $last = $k === 0 ? $grid[6] : ($k === 1 ? $grid[7] : $grid[8]);
            if ($to < 0.0 || $from > $last) {
                return null;
            }
            $range[] = (int) max(0.0, min($last - 1.0, $from));
            $range[] = (int) max(0.0, min($last - 1.0, $to));
        }

        return [$range[0], $range[1], $range[2], $range[3], $range[4], $range[5]];
    }

    /**
     * @param  array{float, float, float, float, float, float, float, float, float}  $p
     * @return list<array{float, float, float, float, float, float, float, float, float}> both halves across the longest edge
     */
    private static function halves(array $p): array
    {
        $ab = ($p[0] - $p[3]) ** 2 + ($p[1] - $p[4]) ** 2 + ($p[2] - $p[5]) ** 2;
        $bc = ($p[3] - $p[6]) ** 2 + ($p[4] - $p[7]) ** 2 + ($p[5] - $p[8]) ** 2;
        $ca = ($p[6] - $p[0]) ** 2 + ($p[7] - $p[1]) ** 2 + ($p[8] - $p[2]) ** 2;
        if ($bc >= $ab && $bc >= $ca) {
            $p = [$p[3], $p[4], $p[5], $p[6], $p[7], $p[8], $p[0], $p[1], $p[2]];
        } elseif ($ca >= $ab) {
            $p = [$p[6], $p[7], $p[8], $p[0], $p[1], $p[2], $p[3], $p[4], $p[5]];
        }
        $x = ($p[0] + $p[3]) / 2;
        $y = ($p[1] + $p[4]) / 2;
        $z = ($p[2] + $p[5]) / 2;

        return [[$p[0], $p[1], $p[2], $x, $y, $z, $p[6], $p[7], $p[8]], [$x, $y, $z, $p[3], $p[4], $p[5], $p[6], $p[7], $p[8]]];
    }

    /**
     * Of a range of cells those that a plane passes.
     *
     * @param  array{float, float, float, float, float, float, int, int, int, float}  $grid
     * @param  array{float, float, float}  $normal  of any length
     * @param  array{float, float, float, float, float, float, float, float, float}  $part  the first three are a place on it
     * @param  array{int, int, int, int, int, int}  $range
     * @return list<int>
     */
    private static function along(array $grid, array $normal, array $part, array $range): array
    {
        [$x, $y, $z, $perX, $perY, $perZ, , $manyY, $manyZ, $slack] = $grid;
        [$nx, $ny, $nz] = $normal;
        [$i0, $i1, $j0, $j1, $k0, $k1] = $range;
        // Half of a cell, widened, along the normal.
        $reach = (0.5 / $perX + $slack) * abs($nx) + (0.5 / $perY + $slack) * abs($ny) + (0.5 / $perZ + $slack) * abs($nz);
        $cells = [];
        for ($i = $i0; $i <= $i1; $i++) {
            $dx = $nx * ($x + ($i + 0.5) / $perX - $part[0]);
            for ($j = $j0; $j <= $j1; $j++) {
                $dxy = $dx + $ny * ($y + ($j + 0.5) / $perY - $part[1]);
                for ($k = $k0; $k <= $k1; $k++) {
                    $d = $dxy + $nz * ($z + ($k + 0.5) / $perZ - $part[2]);
                    if ($d <= $reach && $d >= -$reach) {
                        $cells[] = ($i * $manyY + $j) * $manyZ + $k;
                    }
                }
            }
        }

        return $cells;
    }
}
