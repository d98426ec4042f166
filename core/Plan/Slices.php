<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Isotome\Geometry\Box;

/** Plans as people make them by hand: slices square to the axes, of equal width or as wide as the space from one end, for each way that the body may lie. Parts that fit already are not cut further. */
final class Slices
{
    /** Ways with more slices than this many times the fewest are not looked at. */
    private const MANY = 2;

    private const HAIR = 1e-3;

    /** @return list<Draft> the best first */
    public static function plans(Part $whole, Wishes $wishes, Search $search): array
    {
        $box = Box::of($whole->mesh->xyz);
        $size = $box->size();
        $ways = Room::ways($size, $wishes->space);
        $drafts = [];
        foreach ($ways as [$counts, $sides]) {
            if (array_product($counts) > self::MANY * array_product($ways[0][0])) {
                break;
            }
            foreach (['even', 'from below', 'from above'] as $style) {
                $draft = self::draft($whole, self::cuts($box, $counts, $sides, $style), $search);
                if ($draft !== null) {
                    $drafts[] = $draft;
                }
            }
        }
        usort($drafts, static fn (Draft $a, Draft $b): int => $a->cost() <=> $b->cost());

        return $drafts;
    }

    /** @param  list<Cut>  $cuts */
    private static function draft(Part $whole, array $cuts, Search $search): ?Draft
    {
        $draft = Draft::of($whole);
        foreach ($cuts as $cut) {
            foreach ($draft->open as $part) {
                $split = $search->split($part, $cut);
                $draft = $split === null ? $draft : $draft->with($split, $whole->volume);
            }
        }

        return $draft->isDone() ? $draft : null;
    }

    /**
     * @param  array{int, int, int}  $counts
     * @param  array{float, float, float}  $sides  as wide as slices may be
     * @return list<Cut>
     */
    private static function cuts(Box $box, array $counts, array $sides, string $style): array
    {
        $cuts = [];
        foreach ([2, 0, 1] as $k) {
            $facing = [$k === 0 ? 1.0 : 0.0, $k === 1 ? 1.0 : 0.0, $k === 2 ? 1.0 : 0.0];
            $extent = $box->max[$k] - $box->min[$k];
            // A hair narrower where there is room, so that rounding makes none too wide.
            $width = $sides[$k] - min(self::HAIR * $sides[$k], ($counts[$k] * $sides[$k] - $extent) / $counts[$k]);
            for ($n = 1; $n < $counts[$k]; $n++) {
                $cuts[] = new Cut($facing, match ($style) {
                    'from below' => $box->min[$k] + $n * $width,
                    'from above' => $box->max[$k] - $n * $width,
                    default => $box->min[$k] + $extent * $n / $counts[$k],
                });
            }
        }

        return $cuts;
    }
}
