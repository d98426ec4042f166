<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Mesh;

/** The bytes of OBJ, OFF and PLY files, in 64-bit floats that read back exactly; millimetres, Z up. */
final class TextWriters
{
    /**
     * An object a piece, under its name; every piece with its own vertices.
     *
     * @param  array<string, Mesh>  $meshes  by name
     * @param  string|null  $library  file of materials: see Materials::library
     * @return iterable<string>
     */
    public static function obj(array $meshes, ?string $library = null): iterable
    {
        yield '# Isotome, millimetres, Z up
'.($library === null ? '' : "mtllib $library\n");
        $base = 1;
        foreach ($meshes as $name => $mesh) {
            $word = self::word((string) $name);
            yield "o $word\n";
            yield from self::lines($mesh->xyz, 'v ');
            if ($library === null) {
                yield from self::faces($mesh, $base, null);
            } else {
                yield "usemtl {$word}_skin\n";
                yield from self::faces($mesh, $base, false);
                yield "usemtl {$word}_inside\n";
                yield from self::faces($mesh, $base, true);
            }
            $base += $mesh->vertexCount();
        }
    }

    /** A name as one word. */
    public static function word(string $name): string
    {
        return trim((string) preg_replace('/\s+/', '_', $name));
    }

    /**
     * @param  bool|null  $isInside  faces of one side only; all of them when null
     * @return iterable<string>
     */
    private static function faces(Mesh $mesh, int $base, ?bool $isInside): iterable
    {
        $corners = $mesh->corners;
        $text = '';
        $i = 0;
        foreach ($mesh->tags as $tag) {
            if ($isInside === null || $isInside === ($tag > 0)) {
                $text .= 'f '.($base + $corners[$i]).' '.($base + $corners[$i + 1]).' '.($base + $corners[$i + 2])."\n";
                if (strlen($text) > 1 << 18) {
                    yield $text;
                    $text = '';
                }
            }
            $i += 3;
        }
        yield $text;
    }

    /** @return iterable<string> */
    public static function off(Mesh $mesh): iterable
    {
        yield "OFF\n# Isotome, millimetres, Z up\n".$mesh->vertexCount().' '.$mesh->triangleCount()." 0\n";
        yield from self::lines($mesh->xyz, '');
        $corners = $mesh->corners;
        $text = '';
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            $text .= "3 $corners[$i] {$corners[$i + 1]} {$corners[$i + 2]}\n";
            if (strlen($text) > 1 << 18) {
                yield $text;
                $text = '';
            }
        }
        yield $text;
    }

    /**
     * Binary, little-endian; each face with a byte that is 0 for skin and 1 for inside. Colours and normals that the mesh carries go to its vertices, where a
     * vertex has one of the skin.
     *
     * @return iterable<string>
     */
    public static function ply(Mesh $mesh): iterable
    {
        [$properties, $carried] = PlyVertices::of($mesh);
        yield "ply\nformat binary_little_endian 1.0\ncomment Isotome, millimetres, Z up\nelement vertex ".$mesh->vertexCount()
            ."\nproperty double x\nproperty double y\nproperty double z\n{$properties}element face ".$mesh->triangleCount()
            ."\nproperty list uchar int vertex_indices\nproperty uchar inside\nend_header\n";
        if ($properties === '') {
            foreach (array_chunk($mesh->xyz, 3072) as $chunk) {
                yield pack('e*', ...$chunk);
            }
        } else {
            foreach (array_chunk($mesh->xyz, 3) as $v => $place) {
                yield pack('e3', ...$place).$carried[$v];
            }
        }
        $corners = $mesh->corners;
        $text = '';
        foreach ($mesh->tags as $t => $tag) {
            $text .= pack('CV3C', 3, $corners[3 * $t], $corners[3 * $t + 1], $corners[3 * $t + 2], $tag > 0 ? 1 : 0);
            if (strlen($text) > 1 << 18) {
                yield $text;
                $text = '';
            }
        }
        yield $text;
    }

    /**
     * @param  list<float>  $xyz
     * @return iterable<string>
     */
    private static function lines(array $xyz, string $word): iterable
    {
        $text = '';
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $text .= $word.TextNumber::exact($xyz[$i]).' '.TextNumber::exact($xyz[$i + 1]).' '.TextNumber::exact($xyz[$i + 2])."\n";
            if (strlen($text) > 1 << 18) {
                yield $text;
                $text = '';
            }
        }
        yield $text;
    }
}
