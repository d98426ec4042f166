<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * The boundary of a mesh as a chain: along each edge, how much more often its triangles run one way than the other. Where there is none, every place has a whole
 * winding number, however many faces meet at an edge.
 *
 * Source: simplicial chains, common practice in algebraic topology; a boundary has no boundary, so what is left of it comes back everywhere.
 */
final class Boundary
{
    /** @return list<array{int, int}> edges as a surface that closes the mesh must run along them, each as often as it must; none when the mesh closes */
    public static function of(Mesh $mesh): array
    {
        $corners = $mesh->corners;
        $net = [];
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            $p = $corners[$i + 2];
            for ($k = $i; $k < $i + 3; $k++) {
                $q = $corners[$k];
                $key = $p < $q ? $p << 32 | $q : $q << 32 | $p;
                $sum = ($net[$key] ?? 0) + ($p < $q ? 1 : -1);
                if ($sum === 0) {
                    unset($net[$key]);
                } else {
                    $net[$key] = $sum;
                }
                $p = $q;
            }
        }
        $edges = [];
        foreach ($net as $key => $times) {
            $low = $key >> 32;
            $high = $key & 0xFFFFFFFF;
            // A triangle with the same corner twice has edges of no length.
            for ($n = abs($times); $n > 0 && $low !== $high; $n--) {
                $edges[] = $times > 0 ? [$high, $low] : [$low, $high];
            }
        }

        return $edges;
    }
}
