<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Isotome\Check\FaceCheck;
use Isotome\Mesh\Mesh;

/**
 * Removes triangles without area whose corners are three different vertices on one line, without opening the mesh: the
 * neighbour across the longest edge is divided at the corner between. Where there is no neighbour, the triangle goes.
 */
final class RemoveSlivers
{
    private const ROUNDS = 8;

    /** @return array{mesh: Mesh, removed: int} */
    public static function of(Mesh $mesh): array
    {
        $removed = 0;
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $slivers = FaceCheck::slivers($mesh);
            if ($slivers === []) {
                break;
            }
            $step = self::step($mesh, $slivers);
            $removed += $step['removed'];
            $mesh = $step['mesh'];
            if ($step['removed'] === 0) {
                break;
            }
        }

        return ['mesh' => $mesh, 'removed' => $removed];
    }

    /**
     * @param  list<int>  $slivers
     * @return array{mesh: Mesh, removed: int}
     */
    private static function step(Mesh $mesh, array $slivers): array
    {
        $corners = $mesh->corners;
        $wanted = [];
        foreach ($slivers as $t) {
            [$a, $c] = self::longest($mesh, $t);
            $wanted[min($a, $c)][max($a, $c)] = [];
        }
        $edges = [];
        foreach ($corners as $h => $a) {
            $b = $corners[$h % 3 === 2 ? $h - 2 : $h + 1];
            [$low, $high] = $a < $b ? [$a, $b] : [$b, $a];
            $edges[$low][$high] = true;
            if (isset($wanted[$low][$high])) {
                $wanted[$low][$high][] = intdiv($h, 3);
            }
        }
        $gone = $touched = [];
        $tags = $mesh->tags;
        $removed = 0;
        foreach ($slivers as $t) {
            [$a, $c, $b] = self::longest($mesh, $t);
            $at = $wanted[min($a, $c)][max($a, $c)] ?? [];
            if (isset($touched[$t]) || count($at) > 2) {
                continue;
            }
            if (count($at) === 1) {
                $gone[$t] = $touched[$t] = true;
                $removed++;

                continue;
            }
            $s = $at[0] === $t ? $at[1] : $at[0];
            $d = $corners[3 * $s] + $corners[3 * $s + 1] + $corners[3 * $s + 2] - $a - $c;
            if (isset($touched[$s]) || $d === $b || isset($edges[min($b, $d)][max($b, $d)])) {
                continue;
            }
            $touched[$s] = $touched[$t] = true;
            // The neighbour runs c → a → d or a → c → d; b goes in between.
            $k = array_search($d, [$corners[3 * $s], $corners[3 * $s + 1], $corners[3 * $s + 2]], true);
            $p = $corners[3 * $s + ($k + 1) % 3];
            $q = $corners[3 * $s + ($k + 2) % 3];
            [$corners[3 * $s], $corners[3 * $s + 1], $corners[3 * $s + 2]] = [$p, $b, $d];
            [$corners[3 * $t], $corners[3 * $t + 1], $corners[3 * $t + 2]] = [$b, $q, $d];
            $tags[$t] = $tags[$s];
            $removed++;
        }

        return ['mesh' => RemoveFaces::of(Mesh::of($mesh->xyz, array_values($corners), array_values($tags)), $gone), 'removed' => $removed];
    }

    /** @return array{int, int, int} ends of the longest edge, and the corner opposite */
    private static function longest(Mesh $mesh, int $t): array
    {
        $best = [-1.0, 0, 0, 0];
        for ($k = 0; $k < 3; $k++) {
            [$p, $q, $r] = [$mesh->corners[3 * $t + $k], $mesh->corners[3 * $t + ($k + 1) % 3], $mesh->corners[3 * $t + ($k + 2) % 3]];
            $square = ($mesh->xyz[3 * $p] - $mesh->xyz[3 * $q]) ** 2 + ($mesh->xyz[3 * $p + 1] - $mesh->xyz[3 * $q + 1]) ** 2 + ($mesh->xyz[3 * $p + 2] - $mesh->xyz[3 * $q + 2]) ** 2;
            if ($square > $best[0]) {
                $best = [$square, $p, $q, $r];
            }
        }

        return [$best[1], $best[2], $best[3]];
    }
}
