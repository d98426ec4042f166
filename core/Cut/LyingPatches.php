<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Geometry\Plane;

/**
 * On which side do triangles belong that lie on the blade? All of a patch that hangs together go to the side whose material
 * they bound: behind when the patch faces ahead. A patch without area (slivers on a line) goes where it has the longer
 * border, so that it leaves no fold of two faces back to back.
 */
final class LyingPatches
{
    /** A patch has no area when it has less than this share of its border's square. */
    private const NOTHING = 1e-12;

    /**
     * @param  list<array{int, int, int}>  $triangles  by rim points
     * @param  list<float>  $rimXyz
     * @param  array{int, int}  $page  see Plane::pageAxes
     * @param  array<int, array<int, bool>>  $neighbours  edges of triangles beside the blade: from, to, whether behind
     * @return list<bool> for each triangle whether it belongs to the side behind
     */
    public static function areBehind(array $triangles, array $rimXyz, array $page, array $neighbours): array
    {
        $owner = [];
        foreach ($triangles as $t => [$a, $b, $c]) {
            $owner[$a][$b][] = $t;
            $owner[$b][$c][] = $t;
            $owner[$c][$a][] = $t;
        }
        [$u, $v] = $page;
        $behind = array_fill(0, count($triangles), null);
        foreach ($triangles as $first => $_) {
            if ($behind[$first] !== null) {
                continue;
            }
            $patch = [$first => true];
            $open = [$first];
            $twice = $border = $towardsBehind = $towardsAhead = 0.0;
            while ($open !== []) {
                [$a, $b, $c] = $triangles[array_pop($open)];
                $ax = $rimXyz[3 * $a + $u];
                $ay = $rimXyz[3 * $a + $v];
                $twice += ($rimXyz[3 * $b + $u] - $ax) * ($rimXyz[3 * $c + $v] - $ay) - ($rimXyz[3 * $b + $v] - $ay) * ($rimXyz[3 * $c + $u] - $ax);
                foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                    foreach ($owner[$q][$p] ?? [] as $next) {
                        if (! isset($patch[$next])) {
                            $patch[$next] = true;
                            $open[] = $next;
                        }
                    }
                    $side = $neighbours[$q][$p] ?? null;
                    if ($side !== null) {
                        $length = abs($rimXyz[3 * $p + $u] - $rimXyz[3 * $q + $u]) + abs($rimXyz[3 * $p + $v] - $rimXyz[3 * $q + $v]);
                        $border += $length;
                        $towardsBehind += $side ? $length : 0.0;
                        $towardsAhead += $side ? 0.0 : $length;
                    }
                }
            }
            $is = abs($twice) > self::NOTHING * $border * $border ? $twice > 0 : $towardsBehind >= $towardsAhead;
            foreach ($patch as $t => $_) {
                $behind[$t] = $is;
            }
        }

        return array_values(array_map(boolval(...), $behind));
    }
}
