<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Isotome\Measure\Profile;

/**
 * Flat cuts through a part that are worth trying, the best first, judged without cutting: by how many pieces either side will about need, by the area of the section and by its number of outlines.
 *
 * Along each direction all positions are judged in one sweep: how far either side reaches along the directions of the frames follows from the vertices and from where edges cross, so that a few large triangles are judged as
 * exactly as many small ones.
 */
final class Candidates
{
    /** Positions along a direction, evenly spread; where slices of the bed's size or of equal width would be are looked at besides. */
    private const POSITIONS = 40;

    /** Cuts along one direction that are tried, and the share of the extent that they are apart. */
    private const EACH = 3;

    private const APART = 0.06;

    /** Equal slices up to so many. */
    private const SLICES = 4;

    /**
     * @param  list<array{float, float, float}>  $facings
     * @return list<Cut>
     */
    public static function of(Part $part, Wishes $wishes, array $facings, int $most): array
    {
        $all = [];
        foreach ($facings as $facing) {
            array_push($all, ...self::along($part, $wishes, $facing));
        }
        usort($all, static fn (array $a, array $b): int => $a[0] <=> $b[0]);

        return array_map(static fn (array $one): Cut => $one[1], array_slice($all, 0, $most));
    }

    /**
     * @param  array{float, float, float}  $facing
     * @return list<array{float, Cut}> with what each is judged at, those that are apart
     */
    private static function along(Part $part, Wishes $wishes, array $facing): array
    {
        $heights = Part::distances($part->mesh, $facing);
        [$low, $high] = Part::ends($heights);
        $positions = self::positions($low, $high, $wishes);
        if ($positions === []) {
            return [];
        }
        $profile = Profile::at($part->mesh, $facing, $positions);
        [$behindLow, $behindHigh, $aheadLow, $aheadHigh] = self::extents($part, $heights, $positions);
        $behind = self::volumes($positions, $profile->areas, $low, $high, $part->volume);
        $bed = $wishes->space->x * $wishes->space->y;
        $judged = [];
        foreach ($positions as $k => $position) {
            if ($profile->areas[$k] <= 0.0 || $wishes->forbids(new Cut($facing, $position))) {
                continue;
            }
            $judged[$k] = Part::need($behindLow[$k], $behindHigh[$k], $behind[$k], $wishes) + Part::need($aheadLow[$k], $aheadHigh[$k], $part->volume - $behind[$k], $wishes)
                + Terms::AREA * $profile->areas[$k] / $bed + Terms::OUTLINE * max(0, $profile->outlines[$k] - 1);
        }
        asort($judged);
        $chosen = [];
        foreach ($judged as $k => $at) {
            foreach ($chosen as [, $other]) {
                if (abs($other->offset - $positions[$k]) < self::APART * ($high - $low)) {
                    continue 2;
                }
            }
            $chosen[] = [$at, new Cut($facing, $positions[$k])];
            if (count($chosen) === self::EACH) {
                break;
            }
        }

        return $chosen;
    }

    /** @return list<float> ascending, all within */
    private static function positions(float $low, float $high, Wishes $wishes): array
    {
        $extent = $high - $low;
        $positions = [];
        for ($n = 1; $n <= self::POSITIONS; $n++) {
            $positions[] = $low + $extent * $n / (self::POSITIONS + 1);
        }
        for ($of = 2; $of <= self::SLICES; $of++) {
            for ($n = 1; $n < $of; $n++) {
                $positions[] = $low + $extent * $n / $of;
            }
        }
        foreach ([$wishes->space->x, $wishes->space->y, $wishes->space->z] as $side) {
            $slices = ceil($extent / $side - 1e-10);
            // A hair of room where there is room, so that a slice that just fits still does when it is rounded.
            $room = min(1e-3 * $side, $slices * $side - $extent);
            array_push($positions, $low + $side - $room, $high - $side + $room, $low + $extent / max(1.0, $slices));
        }
        $positions = array_values(array_unique(array_filter($positions, static fn (float $at): bool => $at > $low + 1e-4 * $extent && $at < $high - 1e-4 * $extent)));
        sort($positions);

        return $positions;
    }

    /**
     * Volumes behind each position, by the trapezoidal rule over the sections' areas, made to come out at the whole.
     *
     * @param  list<float>  $positions
     * @param  list<float>  $areas
     * @return list<float>
     */
    private static function volumes(array $positions, array $areas, float $low, float $high, float $whole): array
    {
        $sum = 0.0;
        $last = $low;
        $area = $areas[0];
        $behind = [];
        foreach ($positions as $k => $position) {
            $sum += ($position - $last) * ($areas[$k] + $area) / 2;
            $behind[] = $sum;
            [$last, $area] = [$position, $areas[$k]];
        }
        $sum += ($high - $last) * $area;
        $scale = $sum > 0.0 ? $whole / $sum : 0.0;

        return array_map(static fn (float $volume): float => $volume * $scale, $behind);
    }

    /**
     * How far the sides of each position reach along the directions of the frames.
     *
     * @param  list<float>  $heights
     * @param  list<float>  $positions
     * @return array{list<list<float>>, list<list<float>>, list<list<float>>, list<list<float>>} least and most behind, least and most ahead: by position, then by direction
     */
    private static function extents(Part $part, array $heights, array $positions): array
    {
        $count = count($positions);
        $bounds = [-INF, ...$positions, INF];
        $slots = [];
        $k = 0;
        foreach ($heights as $d) {
            while ($d >= $bounds[$k + 1]) {
                $k++;
            }
            while ($d < $bounds[$k]) {
                $k--;
            }
            $slots[] = $k;
        }
        $corners = $part->mesh->corners;
        $at = $from = $to = $share = [];
        for ($i = 0, $last = count($corners); $i < $last; $i++) {
            $a = $corners[$i];
            $b = $corners[$i % 3 === 2 ? $i - 2 : $i + 1];
            // The edge goes the other way in the triangle beside this one.
            if ($slots[$a] < $slots[$b]) {
                for ($k = $slots[$a]; $k < $slots[$b]; $k++) {
                    $at[] = $k;
                    $from[] = $a;
                    $to[] = $b;
                    $share[] = ($positions[$k] - $heights[$a]) / ($heights[$b] - $heights[$a]);
                }
            }
        }
        $results = [[], [], [], []];
        foreach ($part->along() as $distances) {
            $lows = array_fill(0, $count + 1, INF);
            $highs = array_fill(0, $count + 1, -INF);
            $n = 0;
            foreach ($distances as $d) {
                $k = $slots[$n++];
                if ($d < $lows[$k]) {
                    $lows[$k] = $d;
                }
                if ($d > $highs[$k]) {
                    $highs[$k] = $d;
                }
            }
            $cutLows = array_fill(0, $count, INF);
            $cutHighs = array_fill(0, $count, -INF);
            foreach ($at as $n => $k) {
                $d = $distances[$from[$n]];
                $d += $share[$n] * ($distances[$to[$n]] - $d);
                if ($d < $cutLows[$k]) {
                    $cutLows[$k] = $d;
                }
                if ($d > $cutHighs[$k]) {
                    $cutHighs[$k] = $d;
                }
            }
            $low = INF;
            $high = -INF;
            for ($k = 0; $k < $count; $k++) {
                $low = min($low, $lows[$k]);
                $high = max($high, $highs[$k]);
                $results[0][$k][] = min($low, $cutLows[$k]);
                $results[1][$k][] = max($high, $cutHighs[$k]);
            }
            $low = INF;
            $high = -INF;
            for ($k = $count - 1; $k >= 0; $k--) {
                $low = min($low, $lows[$k + 1]);
                $high = max($high, $highs[$k + 1]);
                $results[2][$k][] = min($low, $cutLows[$k]);
                $results[3][$k][] = max($high, $cutHighs[$k]);
            }
        }
        ksort($results[2]);
        ksort($results[3]);

        return [array_values($results[0]), array_values($results[1]), array_values($results[2]), array_values($results[3])];
    }
}
