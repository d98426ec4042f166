<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Isotome\Measure\LargestCircle;

/**
 * The connected parts of a layer in which no circle as wide as the nozzle has room: there the printer cannot lay down anything.
 *
 * Guarantees: a part that is told has no room for a circle wider than the nozzle and a twentieth of it, and of one that is not told there is such a circle. Most parts are told apart by their area and the length of their outlines
 * alone: what is within r of the outlines is at most r times their length and a disc for each hole but one.
 */
final class ThinParts
{
    /** Share of the nozzle by which a circle may be missed. */
    private const PRECISION = 0.05;

    /**
     * @param  float  $nozzle  mm
     * @return list<array{float, float, float, float}> the box around each: from x, from y, to x, to y
     */
    public static function of(Layer $layer, float $nozzle): array
    {
        $thin = [];
        $points = null;
        foreach (self::parts($layer) as $outer => $holes) {
            $area = $layer->areas[$outer];
            $long = self::around($layer->outlines[$outer]);
            foreach ($holes as $n) {
                $area += $layer->areas[$n];
                $long += self::around($layer->outlines[$n]);
            }
            $more = M_PI * max(0, count($holes) - 1);
            $radius = $nozzle / 2;
            if ($area > $long * $radius + $more * $radius * $radius) {
                continue;
            }
            $box = $layer->box($outer);
            if (min($box[2] - $box[0], $box[3] - $box[1]) >= $nozzle) {
                $points ??= array_map(static fn (array $outline): array => array_chunk($outline, 2), $layer->outlines);
                /** @var list<list<array{float, float}>> $own */
                $own = array_map(static fn (int $n): array => $points[$n], [$outer, ...$holes]);
                $circle = LargestCircle::in($own, self::PRECISION * $radius);
                if ($circle !== null && $circle->radius >= $radius) {
                    continue;
                }
            }
            $thin[] = $box;
        }

        return $thin;
    }

    /** @return array<int, list<int>> the holes of each outer outline */
    private static function parts(Layer $layer): array
    {
        $parts = $holes = [];
        foreach ($layer->areas as $n => $area) {
            if ($area > 0.0) {
                $parts[$n] = [];
            } else {
                $holes[] = $n;
            }
        }
        foreach ($holes as $n) {
            $owner = count($parts) === 1 ? array_key_first($parts) : Islands::owner($layer, $layer->outlines[$n][0], $layer->outlines[$n][1]);
            if (isset($parts[$owner])) {
                $parts[$owner][] = $n;
            }
        }

        return $parts;
    }

    /**
     * The length of an outline, mm.
     *
     * @param  list<float>  $outline
     */
    public static function around(array $outline): float
    {
        $n = count($outline);
        $px = $outline[$n - 2];
        $py = $outline[$n - 1];
        $long = 0.0;
        for ($k = 0; $k < $n; $k += 2) {
            $x = $outline[$k];
            $y = $outline[$k + 1];
            $long += sqrt(($x - $px) * ($x - $px) + ($y - $py) * ($y - $py));
            $px = $x;
            $py = $y;
        }

        return $long;
    }
}
