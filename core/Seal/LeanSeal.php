<?php

declare(strict_types=1);

namespace Isotome\Seal;

use Isotome\Cut\Halves;

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
    public static function of(Halves $halves): Cap
    {
        [$u, $v] = $halves->plane->pageAxes();
        $x = [];
        $y = [];
        $count = count($halves->rimXyz);
        for ($i = 0; $i < $count; $i += 3) {
            $x[] = $halves->rimXyz[$i + $u];
            $y[] = $halves->rimXyz[$i + $v];
        }
        $from = $halves->rimFrom;
        $to = $halves->rimTo;
        $unclosed = [];
        if (! self::comesBack($from, $to)) {
            $outlines = Outlines::of($from, $to);
            $unclosed = $outlines->open;
            [$from, $to] = self::edges($outlines->closed);
        }
        if ($from === []) {
            return new Cap([], [], $unclosed, true);
        }
        $triangles = self::sweep($x, $y, $from, $to);
        $sound = $triangles !== null;
        $triangles ??= self::closeCrossing($x, $y, $from, $to);
        $free = FreeEdges::of($triangles, $from, $to, $halves->lyingEdges, $halves->rimXyz);

        return new Cap($free['triangles'], $free['newXyz'], $unclosed, $sound);
    }

    /**
     * The area exactly, for outlines that do not cross; also for a body turned inside out, whose outlines all run the other
     * way round.
     *
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @return list<int>|null
     */
    private static function sweep(array $x, array $y, array $from, array $to): ?array
    {
        $swept = SweepTriangulation::of($x, $y, $from, $to);
        if ($swept !== null && $swept['sound']) {
            return $swept['triangles'];
        }
        $swept = SweepTriangulation::of($x, $y, $to, $from);

        return $swept !== null && $swept['sound'] ? array_reverse($swept['triangles']) : null;
    }

    /**
     * @param  list<int>  $from
     * @param  list<int>  $to
     */
    private static function comesBack(array $from, array $to): bool
    {
        sort($from);
        sort($to);

        return $from === $to;
    }

    /**
     * @param  list<list<int>>  $loops
     * @return array{list<int>, list<int>}
     */
    private static function edges(array $loops): array
    {
        $from = [];
        $to = [];
        foreach ($loops as $loop) {
            $p = $loop[count($loop) - 1];
            foreach ($loop as $q) {
                $from[] = $p;
                $to[] = $q;
                $p = $q;
            }
        }

        return [$from, $to];
    }

    /**
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @return list<int>
     */
    private static function closeCrossing(array $x, array $y, array $from, array $to): array
    {
        $outer = [];
        $holes = [];
        foreach (Outlines::of($from, $to)->closed as $loop) {
            $area = Polygon::area($x, $y, $loop);
            if ($area > 0) {
                $outer[] = [$area, $loop];
            } else {
                $holes[] = [$area, $loop];
            }
        }
        // Smallest first: a hole belongs to the smallest outline around it.
        usort($outer, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
        $groups = [];
        foreach ($outer as [, $loop]) {
            $groups[] = [$loop];
        }
        foreach ($holes as [, $hole]) {
            $home = null;
            foreach ($outer as $g => [, $loop]) {
                if (Polygon::encloses($x, $y, $loop, $x[$hole[0]], $y[$hole[0]])) {
                    $home = $g;
                    break;
                }
            }
            if ($home === null) {
                $groups[] = [$hole];
            } else {
                $groups[$home][] = $hole;
            }
        }
        $triangles = [];
        foreach ($groups as $group) {
            [$groupFrom, $groupTo] = self::edges($group);
            $swept = self::sweep($x, $y, $groupFrom, $groupTo);
            if ($swept !== null) {
                array_push($triangles, ...$swept);

                continue;
            }
            foreach ($group as $loop) {
                array_push($triangles, ...self::closeAlone($x, $y, $loop));
            }
        }

        return $triangles;
    }

    /**
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $loop
     * @return list<int>
     */
    private static function closeAlone(array $x, array $y, array $loop): array
    {
        [$from, $to] = self::edges([$loop]);
        $swept = self::sweep($x, $y, $from, $to);
        if ($swept !== null) {
            return $swept;
        }
        $turned = Polygon::area($x, $y, $loop) < 0;
        $triangles = EarClipping::of($x, $y, $turned ? array_reverse($loop) : $loop);

        return $turned ? array_reverse($triangles) : $triangles;
    }
}
