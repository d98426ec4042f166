<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Isotome\Geometry\Extent;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;

/**
 * A solid whose vertices became one where its edges are next to nothing, and without the triangles that became lines. It may not be manifold afterwards, but closes as
 * before, so Combined can make a solid of it.
 *
 * Source: edge contraction, H. Hoppe, T. DeRose, T. Duchamp, J. McDonald, W. Stuetzle, "Mesh optimization" (1993), here without their conditions.
 */
final class Gathered
{
    public static function of(Mesh $solid): Mesh
    {
        $joined = Places::joined($solid);
        $xyz = $joined->xyz;
        $within = Film::THIN * Extent::of($xyz);
        $root = array_keys(array_fill(0, $joined->vertexCount(), true));
        foreach ($joined->corners as $i => $p) {
            $q = $joined->corners[$i % 3 === 2 ? $i - 2 : $i + 1];
            if (abs($xyz[3 * $p] - $xyz[3 * $q]) <= $within && abs($xyz[3 * $p + 1] - $xyz[3 * $q + 1]) <= $within && abs($xyz[3 * $p + 2] - $xyz[3 * $q + 2]) <= $within) {
                while ($root[$p] !== $p) {
                    $p = $root[$p] = $root[$root[$p]];
                }
                while ($root[$q] !== $q) {
                    $q = $root[$q] = $root[$root[$q]];
                }
                $root[max($p, $q)] = min($p, $q);
            }
        }
        $corners = $tags = [];
        foreach ($joined->tags as $t => $_) {
            $three = [];
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $p = $joined->corners[$k];
                while ($root[$p] !== $p) {
                    $p = $root[$p];
                }
                $three[] = $p;
            }
            if ($three[0] !== $three[1] && $three[1] !== $three[2] && $three[2] !== $three[0]) {
                array_push($corners, ...$three);
                $tags[] = $solid->tags[$t];
            }
        }

        return Mesh::of($xyz, $corners, $tags);
    }
}
