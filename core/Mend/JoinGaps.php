<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Isotome\Check\EdgePlaces;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;

/**
 * Joins triangles that do not touch, across gaps far smaller than they are: vertices at open edges that lie near each other become one, halfway between them.
 *
 * The distance grows step by step; the one that leaves the fewest edges open counts. Guarantees: a mesh of which most edges are joined comes back as it is, for there such gaps are rims
 * with a shape of their own; so does one of which too many edges would stay open.
 */
final class JoinGaps
{
    /** Share of a mesh's edges that must be open. */
    private const OPEN = 0.5;

    /** Distances, as shares of the middle one of the edges' lengths. */
    private const FIRST = 0.01;

    private const LAST = 0.9;

    private const GROWTH = 1.5;

    /** Share of the open edges that may be left. */
    private const LEFT = 0.5;

    /** Share of the triangles that may fall together. */
    private const LOST = 0.05;

    /**
     * @param  bool  $alsoRims  whatever share of the edges is open
     * @return array{mesh: Mesh, joined: int} the mesh and the number of vertices that are gone
     */
    public static function of(Mesh $mesh, bool $alsoRims = false): array
    {
        $best = ['mesh' => $mesh, 'joined' => 0];
        $check = EdgeCheck::of($mesh);
        $edges = ($check->openEdges + 3 * $mesh->triangleCount()) / 2;
        if ($mesh->isEmpty() || $check->openEdges === 0 || $check->openEdges < ($alsoRims ? 0.0 : self::OPEN) * $edges) {
            return $best;
        }
        $least = self::LEFT * $check->openEdges;
        $now = $mesh;
        $joined = 0;
        for ($share = self::FIRST, $length = self::middle($mesh); $share <= self::LAST && $least > 0; $share *= self::GROWTH) {
            $open = EdgePlaces::of($now)->open;
            $step = JoinVertices::of($now, $share * $length, array_values(array_unique([...array_column($open, 0), ...array_column($open, 1)])), true);
            if ($step['joined'] === 0) {
                continue;
            }
            $now = $step['mesh'];
            $joined += $step['joined'];
            $check = EdgeCheck::of($now);
            if ($now->isEmpty() || $check->openEdges + $check->nonmanifoldEdges >= $least) {
                continue;
            }
            // Where triangles fall together, it was not the gaps that were closed.
            if ($now->triangleCount() - RemoveDoubled::of($now)['removed'] < (1.0 - self::LOST) * $mesh->triangleCount()) {
                break;
            }
            $least = $check->openEdges + $check->nonmanifoldEdges;
            $best = ['mesh' => $now, 'joined' => $joined];
        }

        return $best;
    }

    /** The middle one of the edges' lengths. */
    public static function middle(Mesh $mesh): float
    {
        $xyz = $mesh->xyz;
        $lengths = [];
        foreach ($mesh->corners as $h => $a) {
            $b = $mesh->corners[$h % 3 === 2 ? $h - 2 : $h + 1];
            $lengths[] = sqrt(($xyz[3 * $a] - $xyz[3 * $b]) ** 2 + ($xyz[3 * $a + 1] - $xyz[3 * $b + 1]) ** 2 + ($xyz[3 * $a + 2] - $xyz[3 * $b + 2]) ** 2);
        }
        sort($lengths);

        return $lengths[intdiv(count($lengths), 2)] ?? 0.0;
    }
}
