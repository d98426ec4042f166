<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Closure;
use Isotome\Mesh\Carry;
use Isotome\Mesh\Mark;
use Isotome\Mesh\Mesh;

/** Applies a step so that what the pieces carry comes through it, whatever the step does: see Isotome\Mesh\Carry. Without anything to carry it costs nothing. */
final class Carrying
{
    /**
     * @param  non-empty-list<Piece>  $taken
     * @param  Closure(non-empty-list<Piece>): Applied  $apply
     */
    public static function through(array $taken, Step $step, Closure $apply): Applied
    {
        if ($step->givesLooks() || array_filter($taken, static fn (Piece $piece): bool => $piece->mesh->skin !== null) === []) {
            return $apply($taken);
        }
        $marked = [];
        /** @var array<int, Piece> $of */
        $of = [];
        $base = 0;
        foreach ($taken as $piece) {
            $marked[] = $one = $piece->withMesh(Mark::of($piece->mesh, $base));
            $of[spl_object_id($one)] = $piece;
            $base += $piece->mesh->triangleCount();
        }
        $applied = $apply($marked);
        $made = $new = [];
        foreach ($applied->gave as $n => $given) {
            if ($given->mesh !== $given->parents[0]->mesh) {
                $made[] = $given->mesh;
                $new[] = $n;
            }
        }
        $carried = array_combine($new, Carry::overAll(array_map(static fn (Piece $piece): Mesh => $piece->mesh, $taken), $made, $step->images($taken), $step->keepsPlaces()));
        $gave = [];
        foreach ($applied->gave as $n => $given) {
            $parents = array_map(static fn (Piece $parent): Piece => $of[spl_object_id($parent)] ?? $parent, $given->parents);
            $gave[] = $given->with($parents, $carried[$n] ?? $parents[0]->mesh);
        }

        return new Applied($applied->took, $gave, $applied->report);
    }
}
