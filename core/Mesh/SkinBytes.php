<?php

declare(strict_types=1);

namespace Isotome\Mesh;

use Closure;
use Isotome\Exception\BadMesh;
use WeakMap;

/** What a mesh carries as bytes, to keep: a description, then the numbers. Pictures are named by their hashes and kept elsewhere, because many meshes share them. */
final class SkinBytes
{
    private const MAGIC = "isotome skin 1\n";

    /** @var WeakMap<Looks, list<string>>|null */
    private static ?WeakMap $known = null;

    public static function of(Skin $skin): string
    {
        $hashes = self::hashes($skin);
        $pictures = array_map(static fn (array $picture, string $hash): array => ['hash' => $hash, 'kind' => $picture['kind'], 'name' => $picture['name']], $skin->looks->pictures, $hashes);
        $text = json_encode([
            'triangles' => $skin->triangles(), 'layers' => array_map(static fn (Layer $layer): int => $layer->width, $skin->layers),
            'materials' => $skin->looks->materials, 'textures' => $skin->looks->textures, 'pictures' => $pictures,
        ], JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION);

        return self::MAGIC.pack('V', strlen($text)).$text.$skin->materials.implode('', array_map(static fn (Layer $layer): string => $layer->bytes, $skin->layers));
    }

    /** @return array<string, string> bytes of the pictures by hash */
    public static function pictures(Skin $skin): array
    {
        return array_combine(self::hashes($skin), array_column($skin->looks->pictures, 'bytes'));
    }

    /** @return list<string> by which each picture is known */
    public static function hashes(Skin $skin): array
    {
        self::$known ??= new WeakMap;

        // Many pieces share their looks, and the pictures are large.
        return self::$known[$skin->looks] ??= array_map(static fn (array $picture): string => Digest::of($picture['bytes']), $skin->looks->pictures);
    }

    /**
     * @param  Closure(string): string  $picture  bytes of a picture by its hash
     *
     * @throws BadMesh when these are no such bytes
     */
    public static function read(string $bytes, Closure $picture): Skin
    {
        $at = strlen(self::MAGIC);
        $length = str_starts_with($bytes, self::MAGIC) && strlen($bytes) >= $at + 4 ? Packing::ofLongs(substr($bytes, $at, 4))[0] : 0;
        $text = json_decode(substr($bytes, $at + 4, $length), true);
        if (! is_array($text) || ! is_int($text['triangles'] ?? null) || ! is_array($text['layers'] ?? null)) {
            throw new BadMesh('What a mesh carries is kept damaged; bring the mesh in again.');
        }
        /** @var array{triangles: int, layers: array<string, int>, materials: list<array<mixed>>, textures: list<array{picture: int, sampler: array<mixed>|null}>, pictures: list<array{hash: string, kind: string, name: string}>} $text */
        $at += 4 + $length;
        $materials = substr($bytes, $at, 4 * $text['triangles']);
        $at += 4 * $text['triangles'];
        $layers = [];
        foreach ($text['layers'] as $name => $width) {
            $layers[$name] = new Layer($width, substr($bytes, $at, 24 * $width * $text['triangles']));
            $at += 24 * $width * $text['triangles'];
        }
        $looks = new Looks(
            array_map(Looks::withObjects(...), $text['materials']), $text['textures'],
            array_map(static fn (array $one): array => ['kind' => $one['kind'], 'bytes' => $picture($one['hash']), 'name' => $one['name']], $text['pictures']),
        );
        // They were worked out when it was written.
        self::$known ??= new WeakMap;
        self::$known[$looks] = array_column($text['pictures'], 'hash');

        return (new Skin($looks, $materials, $layers))->fits($text['triangles']);
    }
}
