<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\BadMesh;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use Isotome\Mesh\SkinBytes;

/**
 * A file that was read, put aside for whoever wants its meshes next: reading it again would take many times as long.
 *
 * Guarantees: what comes back is what was put aside, number by number; a file that is cut off, or of another version of this class, gives null.
 */
final class ReadAlready
{
    private const MAGIC = "isotome read 1\n";

    /** Triangles from which on it is worth a file. */
    private const WORTH = 50_000;

    /** Is it worth it? */
    public static function isWorth(ReadMesh $read): bool
    {
        return $read->mesh->triangleCount() >= self::WORTH;
    }

    /** @return bool false when there is no room for it, and nothing is left of it */
    public static function write(ReadMesh $read, string $path): bool
    {
        $file = @fopen("$path.part", 'wb');
        if ($file === false) {
            return false;
        }
        $isWhole = self::put($file, self::MAGIC);
        foreach ($read->parts === [] ? ['' => $read->mesh] : $read->parts as $name => $mesh) {
            $skin = $mesh->skin === null ? '' : SkinBytes::of($mesh->skin);
            $pictures = $mesh->skin === null ? [] : SkinBytes::pictures($mesh->skin);
            $head = json_encode([
                'name' => (string) $name, 'vertices' => $mesh->vertexCount(), 'triangles' => $mesh->triangleCount(), 'skin' => strlen($skin), 'pictures' => array_map(strlen(...), $pictures),
            ], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);
            foreach ([pack('V', strlen($head)), $head, Packing::doubles($mesh->xyz), Packing::longs($mesh->corners), Packing::longs($mesh->tags), $skin, ...array_values($pictures)] as $bytes) {
                $isWhole = $isWhole && self::put($file, $bytes);
            }
        }
        // Nothing follows.
        $isWhole = $isWhole && self::put($file, pack('V', 0));

        if (fclose($file) && $isWhole && @rename("$path.part", $path)) {
            return true;
        }
        @unlink("$path.part");

        return false;
    }

    /** @param  resource  $file */
    private static function put($file, string $bytes): bool
    {
        return @fwrite($file, $bytes) === strlen($bytes);
    }

    /** @return non-empty-array<string, Mesh>|null the meshes by name, or the one mesh under an empty name */
    public static function read(string $path): ?array
    {
        $file = is_file($path) ? @fopen($path, 'rb') : false;
        if ($file === false) {
            return null;
        }
        try {
            return self::get($file, strlen(self::MAGIC)) === self::MAGIC ? self::meshes($file) : null;
        } catch (BadMesh) {
            return null;
        } finally {
            fclose($file);
        }
    }

    /**
     * @param  resource  $file
     * @return non-empty-array<string, Mesh>|null
     *
     * @throws BadMesh
     */
    private static function meshes($file): ?array
    {
        $meshes = [];
        while (($length = Packing::ofLongs(self::get($file, 4))[0]) > 0) {
            $head = json_decode(self::get($file, $length), true);
            if (! is_array($head) || ! is_string($head['name'] ?? null) || ! is_array($head['pictures'] ?? null)) {
                throw self::damaged();
            }
            [$vertices, $triangles, $skinned] = array_map(static fn (string $key): int => is_int($head[$key] ?? null) ? $head[$key] : throw self::damaged(), ['vertices', 'triangles', 'skin']);
            $xyz = Packing::ofDoubles(self::get($file, 24 * $vertices));
            $corners = Packing::ofLongs(self::get($file, 12 * $triangles));
            $tags = Packing::ofLongs(self::get($file, 4 * $triangles));
            if ($corners === [] || max($corners) >= $vertices) {
                throw self::damaged();
            }
            $skin = self::get($file, $skinned);
            $pictures = [];
            foreach ($head['pictures'] as $hash => $size) {
                $pictures[$hash] = self::get($file, is_int($size) ? $size : throw self::damaged());
            }
            $meshes[$head['name']] = Mesh::of($xyz, $corners, $tags, $skin === '' ? null : SkinBytes::read($skin, static fn (string $hash): string => $pictures[$hash] ?? throw self::damaged()));
        }

        return $meshes === [] ? null : $meshes;
    }

    /**
     * @param  resource  $file
     *
     * @throws BadMesh
     */
    private static function get($file, int $length): string
    {
        $bytes = $length > 0 ? stream_get_contents($file, $length) : '';
        if ($bytes === false || strlen($bytes) !== $length) {
            throw self::damaged();
        }

        return $bytes;
    }

    private static function damaged(): BadMesh
    {
        return new BadMesh('What was read of a file is kept damaged; bring the file in again.');
    }
}
