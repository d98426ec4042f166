<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Mesh;
use RuntimeException;

/** Writes binary STL, millimetres. */
final class StlWriter
{
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
        for ($i = 0; $i < $count; $i += 3) {
            $bytes[] = pack('g3', $xyz[$i], $xyz[$i + 1], $xyz[$i + 2]);
        }
        $chunk = [];
        $count = count($corners);
        for ($i = 0; $i < $count; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            $ux = $xyz[3 * $b] - ($x = $xyz[3 * $a]);
            $uy = $xyz[3 * $b + 1] - ($y = $xyz[3 * $a + 1]);
            $uz = $xyz[3 * $b + 2] - ($z = $xyz[3 * $a + 2]);
            $vx = $xyz[3 * $c] - $x;
            $vy = $xyz[3 * $c + 1] - $y;
            $vz = $xyz[3 * $c + 2] - $z;
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            if ($length > 0) {
                $nx /= $length;
                $ny /= $length;
                $nz /= $length;
            }
            $chunk[] = pack('g3', $nx, $ny, $nz).$bytes[$a].$bytes[$b].$bytes[$c]."\0\0";
            if (count($chunk) === 8192) {
                yield implode('', $chunk);
                $chunk = [];
            }
        }
        yield implode('', $chunk);
    }
}
