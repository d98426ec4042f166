<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/** Long lists of numbers to bytes and back, in chunks: spreading a whole list at once would cost many times its memory. */
final class Packing
{
    private const CHUNK = 3072;

    /** Bytes of a mesh up to which it is hashed in one. */
    private const AT_ONCE = 256_000_000;

    /** @param  list<float>  $numbers */
    public static function doubles(array $numbers): string
    {
        return self::pack('e*', $numbers);
    }

    /** @param  list<float>  $numbers */
    public static function singles(array $numbers): string
    {
        return self::pack('g*', $numbers);
    }

    /** @param  list<int>  $numbers */
    public static function longs(array $numbers): string
    {
        return self::pack('V*', $numbers);
    }

    /** @param  list<int>  $numbers */
    public static function shorts(array $numbers): string
    {
        return self::pack('v*', $numbers);
    }

    /** @return list<int> of 32-bit whole numbers */
    public static function ofLongs(string $bytes): array
    {
        $numbers = [];
        for ($i = 0; $i < strlen($bytes); $i += 4 * self::CHUNK) {
            /** @var array<int, int> $some */
            $some = unpack('V*', substr($bytes, $i, 4 * self::CHUNK));
            array_push($numbers, ...$some);
        }

        return $numbers;
    }

    /** @return list<float> of 64-bit floats */
    public static function ofDoubles(string $bytes): array
    {
        $numbers = [];
        for ($i = 0; $i < strlen($bytes); $i += 8 * self::CHUNK) {
            /** @var array<int, float> $some */
            $some = unpack('e*', substr($bytes, $i, 8 * self::CHUNK));
            array_push($numbers, ...$some);
        }

        return $numbers;
    }

    /**
     * Tells a mesh from every other: equal hashes mean equal vertices, triangles and tags, in the same order, and that they carry the same.
     *
     * @param  int  $atOnce  bytes up to which it is hashed in one; the hash is the same either way
     */
    public static function hash(Mesh $mesh, int $atOnce = self::AT_ONCE): string
    {
        $skin = $mesh->skin === null ? '' : SkinBytes::of($mesh->skin);
        $head = pack('V2', $mesh->vertexCount(), $mesh->triangleCount());
        if (24 * $mesh->vertexCount() + 16 * $mesh->triangleCount() + strlen($skin) <= $atOnce) {
            return Digest::of(implode('', [$head, self::doubles($mesh->xyz), self::longs($mesh->corners), self::longs($mesh->tags), $skin]));
        }
        // Slower, but with no more memory than a chunk.
        $hash = hash_init('sha256');
        hash_update($hash, $head);
        foreach (array_chunk($mesh->xyz, 30720) as $chunk) {
            hash_update($hash, self::doubles($chunk));
        }
        foreach ([$mesh->corners, $mesh->tags] as $list) {
            foreach (array_chunk($list, 30720) as $chunk) {
                hash_update($hash, self::longs($chunk));
            }
        }
        hash_update($hash, $skin);

        return hash_final($hash);
    }

    /** @param  list<int|float>  $numbers */
    private static function pack(string $format, array $numbers): string
    {
        $count = count($numbers);
        if ($count <= self::CHUNK) {
            return pack($format, ...$numbers);
        }
        $parts = [];
        for ($i = 0; $i < $count; $i += self::CHUNK) {
            $parts[] = pack($format, ...array_slice($numbers, $i, self::CHUNK));
        }

        return implode('', $parts);
    }
}
