<?php

declare(strict_types=1);

namespace App\Foresight;

use App\Answers\AtCommonFaces;
use App\Answers\Question;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Kind\JoiningStep;
use Isotome\Operation\Step;

/** Where pegs or marks will be. */
final class JoinForesight implements Foresight
{
    public function foresee(Step $step, Collection $pieces, bool $tried): Question
    {
        if (! $step instanceof JoiningStep) {
            throw new BadRecipe('There is nothing to show; set the pegs or marks first.');
        }

        return AtCommonFaces::of($step, $pieces->values());
    }
}
