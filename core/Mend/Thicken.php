<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Isotome\Check\EdgePlaces;
use Isotome\Exception\BadMesh;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Pinches;

/**
 * Gives an open sheet a thickness: the sheet moved out, the sheet moved back and turned over, and a band along every rim.
 *
 * Guarantees a watertight result from a sheet whose edges have at most two faces that agree in direction. Each vertex moves along the
 * mean of its faces' normals weighted by their angles (G. Thürmer, C. A. Wüthrich 1998), farther where faces bend so that flat parts get the
 * thickness exactly (at most three times as far). Parts thinner in curvature than the thickness may cross; the check says so.
 */
final class Thicken
{
    /**
     * @param  float  $thickness  mm, more than 0
     * @param  string  $side  both, front (the side that faces look to) or back: where the thickness goes
     *
     * @throws BadMesh when the mesh is closed already or its faces do not agree
     */
    public static function of(Mesh $mesh, float $thickness, string $side = 'both', int $tag = 0): Mesh
    {
        $edges = EdgePlaces::of($mesh);
        if ($mesh->isEmpty() || $edges->open === []) {
            throw new BadMesh('The mesh has no open edge, so it is no sheet; thickness can be given to an open sheet only.');
        }
        if ($edges->nonmanifold !== [] || $edges->flipped !== []) {
            throw new BadMesh('The sheet has '.(count($edges->nonmanifold) + count($edges->flipped)).' edges with more than two faces or faces that disagree; mend those first.');
        }
        if (! is_finite($thickness) || $thickness <= 0) {
            throw new BadMesh('The thickness is not more than 0 mm; give one such as 1.2.');
        }
        // Where a sheet touches itself in a point, the fans part: their rims would share a vertical edge.
        [$xyz, $corners] = Pinches::apart($mesh->xyz, $mesh->corners, array_fill_keys(array_column($edges->open, 0), true));
        $mesh = Mesh::of($xyz, $corners, $mesh->tags);
        $normals = self::normals($mesh);
        [$front, $back] = match ($side) {
            'front' => [$thickness, 0.0],
            'back' => [0.0, -$thickness],
            default => [$thickness / 2, -$thickness / 2],
        };
        $vertices = $mesh->vertexCount();
        $both = [];
        foreach ([$front, $back] as $way) {
            foreach ($xyz as $i => $c) {
                $both[] = $c + $way * $normals[$i];
            }
        }
        $tags = [...$mesh->tags, ...$mesh->tags];
        $all = $corners;
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            array_push($all, $vertices + $corners[$i], $vertices + $corners[$i + 2], $vertices + $corners[$i + 1]);
        }
        foreach (EdgePlaces::of($mesh)->open as [$a, $b]) {
            array_push($all, $b, $a, $vertices + $a, $b, $vertices + $a, $vertices + $b);
            array_push($tags, $tag, $tag);
        }

        return Mesh::of($both, $all, $tags);
    }

    /** @return list<float> three a vertex, of a length that keeps flat neighbours at distance one */
    public static function normals(Mesh $mesh): array
    {
        $xyz = $mesh->xyz;
        $sum = array_fill(0, count($xyz), 0.0);
        $faces = [];
        for ($i = 0, $count = count($mesh->corners); $i < $count; $i += 3) {
            $three = [$mesh->corners[$i], $mesh->corners[$i + 1], $mesh->corners[$i + 2]];
            [$a, $b, $c] = $three;
            [$ux, $uy, $uz] = [$xyz[3 * $b] - $xyz[3 * $a], $xyz[3 * $b + 1] - $xyz[3 * $a + 1], $xyz[3 * $b + 2] - $xyz[3 * $a + 2]];
            [$vx, $vy, $vz] = [$xyz[3 * $c] - $xyz[3 * $a], $xyz[3 * $c + 1] - $xyz[3 * $a + 1], $xyz[3 * $c + 2] - $xyz[3 * $a + 2]];
            [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
            $size = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            if ($size <= 0.0) {
                continue;
            }
            [$nx, $ny, $nz] = [$nx / $size, $ny / $size, $nz / $size];
            foreach ($three as $k => $v) {
                $p = 3 * $three[($k + 1) % 3];
                $q = 3 * $three[($k + 2) % 3];
                $o = 3 * $v;
                [$ex, $ey, $ez] = [$xyz[$p] - $xyz[$o], $xyz[$p + 1] - $xyz[$o + 1], $xyz[$p + 2] - $xyz[$o + 2]];
                [$fx, $fy, $fz] = [$xyz[$q] - $xyz[$o], $xyz[$q + 1] - $xyz[$o + 1], $xyz[$q + 2] - $xyz[$o + 2]];
                $angle = atan2($size, $ex * $fx + $ey * $fy + $ez * $fz);
                $sum[$o] += $angle * $nx;
                $sum[$o + 1] += $angle * $ny;
                $sum[$o + 2] += $angle * $nz;
                $faces[$v][] = [$nx, $ny, $nz];
            }
        }
        for ($v = 0, $i = 0, $count = count($sum); $i < $count; $v++, $i += 3) {
            $size = sqrt($sum[$i] ** 2 + $sum[$i + 1] ** 2 + $sum[$i + 2] ** 2);
            if ($size <= 0.0) {
                continue;
            }
            [$nx, $ny, $nz] = [$sum[$i] / $size, $sum[$i + 1] / $size, $sum[$i + 2] / $size];
            $least = 1.0;
            foreach ($faces[$v] ?? [] as [$fx, $fy, $fz]) {
                $least = min($least, $nx * $fx + $ny * $fy + $nz * $fz);
            }
            $length = 1 / max($least, 1 / 3);
            [$sum[$i], $sum[$i + 1], $sum[$i + 2]] = [$length * $nx, $length * $ny, $length * $nz];
        }

        return array_values($sum);
    }
}
