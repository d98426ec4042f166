<?php

declare(strict_types=1);

namespace Isotome\Join;

/**
 * Digits and an arrow drawn in strokes of one width, as they are cut into faces. No stroke meets another or itself, so that nothing within a digit comes loose.
 */
final class StrokeFont
{
    /** In the units of the strokes below. */
    private const HEIGHT = 7.0;

    private const ADVANCE = 6.0;

    private const WIDTH = 4.0;

    private const HALF = 0.42;

    private const STROKES = [
        '0' => [[[1.4, 7.0], [0.0, 5.8], [0.0, 1.2], [1.4, 0.0]], [[2.6, 0.0], [4.0, 1.2], [4.0, 5.8], [2.6, 7.0]]],
        '1' => [[[0.6, 5.4], [2.2, 7.0], [2.2, 0.0]]],
        '2' => [[[0.0, 5.6], [1.0, 7.0], [3.0, 7.0], [4.0, 6.0], [4.0, 4.6], [0.0, 0.0], [4.0, 0.0]]],
        '3' => [[[0.0, 7.0], [4.0, 7.0], [1.8, 4.2], [3.0, 4.0], [4.0, 3.0], [4.0, 1.0], [3.0, 0.0], [1.0, 0.0], [0.0, 1.0]]],
        '4' => [[[2.2, 7.0], [0.0, 2.2], [2.4, 2.2]], [[3.8, 5.0], [3.8, 0.0]]],
        '5' => [[[4.0, 7.0], [0.4, 7.0], [0.2, 4.0], [3.0, 4.0], [4.0, 3.0], [4.0, 1.0], [3.0, 0.0], [0.0, 0.0]]],
        '6' => [[[3.6, 7.0], [1.4, 6.2], [0.0, 4.0], [0.0, 1.0], [1.0, 0.0], [3.0, 0.0], [4.0, 1.0], [4.0, 2.8], [3.0, 3.8], [1.5, 3.8]]],
        '7' => [[[0.0, 7.0], [4.0, 7.0], [1.4, 0.0]]],
        '8' => [[[1.3, 4.1], [0.4, 4.9], [0.4, 6.2], [1.2, 7.0], [2.8, 7.0], [3.6, 6.2], [3.6, 4.9], [2.7, 4.1]], [[1.3, 2.6], [0.0, 1.8], [0.0, 1.0], [1.0, 0.0], [3.0, 0.0], [4.0, 1.0], [4.0, 1.8], [2.7, 2.6]]],
        '9' => [[[0.4, 0.0], [2.6, 0.8], [4.0, 3.0], [4.0, 6.0], [3.0, 7.0], [1.0, 7.0], [0.0, 6.0], [0.0, 4.2], [1.0, 3.2], [2.5, 3.2]]],
        '^' => [[[0.0, 4.2], [2.0, 7.0], [4.0, 4.2]], [[2.0, 4.8], [2.0, 0.0]]],
    ];

    /** How wide a text is, its height being 1. */
    public static function width(string $text): float
    {
        return (self::ADVANCE * (strlen($text) - 1) + self::WIDTH + 2 * self::HALF) / (self::HEIGHT + 2 * self::HALF);
    }

    /** How wide a stroke is, the height of a text being 1. */
    public static function stroke(): float
    {
        return 2 * self::HALF / (self::HEIGHT + 2 * self::HALF);
    }

    /**
     * The outlines of all strokes of a text around 0, 0.
     *
     * @param  string  $text  digits, and ^ for an arrow
     * @param  float  $height  mm, from the lowest edge to the highest
     * @param  bool  $isMirrored  as it is read from behind
     * @return list<non-empty-list<array{float, float}>> counter-clockwise
     */
    public static function outlines(string $text, float $height, bool $isMirrored = false): array
    {
        $scale = $height / (self::HEIGHT + 2 * self::HALF);
        $middle = (self::ADVANCE * (strlen($text) - 1) + self::WIDTH) / 2;
        $outlines = [];
        foreach (str_split($text) as $n => $sign) {
            foreach (self::STROKES[$sign] ?? [] as $stroke) {
                /** @var non-empty-list<array{float, float}> $line */
                $line = array_map(static fn (array $at): array => [($isMirrored ? -1.0 : 1.0) * $scale * ($at[0] + self::ADVANCE * $n - $middle), $scale * ($at[1] - self::HEIGHT / 2)], $stroke);
                $outlines[] = self::outline($isMirrored ? array_reverse($line) : $line, $scale * self::HALF);
            }
        }

        return $outlines;
    }

    /**
     * @param  non-empty-list<array{float, float}>  $line
     * @param  float  $half  width of the stroke
     * @return non-empty-list<array{float, float}>
     */
    private static function outline(array $line, float $half): array
    {
        $last = count($line) - 1;
        $ways = [];
        for ($n = 0; $n < $last; $n++) {
            [$dx, $dy] = [$line[$n + 1][0] - $line[$n][0], $line[$n + 1][1] - $line[$n][1]];
            $length = hypot($dx, $dy);
            $ways[] = [$dx / $length, $dy / $length];
        }
        $right = $left = [];
        foreach ($line as $n => [$x, $y]) {
            [$ax, $ay] = $ways[max(0, $n - 1)];
            [$bx, $by] = $ways[min($last - 1, $n)];
            // The corner of both sides moved out: normals are to the right of the way.
            $along = $half / (1.0 + $ax * $bx + $ay * $by);
            [$nx, $ny] = [$along * ($ay + $by), -$along * ($ax + $bx)];
            $right[] = [$x + $nx, $y + $ny];
            $left[] = [$x - $nx, $y - $ny];
        }

        return [...$right, ...array_reverse($left)];
    }
}
