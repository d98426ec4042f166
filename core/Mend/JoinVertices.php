<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Isotome\Check\NearVertices;
use Isotome\Mesh\Compact;
use Isotome\Mesh\Mesh;

/** Makes vertices that lie within a distance of each other one vertex; triangles that collapse are left out. */
final class JoinVertices
{
    /**
     * Nearest pairs first; a group never spans more than the distance from its first vertex, so that chains do not creep together.
     *
     * @param  list<int>|null  $among  vertices to look at; all when null
     * @param  bool  $inTheMiddle  whether vertices that become one meet halfway between them; else all go to the one with the lowest number
     * @return array{mesh: Mesh, joined: int} the mesh and the number of vertices that are gone
     */
    public static function of(Mesh $mesh, float $distance, ?array $among = null, bool $inTheMiddle = false): array
    {
        $pairs = NearVertices::of($mesh, $distance, $among);
        if ($pairs === []) {
            return ['mesh' => $mesh, 'joined' => 0];
        }
        $to = $reach = [];
        foreach ($pairs as [$v, $w]) {
            while (isset($to[$v])) {
                $v = $to[$v];
            }
            while (isset($to[$w])) {
                $w = $to[$w];
            }
            if ($v === $w) {
                continue;
            }
            [$v, $w] = $v < $w ? [$v, $w] : [$w, $v];
            // Everything that was joined to w must stay within the distance from v.
            $far = sqrt(self::square($mesh, $v, $w)) + ($reach[$w] ?? 0.0);
            if ($far <= $distance) {
                $to[$w] = $v;
                $reach[$v] = max($reach[$v] ?? 0.0, $far);
            }
        }
        foreach ($to as $w => $v) {
            while (isset($to[$v])) {
                $v = $to[$v];
            }
            $to[$w] = $v;
        }
        $corners = $tags = [];
        foreach ($mesh->tags as $t => $tag) {
            $a = $mesh->corners[3 * $t];
            $b = $mesh->corners[3 * $t + 1];
            $c = $mesh->corners[3 * $t + 2];
            $a = $to[$a] ?? $a;
            $b = $to[$b] ?? $b;
            $c = $to[$c] ?? $c;
            if ($a !== $b && $b !== $c && $c !== $a) {
                array_push($corners, $a, $b, $c);
                $tags[] = $tag;
            }
        }
        [$xyz, $corners] = Compact::of($inTheMiddle ? self::middles($mesh->xyz, $to) : $mesh->xyz, $corners);

        return ['mesh' => Mesh::of($xyz, $corners, $tags), 'joined' => count($to)];
    }

    /**
     * @param  list<float>  $xyz
     * @param  array<int, int>  $to  what each vertex becomes
     * @return list<float> the middle of each group at what it becomes
     */
    private static function middles(array $xyz, array $to): array
    {
        $times = [];
        foreach ($to as $w => $v) {
            $times[$v] = ($times[$v] ?? 1) + 1;
            for ($k = 0; $k < 3; $k++) {
                $xyz[3 * $v + $k] += $xyz[3 * $w + $k];
            }
        }
        foreach ($times as $v => $many) {
            for ($k = 0; $k < 3; $k++) {
                $xyz[3 * $v + $k] /= $many;
            }
        }

        return array_values($xyz);
    }

    private static function square(Mesh $mesh, int $v, int $w): float
    {
        return ($mesh->xyz[3 * $v] - $mesh->xyz[3 * $w]) ** 2 + ($mesh->xyz[3 * $v + 1] - $mesh->xyz[3 * $w + 1]) ** 2 + ($mesh->xyz[3 * $v + 2] - $mesh->xyz[3 * $w + 2]) ** 2;
    }
}
