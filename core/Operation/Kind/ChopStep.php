<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cells\Chop;
use Isotome\Cut\Outcome;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Piece;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** A quick irregular division: halves of halves (Isotome\Cells\Chop). */
final class ChopStep extends ShatteringStep
{
    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['cells'], 'blade.by' => ['chop']];
    }

    public static function schema(): array
    {
        return self::withBlade('Halves of halves', ['chop'], [
            'rounds' => Schema::whole('How many times over', 1, Chop::MOST_ROUNDS, null, 'give 1 to '.Chop::MOST_ROUNDS),
            'along' => [
                ...Schema::list('Facings of the cuts, one round after the other', Schema::triple(''), 1, 12, 'give a list of directions, [[1, 0, 0], …]'),
                'default' => [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]],
            ],
            'shift' => Schema::amount('Cuts leave the middle by this share of the extent at most', 0.0, '0 to 0.4', 0.4),
            'tilt' => Schema::amount('Cuts lean by so many degrees at most', 0.0, '0 to 45', 45.0), 'seed' => Schema::seed(),
        ], ['rounds'], false);
    }

    protected function accept(string $at): void
    {
        parent::accept($at);
        foreach ($this->chop()['along'] as $i => $direction) {
            if ($direction === [0.0, 0.0, 0.0]) {
                throw new BadRecipe("$at.blade.along[$i] is 0, 0, 0; give a direction with a number that is not zero.");
            }
        }
    }

    protected function cut(Piece $piece, Work $work): ?Outcome
    {
        $chop = $this->chop();

        return Chop::of($piece->mesh, $chop['rounds'], $chop['along'], $chop['shift'], $chop['tilt'], $chop['seed'], $this->shatter(), $work->number, $work->closure());
    }

    /** @return array{rounds: int, along: list<array{float, float, float}>, shift: float, tilt: float, seed: int} */
    private function chop(): array
    {
        /** @var array{rounds: int, along: list<array{float, float, float}>, shift: float, tilt: float, seed: int} */
        return $this->settings['blade'];
    }

    public function rounds(): int
    {
        return $this->chop()['rounds'];
    }
}
