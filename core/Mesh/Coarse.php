<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * A rough stand-in for a large mesh, for a first picture of it: vertices that lie in one cell of a grid become one, at their mean place, and
 * triangles that collapse are left out. Not closed, and never computed with.
 *
 * J. Rossignac, P. Borrel, "Multi-resolution 3D approximations for rendering complex scenes" (1993).
 */
final class Coarse
{
    /** @param  int  $cells  along the longest side of the box, at most 1000; the surface gets about 6 × cells² triangles */
    public static function of(Mesh $mesh, int $cells): Mesh
    {
        $xyz = $mesh->xyz;
        if ($xyz === []) {
            return $mesh;
        }
        $low = [$xyz[0], $xyz[1], $xyz[2]];
        $high = $low;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $low = [$xyz[$i] < $low[0] ? $xyz[$i] : $low[0], $xyz[$i + 1] < $low[1] ? $xyz[$i + 1] : $low[1], $xyz[$i + 2] < $low[2] ? $xyz[$i + 2] : $low[2]];
            $high = [$xyz[$i] > $high[0] ? $xyz[$i] : $high[0], $xyz[$i + 1] > $high[1] ? $xyz[$i + 1] : $high[1], $xyz[$i + 2] > $high[2] ? $xyz[$i + 2] : $high[2]];
        }
        $span = max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
        $clusters = Clusters::of($mesh, $low, $span, $cells);
        $of = $clusters->of;
        $corners = $tags = $seen = [];
        $t = 0;
        foreach ($mesh->tags as $tag) {
            $a = $of[$mesh->corners[3 * $t]];
            $b = $of[$mesh->corners[3 * $t + 1]];
            $c = $of[$mesh->corners[3 * $t + 2]];
            $t++;
            if ($a === $b || $b === $c || $a === $c) {
                continue;
            }
            // The same three cells once: from the least on.
            $key = $a < $b && $a < $c ? "$a $b $c" : ($b < $c ? "$b $c $a" : "$c $a $b");
            if (isset($seen[$key])) {
                continue;
            }
            $seen[$key] = true;
            $corners[] = $a;
            $corners[] = $b;
            $corners[] = $c;
            $tags[] = $tag;
        }

        return Mesh::of($clusters->places, $corners, $tags);
    }
}
