<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\BadMesh;
use Isotome\Geometry\Extent;
use Isotome\Mesh\Carry;
use Isotome\Mesh\Compact;
use Isotome\Mesh\Mesh;

/**
 * Brings a mesh to what a file that tells vertices by their coordinates can hold, in the numbers it is written in (32-bit floats unless told otherwise).
 *
 * Guarantees: every coordinate is such a number, vertices at one place are one vertex, no triangle has two equal corners,
 * and no two triangles lie back to back on the same corners. When the mesh was watertight, what is left of it is: where
 * parts that fell together would share an edge, all but one of the pairs of faces there get a point of their own on it.
 * What is thinner than the file's numbers can say is gone, so the result may be empty. Reading the file back and welding
 * it by exact coordinates gives the same mesh.
 */
final class Rounded
{
    /** @throws BadMesh when a coordinate is beyond the range of the file's numbers */
    public static function of(Mesh $mesh, ?Precision $precision = null): Mesh
    {
        return Carry::through($mesh, static fn (Mesh $bare): Mesh => self::bare($bare, $precision ?? Precision::single()));
    }

    private static function bare(Mesh $mesh, Precision $precision): Mesh
    {
        $apart = $precision->apart($mesh->xyz);
        $taken = null;
        if ($apart !== null) {
            [$xyz, $exact] = $apart;
            self::refuseTooLarge($xyz);
            if ($exact === count($xyz)) {
                return $mesh;
            }
            $taken = BesideEdges::takenBack($mesh, self::moved($mesh->xyz, $xyz, intdiv($exact, 3)), $precision);
            if ($taken === null) {
                return Mesh::of($xyz, $mesh->corners, $mesh->tags);
            }
        }
        /** @var array<string, int> $index */
        $index = [];
        $map = [];
        $merged = [];
        $next = 0;
        foreach ($precision->keys($mesh->xyz) as $keys) {
            foreach ($keys as $key) {
                $v = $index[$key] ?? -1;
                if ($v < 0) {
                    $index[$key] = $v = $next++;
                } else {
                    $merged[$v] = true;
                }
                $map[] = $v;
            }
        }
        $xyz = $precision->decode([array_map(strval(...), array_keys($index))]);
        self::refuseTooLarge($xyz);
        $taken ??= BesideEdges::takenBack($mesh, self::moved($mesh->xyz, $xyz, 0, $map), $precision);
        if ($taken !== null) {
            $mesh = Mesh::of($mesh->xyz, $taken[0], $taken[1]);
            foreach ($taken[2] as $end) {
                $merged[$map[$end]] = true;
            }
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
        [$xyz, $corners, $tags] = (new Disentangle($xyz, $corners, $tags, $index, $precision))->near($merged);
        [$xyz, $corners] = Compact::of($xyz, $corners);

        return Mesh::of($xyz, $corners, $tags);
    }

    /**
     * @param  list<float>  $given
     * @param  list<float>  $held
     * @param  int  $from  the first vertex to look at
     * @param  list<int>|null  $map  where each vertex is in what is held; in its own place when null
     * @return array<int, true> vertices that are not where they were
     */
    private static function moved(array $given, array $held, int $from, ?array $map = null): array
    {
        $moved = [];
        $count = count($given);
        for ($i = 3 * $from; $i < $count; $i += 3) {
            $v = intdiv($i, 3);
            $k = $map === null ? $i : 3 * $map[$v];
            if ($given[$i] != $held[$k] || $given[$i + 1] != $held[$k + 1] || $given[$i + 2] != $held[$k + 2]) {
                $moved[$v] = true;
            }
        }

        return $moved;
    }

    /**
     * @param  list<float>  $xyz
     *
     * @throws BadMesh
     */
    private static function refuseTooLarge(array $xyz): void
    {
        if (! is_finite(Extent::of($xyz))) {
            throw new BadMesh('The mesh has coordinates beyond 3.4e38 mm, more than a 32-bit float can say; make it smaller.');
        }
    }
}
