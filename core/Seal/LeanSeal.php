<?php

declare(strict_types=1);

namespace Isotome\Seal;

/**
 * Closes a cut with the fewest triangles, using the rim's own points.
 *
 * Guarantees that every closed outline is closed: each rim edge gets exactly one triangle of the cap, and no edge of the
 * cap is shared by more than two triangles of either side. For outlines that do not cross each other the triangles cover
 * the section exactly, without overlap. Outlines that cross (of bodies that were never united) are closed each with the
 * holes inside it. A point is added only where an inner edge of the cap would fall on an edge that the skin already has.
 */
final class LeanSeal
{
    public static function of(Rim $rim): Cap
    {
        [$u, $v] = $rim->plane->pageAxes();
        $x = [];
        $y = [];
        $count = count($rim->xyz);
        for ($i = 0; $i < $count; $i += 3) {
            $x[] = $rim->xyz[$i + $u];
            $y[] = $rim->xyz[$i + $v];
        }
        $flat = RimTriangulation::of($x, $y, $rim->from, $rim->to);
        if ($flat->from === []) {
            return new Cap([], [], $flat->unclosed, true);
        }
        $free = FreeEdges::of($flat->triangles, $flat->from, $flat->to, $rim->lying, $rim->xyz);

        return new Cap($free['triangles'], $free['newXyz'], $flat->unclosed, $flat->sound);
    }
}
