<?php

declare(strict_types=1);

namespace Tests\Support;

/** A painted box as glTF 2.0 binary, put together by hand from the specification, without the writer that is tested. */
final class PaintedGlb
{
    /**
     * A box of 40 × 20 × 30 mm (X, Y, Z up) about the origin: four vertices a face, texture coordinates over each face, normals, colours as normalized 16-bit numbers;
     * five faces of painted clay with a picture, the top of glaze without.
     *
     * @param  array<mixed>  $change  of the description, laid over it
     */
    public static function box(array $change = [], ?string $picture = null): string
    {
        $faces = [
            [[1, 0, 0], [0, 1, 0], [0, 0, 1]], [[-1, 0, 0], [0, 0, 1], [0, 1, 0]], [[0, 1, 0], [0, 0, 1], [1, 0, 0]],
            [[0, -1, 0], [1, 0, 0], [0, 0, 1]], [[0, 0, 1], [1, 0, 0], [0, 1, 0]], [[0, 0, -1], [0, 1, 0], [1, 0, 0]],
        ];
        // Metres, Y up: our X, Z, −Y.
        $half = [0.02, 0.015, 0.01];
        $places = $normals = $uv = $colours = '';
        $indices = ['', ''];
        foreach ($faces as $f => [$n, $u, $v]) {
            foreach ([[-1, -1], [1, -1], [1, 1], [-1, 1]] as [$a, $b]) {
                $p = [];
                foreach ([0, 1, 2] as $k) {
                    $p[] = ($n[$k] + $a * $u[$k] + $b * $v[$k]) * $half[$k];
                }
                $places .= pack('g3', ...$p);
                $normals .= pack('g3', ...$n);
                $uv .= pack('g2', ($a + 1) / 2, ($b + 1) / 2);
                $colours .= pack('v4', 65535, (int) round(65535 * ($a + 1) / 2), 0, 65535);
            }
            // The top, +Y here, is the third.
            $indices[$f === 2 ? 1 : 0] .= pack('v6', 4 * $f, 4 * $f + 1, 4 * $f + 2, 4 * $f, 4 * $f + 2, 4 * $f + 3);
        }
        $picture ??= self::png();
        $binary = '';
        $views = [];
        foreach ([$places, $normals, $uv, $colours, $indices[0], $indices[1], $picture] as $bytes) {
            $views[] = ['buffer' => 0, 'byteOffset' => strlen($binary), 'byteLength' => strlen($bytes)];
            $binary .= $bytes.str_repeat("\0", (4 - strlen($bytes) % 4) % 4);
        }
        $attributes = ['POSITION' => 0, 'NORMAL' => 1, 'TEXCOORD_0' => 2, 'COLOR_0' => 3];
        $json = array_replace_recursive([
            'asset' => ['version' => '2.0'], 'scene' => 0, 'scenes' => [['nodes' => [0]]], 'nodes' => [['name' => 'painted box', 'mesh' => 0]],
            'meshes' => [['primitives' => [['attributes' => $attributes, 'indices' => 4, 'material' => 0], ['attributes' => $attributes, 'indices' => 5, 'material' => 1]]]],
            'materials' => [
                ['name' => 'painted clay', 'doubleSided' => true, 'pbrMetallicRoughness' => ['baseColorTexture' => ['index' => 0, 'extensions' => ['KHR_texture_transform' => ['scale' => [2, 2]]]], 'metallicFactor' => 0, 'roughnessFactor' => 0.7]],
                ['name' => 'glaze', 'pbrMetallicRoughness' => ['baseColorFactor' => [0.2, 0.4, 0.5, 0.8]], 'alphaMode' => 'BLEND', 'extensions' => ['KHR_materials_clearcoat' => ['clearcoatFactor' => 0.6]]],
            ],
            'extensionsUsed' => ['KHR_texture_transform', 'KHR_materials_clearcoat'],
            'textures' => [['source' => 0, 'sampler' => 0]], 'samplers' => [['magFilter' => 9728, 'wrapS' => 33071]], 'images' => [['name' => 'pattern', 'mimeType' => 'image/png', 'bufferView' => 6]],
            'accessors' => [
                ['bufferView' => 0, 'componentType' => 5126, 'count' => 24, 'type' => 'VEC3', 'min' => [-0.02, -0.015, -0.01], 'max' => [0.02, 0.015, 0.01]],
                ['bufferView' => 1, 'componentType' => 5126, 'count' => 24, 'type' => 'VEC3'], ['bufferView' => 2, 'componentType' => 5126, 'count' => 24, 'type' => 'VEC2'],
                ['bufferView' => 3, 'componentType' => 5123, 'count' => 24, 'type' => 'VEC4', 'normalized' => true],
                ['bufferView' => 4, 'componentType' => 5123, 'count' => 30, 'type' => 'SCALAR'], ['bufferView' => 5, 'componentType' => 5123, 'count' => 6, 'type' => 'SCALAR'],
            ],
            'bufferViews' => $views, 'buffers' => [['byteLength' => strlen($binary)]],
        ], $change);
        $text = json_encode($json, JSON_THROW_ON_ERROR);
        $text .= str_repeat(' ', (4 - strlen($text) % 4) % 4);

        return 'glTF'.pack('V2', 2, 28 + strlen($text) + strlen($binary)).pack('V', strlen($text)).'JSON'.$text.pack('V', strlen($binary))."BIN\0".$binary;
    }

    /** A PNG of 4 × 4 pixels, from its specification (W3C). */
    public static function png(int $width = 4, int $height = 4): string
    {
        $rows = str_repeat("\0".str_repeat("\xc0\x60\x30", 4), 4);
        $chunk = static fn (string $kind, string $data): string => pack('N', strlen($data)).$kind.$data.pack('N', crc32($kind.$data));

        return "\x89PNG\r\n\x1a\n".$chunk('IHDR', pack('N2C5', $width, $height, 8, 2, 0, 0, 0)).$chunk('IDAT', (string) gzcompress($rows)).$chunk('IEND', '');
    }
}
