<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\BadMesh;
use Isotome\Mesh\Compact;
use Isotome\Mesh\Mesh;

/**
 * Brings a mesh to what a file of 32-bit floats that tells vertices by their coordinates can hold.
 *
 * Guarantees: every coordinate is a 32-bit float, vertices at one place are one vertex, no triangle has two equal corners,
 * and no two triangles lie back to back on the same corners. When the mesh was watertight, what is left of it is: where
 * parts that fell together would share an edge, all but one of the pairs of faces there get a point of their own on it.
 * What is thinner than the file's numbers can say is gone, so the result may be empty. Reading the file back and welding
 * it by exact coordinates gives the same mesh.
 */
final class SinglePrecision
{
    private const MINUS_ZERO = "\0\0\0\x80";

    /** @throws BadMesh when a coordinate is beyond the range of 32-bit floats */
    public static function of(Mesh $mesh): Mesh
    {
        $xyz = $mesh->xyz;
        $count = count($xyz);
        /** @var array<string, int> $index */
        $index = [];
        $map = [];
        $merged = [];
        $next = 0;
        for ($i = 0; $i < $count; $i += 3) {
            $key = pack('g3', $xyz[$i], $xyz[$i + 1], $xyz[$i + 2]);
            if (str_contains($key, self::MINUS_ZERO)) {
                $key = self::withoutMinusZero($key);
            }
            $v = $index[$key] ?? -1;
            if ($v < 0) {
                $index[$key] = $v = $next++;
            } else {
                $merged[$v] = true;
            }
            $map[] = $v;
        }
        $xyz = self::decode(array_map(strval(...), array_keys($index)));
        foreach ([array_sum($xyz), $xyz === [] ? 0.0 : max($xyz), $xyz === [] ? 0.0 : min($xyz)] as $probe) {
            if (! is_finite($probe)) {
                throw new BadMesh('The mesh has coordinates beyond 3.4e38 mm, more than a 32-bit float can say; make it smaller.');
            }
        }
        if ($merged === []) {
            return Mesh::of($xyz, $mesh->corners, $mesh->tags);
        }
        $corners = [];
        $tags = [];
        $i = 0;
        foreach ($mesh->tags as $tag) {
            $a = $map[$mesh->corners[$i]];
            $b = $map[$mesh->corners[$i + 1]];
            $c = $map[$mesh->corners[$i + 2]];
            $i += 3;
            if ($a !== $b && $b !== $c && $c !== $a) {
                $corners[] = $a;
                $corners[] = $b;
                $corners[] = $c;
                $tags[] = $tag;
            }
        }
        unset($map);
        [$xyz, $corners, $tags] = (new Disentangle($xyz, $corners, $tags, $index))->near($merged);
        [$xyz, $corners] = Compact::of($xyz, $corners);

        return Mesh::of($xyz, $corners, $tags);
    }

    /**
     * @param  list<string>  $keys  12 bytes each: three little-endian 32-bit floats
     * @return list<float>
     */
    public static function decode(array $keys): array
    {
        $xyz = [];
        foreach (array_chunk($keys, 4096) as $chunk) {
            /** @var array<int, float> $values */
            $values = unpack('g*', implode('', $chunk));
            foreach ($values as $value) {
                $xyz[] = $value;
            }
        }

        return $xyz;
    }

    /** The 12 bytes by which a place is known. */
    public static function key(float $x, float $y, float $z): string
    {
        return self::withoutMinusZero(pack('g3', $x, $y, $z));
    }

    private static function withoutMinusZero(string $key): string
    {
        foreach ([0, 4, 8] as $at) {
            if (substr($key, $at, 4) === self::MINUS_ZERO) {
                $key[$at + 3] = "\0";
            }
        }

        return $key;
    }
}
