<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * Surface tags that also tell which triangle each one was: the tag in the low 16 bits, above it the number of the triangle, counted from 1.
 *
 * Every operation carries tags along and does nothing with them but ask whether a face is inside. So an operation that is given a marked mesh tells
 * of every triangle it gives which one it came from, or that it is new, without knowing it. What divides triangles along a blade says so too: see part().
 */
final class Mark
{
    private const BITS = 16;

    private const TAG = (1 << self::BITS) - 1;

    /** Set in the mark of a triangle that is only a part of the one it names. */
    public const PART = 1 << 60;

    /** The mesh with its triangles numbered from a base on; what it carries is left out. */
    public static function of(Mesh $mesh, int $base = 0): Mesh
    {
        $first = self::mark($base, $mesh->tags[0] ?? 0);
        if ($mesh->tags !== [] && min($mesh->tags) === max($mesh->tags)) {
            $marked = $mesh->triangleCount() === 1 ? [$first] : range($first, $first + (($mesh->triangleCount() - 1) << self::BITS), 1 << self::BITS);
        } else {
            $marked = [];
            foreach ($mesh->tags as $t => $tag) {
                $marked[] = self::mark($base + $t, $tag);
            }
        }

        return Mesh::of($mesh->xyz, $mesh->corners, $marked);
    }

    public static function mark(int $triangle, int $tag): int
    {
        return ($triangle + 1) << self::BITS | $tag;
    }

    /** The tag of a part of a triangle. */
    public static function part(int $tag): int
    {
        return $tag > self::TAG ? $tag | self::PART : $tag;
    }

    /** Was the face made by cutting? Of tags with and without marks. */
    public static function isInside(int $tag): bool
    {
        return ($tag & self::TAG) > 0;
    }

    public static function tag(int $marked): int
    {
        return $marked & self::TAG;
    }

    /**
     * @param  list<int>  $marked
     * @return array{list<int>, list<int>} tags; numbers of the triangles as source() tells them
     */
    public static function apart(array $marked): array
    {
        $tags = $sources = [];
        foreach ($marked as $mark) {
            $tags[] = $mark & self::TAG;
            $sources[] = (($mark & ~self::PART) >> self::BITS) - 1;
        }

        return [$tags, $sources];
    }

    /** @return int number of the triangle, counted from 0; −1 for a new one */
    public static function source(int $marked): int
    {
        return (($marked & ~self::PART) >> self::BITS) - 1;
    }
}
