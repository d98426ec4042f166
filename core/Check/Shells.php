<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Mesh\Bodies;
use Isotome\Mesh\Cavities;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/**
 * What hangs together in a mesh: shells, which of them are cavities or turned inside out, and handles.
 *
 * Handles of a closed shell follow from Euler's formula, V − E + F = 2 − 2 g (L. Euler 1758; for surfaces S. Lhuilier 1813).
 */
final readonly class Shells
{
    /**
     * @param  list<int>  $of  shell of each vertex; −1 for a vertex without triangles
     * @param  list<int>  $cavities  shells that are cavities of another
     * @param  list<int>  $inverted  closed shells turned inside out with nothing around them
     * @param  int|null  $handles  of all shells; null when the mesh is not watertight
     */
    private function __construct(
        public int $count,
        public array $of,
        public array $cavities,
        public array $inverted,
        public ?int $handles,
        public int $isolatedVertices,
    ) {
    }

    public static function of(Mesh $mesh, ?bool $isWatertight = null): self
    {
        $isWatertight ??= EdgeCheck::of($mesh)->isWatertight();
        $of = Bodies::shells($mesh);
        $count = ($of === [] ? -1 : max($of)) + 1;
        $isolated = in_array(-1, $of, true) ? count(array_keys($of, -1, true)) : 0;
        $volumes = $count === 1 ? [Volume::of($mesh)] : self::volumes($mesh, $of, $count);
        $cavities = $inverted = [];
        if ($volumes !== [] && min($volumes) < 0) {
            $parts = self::parts($mesh, $of, $count);
            foreach (Cavities::homes($parts) as $s => $home) {
                if ($home !== $s) {
                    $cavities[] = $s;
                } elseif ($volumes[$s] < 0 && EdgeCheck::of($parts[$s])->isWatertight()) {
                    $inverted[] = $s;
                }
            }
        }
        $euler = count($of) - $isolated - intdiv(count($mesh->tags), 2);

        return new self($count, $of, $cavities, $inverted, $isWatertight ? $count - intdiv($euler, 2) : null, $isolated);
    }

    /**
     * @param  list<int>  $of
     * @return array<int, float> six times the volume of each shell
     */
    private static function volumes(Mesh $mesh, array $of, int $count): array
    {
        $volumes = $count === 0 ? [] : array_fill(0, $count, 0.0);
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $last = count($corners);
        [$ox, $oy, $oz] = $corners === [] ? [0.0, 0.0, 0.0] : [$xyz[3 * $corners[0]], $xyz[3 * $corners[0] + 1], $xyz[3 * $corners[0] + 2]];
        for ($i = 0; $i < $last; $i += 3) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $ax = $xyz[$a] - $ox;
            $ay = $xyz[$a + 1] - $oy;
            $az = $xyz[$a + 2] - $oz;
            $bx = $xyz[$b] - $ox;
            $by = $xyz[$b + 1] - $oy;
            $bz = $xyz[$b + 2] - $oz;
            $cx = $xyz[$c] - $ox;
            $cy = $xyz[$c + 1] - $oy;
            $cz = $xyz[$c + 2] - $oz;
            $volumes[$of[$corners[$i]]] += $ax * ($by * $cz - $bz * $cy) + $ay * ($bz * $cx - $bx * $cz) + $az * ($bx * $cy - $by * $cx);
        }

        return $volumes;
    }

    /**
     * @param  list<int>  $of
     * @return list<Mesh>
     */
    private static function parts(Mesh $mesh, array $of, int $count): array
    {
        if ($count === 1) {
            return [$mesh];
        }
        $corners = $tags = array_fill(0, $count, []);
        foreach ($mesh->tags as $t => $tag) {
            $s = $of[$mesh->corners[3 * $t]];
            array_push($corners[$s], $mesh->corners[3 * $t], $mesh->corners[3 * $t + 1], $mesh->corners[3 * $t + 2]);
            $tags[$s][] = $tag;
        }
        $parts = [];
        foreach ($corners as $s => $list) {
            [$xyz, $list] = \Isotome\Mesh\Compact::of($mesh->xyz, $list);
            $parts[] = Mesh::of($xyz, $list, $tags[$s]);
        }

        return $parts;
    }
}
