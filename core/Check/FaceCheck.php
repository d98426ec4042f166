<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;

/** Faces that are wrong in themselves: doubled ones, and slivers, of which some have no area at all. */
final readonly class FaceCheck
{
    /** A face is a sliver when its height is less than this share of its longest edge. */
    public const SLIVER = 1e-6;

    /**
     * @param  int  $doubled  faces beyond the first on the same three corners
     * @param  int  $slivers  with those that the reader left out
     * @param  list<int>  $doubledFaces  all of them but the first on their corners
     * @param  list<int>  $sliverFaces
     */
    private function __construct(
        public int $doubled,
        public int $slivers,
        public array $doubledFaces,
        public array $sliverFaces,
    ) {
    }

    /** @param  int  $collapsed triangles with two equal corners that a reader left out; they count as slivers */
    public static function of(Mesh $mesh, int $collapsed = 0, ?EdgeCheck $edges = null): self
    {
        $slivers = self::slivers($mesh);
        $doubled = self::doubled($mesh, $edges ?? EdgeCheck::of($mesh));

        return new self(count($doubled), count($slivers) + $collapsed, $doubled, $slivers);
    }

    /** @return list<int> */
    public static function slivers(Mesh $mesh): array
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $slivers = [];
        $count = count($corners);
        $limit = self::SLIVER * self::SLIVER;
        for ($i = 0; $i < $count; $i += 3) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $ux = $xyz[$b] - ($x = $xyz[$a]);
            $uy = $xyz[$b + 1] - ($y = $xyz[$a + 1]);
            $uz = $xyz[$b + 2] - ($z = $xyz[$a + 2]);
            $vx = $xyz[$c] - $x;
            $vy = $xyz[$c + 1] - $y;
            $vz = $xyz[$c + 2] - $z;
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $wx = $vx - $ux;
            $wy = $vy - $uy;
            $wz = $vz - $uz;
            $longest = $ux * $ux + $uy * $uy + $uz * $uz;
            $square = $vx * $vx + $vy * $vy + $vz * $vz;
            if ($square > $longest) {
                $longest = $square;
            }
            $square = $wx * $wx + $wy * $wy + $wz * $wz;
            if ($square > $longest) {
                $longest = $square;
            }
            if ($nx * $nx + $ny * $ny + $nz * $nz <= $limit * $longest * $longest) {
                $slivers[] = intdiv($i, 3);
            }
        }

        return $slivers;
    }

    /**
     * Doubled faces share all three edges, so each of these has more than two faces or two that disagree, or it is one of
     * two faces back to back, at whose corners nothing else is. Only such faces are compared by name.
     *
     * @return list<int>
     */
    private static function doubled(Mesh $mesh, EdgeCheck $edges): array
    {
        $corners = $mesh->corners;
        $candidates = [];
        if ($edges->nonmanifoldEdges > 0 || $edges->flippedEdges > 0) {
            $candidates = EdgePlaces::of($mesh)->triangles;
        }
        $uses = $corners === [] ? [] : array_fill(0, $mesh->vertexCount(), 0);
        foreach ($corners as $v) {
            $uses[$v]++;
        }
        if (in_array(2, $uses, true)) {
            foreach ($mesh->tags as $t => $_) {
                if ($uses[$corners[3 * $t]] === 2 && $uses[$corners[3 * $t + 1]] === 2 && $uses[$corners[3 * $t + 2]] === 2) {
                    $candidates[$t] = true;
                }
            }
        }
        ksort($candidates);
        $seen = [];
        $doubled = [];
        foreach ($candidates as $t => $_) {
            $three = [$corners[3 * $t], $corners[3 * $t + 1], $corners[3 * $t + 2]];
            sort($three);
            $name = implode(' ', $three);
            if (isset($seen[$name])) {
                $doubled[] = $t;
            }
            $seen[$name] = true;
        }

        return $doubled;
    }
}
