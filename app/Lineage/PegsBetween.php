<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Models\Piece;
use App\Models\Project;
use Illuminate\Support\Collection;

/** How many pegs living pieces have between them, from the reports of the steps that made them: a piece that was changed since counts as what became of it. */
final class PegsBetween
{
    /** What of a place may be outside of a piece, mm: a socket's end. */
    private const NEAR = 1.0;

    /**
     * @param  Collection<int, Piece>  $living  with their meshes
     * @return list<array{between: array{string, string}, count: int}>
     */
    public static function living(Project $project, Collection $living): array
    {
        $all = $project->pieces()->with('mesh')->get();
        $isAsked = $living->pluck('id', 'id')->all();
        $counts = [];
        foreach ($project->steps()->get() as $step) {
            /** @var list<array{between?: array{string, string}, pegs?: list<array{at?: array{float, float, float}}>}> $faces */
            $faces = is_array($step->report['faces'] ?? null) ? $step->report['faces'] : [];
            foreach ($faces as $face) {
                $between = $face['between'] ?? null;
                if ($between === null) {
                    continue;
                }
                $ends = array_map(static fn (string $name): array => self::became($all->filter(static fn (Piece $piece): bool => $piece->name === $name && $piece->spent_by === $step->id), $all), $between);
                foreach ($face['pegs'] ?? [] as $peg) {
                    $pair = array_map(static fn (array $some): ?Piece => self::at($some, $peg['at'] ?? null), $ends);
                    if ($pair[0] !== null && $pair[1] !== null && isset($isAsked[$pair[0]->id], $isAsked[$pair[1]->id])) {
                        $key = $pair[0]->name."\n".$pair[1]->name;
                        $counts[$key] = ($counts[$key] ?? 0) + 1;
                    }
                }
            }
        }
        $told = [];
        foreach ($counts as $key => $count) {
            [$one, $other] = explode("\n", $key);
            $told[] = ['between' => [$one, $other], 'count' => $count];
        }

        return $told;
    }

    /**
     * @param  Collection<int, Piece>  $pieces
     * @param  Collection<int, Piece>  $all
     * @return list<Piece> that live
     */
    private static function became(Collection $pieces, Collection $all): array
    {
        $living = $seen = [];
        for ($next = array_values($pieces->all()); $next !== [];) {
            $piece = array_pop($next);
            if (isset($seen[$piece->id])) {
                continue;
            }
            $seen[$piece->id] = true;
            if ($piece->spent_by === null) {
                $living[$piece->id] = $piece;

                continue;
            }
            foreach ($all as $one) {
                if ($one->parent_id === $piece->id || in_array($piece->id, $one->others ?? [], true)) {
                    $next[] = $one;
                }
            }
        }

        return array_values($living);
    }

    /**
     * @param  list<Piece>  $pieces
     * @param  array{float, float, float}|null  $place
     */
    private static function at(array $pieces, ?array $place): ?Piece
    {
        foreach (count($pieces) > 1 && $place !== null ? $pieces : [] as $piece) {
            $off = array_map(static fn (float $c, float $middle, float $side): float => abs($c - $middle) - $side / 2, $place, $piece->mesh->centre(), $piece->mesh->size());
            if (max($off) <= self::NEAR) {
                return $piece;
            }
        }

        return $pieces[0] ?? null;
    }
}
