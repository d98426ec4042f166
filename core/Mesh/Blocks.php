<?php

declare(strict_types=1);

namespace Isotome\Mesh;

use Isotome\Exception\BadMesh;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Geometry\Sides;

/**
 * A mesh cut into blocks of neighbouring triangles, each with its box, so that a question about a place reads only the
 * blocks there. Blocks carry the numbers of their vertices and triangles in the whole mesh: all blocks together give the
 * mesh back exactly, in its order; some of them give that part of it.
 *
 * Neighbours are found by sorting triangle centres along a Z-order curve (G. M. Morton 1966).
 * A payload: u16 triangles, u16 vertices; u32 vertex numbers; f64 coordinates; u8 corners; u32 triangle numbers; u16 tags.
 * Little-endian throughout.
 */
final class Blocks
{
    private const TRIANGLES = 256;

    private const VERTICES = 256;

    /** @return list<array{box: array{float, float, float, float, float, float}, sums: array{float, float, float, float}, payload: string}> box as x0, x1, y0, y1, z0, z1; sums: see sums() */
    public static function of(Mesh $mesh): array
    {
        $box = Box::of($mesh->xyz);
        $centre = [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
        $corners = $mesh->corners;
        $char = array_map(chr(...), range(0, 255));
        $blocks = $local = $triangles = [];
        $used = $count = 0;
        $bytes = '';
        foreach (self::order($mesh) as $t) {
            $a = $corners[3 * $t];
            $b = $corners[3 * $t + 1];
            $c = $corners[3 * $t + 2];
            $new = (isset($local[$a]) ? 0 : 1) + (isset($local[$b]) ? 0 : 1) + (isset($local[$c]) ? 0 : 1);
            if ($count === self::TRIANGLES || $used + $new > self::VERTICES) {
                $blocks[] = self::block($mesh, $local, $triangles, $bytes, $centre);
                $local = $triangles = [];
                $used = $count = 0;
                $bytes = '';
                $new = 3;
            }
            if ($new > 0) {
                if (! isset($local[$a])) {
                    $local[$a] = $used++;
                }
                if (! isset($local[$b])) {
                    $local[$b] = $used++;
                }
                if (! isset($local[$c])) {
                    $local[$c] = $used++;
                }
            }
            $bytes .= $char[$local[$a]].$char[$local[$b]].$char[$local[$c]];
            $triangles[] = $t;
            $count++;
        }
        if ($triangles !== []) {
            $blocks[] = self::block($mesh, $local, $triangles, $bytes, $centre);
        }

        return $blocks;
    }

    /**
     * @param  iterable<string>  $payloads  all blocks of one mesh
     *
     * @throws BadMesh when blocks are missing
     */
    public static function whole(iterable $payloads, int $vertices, int $triangles): Mesh
    {
        $xyz = array_fill(0, 3 * $vertices, 0.0);
        $corners = array_fill(0, 3 * $triangles, 0);
        $tags = array_fill(0, $triangles, 0);
        $seen = 0;
        foreach ($payloads as $payload) {
            [$count, $used, $ids, $coordinates, $bytes, $numbers, $blockTags] = self::read($payload);
            $seen += $count;
            $i = 1;
            for ($k = 1; $k <= $used; $k++) {
                $at = 3 * $ids[$k];
                $xyz[$at] = $coordinates[$i++];
                $xyz[$at + 1] = $coordinates[$i++];
                $xyz[$at + 2] = $coordinates[$i++];
            }
            $i = 0;
            for ($k = 1; $k <= $count; $k++) {
                $t = $numbers[$k];
                $corners[3 * $t] = $ids[ord($bytes[$i++]) + 1];
                $corners[3 * $t + 1] = $ids[ord($bytes[$i++]) + 1];
                $corners[3 * $t + 2] = $ids[ord($bytes[$i++]) + 1];
                $tags[$t] = $blockTags[$k];
            }
        }
        if ($seen !== $triangles) {
            throw new BadMesh("The stored mesh is damaged: $seen of $triangles triangles are there; restore the data folder from a copy.");
        }

        return Mesh::of(array_values($xyz), array_values($corners), array_values($tags));
    }

    /**
     * The triangles of some blocks that the plane touches, or nearly: all that Section needs of them.
     *
     * @param  iterable<string>  $payloads
     * @param  float  $extent  largest absolute coordinate of the whole mesh
     * @param  float  $reach  triangles with a vertex within this distance of the plane are in it as well, mm
     */
    public static function touching(iterable $payloads, Plane $plane, float $extent, float $reach = 0.0): Mesh
    {
        [$nx, $ny, $nz] = $plane->facing();
        // Twice the band within which Sides takes a vertex as on the plane: it decides, this only sorts out.
        $margin = 2 * Sides::band($extent, $plane) + $reach;
        $high = $plane->offset + $margin;
        $low = $plane->offset - $margin;
        $xyz = [];
        $corners = [];
        $tags = [];
        $map = [];
        $next = 0;
        $every = implode('', array_map(chr(...), range(0, 255)));
        foreach ($payloads as $payload) {
            $count = ord($payload[0]) | ord($payload[1]) << 8;
            $used = ord($payload[2]) | ord($payload[3]) << 8;
            $at = 4 + 28 * $used;
            if (strlen($payload) !== $at + 9 * $count) {
                throw new BadMesh('A block of a stored mesh is damaged; restore the data folder from a copy.');
            }
            /** @var array<int, float> $coordinates */
            $coordinates = unpack('e'.(3 * $used), $payload, 4 + 4 * $used);
            $sides = '';
            for ($i = 1, $last = 3 * $used; $i <= $last; $i += 3) {
                $d = $nx * $coordinates[$i] + $ny * $coordinates[$i + 1] + $nz * $coordinates[$i + 2];
                $sides .= $d > $high ? '2' : ($d < $low ? '1' : '0');
            }
            // The corners' bytes become their sides; then all but the triangles wholly on one side are sought as text.
            $bytes = substr($payload, $at, 3 * $count);
            if (preg_match_all('/\G(?:111|222)*+\K.../', strtr($bytes, substr($every, 0, $used), $sides), $found, PREG_OFFSET_CAPTURE) === 0) {
                continue;
            }
            /** @var array<int, int> $ids */
            $ids = unpack("V$used", $payload, 4);
            foreach ($found[0] as [, $i]) {
                $t = intdiv($i, 3);
                $a = ord($bytes[$i]);
                $b = ord($bytes[$i + 1]);
                $c = ord($bytes[$i + 2]);
                foreach ([$a, $b, $c] as $corner) {
                    $id = $ids[$corner + 1];
                    if (($v = $map[$id] ?? -1) < 0) {
                        $map[$id] = $v = $next++;
                        $xyz[] = $coordinates[3 * $corner + 1];
                        $xyz[] = $coordinates[3 * $corner + 2];
                        $xyz[] = $coordinates[3 * $corner + 3];
                    }
                    $corners[] = $v;
                }
                $k = $at + 7 * $count + 2 * $t;
                $tags[] = ord($payload[$k]) | ord($payload[$k + 1]) << 8;
            }
        }

        return Mesh::of($xyz, $corners, $tags);
    }

    /** How far a block's vertices reach along a direction. */
    public static function farthest(string $payload, float $nx, float $ny, float $nz): float
    {
        $used = ord($payload[2]) | ord($payload[3]) << 8;
        /** @var array<int, float> $c */
        $c = unpack('e'.(3 * $used), $payload, 4 + 4 * $used);
        $best = -INF;
        for ($i = 1, $last = 3 * $used; $i <= $last; $i += 3) {
            $best = max($best, $nx * $c[$i] + $ny * $c[$i + 1] + $nz * $c[$i + 2]);
        }

        return $best;
    }

    /** @return list<int> triangle numbers, neighbours near each other */
    public static function order(Mesh $mesh): array
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $count = $mesh->triangleCount();
        if ($count <= self::TRIANGLES) {
            return $count === 0 ? [] : range(0, $count - 1);
        }
        $low = $xyz === [] ? 0.0 : min($xyz);
        $span = $xyz === [] ? 0.0 : max($xyz) - $low;
        $scale = $span > 0 ? 1023.0 / (3 * $span) : 0.0;
        // Bits of 0…1023 spread to every third place.
        $spread = [];
        for ($n = 0; $n < 1024; $n++) {
            $bits = 0;
            for ($b = 0; $b < 10; $b++) {
                $bits |= (($n >> $b) & 1) << (3 * $b);
            }
            $spread[] = $bits;
        }
        $keys = [];
        $base = 3 * $low;
        for ($t = 0, $i = 0; $t < $count; $t++, $i += 3) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $x = (int) (($xyz[$a] + $xyz[$b] + $xyz[$c] - $base) * $scale);
            $y = (int) (($xyz[$a + 1] + $xyz[$b + 1] + $xyz[$c + 1] - $base) * $scale);
            $z = (int) (($xyz[$a + 2] + $xyz[$b + 2] + $xyz[$c + 2] - $base) * $scale);
            $key = $spread[$x] | $spread[$y] << 1 | $spread[$z] << 2;
            $keys[$key >> 12][] = $key << 31 | $t;
        }
        // Sorted within buckets of neighbours: shorter lists are sorted in fewer comparisons.
        ksort($keys);
        $order = [];
        foreach ($keys as $some) {
            sort($some);
            foreach ($some as $key) {
                $order[] = $key & 0x7FFFFFFF;
            }
        }

        return $order;
    }

    /**
     * What the triangles of a block add to the volume and to the vector area, the volume counted from the centre of the whole mesh's
     * box: sums over blocks give both for any part of the mesh, and the volume from any other point follows.
     *
     * @param  array{float, float, float}  $centre
     * @return array{float, float, float, float} mm³, mm² along x, y, z
     */
    public static function sums(string $payload, array $centre): array
    {
        $count = ord($payload[0]) | ord($payload[1]) << 8;
        $used = ord($payload[2]) | ord($payload[3]) << 8;
        /** @var array<int, float> $c */
        $c = unpack('e'.(3 * $used), $payload, 4 + 4 * $used);

        return self::sumsOf(array_values($c), substr($payload, 4 + 28 * $used, 3 * $count), $centre);
    }

    /**
     * @param  list<float>  $c  coordinates of the block's vertices
     * @param  string  $bytes  corners, a byte each
     * @param  array{float, float, float}  $centre
     * @return array{float, float, float, float}
     */
    private static function sumsOf(array $c, string $bytes, array $centre): array
    {
        [$ox, $oy, $oz] = $centre;
        $v = $ax = $ay = $az = 0.0;
        for ($i = 0, $end = strlen($bytes); $i < $end; $i += 3) {
            $p = 3 * ord($bytes[$i]);
            $q = 3 * ord($bytes[$i + 1]);
            $r = 3 * ord($bytes[$i + 2]);
            $px = $c[$p] - $ox;
            $py = $c[$p + 1] - $oy;
            $pz = $c[$p + 2] - $oz;
            $ux = $c[$q] - $c[$p];
            $uy = $c[$q + 1] - $c[$p + 1];
            $uz = $c[$q + 2] - $c[$p + 2];
            $wx = $c[$r] - $c[$p];
            $wy = $c[$r + 1] - $c[$p + 1];
            $wz = $c[$r + 2] - $c[$p + 2];
            $nx = $uy * $wz - $uz * $wy;
            $ny = $uz * $wx - $ux * $wz;
            $nz = $ux * $wy - $uy * $wx;
            $v += $px * $nx + $py * $ny + $pz * $nz;
            $ax += $nx;
            $ay += $ny;
            $az += $nz;
        }

        return [$v / 6, $ax / 2, $ay / 2, $az / 2];
    }

    /**
     * @param  array<int, int>  $local
     * @param  list<int>  $triangles
     * @param  array{float, float, float}  $centre
     * @return array{box: array{float, float, float, float, float, float}, sums: array{float, float, float, float}, payload: string}
     */
    private static function block(Mesh $mesh, array $local, array $triangles, string $bytes, array $centre): array
    {
        $xyz = $mesh->xyz;
        $all = $tags = [];
        $x0 = $y0 = $z0 = INF;
        $x1 = $y1 = $z1 = -INF;
        foreach ($local as $v => $_) {
            $all[] = $x = $xyz[3 * $v];
            $all[] = $y = $xyz[3 * $v + 1];
            $all[] = $z = $xyz[3 * $v + 2];
            if ($x < $x0) {
                $x0 = $x;
            }
            if ($x > $x1) {
                $x1 = $x;
            }
            if ($y < $y0) {
                $y0 = $y;
            }
            if ($y > $y1) {
                $y1 = $y;
            }
            if ($z < $z0) {
                $z0 = $z;
            }
            if ($z > $z1) {
                $z1 = $z;
            }
        }
        foreach ($triangles as $t) {
            $tags[] = $mesh->tags[$t];
        }

        return [
            'box' => [$x0, $x1, $y0, $y1, $z0, $z1],
            'sums' => self::sumsOf($all, $bytes, $centre),
            'payload' => pack('v2', count($triangles), count($local)).Packing::longs(array_keys($local)).Packing::doubles($all).$bytes.Packing::longs($triangles).Packing::shorts($tags),
        ];
    }

    /** @return array{int, int, array<int, int>, array<int, float>, string, array<int, int>, array<int, int>} numbers counted from 1 */
    private static function read(string $payload): array
    {
        $count = ord($payload[0]) | ord($payload[1]) << 8;
        $used = ord($payload[2]) | ord($payload[3]) << 8;
        if (strlen($payload) !== 4 + 28 * $used + 9 * $count) {
            throw new BadMesh('A block of a stored mesh is damaged; restore the data folder from a copy.');
        }
        $at = 4 + 28 * $used;
        /** @var array<int, int> $ids */
        $ids = unpack("V$used", $payload, 4);
        /** @var array<int, float> $coordinates */
        $coordinates = unpack('e'.(3 * $used), $payload, 4 + 4 * $used);
        /** @var array<int, int> $numbers */
        $numbers = unpack("V$count", $payload, $at + 3 * $count);
        /** @var array<int, int> $tags */
        $tags = unpack("v$count", $payload, $at + 7 * $count);

        return [$count, $used, $ids, $coordinates, substr($payload, $at, 3 * $count), $numbers, $tags];
    }
}
