<?php

declare(strict_types=1);

namespace App\Foresight;

use App\Answers\Question;
use App\Answers\WherePegsGo;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Kind\PegsStep;
use Isotome\Operation\Step;

/** Where pegs will go. */
final class JoinForesight implements Foresight
{
    public function foresee(Step $step, Collection $pieces, bool $tried): Question
    {
        if (! $step instanceof PegsStep) {
            throw new BadRecipe('There is nothing to show; set the pegs first.');
        }

        return WherePegsGo::of($step, $pieces->values());
    }
}
