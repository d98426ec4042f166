<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Closure;

/** Which small parts join which neighbours: the smallest first, to the neighbour with the largest common face, until none is left that has one. */
final class Merging
{
    /**
     * @param  array<int, float>  $volumes  by part, mm³
     * @param  array<int, array<int, float>>  $areas  common to two parts, both ways, mm²
     * @param  float  $least  mm³; parts below it join
     * @param  Closure(list<int>): bool|null  $fits  whether parts may be one; all may when null
     * @return array<int, list<int>> what is left, and the parts that each is made of
     */
    public static function of(array $volumes, array $areas, float $least, ?Closure $fits = null): array
    {
        $members = $alone = [];
        foreach ($volumes as $part => $_) {
            $members[$part] = [$part];
        }
        while (true) {
            $small = null;
            foreach ($volumes as $part => $volume) {
                if ($volume < $least && ! isset($alone[$part]) && ($small === null || $volume < $volumes[$small])) {
                    $small = $part;
                }
            }
            if ($small === null) {
                return $members;
            }
            $into = null;
            foreach ($areas[$small] ?? [] as $other => $area) {
                if (! isset($members[$other]) || ($into !== null && ($area < $areas[$small][$into] || ($area === $areas[$small][$into] && $other > $into)))) {
                    continue;
                }
                if ($fits === null || $fits([...$members[$small], ...$members[$other]])) {
                    $into = $other;
                }
            }
            if ($into === null) {
                $alone[$small] = true;

                continue;
            }
            foreach ($areas[$small] as $other => $area) {
                unset($areas[$other][$small]);
                if ($other !== $into) {
                    $areas[$into][$other] = $areas[$other][$into] = ($areas[$into][$other] ?? 0.0) + $area;
                }
            }
            $volumes[$into] += $volumes[$small];
            array_push($members[$into], ...$members[$small]);
            unset($volumes[$small], $members[$small], $areas[$small]);
            // What had no neighbour that fits may have one now.
            $alone = [];
        }
    }
}
