<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Mesh\Mesh;

/**
 * Divides faces that two pieces have in common until they match corner for corner. One side may have a point on an edge that the other lacks: a shard
 * that touches itself along an edge got points of its own there.
 *
 * The pieces keep their shape, and stay as closed as they were: an edge is divided in all its faces.
 */
final class Conform
{
    /** More pieces than this do not meet around one edge. */
    private const ROUNDS = 12;

    /** Share of an edge's length within which a point lies on it. */
    private const ON = 1e-9;

    /**
     * @param  list<Mesh>  $meshes
     * @param  int  $tag  of the faces that part them
     * @return list<Mesh>
     */
    public static function of(array $meshes, int $tag): array
    {
        // Where an edge is divided, faces that matched no longer do: around the edge, from piece to piece.
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $conformed = self::once($meshes, $tag);
            if ($conformed === null) {
                break;
            }
            $meshes = $conformed;
        }

        return $meshes;
    }

    /**
     * @param  list<Mesh>  $meshes
     * @return list<Mesh>|null null when all match
     */
    private static function once(array $meshes, int $tag): ?array
    {
        $rest = $where = [];
        $matched = Contacts::of($meshes, $tag);
        $gone = [];
        foreach ($matched as $one => $others) {
            foreach ($others as $other => $pairs) {
                foreach ($pairs as [$t, $s]) {
                    $gone[$one][$t] = $gone[$other][$s] = true;
                }
            }
        }
        foreach ($meshes as $m => $mesh) {
            foreach ($mesh->tags as $t => $of) {
                if ($of === $tag && ! isset($gone[$m][$t])) {
                    $where[] = [$m, $t];
                    $rest[] = [count($rest), Contacts::corners($mesh, $t)];
                }
            }
        }
        /** @var array<int, list<array{int, int, array{float, float, float}}>> $splits mesh → ends of an edge, and the point on it */
        $splits = [];
        CommonFaces::between($rest, static function (int $a, int $b) use (&$splits, $where, $rest, $meshes): void {
            foreach ([[$a, $b], [$b, $a]] as [$one, $other]) {
                [$m, $t] = $where[$one];
                if ($m === $where[$other][0]) {
                    continue;
                }
                for ($k = 0; $k < 3; $k++) {
                    foreach ($rest[$other][1] as $p) {
                        if (self::isOn($p, $rest[$one][1][$k], $rest[$one][1][($k + 1) % 3])) {
                            $splits[$m][] = [$meshes[$m]->corners[3 * $t + $k], $meshes[$m]->corners[3 * $t + ($k + 1) % 3], $p];
                        }
                    }
                }
            }
        });
        foreach ($splits as $m => $list) {
            $meshes[$m] = self::divided($meshes[$m], $list);
        }

        return $splits === [] ? null : array_values($meshes);
    }

    /**
     * @param  array{float, float, float}  $p
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     */
    private static function isOn(array $p, array $a, array $b): bool
    {
        $length = $along = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $length += ($b[$k] - $a[$k]) ** 2;
            $along += ($p[$k] - $a[$k]) * ($b[$k] - $a[$k]);
        }
        if ($along <= self::ON * $length || $along >= (1 - self::ON) * $length) {
            return false;
        }
        $off = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $off += ($p[$k] - $a[$k] - $along / $length * ($b[$k] - $a[$k])) ** 2;
        }

        return $off <= self::ON ** 2 * $length;
    }

    /** @param  list<array{int, int, array{float, float, float}}>  $splits */
    private static function divided(Mesh $mesh, array $splits): Mesh
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $tags = $mesh->tags;
        /** @var array<string, list<int>> $chains edge → its vertices, in order */
        $chains = [];
        foreach ($splits as [$v, $w, $p]) {
            [$v, $w] = $v < $w ? [$v, $w] : [$w, $v];
            $chain = $chains["$v $w"] ?? [$v, $w];
            $after = self::after($xyz, $chain, $p);
            if ($after === null) {
                continue;
            }
            $new = intdiv(count($xyz), 3);
            [$from, $to] = [$chain[$after], $chain[$after + 1]];
            array_push($xyz, ...$p);
            array_splice($chain, $after + 1, 0, [$new]);
            $chains["$v $w"] = $chain;
            for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
                for ($k = 0; $k < 3; $k++) {
                    $a = $corners[$i + $k];
                    $b = $corners[$i + ($k + 1) % 3];
                    if (($a === $from && $b === $to) || ($a === $to && $b === $from)) {
                        $c = $corners[$i + ($k + 2) % 3];
                        array_push($corners, $new, $b, $c);
                        $tags[] = $tags[intdiv($i, 3)];
                        [$corners[$i], $corners[$i + 1], $corners[$i + 2]] = [$a, $new, $c];
                        break;
                    }
                }
            }
        }

        return Mesh::of($xyz, array_values($corners), $tags);
    }

    /**
     * The vertex of the chain after which a point comes; null when it is there already.
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $chain
     * @param  array{float, float, float}  $p
     */
    private static function after(array $xyz, array $chain, array $p): ?int
    {
        $at = static fn (int $v): array => [$xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]];
        for ($i = 0; $i + 1 < count($chain); $i++) {
            if (self::isOn($p, $at($chain[$i]), $at($chain[$i + 1]))) {
                return $i;
            }
        }

        return null;
    }
}
