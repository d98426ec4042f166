<?php

declare(strict_types=1);

namespace Isotome\Cells;

/**
 * A complex without edges that are shorter than a length: their ends become one vertex, in their middle, and facets that are lines then are left out. Facets are nearly flat afterwards, no longer
 * exactly, and what met still meets.
 */
final class ShortEdges
{
    public static function joined(Complex $complex, float $length): Complex
    {
        $xyz = $complex->xyz;
        $up = range(0, max(0, intdiv(count($xyz), 3) - 1));
        $root = static function (int $v) use (&$up): int {
            while ($up[$v] !== $v) {
                $v = $up[$v] = $up[$up[$v]];
            }

            return $v;
        };
        foreach ($complex->loops as $loop) {
            $p = $loop[count($loop) - 1];
            foreach ($loop as $q) {
                $x = $xyz[3 * $q] - $xyz[3 * $p];
                $y = $xyz[3 * $q + 1] - $xyz[3 * $p + 1];
                $z = $xyz[3 * $q + 2] - $xyz[3 * $p + 2];
                if ($x * $x + $y * $y + $z * $z < $length * $length) {
                    $up[max($root($p), $root($q))] = min($root($p), $root($q));
                }
                $p = $q;
            }
        }
        $sum = [];
        foreach ($up as $v => $_) {
            $r = $root($v);
            $sum[$r] ??= [0.0, 0.0, 0.0, 0];
            for ($k = 0; $k < 3; $k++) {
                $sum[$r][$k] += $xyz[3 * $v + $k];
            }
            $sum[$r][3]++;
        }
        foreach ($sum as $v => [$x, $y, $z, $many]) {
            if ($many > 1) {
                [$xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]] = [$x / $many, $y / $many, $z / $many];
            }
        }
        $loops = $behind = $ahead = [];
        foreach ($complex->loops as $f => $loop) {
            $loop = self::straight(array_map($root, $loop));
            if (count($loop) >= 3) {
                $loops[] = $loop;
                $behind[] = $complex->behind[$f];
                $ahead[] = $complex->ahead[$f];
            }
        }

        return new Complex(array_values($xyz), $loops, $behind, $ahead, $complex->label);
    }

    /**
     * Without corners that follow themselves, and without ways there and back.
     *
     * @param  list<int>  $loop
     * @return list<int>
     */
    private static function straight(array $loop): array
    {
        do {
            $before = count($loop);
            $kept = [];
            foreach ($loop as $v) {
                $n = count($kept);
                if ($n > 0 && $kept[$n - 1] === $v) {
                    continue;
                }
                if ($n > 1 && $kept[$n - 2] === $v) {
                    array_pop($kept);

                    continue;
                }
                $kept[] = $v;
            }
            while (count($kept) > 1 && $kept[0] === $kept[count($kept) - 1]) {
                array_pop($kept);
            }
            // Once round, so that the ends are looked at together, too.
            $loop = count($kept) > 2 ? [...array_slice($kept, 1), $kept[0]] : $kept;
        } while (count($loop) < $before && count($loop) > 2);

        return $loop;
    }
}
