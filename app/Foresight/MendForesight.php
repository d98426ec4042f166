<?php

declare(strict_types=1);

namespace App\Foresight;

use App\Answers\Question;
use App\Answers\TriedOut;
use App\Models\Piece;
use Illuminate\Support\Collection;
use Isotome\Operation\Step;

/** What a mend, or a thickness, would change on one piece. */
final class MendForesight implements Foresight
{
    public function foresee(Step $step, Collection $pieces, bool $tried): Question
    {
        /** @var Piece $piece */
        $piece = $pieces->first();

        return TriedOut::of($step, $piece->mesh);
    }
}
