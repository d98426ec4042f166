<?php

declare(strict_types=1);

namespace App\Foresight;

use App\Answers\Overlapping;
use App\Answers\Question;
use App\Models\Piece;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Kind\CombiningStep;
use Isotome\Operation\Kind\ToolStep;
use Isotome\Operation\Step;

/** Which pieces overlap which, and what there will be when they are united, taken out of each other or left with what they have in common. */
final class CombineForesight implements Foresight
{
    public function foresee(Step $step, Collection $pieces, bool $tried): Question
    {
        if (! $step instanceof CombiningStep) {
            throw new BadRecipe('There is nothing to combine; set it first.');
        }
        if ($step instanceof ToolStep) {
            // Tools are named by the step; the last of a name is the one that is there.
            /** @var Collection<int, Piece> $all */
            $all = Piece::query()->with('mesh')->where('project_id', $pieces->first()?->project_id)->orderBy('id')->get();
            $tools = $all->filter(static fn (Piece $piece): bool => $step->isTool($piece->name))->keyBy('name');
            $pieces = $pieces->reject(static fn (Piece $piece): bool => $step->isTool($piece->name))->concat($tools->values());
        }

        return Overlapping::of($step, $pieces->values());
    }
}
