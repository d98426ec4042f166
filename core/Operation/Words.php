<?php

declare(strict_types=1);

namespace Isotome\Operation;

/** What was done, in one line: how many pieces, watertight or not, what was lost, what does not fit the printer. */
final class Words
{
    /** @param  non-empty-list<Done>  $done  one step, or several that ran as one recipe */
    public static function of(array $done): string
    {
        return count($done) === 1 ? $done[0]->step->said($done[0]) : count($done).' steps run: '.self::pieces($done);
    }

    /** @param  non-empty-list<Done>  $done */
    public static function pieces(array $done): string
    {
        $made = $took = [];
        foreach ($done as $one) {
            foreach ($one->took as $piece) {
                // A piece made by an earlier step of the same recipe and taken by a later one is neither.
                if (! isset($made[$piece->name])) {
                    $took[] = $piece;
                }
                unset($made[$piece->name]);
            }
            foreach ($one->made as $piece) {
                $made[$piece->name] = $piece;
            }
        }
        $made = array_values($made);
        $last = $done[count($done) - 1];

        return self::count($made).self::volume($done, $took, $made).self::tooLarge($made).$last->step->more($last->report).self::gaps($done).'.';
    }

    /** Whether what was changed in place is watertight now. */
    public static function state(Done $done): string
    {
        $open = count(array_filter($done->made, static fn (Told $piece): bool => ! $piece->watertight));

        return match ($open) {
            0 => count($done->made) === 1 ? 'watertight now' : 'all watertight now',
            1 => 'still not watertight',
            default => "$open still not watertight",
        };
    }

    /** @param  list<Told>  $made */
    private static function count(array $made): string
    {
        $count = count($made);
        $watertight = count(array_filter($made, static fn (Told $piece): bool => $piece->watertight));

        return ($count === 1 ? '1 piece' : "$count pieces").match (true) {
            $watertight === $count => $count === 1 ? ', watertight' : ($count === 2 ? ', both watertight' : ', all watertight'),
            $watertight === 0 => $count === 1 ? ', not watertight' : ', none watertight',
            default => ', '.($count - $watertight).' not watertight',
        };
    }

    /**
     * @param  list<Done>  $done
     * @param  list<Told>  $took
     * @param  list<Told>  $made
     */
    private static function volume(array $done, array $took, array $made): string
    {
        $kerf = false;
        foreach ($done as $one) {
            $volume = $one->step->volume();
            if ($volume === VolumeAfter::Other) {
                return '';
            }
            $kerf = $kerf || $volume === VolumeAfter::LessKerf;
        }
        foreach ($made as $piece) {
            if (! $piece->watertight) {
                return '';
            }
        }
        $before = self::sum($took);

        return $before > 0 ? sprintf(', %.3f %% volume %s', 100 * abs($before - self::sum($made)) / $before, $kerf ? 'removed by the kerf' : 'lost') : '';
    }

    /** @param  list<Told>  $pieces */
    private static function sum(array $pieces): float
    {
        return (float) array_sum(array_map(static fn (Told $piece): float => $piece->volume, $pieces));
    }

    /** @param  list<Told>  $made */
    private static function tooLarge(array $made): string
    {
        $over = array_values(array_filter($made, static fn (Told $piece): bool => $piece->over !== null));

        return match (count($over)) {
            0 => '',
            1 => sprintf(', %s is %.0f mm too large for the printer', $over[0]->title, max(1.0, ceil((float) $over[0]->over))),
            default => ', '.count($over).' are too large for the printer',
        };
    }

    /** @param  non-empty-list<Done>  $done */
    private static function gaps(array $done): string
    {
        $unclosed = array_merge(...array_map(static fn (Done $one): array => $one->report->unclosed, $done));
        $crossing = array_merge(...array_map(static fn (Done $one): array => $one->report->crossing, $done));
        $said = '';
        if ($unclosed !== []) {
            $first = $unclosed[0];
            $said .= sprintf(
                '; %d %s could not be '.$done[count($done) - 1]->step->unclosedWord().', the first one %.1f mm long, from (%.1f, %.1f, %.1f) to (%.1f, %.1f, %.1f) on %s, because the mesh has open edges there',
                count($unclosed), count($unclosed) === 1 ? 'outline' : 'outlines', $first['length_mm'], ...[...$first['from'], ...$first['to'], $first['piece']],
            );
        }
        if ($crossing !== []) {
            $said .= '; outlines of '.implode(', ', array_slice($crossing, 0, 3)).' cross each other, so its cut faces overlap there';
        }

        return $said.self::fine($done);
    }

    /**
     * Which pieces some formats cannot hold as they are.
     *
     * @param  non-empty-list<Done>  $done
     */
    public static function fine(array $done): string
    {
        $fine = array_merge(...array_map(static fn (Done $one): array => $one->report->fine, $done));
        $named = implode(', ', array_slice($fine, 0, 3)).(count($fine) > 3 ? ' and '.(count($fine) - 3).' more' : '');

        return $fine === [] ? '' : "; some faces of $named are closer than STL, 3MF and GLB files can tell apart and would cross there: take ".(count($fine) === 1 ? 'it' : 'them').' out as OBJ, PLY or OFF';
    }
}
