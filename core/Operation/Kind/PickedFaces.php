<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadRecipe;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;

/** Triangles of a piece that a step is limited to, as settings. */
final class PickedFaces
{
    public const MOST = Recipe::MOST_FACES;

    /**
     * @param  list<int>|null  $faces
     * @return array<int, true>|null
     *
     * @throws BadRecipe when the piece has fewer triangles
     */
    public static function of(Piece $piece, ?array $faces, string $at): ?array
    {
        if ($faces === null) {
            return null;
        }
        $highest = $faces === [] ? 0 : max($faces);
        if ($highest >= $piece->mesh->triangleCount()) {
            throw new BadRecipe("$at.faces names triangle $highest where {$piece->name} has ".$piece->mesh->triangleCount().'; pick faces of this piece.');
        }

        return array_fill_keys($faces, true);
    }
}
