<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Models\Project;
use Isotome\Recipe\CellsStep;
use Isotome\Recipe\CutStep;
use Isotome\Recipe\MendStep;
use Isotome\Recipe\Names;

/** What was done, in one line: how many pieces, watertight or not, what was lost, what does not fit the printer. */
final class Sentence
{
    /** @param  list<WorkedStep>  $worked */
    public static function of(array $worked, Project $project): string
    {
        $last = $worked[count($worked) - 1];
        if (count($worked) === 1 && in_array($last->step->does(), ['mend', 'thicken'], true)) {
            return self::mended($last);
        }
        if ($last->step instanceof CutStep && $last->step->isScore) {
            return count($last->families) === 1 ? 'Scored 1 piece: the section\'s edges are in its mesh now.' : 'Scored '.count($last->families).' pieces: the section\'s edges are in their meshes now.';
        }
        $made = $took = [];
        foreach ($worked as $one) {
            foreach ($one->families as $family) {
                // A piece made by an earlier step of the same recipe and taken by a later one is neither.
                if (! isset($made[$family->taken->name])) {
                    $took[] = $family->taken;
                }
                unset($made[$family->taken->name]);
                foreach ($family->made as $draft) {
                    $made[$draft->name] = $draft;
                }
            }
        }

        return (count($worked) > 1 ? count($worked).' steps run: ' : '').self::pieces(array_values($made)).self::volume($worked, $took, array_values($made))
            .self::tooLarge(array_values($made), $project).self::seam($last).self::gaps($worked).'.';
    }

    /** Why a step that ran changed nothing. */
    public static function nothing(WorkedStep $worked): string
    {
        return match ($worked->step->does()) {
            'mend' => 'There was nothing to mend'.($worked->step instanceof MendStep && $worked->step->only !== null ? ' of this kind' : '').'; the pieces are as they were.',
            default => 'The step changed nothing; the pieces are as they were.',
        };
    }

    /** @param  list<Draft>  $made */
    private static function pieces(array $made): string
    {
        $count = count($made);
        $watertight = count(array_filter($made, static fn (Draft $draft): bool => (bool) $draft->row?->mesh->watertight));

        return ($count === 1 ? '1 piece' : "$count pieces").match (true) {
            $watertight === $count => $count === 1 ? ', watertight' : ($count === 2 ? ', both watertight' : ', all watertight'),
            $watertight === 0 => $count === 1 ? ', not watertight' : ', none watertight',
            default => ', '.($count - $watertight).' not watertight',
        };
    }

    /**
     * @param  list<WorkedStep>  $worked
     * @param  list<Draft>  $took
     * @param  list<Draft>  $made
     */
    private static function volume(array $worked, array $took, array $made): string
    {
        $volume = static fn (array $drafts): float => array_sum(array_map(static fn (Draft $draft): float => $draft->row->mesh->volume ?? 0.0, $drafts));
        $before = $volume($took);
        $kerf = false;
        foreach ($worked as $one) {
            if ($one->step instanceof CellsStep && $one->step->settings->wall <= 0.0) {
                $kerf = $kerf || $one->step->settings->kerf > 0;

                continue;
            }
            if (! $one->step instanceof CutStep || $one->step->blade->keep->value !== 'both') {
                return '';
            }
            $kerf = $kerf || $one->step->blade->kerf > 0;
        }
        foreach ($made as $draft) {
            if ($draft->row?->mesh->watertight !== true) {
                return '';
            }
        }

        return $before > 0 ? sprintf(', %.3f %% volume %s', 100 * abs($before - $volume($made)) / $before, $kerf ? 'removed by the kerf' : 'lost') : '';
    }

    /** @param  list<Draft>  $made */
    private static function tooLarge(array $made, Project $project): string
    {
        $space = $project->printer?->space();
        $over = [];
        foreach ($space === null ? [] : $made as $draft) {
            $fit = $draft->row === null ? null : $space->holds($draft->row->mesh->size());
            if ($fit !== null && ! $fit['fits']) {
                $over[] = [$draft->title ?? Names::title($draft->name), $fit['over_mm']];
            }
        }

        return match (count($over)) {
            0 => '',
            1 => sprintf(', %s is %.0f mm too large for the printer', $over[0][0], max(1, ceil($over[0][1]))),
            default => ', '.count($over).' are too large for the printer',
        };
    }

    /** What there is to say about a mirror's seam. */
    private static function seam(WorkedStep $worked): string
    {
        $said = '';
        foreach ($worked->record->mirrored as $seam) {
            $joined = is_int($seam['joined_edges'] ?? null) ? $seam['joined_edges'] : 0;
            $kink = is_float($seam['kink_deg'] ?? null) ? $seam['kink_deg'] : 0.0;
            $apart = is_float($seam['apart_mm'] ?? null) ? $seam['apart_mm'] : 0.0;
            $said .= $joined > 0 ? sprintf(', joined at %d edges, kink at most %.1f°', $joined, $kink) : '';
            $said .= ($seam['overlaps'] ?? false) === true ? ', and what was added overlaps what was there' : '';
            $said .= $apart > 0.0 ? sprintf(', %.1f mm apart from its reflection', $apart) : '';
            $said .= is_int($seam['banded'] ?? null) && $seam['banded'] > 0 ? ', joined by a band' : '';
            break;
        }

        return $said;
    }

    /** @param  list<WorkedStep>  $worked */
    private static function gaps(array $worked): string
    {
        $unclosed = array_merge(...array_map(static fn (WorkedStep $one): array => $one->record->unclosed, $worked));
        $crossing = array_merge(...array_map(static fn (WorkedStep $one): array => $one->record->crossing, $worked));
        $said = '';
        if ($unclosed !== []) {
            $first = $unclosed[0];
            $said .= sprintf(
                '; %d %s could not be '.($worked[count($worked) - 1]->step->does() === 'mirror' ? 'joined' : 'closed').', the first one %.1f mm long, from (%.1f, %.1f, %.1f) to (%.1f, %.1f, %.1f) on %s, because the mesh has open edges there',
                count($unclosed), count($unclosed) === 1 ? 'outline' : 'outlines', $first['length_mm'], ...[...$first['from'], ...$first['to'], $first['piece']],
            );
        }
        if ($crossing !== []) {
            $said .= '; outlines of '.implode(', ', array_slice($crossing, 0, 3)).' cross each other, so its cut faces overlap there';
        }

        return $said;
    }

    private static function mended(WorkedStep $worked): string
    {
        $sum = [];
        foreach ($worked->record->mended as $did) {
            foreach ($did as $what => $count) {
                $sum[$what] = ($sum[$what] ?? 0) + $count;
            }
        }
        $words = [
            'joined' => 'vertices joined', 'join' => 'vertices joined', 'slivers' => 'slivers removed', 'doubled' => 'doubled faces removed', 'scraps' => 'loose faces removed',
            'inner' => 'inner faces removed', 'turned' => 'faces turned', 'turn' => 'faces turned', 'rims_closed' => 'rims closed', 'close' => 'rims closed', 'faces_added' => 'faces added',
        ];
        $parts = [];
        foreach ($sum as $what => $count) {
            if ($count > 0) {
                $parts[] = $count.' '.($count === 1 ? str_replace(['vertices', 'slivers', 'faces', 'rims'], ['vertex', 'sliver', 'face', 'rim'], $words[$what] ?? $what) : ($words[$what] ?? $what));
            }
        }
        $open = 0;
        foreach ($worked->families as $family) {
            foreach ($family->made as $draft) {
                $open += $draft->row?->mesh->watertight === true ? 0 : 1;
            }
        }
        $state = $open === 0 ? (count($worked->families) === 1 ? 'watertight now' : 'all watertight now') : ($open === 1 ? 'still not watertight' : "$open still not watertight");
        if ($worked->step->does() === 'thicken') {
            return "Thickened, $state.";
        }

        return ($parts === [] ? 'Mended' : 'Mended: '.implode(', ', $parts))."; $state.";
    }
}
