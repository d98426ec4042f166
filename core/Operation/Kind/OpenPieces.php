<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadBlade;
use Isotome\Mesh\EdgeCheck;
use Isotome\Operation\Piece;

/** Pieces of which nobody can say what is inside of them. */
final class OpenPieces
{
    /**
     * @param  list<Piece>  $pieces
     *
     * @throws BadBlade for the first one that is not watertight
     */
    public static function refuse(array $pieces, string $at): void
    {
        foreach ($pieces as $piece) {
            $edges = $piece->watertight === true ? null : EdgeCheck::of($piece->mesh);
            if ($edges !== null && ! $edges->isWatertight()) {
                throw new BadBlade("$at: {$piece->name} is not watertight (".self::faults($edges).'), so nobody can say what is inside of it; mend it first.');
            }
        }
    }

    private static function faults(EdgeCheck $edges): string
    {
        foreach ([[$edges->openEdges, 'open'], [$edges->nonmanifoldEdges, 'with more than two faces'], [$edges->flippedEdges, 'between faces that look opposite ways']] as [$count, $what]) {
            if ($count > 0) {
                return $count === 1 ? "1 edge $what" : number_format($count)." edges $what";
            }
        }

        return 'it is empty';
    }
}
