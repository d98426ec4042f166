<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Closure;

/** The faces that a rule takes out of an arrangement, outward: what Wedges makes a solid of. */
final readonly class Taken
{
    /**
     * @param  list<int>  $triangles  of the arrangement
     * @param  list<int>  $corners  points, three a face
     * @param  list<int>  $planes  the given triangle that each is a part of, as in Arrangement
     * @param  list<int>  $of  the mesh of each
     * @param  list<int>  $tags  and the tag that it is to have
     * @param  array<int, int>  $given  of each face that is a given triangle as it was: which one
     * @param  array<int, true>  $touched  points of those that are not
     */
    private function __construct(
        public array $triangles,
        public array $corners,
        public array $planes,
        public array $of,
        public array $tags,
        public array $given,
        public array $touched,
    ) {
    }

    /**
     * @param  list<non-empty-list<int>>  $patches
     * @param  list<bool|null>  $sides  of each patch, whether the rule holds before it: then it is turned over; null for none of it
     * @param  int|null  $tag  of faces of all meshes but the first; their own when null
     * @param  Closure(int, int): int  $tagOf  by mesh and triangle
     */
    public static function of(Arrangement $all, array $patches, array $sides, ?int $tag, Closure $tagOf): self
    {
        $triangles = $corners = $planes = $of = $tags = $given = $touched = [];
        foreach ($patches as $n => $patch) {
            $isBefore = $sides[$n];
            if ($isBefore === null) {
                continue;
            }
            foreach ($patch as $t) {
                $a = $all->corners[3 * $t];
                $b = $all->corners[3 * $t + 1];
                $c = $all->corners[3 * $t + 2];
                $corners[] = $a;
                $corners[] = $isBefore ? $c : $b;
                $corners[] = $isBefore ? $b : $c;
                $part = isset($all->more[$t]) ? self::part($all->parts($t), $isBefore) : $all->part[$t];
                if ($t >= $all->whole) {
                    $touched[$a] = $touched[$b] = $touched[$c] = true;
                } else {
                    $given[count($planes)] = abs($part) - 1;
                }
                $triangles[] = $t;
                $planes[] = $part;
                $of[] = $mesh = $all->mesh[abs($part) - 1];
                $tags[] = $mesh > 0 && $tag !== null ? $tag : $tagOf($mesh, $all->source[abs($part) - 1]);
            }
        }

        return new self($triangles, $corners, $planes, $of, $tags, $given, $touched);
    }

    /**
     * Of all given triangles that lie there the first that looks the same way, if there is one.
     *
     * @param  non-empty-list<int>  $parts
     */
    private static function part(array $parts, bool $isTurned): int
    {
        foreach ($parts as $part) {
            if (($part < 0) === $isTurned) {
                return $part;
            }
        }

        return $parts[0];
    }
}
