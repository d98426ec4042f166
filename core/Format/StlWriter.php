<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Mesh;
use RuntimeException;

/** Writes binary STL, millimetres. */
final class StlWriter
{
    private const CHUNK = 12288;

    /**
     * Guarantees that the file is complete or not there at all, and that reading it back gives the returned mesh.
     *
     * @return Mesh the mesh as the file holds it: brought to 32-bit floats and checked for what that does to it
     *
     * @throws RuntimeException when the folder cannot be written
     */
    public static function write(Mesh $mesh, string $path): Mesh
    {
        $mesh = Rounded::of($mesh);
        Files::write($path, self::chunks($mesh));

        return $mesh;
    }

    /**
     * The file's bytes, for a mesh that is in single precision already.
     *
     * @return iterable<string>
     */
    public static function chunks(Mesh $mesh): iterable
    {
        yield str_pad('Isotome, binary STL, millimetres, Z up', 80, "\0").pack('V', $mesh->triangleCount());
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $bytes = [];
        $count = count($xyz);
        for ($i = 0; $i < $count; $i += self::CHUNK) {
            foreach (str_split(pack('g*', ...array_slice($xyz, $i, self::CHUNK)), 12) as $place) {
                $bytes[] = $place;
            }
        }
        $count = count($corners);
        for ($start = 0; $start < $count; $start += self::CHUNK) {
            $end = $start + self::CHUNK < $count ? $start + self::CHUNK : $count;
            $normals = [];
            for ($i = $start; $i < $end; $i += 3) {
                $a = 3 * $corners[$i];
                $b = 3 * $corners[$i + 1];
                $c = 3 * $corners[$i + 2];
                $ux = $xyz[$b] - ($x = $xyz[$a]);
                $uy = $xyz[$b + 1] - ($y = $xyz[$a + 1]);
                $uz = $xyz[$b + 2] - ($z = $xyz[$a + 2]);
                $vx = $xyz[$c] - $x;
                $vy = $xyz[$c + 1] - $y;
                $vz = $xyz[$c + 2] - $z;
                $nx = $uy * $vz - $uz * $vy;
                $ny = $uz * $vx - $ux * $vz;
                $nz = $ux * $vy - $uy * $vx;
                $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                if ($length > 0) {
                    $nx /= $length;
                    $ny /= $length;
                    $nz /= $length;
                }
                $normals[] = $nx;
                $normals[] = $ny;
                $normals[] = $nz;
            }
            // All normals of a chunk are packed at once: one call a triangle would take longer than all the rest.
            $normals = pack('g*', ...$normals);
            $chunk = '';
            for ($i = $start, $n = 0; $i < $end; $i += 3, $n += 12) {
                $chunk .= substr($normals, $n, 12).$bytes[$corners[$i]].$bytes[$corners[$i + 1]].$bytes[$corners[$i + 2]]."\0\0";
            }
            yield $chunk;
        }
    }
}
