<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Mesh\Mesh;

/**
 * Vertices that coincide within a distance but are not joined, neither into one vertex nor by an edge. Where thousands lie within one
 * distance of each other (no seam does that), not all pairs of them are found: the work stays in proportion to the vertices.
 */
final class NearVertices
{
    /** Pairs that are found, and those that are looked at, beside so many for each vertex. */
    private const MOST = 100_000;

    private const EACH = 4;

    private const LOOKS = 1_000_000;

    private const LOOKS_EACH = 60;

    /**
     * @param  float  $distance mm, more than 0
     * @param  list<int>|null  $among  vertices to look at; all when null
     * @return list<array{int, int}> lower vertex first, nearest pairs first
     */
    public static function of(Mesh $mesh, float $distance, ?array $among = null): array
    {
        $xyz = $mesh->xyz;
        $among ??= $xyz === [] ? [] : range(0, $mesh->vertexCount() - 1);
        $cells = [];
        foreach ($among as $v) {
            $cells[self::key((int) floor($xyz[3 * $v] / $distance), (int) floor($xyz[3 * $v + 1] / $distance), (int) floor($xyz[3 * $v + 2] / $distance))][] = $v;
        }
        $found = [];
        $looks = self::LOOKS + self::LOOKS_EACH * count($among);
        $left = self::MOST + self::EACH * count($among);
        foreach ($among as $v) {
            [$x, $y, $z] = [$xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]];
            [$cx, $cy, $cz] = [(int) floor($x / $distance), (int) floor($y / $distance), (int) floor($z / $distance)];
            for ($n = 0; $n < 27; $n++) {
                foreach ($cells[self::key($cx + $n % 3 - 1, $cy + intdiv($n, 3) % 3 - 1, $cz + intdiv($n, 9) - 1)] ?? [] as $w) {
                    if ($looks-- <= 0 || $left <= 0) {
                        break 3;
                    }
                    if ($w > $v) {
                        $square = ($xyz[3 * $w] - $x) ** 2 + ($xyz[3 * $w + 1] - $y) ** 2 + ($xyz[3 * $w + 2] - $z) ** 2;
                        if ($square <= $distance * $distance) {
                            $found[] = [$square, $v, $w];
                            $left--;
                        }
                    }
                }
            }
        }
        if ($found === []) {
            return [];
        }
        $joined = self::edgesAt($mesh, $found);
        sort($found);
        $pairs = [];
        foreach ($found as [, $v, $w]) {
            if (! isset($joined[$v][$w])) {
                $pairs[] = [$v, $w];
            }
        }

        return $pairs;
    }

    private static function key(int $x, int $y, int $z): string
    {
        return pack('q3', $x, $y, $z);
    }

    /**
     * @param  list<array{float, int, int}>  $found
     * @return array<int, array<int, true>>
     */
    private static function edgesAt(Mesh $mesh, array $found): array
    {
        $of = [];
        foreach ($found as [, $v]) {
            $of[$v] = true;
        }
        $edges = [];
        foreach ($mesh->corners as $h => $a) {
            $b = $mesh->corners[$h % 3 === 2 ? $h - 2 : $h + 1];
            [$low, $high] = $a < $b ? [$a, $b] : [$b, $a];
            if (isset($of[$low])) {
                $edges[$low][$high] = true;
            }
        }

        return $edges;
    }
}
