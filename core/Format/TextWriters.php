<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Mesh;

/** The bytes of OFF and PLY files, in 64-bit floats that read back exactly; millimetres, Z up. */
final class TextWriters
{
    /** A name as one word. */
    public static function word(string $name): string
    {
        return trim((string) preg_replace('/\s+/', '_', $name));
    }

    /**
     * With the colours of vertices behind them where the mesh carries any.
     *
     * @return iterable<string>
     */
    public static function off(Mesh $mesh): iterable
    {
        $colours = VertexColours::of($mesh);
        yield ($colours === null ? '' : 'C')."OFF\n# Isotome, millimetres, Z up\n".$mesh->vertexCount().' '.$mesh->triangleCount()." 0\n";
        if ($colours === null) {
            yield from self::lines($mesh->xyz, '');
        } else {
            foreach (array_chunk($mesh->xyz, 3) as $v => $place) {
                yield implode(' ', array_map(TextNumber::exact(...), $place)).sprintf(" %.6g %.6g %.6g %.6g\n", ...$colours[$v]);
            }
        }
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
    public static function lines(array $xyz, string $word): iterable
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
