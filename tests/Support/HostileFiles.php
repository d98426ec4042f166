<?php

declare(strict_types=1);

namespace Tests\Support;

use ZipArchive;

/** Small files that are made to cost much: each was read for minutes, or with gigabytes, once. */
final class HostileFiles
{
    /** @return array<string, array{string}> */
    public static function names(): array
    {
        $names = array_keys(self::makers());

        return array_combine($names, array_map(static fn (string $name): array => [$name], $names));
    }

    /** @return array{string, string} ending and bytes */
    public static function make(string $name): array
    {
        return (self::makers()[$name])();
    }

    /** @return array<string, \Closure(): array{string, string}> */
    private static function makers(): array
    {
        return [
            '3MF with an attribute of 200 MB' => static fn (): array => ['3mf', self::archive(static function ($file): void {
                fwrite($file, '<?xml version="1.0"?><model unit="millimeter"><metadata name="');
                for ($k = 0; $k < 200; $k++) {
                    fwrite($file, str_repeat('a', 1_000_000));
                }
                fwrite($file, '"/></model>');
            })],
            '3MF with a text of 200 MB' => static fn (): array => ['3mf', self::archive(static function ($file): void {
                fwrite($file, '<?xml version="1.0"?><model unit="millimeter"><metadata name="a">');
                for ($k = 0; $k < 200; $k++) {
                    fwrite($file, str_repeat('a', 1_000_000));
                }
                fwrite($file, '</metadata></model>');
            })],
            '3MF with a comment of dashes' => static fn (): array => ['3mf', self::archive(static fn ($file) => fwrite($file, '<?xml version="1.0"?><model unit="millimeter"><!-- '.str_repeat('-', 5_000_000).' --></model>'))],
            '3MF with 5,000 attributes in each of 2,000 tags' => static fn (): array => ['3mf', self::archive(static function ($file): void {
                fwrite($file, '<?xml version="1.0"?><model unit="millimeter"><resources>');
                $names = '';
                for ($k = 0; $k < 4000; $k++) {
                    $names .= " a$k=\"\"";
                }
                for ($k = 0; $k < 2000; $k++) {
                    fwrite($file, "<x$names/>");
                }
                fwrite($file, '</resources></model>');
            })],
            '3MF nested 100,000 deep' => static fn (): array => ['3mf', self::archive(static fn ($file) => fwrite($file, '<?xml version="1.0"?><model unit="millimeter">'.str_repeat('<x>', 100_000)))],
            '3MF whose components double 30 times' => static fn (): array => ['3mf', self::archive(static function ($file): void {
                $objects = '<object id="1"><mesh><vertices><vertex x="0" y="0" z="0"/><vertex x="1" y="0" z="0"/><vertex x="0" y="1" z="0"/></vertices><triangles><triangle v1="0" v2="1" v3="2"/></triangles></mesh></object>';
                for ($k = 2; $k <= 30; $k++) {
                    $inner = '<component objectid="'.($k - 1).'"/>';
                    $objects .= "<object id=\"$k\"><components>$inner$inner</components></object>";
                }
                fwrite($file, "<?xml version=\"1.0\"?><model unit=\"millimeter\"><resources>$objects</resources><build><item objectid=\"30\"/></build></model>");
            })],
            'GLB with 200 nodes of 20,000 triangles' => static fn (): array => ['glb', self::glb(10_000, 60_000, array_fill(0, 200, ['mesh' => 0]))],
            'GLB with 2,000 parts that are the same data' => static fn (): array => ['glb', self::glb(10_000, 60_000, [['mesh' => 0]], 2000)],
            'PLY that announces 999,999,999 elements without properties' => static fn (): array => ['ply', "ply\nformat ascii 1.0\nelement nothing 999999999\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 1\n"],
            'PLY that announces 999,999,999 vertices without properties' => static fn (): array => ['ply', "ply\nformat binary_little_endian 1.0\nelement vertex 999999999\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n"],
            'PLY that announces 999,999,999 elements of one byte' => static fn (): array => ['ply', "ply\nformat binary_little_endian 1.0\nelement nothing 999999999\nproperty uchar a\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nend_header\n".str_repeat("\0", 100)],
        ];
    }

    /** @return array<string, array{int, int}> corners of a polygon that crosses itself all over, and how many of them */
    public static function polygons(): array
    {
        return ['2,000 corners' => [2000, 1], '100,000 corners' => [90_000, 1], '200 of 300 corners' => [300, 200]];
    }

    /** An OBJ with polygons whose corners stand in no order on a circle. */
    public static function tangled(int $corners, int $many): string
    {
        $lines = [];
        for ($k = 0; $k < $corners; $k++) {
            $lines[] = sprintf('v %.6f %.6f 0', cos(2 * M_PI * $k / $corners), sin(2 * M_PI * $k / $corners));
        }
        for ($m = 0; $m < $many; $m++) {
            $face = 'f';
            for ($k = 0; $k < $corners; $k++) {
                $face .= ' '.(1 + ($k * 7919 + $m) % $corners);
            }
            $lines[] = $face;
        }

        return implode("\n", $lines)."\n";
    }

    /** @param  \Closure(resource): mixed  $write */
    private static function archive(\Closure $write): string
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'isotome-hostile');
        $model = (string) tempnam(sys_get_temp_dir(), 'isotome-hostile');
        $file = fopen($model, 'wb');
        if ($file === false) {
            throw new \RuntimeException('There is no place for a test file.');
        }
        $write($file);
        fclose($file);
        $zip = new ZipArchive;
        $zip->open($path, ZipArchive::CREATE | ZipArchive::OVERWRITE);
        $zip->addFile($model, '3D/3dmodel.model');
        $zip->close();
        $bytes = (string) file_get_contents($path);
        unlink($path);
        unlink($model);

        return $bytes;
    }

    /** @param  list<array<string, mixed>>  $nodes */
    private static function glb(int $vertices, int $indices, array $nodes, int $parts = 1): string
    {
        $binary = '';
        for ($v = 0; $v < $vertices; $v++) {
            $binary .= pack('g3', $v, $v * $v % 97, $v * 7 % 89);
        }
        for ($k = 0; $k < $indices; $k++) {
            $binary .= pack('V', $k * 31 % $vertices);
        }
        $json = (string) json_encode([
            'asset' => ['version' => '2.0'], 'scene' => 0, 'scenes' => [['nodes' => array_keys($nodes)]], 'nodes' => $nodes,
            'meshes' => [['primitives' => array_fill(0, $parts, ['attributes' => ['POSITION' => 0], 'indices' => 1])]],
            'accessors' => [['bufferView' => 0, 'componentType' => 5126, 'count' => $vertices, 'type' => 'VEC3'], ['bufferView' => 1, 'componentType' => 5125, 'count' => $indices, 'type' => 'SCALAR']],
            'bufferViews' => [['buffer' => 0, 'byteOffset' => 0, 'byteLength' => 12 * $vertices], ['buffer' => 0, 'byteOffset' => 12 * $vertices, 'byteLength' => 4 * $indices]],
            'buffers' => [['byteLength' => strlen($binary)]],
        ]);
        $json .= str_repeat(' ', -strlen($json) & 3);

        return 'glTF'.pack('V2', 2, 28 + strlen($json) + strlen($binary)).pack('V2', strlen($json), 0x4E4F534A).$json.pack('V2', strlen($binary), 0x004E4942).$binary;
    }
}
