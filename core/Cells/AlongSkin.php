<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Exception\BrokenPromise;
use Isotome\Mesh\Mesh;

/**
 * In which shard every vertex of a body lies, told by where its skin crosses walls: what hangs together along edges that no wall crosses is in one shard, and a crossing tells which.
 *
 * A part of the skin that no wall crosses is told by the nearest wall along a line from one of its vertices.
 */
final class AlongSkin
{
    /** Walls that such a line is aimed at, one after the other, until one does not pass near an edge. */
    private const TRIES = 50;

    /** How near to an edge of a wall, as a share of its triangle. */
    private const NEAR = 1e-9;

    /**
     * @param  array<int, list<array{float, int, int, int, int}>>  $onSkin  see Crossings, by place
     * @return list<int> shard of each vertex
     *
     * @throws BrokenPromise when no line tells
     */
    public static function of(Mesh $mesh, Complex $complex, array $onSkin): array
    {
        $vertices = $mesh->vertexCount();
        $corners = $mesh->corners;
        $up = $vertices === 0 ? [] : range(0, $vertices - 1);
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            $p = $corners[$i + 2];
            for ($k = $i; $k < $i + 3; $k++) {
                $q = $corners[$k];
                $a = $p;
                $b = $q;
                $p = $q;
                if (isset($onSkin[$a < $b ? $a << 32 | $b : $b << 32 | $a])) {
                    continue;
                }
                while ($up[$a] !== $a) {
                    $a = $up[$a] = $up[$up[$a]];
                }
                while ($up[$b] !== $b) {
                    $b = $up[$b] = $up[$up[$b]];
                }
                if ($a < $b) {
                    $up[$b] = $a;
                } else {
                    $up[$a] = $b;
                }
            }
        }
        $root = static function (int $v) use (&$up): int {
            while ($up[$v] !== $v) {
                $v = $up[$v] = $up[$up[$v]];
            }

            return $v;
        };
        $of = [];
        foreach ($onSkin as $key => $hits) {
            $of[$root($key >> 32)] ??= Overlay::end($hits, 1, 2);
            $of[$root($key & 0xFFFFFFFF)] ??= Overlay::end($hits, 2, 1);
        }
        $labels = [];
        for ($v = 0; $v < $vertices; $v++) {
            $r = $root($v);
            $labels[] = $of[$r] ??= self::at($complex, $mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]);
        }

        return $labels;
    }

    /** @throws BrokenPromise */
    private static function at(Complex $complex, float $x, float $y, float $z): int
    {
        $xyz = $complex->xyz;
        $walls = count($complex->loops);
        if ($walls === 0) {
            // One shard is all there is.
            return 0;
        }
        for ($n = 0; $n < min(self::TRIES, $walls); $n++) {
            [$a, $b, $c] = $complex->loops[intdiv($n * $walls, min(self::TRIES, $walls))];
            $to = [];
            // Not quite its middle: on even walls that lies in line with others.
            foreach ([$x, $y, $z] as $k => $from) {
                $to[] = 0.37 * $xyz[3 * $a + $k] + 0.32 * $xyz[3 * $b + $k] + 0.31 * $xyz[3 * $c + $k] - $from;
            }
            $found = self::along($complex, $x, $y, $z, ...$to);
            if ($found !== null) {
                return $found;
            }
        }
        throw new BrokenPromise(sprintf('It cannot be told in which shard the place %.3f, %.3f, %.3f is; give the grain another seed.', $x, $y, $z));
    }

    /** @return int|null null when it passes near an edge, or nothing is met */
    private static function along(Complex $complex, float $x, float $y, float $z, float $dx, float $dy, float $dz): ?int
    {
        $xyz = $complex->xyz;
        $nearest = INF;
        $shard = null;
        foreach ($complex->loops as $f => [$a, $b, $c]) {
            $ax = $xyz[3 * $a] - $x;
            $ay = $xyz[3 * $a + 1] - $y;
            $az = $xyz[3 * $a + 2] - $z;
            $bx = $xyz[3 * $b] - $x;
            $by = $xyz[3 * $b + 1] - $y;
            $bz = $xyz[3 * $b + 2] - $z;
            $cx = $xyz[3 * $c] - $x;
            $cy = $xyz[3 * $c + 1] - $y;
            $cz = $xyz[3 * $c + 2] - $z;
            // Six times the volumes between the line and each edge: of one sign where it passes within.
            $u = $dx * ($cy * $bz - $cz * $by) + $dy * ($cz * $bx - $cx * $bz) + $dz * ($cx * $by - $cy * $bx);
            $v = $dx * ($ay * $cz - $az * $cy) + $dy * ($az * $cx - $ax * $cz) + $dz * ($ax * $cy - $ay * $cx);
            $w = $dx * ($by * $az - $bz * $ay) + $dy * ($bz * $ax - $bx * $az) + $dz * ($bx * $ay - $by * $ax);
            $sum = $u + $v + $w;
            $near = self::NEAR * (abs($u) + abs($v) + abs($w));
            if (min($u, $v, $w) < -$near && max($u, $v, $w) > $near) {
                continue;
            }
            if (abs($u) <= $near || abs($v) <= $near || abs($w) <= $near) {
                return null;
            }
            $k = 4 * $f;
            $nx = $complex->planes[$k];
            $ny = $complex->planes[$k + 1];
            $nz = $complex->planes[$k + 2];
            $down = $nx * $dx + $ny * $dy + $nz * $dz;
            $t = $down == 0.0 || $sum == 0.0 ? -1.0 : ($nx * $ax + $ny * $ay + $nz * $az) / $down;
            if ($t > 0.0 && $t < $nearest) {
                $nearest = $t;
                $shard = $down > 0.0 ? $complex->behind[$f] : $complex->ahead[$f];
            }
        }

        return $shard;
    }
}
