<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadBlade;
use Isotome\Mesh\EdgeCheck;
use Isotome\Operation\Piece;
use Isotome\Operation\Step;

/** What steps have in common that make solids of several (Isotome\Solid\Combined): all pieces that they take must be closed. */
abstract class CombiningStep extends Step
{
    public static function group(): string
    {
        return 'combine';
    }

    /**
     * @param  list<Piece>  $pieces
     *
     * @throws BadBlade naming the first one that is not closed
     */
    protected static function refuseOpen(array $pieces, string $at): void
    {
        foreach ($pieces as $piece) {
            $edges = EdgeCheck::of($piece->mesh);
            if (! $edges->isWatertight()) {
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

    public function closes(): bool
    {
        return true;
    }
}
