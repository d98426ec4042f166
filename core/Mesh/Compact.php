<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/** Leaves out the vertices that no triangle uses; the others keep their order. */
final class Compact
{
    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @return array{list<float>, list<int>}
     */
    public static function of(array $xyz, array $corners): array
    {
        $vertices = intdiv(count($xyz), 3);
        $map = $vertices === 0 ? [] : array_fill(0, $vertices, -1);
        foreach ($corners as $v) {
            $map[$v] = 0;
        }
        $kept = [];
        $next = 0;
        foreach ($map as $v => $used) {
            if ($used === 0) {
                $map[$v] = $next++;
                $kept[] = $xyz[3 * $v];
                $kept[] = $xyz[3 * $v + 1];
                $kept[] = $xyz[3 * $v + 2];
            }
        }
        if ($next === $vertices) {
            return [$xyz, $corners];
        }
        $renumbered = [];
        foreach ($corners as $v) {
            $renumbered[] = $map[$v];
        }

        return [$kept, $renumbered];
    }
}
