<?php

declare(strict_types=1);

namespace Isotome\Solid;

/**
 * Where more than two faces of a solid meet at an edge, those that bound the same wedge of material stay together, and each wedge gets corners of its own. So bodies that
 * touch along an edge, or in a point, do not share it.
 *
 * The order around an edge is decided exactly: by the sides of planes on which the faces' other corners lie.
 */
final class Wedges
{
    /** Of an edge's length: far more than doubles lose, far less than any file keeps. */
    private const HAIR = 1e-10;

    /**
     * @param  list<int>  $corners  points of the arrangement, three a face, outward
     * @param  list<int>  $planes  the given triangle that each is a part of, as in Arrangement
     * @param  array<int, true>  $isTouched  points at which something new meets, and those on edges of more than two faces
     * @return array{list<float>, list<int>, list<int>} coordinates, triangles of vertex numbers, and the face that each is of
     */
    public static function apart(Arrangement $all, array $corners, array $planes, array $isTouched): array
    {
        $edges = [];
        foreach ($corners as $i => $p) {
            $q = $corners[$i % 3 === 2 ? $i - 2 : $i + 1];
            if (isset($isTouched[$p]) || isset($isTouched[$q])) {
                $edges[$p < $q ? $p << 32 | $q : $q << 32 | $p][] = $i;
            }
        }
        /** @var array<int, int> $root corners of faces that stay at one vertex */
        $root = [];
        foreach ($corners as $i => $p) {
            if (isset($isTouched[$p])) {
                $root[$i] = $i;
            }
        }
        $find = static function (int $i) use (&$root): int {
            while ($root[$i] !== $i) {
                $root[$i] = $root[$root[$i]];
                $i = $root[$i];
            }

            return $i;
        };
        $crowded = [];
        foreach ($edges as $key => $around) {
            $ends = [$key >> 32, $key & 0xFFFFFFFF];
            $pairs = [$around];
            if (count($around) > 2) {
                $crowded[] = $pairs = self::pairs($all, $corners, $planes, $around, ...$ends);
            }
            foreach ($pairs as $pair) {
                foreach ($ends as $point) {
                    if (isset($isTouched[$point])) {
                        $at = array_map(static fn (int $i): int => $corners[$i] === $point ? $i : self::next($i), $pair);
                        $root[$find($at[0])] = $find($at[1]);
                    }
                }
            }
        }
        $xyz = $numbers = $known = [];
        foreach ($corners as $i => $p) {
            $key = isset($root[$i]) ? -1 - $find($i) : $p;
            if (! isset($known[$key])) {
                $known[$key] = count($known);
                $xyz[] = $all->points->xyz[3 * $p];
                $xyz[] = $all->points->xyz[3 * $p + 1];
                $xyz[] = $all->points->xyz[3 * $p + 2];
            }
            $numbers[] = $known[$key];
        }

        $middles = self::middles($xyz, $numbers, $crowded);

        return self::divided($xyz, $numbers, $middles);
    }

    /** The corner after one, in its face. */
    private static function next(int $i): int
    {
        return $i % 3 === 2 ? $i - 2 : $i + 1;
    }

    /**
     * Wedges that go on into each other at both ends of their edge still share it: all but one of them get a vertex near its middle, a hair within their material, so
     * that they do not touch there any more.
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $numbers
     * @param  list<list<array{int, int}>>  $crowded  pairs of faces by edge
     * @return array<int, int> the vertex on the edge that begins at a corner
     */
    private static function middles(array &$xyz, array $numbers, array $crowded): array
    {
        $middle = [];
        foreach ($crowded as $pairs) {
            $seen = [];
            foreach ($pairs as [$i, $j]) {
                $p = $numbers[$i];
                $q = $numbers[self::next($i)];
                $key = min($p, $q).' '.max($p, $q);
                if (isset($seen[$key])) {
                    $middle[$i] = $middle[$j] = intdiv(count($xyz), 3);
                    array_push($xyz, ...self::within($xyz, $p, $q, self::apex($numbers, $i), self::apex($numbers, $j)));
                }
                $seen[$key] = true;
            }
        }

        return $middle;
    }

    /**
     * The corner of a face that is not on the edge that begins at another one.
     *
     * @param  list<int>  $numbers
     */
    private static function apex(array $numbers, int $i): int
    {
        return $numbers[self::next(self::next($i))];
    }

    /** @param  list<float>  $v  three */
    private static function length(array $v): float
    {
        return sqrt($v[0] * $v[0] + $v[1] * $v[1] + $v[2] * $v[2]);
    }

    /**
     * @param  list<float>  $xyz
     * @param  int  $a  apex of the face outside of which p, q, a run counter-clockwise
     * @param  int  $b  of the other face
     * @return list<float> near the middle of the edge from p to q, within the material between two faces on it
     */
    private static function within(array $xyz, int $p, int $q, int $a, int $b): array
    {
        $from = [$xyz[3 * $p], $xyz[3 * $p + 1], $xyz[3 * $p + 2]];
        $edge = [$xyz[3 * $q] - $from[0], $xyz[3 * $q + 1] - $from[1], $xyz[3 * $q + 2] - $from[2]];
        // Outward on both: the edge runs the other way along the second.
        $out = [0.0, 0.0, 0.0];
        foreach ([[$a, 1.0], [$b, -1.0]] as [$apex, $sign]) {
            $side = [$xyz[3 * $apex] - $from[0], $xyz[3 * $apex + 1] - $from[1], $xyz[3 * $apex + 2] - $from[2]];
            $normal = [$edge[1] * $side[2] - $edge[2] * $side[1], $edge[2] * $side[0] - $edge[0] * $side[2], $edge[0] * $side[1] - $edge[1] * $side[0]];
            $size = self::length($normal);
            for ($k = 0; $k < 3 && $size > 0.0; $k++) {
                $out[$k] += $sign * $normal[$k] / $size;
            }
        }
        $size = self::length($out);
        // Faces back to back have no such direction; then it stays on the edge.
        $step = $size < 1e-6 ? 0.0 : self::HAIR * self::length($edge) / $size;
        $middle = [];
        for ($k = 0; $k < 3; $k++) {
            $middle[] = ($xyz[3 * $p + $k] + $xyz[3 * $q + $k]) / 2 - $step * $out[$k];
        }

        return $middle;
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $numbers
     * @param  array<int, int>  $middle
     * @return array{list<float>, list<int>, list<int>} with the face that each triangle is of
     */
    private static function divided(array $xyz, array $numbers, array $middle): array
    {
        $count = intdiv(count($numbers), 3);
        if ($middle === []) {
            return [$xyz, $numbers, $count === 0 ? [] : range(0, $count - 1)];
        }
        $made = $of = [];
        for ($t = 0; $t < $count; $t++) {
            $has = array_values(array_filter([0, 1, 2], static fn (int $k): bool => isset($middle[3 * $t + $k])));
            // Turned so that what is divided comes first: one edge, or two that follow each other.
            $turn = count($has) === 1 ? $has[0] : ($has === [0, 2] ? 2 : ($has[0] ?? 0));
            [$i, $j, $k] = [3 * $t + $turn, 3 * $t + ($turn + 1) % 3, 3 * $t + ($turn + 2) % 3];
            [$p, $q, $r] = [$numbers[$i], $numbers[$j], $numbers[$k]];
            $some = match (count($has)) {
                0 => [$p, $q, $r],
                1 => [$p, $middle[$i], $r, $middle[$i], $q, $r],
                2 => [$p, $middle[$i], $middle[$j], $middle[$i], $q, $middle[$j], $p, $middle[$j], $r],
                default => [$p, $middle[$i], $middle[$k], $middle[$i], $q, $middle[$j], $middle[$j], $r, $middle[$k], $middle[$i], $middle[$j], $middle[$k]],
            };
            array_push($made, ...$some);
            array_push($of, ...array_fill(0, intdiv(count($some), 3), $t));
        }

        return [$xyz, $made, $of];
    }

    /**
     * @param  list<int>  $corners
     * @param  list<int>  $planes
     * @param  non-empty-list<int>  $around  where each face runs into the edge
     * @return list<array{int, int}> those of them that bound one wedge of material
     */
    private static function pairs(Arrangement $all, array $corners, array $planes, array $around, int $p, int $q): array
    {
        $given = $all->given;
        // Of each: its material ends with it, for whoever goes round counter-clockwise; and its given triangle looks where it itself would.
        $faces = [];
        foreach ($around as $i) {
            $t = intdiv($i, 3);
            $plane = abs($planes[$t]) - 1;
            $apex = $corners[3 * $t] + $corners[3 * $t + 1] + $corners[3 * $t + 2] - $p - $q;
            [$u, $v] = Contact::page($all->points, [$given[3 * $plane], $given[3 * $plane + 1], $given[3 * $plane + 2]]);
            $faces[] = ['at' => $i, 'plane' => $plane, 'apex' => $apex, 'closes' => $corners[$i] === $p, 'way' => $all->points->turn($p, $q, $apex, $u, $v)];
        }
        // Counter-clockwise about the edge: 1 when the other face comes within half a turn of the first, −1 when beyond, 0 when opposite.
        $ahead = static fn (int $one, int $other): int => $faces[$one]['way'] * $all->points->side(
            $given[3 * $faces[$one]['plane']], $given[3 * $faces[$one]['plane'] + 1], $given[3 * $faces[$one]['plane'] + 2], $faces[$other]['apex'],
        );
        $half = [];
        foreach (array_keys($faces) as $n) {
            // Both sides of a wall are in one place.
            $of = $faces[$n]['apex'] === $faces[0]['apex'] ? 2 : $ahead(0, $n);
            // The first, those within half a turn, the one opposite, those beyond.
            $half[$n] = $of === 2 ? 0 : ($of > 0 ? 1 : ($of === 0 ? 2 : 3));
        }
        $order = array_keys($faces);
        // Of both sides of a wall the one comes first whose material ends with it.
        usort($order, static fn (int $a, int $b): int => $half[$a] <=> $half[$b]
            ?: ($faces[$a]['apex'] === $faces[$b]['apex'] ? $faces[$b]['closes'] <=> $faces[$a]['closes'] : -$ahead($a, $b)));
        // A wedge of material begins with a face that looks back, and ends with the next one.
        while ($faces[$order[0]]['closes']) {
            $order[] = array_shift($order);
        }
        $pairs = [];
        for ($n = 0; $n + 1 < count($order); $n += 2) {
            $pairs[] = [$faces[$order[$n]]['at'], $faces[$order[$n + 1]]['at']];
        }

        return $pairs;
    }
}
