<?php

declare(strict_types=1);

namespace Isotome\Seal;

use Isotome\Exception\BrokenPromise;

/**
 * Sees to it that no inner edge of a cap joins two points that another edge joins already: neither an edge of the skin
 * that lies on the blade, nor a second inner edge. Such an edge would have four faces, and a file that tells vertices by
 * their coordinates could not say which two belong together. The inner edge is divided by a point of its own.
 */
final class FreeEdges
{
    private const ROUNDS = 64;

    /**
     * @param  list<int>  $triangles
     * @param  list<int>  $from  rim edges
     * @param  list<int>  $to
     * @param  array<int, int>  $lying  edges of the skin on the blade, by lower × points + higher
     * @param  list<float>  $xyz  of the rim points
     * @return array{triangles: list<int>, newXyz: list<float>}
     */
    public static function of(array $triangles, array $from, array $to, array $lying, array $xyz): array
    {
        $points = intdiv(count($xyz), 3);
        $rim = [];
        foreach ($from as $e => $p) {
            $rim[$p][$to[$e]] = ($rim[$p][$to[$e]] ?? 0) + 1;
        }
        $newXyz = [];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $byEdge = [];
            $span = ($points + intdiv(count($newXyz), 3)) | 1;
            $count = count($triangles);
            for ($h = 0; $h < $count; $h++) {
                $p = $triangles[$h];
                $q = $triangles[$h % 3 === 2 ? $h - 2 : $h + 1];
                $byEdge[$p < $q ? $p * $span + $q : $q * $span + $p][] = $h;
            }
            $divided = [];
            $added = [];
            foreach ($byEdge as $key => $halfEdges) {
                if (count($halfEdges) === 1) {
                    continue;
                }
                $low = intdiv($key, $span);
                $high = $key % $span;
                $ways = [[], []];
                foreach ($halfEdges as $h) {
                    $ways[$triangles[$h] === $low ? 0 : 1][] = $h;
                }
                // Half-edges that close the rim are where they belong.
                $taken = ($rim[$low][$high] ?? 0) + ($rim[$high][$low] ?? 0);
                $forward = array_slice($ways[0], $rim[$low][$high] ?? 0);
                $backward = array_slice($ways[1], $rim[$high][$low] ?? 0);
                $occupied = $taken > 0 || ($high < $points && isset($lying[$low * $points + $high]));
                $first = $occupied ? 0 : 1;
                $pairs = min(count($forward), count($backward));
                for ($i = $first; $i < $pairs; $i++) {
                    $one = intdiv($forward[$i], 3);
                    $other = intdiv($backward[$i], 3);
                    if (isset($divided[$one]) || isset($divided[$other])) {
                        continue;
                    }
                    $share = ($i - $first + 1) / ($pairs - $first + 1);
                    $m = $points + intdiv(count($newXyz), 3);
                    for ($k = 0; $k < 3; $k++) {
                        $a = $low < $points ? $xyz[3 * $low + $k] : $newXyz[3 * ($low - $points) + $k];
                        $b = $high < $points ? $xyz[3 * $high + $k] : $newXyz[3 * ($high - $points) + $k];
                        $newXyz[] = $a + $share * ($b - $a);
                    }
                    foreach ([$forward[$i], $backward[$i]] as $h) {
                        $t = intdiv($h, 3);
                        $p = $triangles[$h];
                        $q = $triangles[$h % 3 === 2 ? $h - 2 : $h + 1];
                        $r = $triangles[3 * $t] + $triangles[3 * $t + 1] + $triangles[3 * $t + 2] - $p - $q;
                        $divided[$t] = true;
                        array_push($added, $p, $m, $r, $m, $q, $r);
                    }
                }
            }
            if ($divided === []) {
                return ['triangles' => $triangles, 'newXyz' => $newXyz];
            }
            $kept = [];
            for ($t = 0; 3 * $t < $count; $t++) {
                if (! isset($divided[$t])) {
                    array_push($kept, $triangles[3 * $t], $triangles[3 * $t + 1], $triangles[3 * $t + 2]);
                }
            }
            $triangles = [...$kept, ...$added];
        }
        throw new BrokenPromise('The cap\'s edges could not be told apart; move the blade by a hair and report this mesh.');
    }
}
