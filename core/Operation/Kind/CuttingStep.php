<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\Outcome;
use Isotome\Operation\Applied;
use Isotome\Operation\Piece;
use Isotome\Operation\Step;
use Isotome\Operation\Work;

/** What all kinds have in common that cut each piece by itself into parts of it. */
abstract class CuttingStep extends Step
{
    /** @return Outcome|null null when nothing of the piece is cut */
    abstract protected function cut(Piece $piece, Work $work): ?Outcome;

    final public function apply(array $pieces, Work $work): Applied
    {
        $cuts = new CutPieces;
        foreach ($pieces as $n => $piece) {
            $part = $work->part($n, count($pieces));
            $outcome = $this->cut($piece, $part);
            if ($outcome !== null) {
                $cuts->add($piece, $outcome);
            }
            $part->report(1.0);
        }

        return $cuts->applied();
    }

    public function what(): string
    {
        return 'the cut';
    }

    public function doing(): string
    {
        return 'cutting and checking';
    }
}
