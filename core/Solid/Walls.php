<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Isotome\Mesh\Mesh;

/** What of surfaces lies within a body, and the parts that it bounds: the steps of Partition, on an arrangement of the body (its first mesh) and of the surfaces. */
final class Walls
{
    /**
     * @return array{list<array{int, bool}>, array<int, non-empty-list<int>>, array<int, true>} triangles of the body's skin and whether they are turned over; patches of surfaces within it; points
     *     at which something meets
     */
    public static function found(Survey $survey): array
    {
        $all = $survey->all;
        $skin = $walls = [];
        $isTouched = $all->joined + $survey->patches->crowded;
        foreach ($survey->patches->patches as $n => $patch) {
            $before = $survey->before[$n][0];
            $behind = $survey->behind[$n][0];
            $isSkin = ($before > 0) !== ($behind > 0);
            if (! $isSkin && ($before <= 0 || ! self::hasWall($all, $patch[0]))) {
                continue;
            }
            $isSkin ?: $walls[] = $patch;
            foreach ($patch as $t) {
                ! $isSkin ?: $skin[] = [$t, $before > 0];
                if ($t >= $all->whole || ! $isSkin) {
                    $isTouched[$all->corners[3 * $t]] = $isTouched[$all->corners[3 * $t + 1]] = $isTouched[$all->corners[3 * $t + 2]] = true;
                }
            }
        }

        return [$skin, $walls, array_diff_key($isTouched, $survey->border())];
    }

    /** Is it a part of a surface? Faces within a body that winds twice there are none. */
    private static function hasWall(Arrangement $all, int $triangle): bool
    {
        foreach ($all->parts($triangle) as $part) {
            if ($all->mesh[abs($part) - 1] > 0) {
                return true;
            }
        }

        return false;
    }

    /**
     * The skin, and both sides of every wall. Tags number the faces from 1: those of the skin, then of each wall its front and its back, triangle by triangle.
     *
     * @param  list<array{int, bool}>  $skin
     * @param  array<int, non-empty-list<int>>  $walls
     * @param  array<int, true>  $isTouched
     * @return array{Mesh, array<int, int>} and a vertex at each point that is a corner of faces which stayed whole
     */
    public static function shells(Arrangement $all, array $skin, array $walls, array $isTouched): array
    {
        $corners = $planes = $triangles = [];
        $add = static function (int $t, bool $isTurned) use ($all, &$corners, &$planes, &$triangles): void {
            $triangles[] = $t;
            array_push($corners, $all->corners[3 * $t], $all->corners[3 * $t + ($isTurned ? 2 : 1)], $all->corners[3 * $t + ($isTurned ? 1 : 2)]);
            $planes[] = $all->part[$t];
        };
        foreach ($skin as [$t, $isTurned]) {
            $add($t, $isTurned);
        }
        foreach ($walls as $wall) {
            foreach ($wall as $t) {
                $add($t, false);
                $add($t, true);
            }
        }
        [$xyz, $numbers, $faces] = Wedges::apart($all, $corners, $planes, $isTouched);
        $vertexAt = [];
        $often = array_count_values($faces);
        foreach ($faces as $n => $face) {
            // Corners of faces that were divided are not all at their places.
            for ($k = 0; $k < 3 && $often[$face] === 1; $k++) {
                $vertexAt[$corners[3 * $face + $k]] ??= $numbers[3 * $n + $k];
            }
        }
        $numbers = Redrawn::of($all, $triangles, $corners, $numbers, $faces);

        return [Mesh::of($xyz, $numbers, array_map(static fn (int $face): int => $face + 1, $faces)), $vertexAt];
    }

    /**
     * Walls that have the same part on either side.
     *
     * @param  list<Mesh>  $parts
     * @param  array<int, non-empty-list<int>>  $walls
     * @return array<int, true> by their keys
     */
    public static function dangling(array $parts, int $skin, array $walls): array
    {
        $partOf = [];
        foreach ($parts as $p => $part) {
            foreach ($part->tags as $face) {
                $partOf[$face] = $p;
            }
        }
        $dangling = [];
        $face = $skin + 1;
        foreach ($walls as $n => $wall) {
            if ($partOf[$face] === $partOf[$face + 1]) {
                $dangling[$n] = true;
            }
            $face += 2 * count($wall);
        }

        return $dangling;
    }

    /**
     * The parts with the tags that their faces are to have.
     *
     * @param  list<Mesh>  $parts
     * @param  list<array{int, bool}>  $skin
     * @param  list<int>  $farTags  of further faces of the skin, numbered on, which met nothing
     * @param  int  $last  the last face before them
     * @return array{list<Mesh>, array<int, true>} and the numbers of those whose faces cross since their corners were rounded
     */
    public static function tagged(Arrangement $all, array $parts, Mesh $body, array $skin, int $tag, array $farTags = [], int $last = PHP_INT_MAX): array
    {
        $bodies = $crossed = [];
        foreach ($parts as $p => $part) {
            $tags = $given = $corners = [];
            $often = $farTags === [] ? array_count_values($part->tags) : [];
            $n = -1;
            foreach ($part->tags as $k => $face) {
                if ($face > $last) {
                    $tags[] = $farTags[$face - $last - 1];

                    continue;
                }
                $n++;
                if ($farTags !== []) {
                    $corners[] = $part->corners[3 * $k];
                    $corners[] = $part->corners[3 * $k + 1];
                    $corners[] = $part->corners[3 * $k + 2];
                }
                [$t] = $skin[$face - 1] ?? [-1];
                $tags[] = $t < 0 ? $tag : $body->tags[$all->source[self::skinPart($all, $t) - 1]];
                if ($t >= 0 && $t < $all->whole && ($often[$face] ?? 1) === 1) {
                    $given[$n] = abs($all->part[$t]) - 1;
                }
            }
            $bodies[] = Mesh::of($part->xyz, $part->corners, $tags);
            if (Rounded::crosses(Rounded::near($all, $farTags === [] ? $bodies[$p] : Mesh::of($part->xyz, $corners), $given))) {
                $crossed[$p] = true;
            }
        }

        return [$bodies, $crossed];
    }

    /**
     * Whether each part has a wall that it lies behind.
     *
     * @param  list<Mesh>  $parts
     * @param  array<int, non-empty-list<int>>  $walls
     * @return list<bool>
     */
    public static function behind(Arrangement $all, array $parts, int $skin, array $walls): array
    {
        // Faces outward that look as the surface does.
        $isBehind = [];
        $face = $skin + 1;
        foreach ($walls as $wall) {
            foreach ($wall as $t) {
                $isBehind[$all->part[$t] > 0 ? $face : $face + 1] = true;
                $face += 2;
            }
        }

        return array_map(static function (Mesh $part) use ($isBehind): bool {
            foreach ($part->tags as $one) {
                if (isset($isBehind[$one])) {
                    return true;
                }
            }

            return false;
        }, $parts);
    }

    /** The body's own triangle, counted from 1, that one of its skin is a part of: surfaces may lie on it as well. */
    public static function skinPart(Arrangement $all, int $triangle): int
    {
        foreach ($all->parts($triangle) as $part) {
            if ($all->mesh[abs($part) - 1] === 0) {
                return abs($part);
            }
        }

        return abs($all->part[$triangle]);
    }
}
