<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Mesh\Mesh;

/** Counts faces that are wrong in themselves. */
final readonly class FaceCheck
{
    /** A face is a sliver when its height is less than this share of its longest edge. */
    public const SLIVER = 1e-6;

    private function __construct(
        public int $doubled,
        public int $slivers,
    ) {
    }

    /** @param  int  $collapsed triangles with two equal corners that a reader left out; they count as slivers */
    public static function of(Mesh $mesh, int $collapsed = 0): self
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $slivers = $collapsed;
        $count = count($corners);
        // Doubled faces have one lowest and one middle corner in common: only those faces are compared by name.
        $odd = $mesh->vertexCount() | 1;
        $seen = [];
        $again = [];
        for ($i = 0; $i < $count; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            $ux = $xyz[3 * $b] - ($x = $xyz[3 * $a]);
            $uy = $xyz[3 * $b + 1] - ($y = $xyz[3 * $a + 1]);
            $uz = $xyz[3 * $b + 2] - ($z = $xyz[3 * $a + 2]);
            $vx = $xyz[3 * $c] - $x;
            $vy = $xyz[3 * $c + 1] - $y;
            $vz = $xyz[3 * $c + 2] - $z;
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $wx = $vx - $ux;
            $wy = $vy - $uy;
            $wz = $vz - $uz;
            $longest = max($ux * $ux + $uy * $uy + $uz * $uz, $vx * $vx + $vy * $vy + $vz * $vz, $wx * $wx + $wy * $wy + $wz * $wz);
            if (sqrt($nx * $nx + $ny * $ny + $nz * $nz) <= self::SLIVER * $longest) {
                $slivers++;
            }
            $low = $a < $b ? ($a < $c ? $a : $c) : ($b < $c ? $b : $c);
            $high = $a > $b ? ($a > $c ? $a : $c) : ($b > $c ? $b : $c);
            $key = $low * $odd + $high;
            if (isset($seen[$key])) {
                $again[$key] = true;
            } else {
                $seen[$key] = true;
            }
        }
        unset($seen);
        $names = [];
        for ($i = 0; $i < $count && $again !== []; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            $low = $a < $b ? ($a < $c ? $a : $c) : ($b < $c ? $b : $c);
            $high = $a > $b ? ($a > $c ? $a : $c) : ($b > $c ? $b : $c);
            if (isset($again[$low * $odd + $high])) {
                $middle = $a + $b + $c - $low - $high;
                $names["$low $middle $high"] = ($names["$low $middle $high"] ?? 0) + 1;
            }
        }

        return new self(array_sum($names) - count($names), $slivers);
    }
}
