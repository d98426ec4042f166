<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Isotome\Check\Crossings;
use Isotome\Format\Precision;
use Isotome\Mesh\Compact;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;

/**
 * Whether faces of a solid cross, or two corners of a face came to one place, since derived corners were rounded: to doubles, or to the 32-bit floats of files.
 * Only new faces can have moved, so only these are compared with what is near them.
 */
final class Rounded
{
    /** Faces that are all looked at, whether they are new or not. */
    private const FEW = 50_000;

    /** Whether any of these faces cross, or have two corners at one place. */
    public static function crosses(Mesh $near): bool
    {
        $joined = Places::joined($near);

        return count(self::withThreeCorners($joined)) < count($joined->corners) || Crossings::of($joined, most: 1)->pairs !== [];
    }

    /**
     * Whether faces cross once every coordinate is a 32-bit float, or come to one edge, so that a file has to tell them apart; those that lose their area are left out.
     * Of few faces, given ones that no new one is near are looked at as well: a file may bring them together, too.
     *
     * @param  Mesh  $near  see near()
     */
    public static function mayCrossInFiles(Mesh $solid, Mesh $near): bool
    {
        $looked = $solid->triangleCount() <= self::FEW ? $solid : $near;
        $held = Precision::single()->nearest($looked->xyz);
        if ($held === $looked->xyz) {
            return false;
        }
        $joined = Places::joined(Mesh::of($held, $looked->corners));
        $joined = Mesh::of($joined->xyz, self::withThreeCorners($joined));

        return EdgeCheck::of($joined)->nonmanifoldEdges > 0 || Crossings::of($joined, most: 1)->pairs !== [];
    }

    /** @return list<int> corners of the triangles that have three different ones */
    private static function withThreeCorners(Mesh $mesh): array
    {
        $corners = [];
        for ($i = 0, $count = count($mesh->corners); $i < $count; $i += 3) {
            [$a, $b, $c] = [$mesh->corners[$i], $mesh->corners[$i + 1], $mesh->corners[$i + 2]];
            if ($a !== $b && $b !== $c && $c !== $a) {
                $corners[] = $a;
                $corners[] = $b;
                $corners[] = $c;
            }
        }

        return $corners;
    }

    /**
     * New faces, and given ones that are near them; none when all are given.
     *
     * @param  Arrangement  $all  what the solid was made of
     * @param  Mesh  $solid  tags are not looked at
     * @param  array<int, int>  $given  of each of its faces that is a given triangle as it was: which one
     */
    public static function near(Arrangement $all, Mesh $solid, array $given): Mesh
    {
        if (count($given) === $solid->triangleCount()) {
            return Mesh::of([], []);
        }
        $faceOf = array_flip($given);
        $near = [];
        foreach ($solid->tags as $n => $_) {
            if (isset($given[$n])) {
                continue;
            }
            $near[$n] = true;
            foreach ($all->tree->around(self::box($solid, $n)) as $t) {
                if (isset($faceOf[$t])) {
                    $near[$faceOf[$t]] = true;
                }
            }
        }
        $corners = [];
        foreach ($near as $n => $_) {
            $corners[] = $solid->corners[3 * $n];
            $corners[] = $solid->corners[3 * $n + 1];
            $corners[] = $solid->corners[3 * $n + 2];
        }

        return Mesh::of(...Compact::of($solid->xyz, $corners));
    }

    /** @return array{float, float, float, float, float, float} as in Tree */
    private static function box(Mesh $mesh, int $t): array
    {
        $xyz = $mesh->xyz;
        $a = 3 * $mesh->corners[3 * $t];
        $b = 3 * $mesh->corners[3 * $t + 1];
        $c = 3 * $mesh->corners[3 * $t + 2];

        return [
            min($xyz[$a], $xyz[$b], $xyz[$c]), max($xyz[$a], $xyz[$b], $xyz[$c]),
            min($xyz[$a + 1], $xyz[$b + 1], $xyz[$c + 1]), max($xyz[$a + 1], $xyz[$b + 1], $xyz[$c + 1]),
            min($xyz[$a + 2], $xyz[$b + 2], $xyz[$c + 2]), max($xyz[$a + 2], $xyz[$b + 2], $xyz[$c + 2]),
        ];
    }
}
