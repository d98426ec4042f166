<?php

declare(strict_types=1);

namespace Isotome\Motion;

/**
 * The keys of a piece's movement that are needed: between them it goes straight on, and nowhere is farther off than the tolerance.
 *
 * Found as lines are simplified (U. Ramer 1972; D. H. Douglas, T. K. Peucker 1973): the frame that is farthest off becomes a key, until none is.
 */
final class Channels
{
    /** mm */
    private const SHIFT = 1e-3;

    /** Of each number of a quaternion, and of a scale. */
    private const SHARE = 1e-5;

    /**
     * @return array{shift: array{list<int>, list<float>}, turn: array{list<int>, list<float>}, scale: array{list<int>, list<float>}} of each the frames of its keys and their numbers; none when nothing changes and it is at rest where it stands
     */
    public static function of(Poses $poses, int $piece): array
    {
        return [
            'shift' => self::keys($poses->shifts[$piece], 3, self::SHIFT, [0.0, 0.0, 0.0]),
            'turn' => self::keys(self::continued($poses->turns[$piece]), 4, self::SHARE, Quaternion::NONE),
            'scale' => self::keys($poses->scales[$piece], 1, self::SHARE, [1.0]),
        ];
    }

    /**
     * Turns of the same sign as the ones before: q and −q are one turn, but what lies between them is not.
     *
     * @param  array<int, float>  $turns
     * @return array<int, float>
     */
    private static function continued(array $turns): array
    {
        for ($i = 4, $count = count($turns); $i < $count; $i += 4) {
            if ($turns[$i] * $turns[$i - 4] + $turns[$i + 1] * $turns[$i - 3] + $turns[$i + 2] * $turns[$i - 2] + $turns[$i + 3] * $turns[$i - 1] < 0.0) {
                for ($k = 0; $k < 4; $k++) {
                    $turns[$i + $k] = 0.0 - $turns[$i + $k];
                }
            }
        }

        return $turns;
    }

    /** @param  array<int, float>  $turns */
    private static function angle(array $turns, int $from, int $to): float
    {
        $dot = 0.0;
        for ($k = 0; $k < 4; $k++) {
            $dot += $turns[4 * $from + $k] * $turns[4 * $to + $k];
        }

        return acos(max(-1.0, min(1.0, $dot)));
    }

    /**
     * @param  array<int, float>  $numbers
     * @param  list<float>  $rest
     * @return array{list<int>, list<float>}
     */
    private static function keys(array $numbers, int $width, float $tolerance, array $rest): array
    {
        $last = intdiv(count($numbers), $width) - 1;
        $isStill = true;
        foreach ($numbers as $i => $number) {
            if (abs($number - $rest[$i % $width]) > $tolerance) {
                $isStill = false;
                break;
            }
        }
        if ($isStill) {
            return [[], []];
        }
        $keep = [0 => true, $last => true];
        for ($spans = [[0, $last]]; $spans !== [];) {
            [$from, $to] = array_pop($spans);
            $most = $tolerance;
            $at = -1;
            $angle = $width === 4 ? self::angle($numbers, $from, $to) : 0.0;
            $sine = sin($angle);
            for ($n = $from + 1; $n < $to; $n++) {
                $share = ($n - $from) / ($to - $from);
                // Turns go on at an even pace, as readers of glTF interpolate them.
                $q = $sine > 1e-6 ? sin($share * $angle) / $sine : $share;
                $p = $sine > 1e-6 ? sin((1.0 - $share) * $angle) / $sine : 1.0 - $share;
                $off = 0.0;
                for ($k = 0; $k < $width; $k++) {
                    $by = $numbers[$width * $n + $k] - $p * $numbers[$width * $from + $k] - $q * $numbers[$width * $to + $k];
                    $off = $by > $off ? $by : (-$by > $off ? -$by : $off);
                }
                if ($off > $most) {
                    $most = $off;
                    $at = $n;
                }
            }
            // Readers take the shorter way: a turn that is more than a third of the way round gets a key on it.
            if ($at < 0 && $angle > M_PI / 3 && $to - $from > 1) {
                $at = intdiv($from + $to, 2);
            }
            if ($at >= 0) {
                $keep[$at] = true;
                array_push($spans, [$from, $at], [$at, $to]);
            }
        }
        ksort($keep);
        $frames = array_keys($keep);
        $kept = [];
        foreach ($frames as $n) {
            for ($k = 0; $k < $width; $k++) {
                $kept[] = $numbers[$width * $n + $k];
            }
        }

        return [$frames, $kept];
    }
}
