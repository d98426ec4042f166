<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Geometry\Extent;
use Isotome\Geometry\Zero;
use Isotome\Mesh\Mesh;

/** Where pieces part, read from the pieces themselves: along the skin, and the edges of their cut faces within the body. */
final class PartingLines
{
    /** Share of the largest coordinate within which a corner lies in a plane. */
    private const FLAT = 1e-9;

    /**
     * @param  iterable<Mesh>  $pieces
     * @param  int  $tag  of the faces that part them
     * @return array{list<float>, list<float>} lines on the skin, and edges within, 6 numbers each, mm; each line once
     */
    public static function of(iterable $pieces, int $tag): array
    {
        $skin = $inner = $seen = [];
        foreach ($pieces as $piece) {
            $corners = $piece->corners;
            $xyz = $piece->xyz;
            $hair = self::FLAT * Extent::of($xyz);
            $edges = [];
            foreach ($piece->tags as $t => $of) {
                if ($of !== $tag) {
                    continue;
                }
                $p = $corners[3 * $t + 2];
                for ($k = 0; $k < 3; $k++) {
                    $q = $corners[3 * $t + $k];
                    $edges[$p < $q ? $p << 32 | $q : $q << 32 | $p][] = $t;
                    $p = $q;
                }
            }
            foreach ($edges as $key => $faces) {
                $isSkin = count($faces) === 1;
                if (! $isSkin && self::isFlat($piece, $faces[0], $faces[1], $key, $hair)) {
                    continue;
                }
                $p = 3 * ($key >> 32);
                $q = 3 * ($key & 0xFFFFFFFF);
                $line = [$xyz[$p], $xyz[$p + 1], $xyz[$p + 2], $xyz[$q], $xyz[$q + 1], $xyz[$q + 2]];
                $one = pack('e3', Zero::plain($line[0]), Zero::plain($line[1]), Zero::plain($line[2]));
                $other = pack('e3', Zero::plain($line[3]), Zero::plain($line[4]), Zero::plain($line[5]));
                $place = $one < $other ? $one.$other : $other.$one;
                if (isset($seen[$place])) {
                    continue;
                }
                $seen[$place] = true;
                if ($isSkin) {
                    array_push($skin, ...$line);
                } else {
                    array_push($inner, ...$line);
                }
            }
        }

        return [$skin, $inner];
    }

    /** Do two faces lie in one plane? Told by how far the smaller one's other corner is from the larger one's plane: needles have no direction. */
    private static function isFlat(Mesh $mesh, int $t, int $s, int $edge, float $hair): bool
    {
        [$ax, $ay, $az] = self::normal($mesh, $t);
        [$bx, $by, $bz] = self::normal($mesh, $s);
        $a = $ax * $ax + $ay * $ay + $az * $az;
        $b = $bx * $bx + $by * $by + $bz * $bz;
        if ($b > $a) {
            [$s, $ax, $ay, $az, $a] = [$t, $bx, $by, $bz, $b];
        }
        $on = 3 * ($edge >> 32);
        // The corner that is not on the edge.
        $off = 3 * ($mesh->corners[3 * $s] + $mesh->corners[3 * $s + 1] + $mesh->corners[3 * $s + 2] - ($edge >> 32) - ($edge & 0xFFFFFFFF));
        $xyz = $mesh->xyz;
        $away = $ax * ($xyz[$off] - $xyz[$on]) + $ay * ($xyz[$off + 1] - $xyz[$on + 1]) + $az * ($xyz[$off + 2] - $xyz[$on + 2]);

        return $away * $away <= $hair * $hair * $a;
    }

    /** @return array{float, float, float} not of unit length */
    private static function normal(Mesh $mesh, int $t): array
    {
        $xyz = $mesh->xyz;
        [$a, $b, $c] = [3 * $mesh->corners[3 * $t], 3 * $mesh->corners[3 * $t + 1], 3 * $mesh->corners[3 * $t + 2]];
        [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
        [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];

        return [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
    }
}
