<?php

declare(strict_types=1);

namespace App\Lineage;

/** The report of a step that ran again on some of the pieces it took: what it says of the others stays. */
final class PartReport
{
    /**
     * Parts of a report are numbers, which are replaced; lists of names, lists of things with a "piece", and things by the name of a piece, of which those
     * of other pieces stay.
     *
     * @param  array<string, mixed>  $old
     * @param  list<string>  $others  names of pieces that it took and that are as they were
     * @param  array<string, mixed>  $new
     * @return array<string, mixed>
     */
    public static function joined(array $old, array $others, array $new): array
    {
        $stays = array_fill_keys($others, true);
        foreach ($new as $key => $value) {
            if (is_array($value) && is_array($old[$key] ?? null)) {
                $new[$key] = array_is_list($value) && array_is_list($old[$key])
                    ? [...array_values(array_filter($old[$key], static fn (mixed $one): bool => isset($stays[is_array($one) ? $one['piece'] ?? '' : $one]))), ...$value]
                    : [...array_intersect_key($old[$key], $stays), ...$value];
            }
        }

        return $new;
    }
}
