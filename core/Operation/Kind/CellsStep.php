<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cells\CellsBlade;
use Isotome\Cells\Shatter;
use Isotome\Cut\Outcome;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Piece;
use Isotome\Operation\Work;

/** What all cuts with a cells blade have in common (Isotome\Cells\Shatter). */
abstract class CellsStep extends ShatteringStep
{
    private CellsBlade $cells;

    /**
     * @param  array<string, mixed>  $blade  as the schema of the kind reads it
     *
     * @throws BadBlade
     */
    abstract protected function cellsOf(array $blade, string $at): CellsBlade;

    protected function accept(string $at): void
    {
        parent::accept($at);
        /** @var array<string, mixed> $blade */
        $blade = $this->settings['blade'];
        try {
            $this->cells = $this->cellsOf($blade, "$at.blade");
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at.blade: ".$refusal->getMessage());
        }
    }

    final public function cells(): CellsBlade
    {
        return $this->cells;
    }

    protected function cut(Piece $piece, Work $work): ?Outcome
    {
        return Shatter::of($piece->mesh, $this->cells, $this->shatter(), $work->number, $work->closure());
    }
}
