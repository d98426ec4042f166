<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\Answers;
use App\Answers\HowToCut;
use App\Http\Requests\ThreeNumbers;
use App\Http\Told;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Http\Request;
use Isotome\Exception\BadRecipe;
use Symfony\Component\HttpFoundation\Response;

/** Plans: cuts after which every piece fits the project's printer. */
final class PlanController
{
    public function __invoke(Request $request, Project $project, Answers $answers): Response
    {
        $lengths = 'The margin, the gap and the width of pegs are not three ordinary numbers; type them again.';
        $wrong = 'The cuts of the plan are not each a piece, a place and a facing; look for cuts again.';
        $places = 'The places that must stay whole are not each a place and a radius of 0.001 mm or more; pick them again.';
        $asked = $request->validate([
            'piece' => ['required', 'integer:strict'], 'margin' => ['required', 'numeric'], 'gap' => ['required', 'numeric'], 'peg' => ['required', 'numeric'],
            'whole' => ['sometimes', 'array', 'max:100'], 'whole.*.at' => ['required', new ThreeNumbers($places)], 'whole.*.radius' => ['required', 'numeric', 'between:0.001,100000'],
            'more' => ['sometimes', 'boolean'], 'cuts' => ['sometimes', 'array', 'max:500'], 'cuts.*.of' => ['required', 'string', 'max:255'], 'cuts.*.through' => ['required', new ThreeNumbers($wrong)], 'cuts.*.facing' => ['required', new ThreeNumbers($wrong)],
        ], ['whole' => $places, 'whole.*.at' => $places, 'whole.*.radius' => $places, 'cuts.*.of' => $wrong, 'cuts.*.through' => $wrong, 'cuts.*.facing' => $wrong, 'cuts' => $wrong, 'more' => 'Say with true or false whether what does not fit is cut further.', 'piece' => 'There is no piece to plan for; pick one.', 'margin' => $lengths, 'gap' => $lengths, 'peg' => $lengths]);
        $printer = $project->printer ?? throw new BadRecipe('The project has no printer; choose one beside its name, then plan.');
        /** @var Piece $piece */
        $piece = $project->pieces()->with('mesh')->whereNull('spent_by')->find($asked['piece']) ?? throw new BadRecipe('The piece is not there any more; pick another one.');

        $three = static fn (array $list): array => [(float) $list[0], (float) $list[1], (float) $list[2]];
        $cuts = isset($asked['cuts']) ? array_values(array_map(static fn (array $cut): array => ['of' => $cut['of'], 'through' => $three($cut['through']), 'facing' => $three($cut['facing'])], $asked['cuts'])) : null;

        $whole = array_values(array_map(static fn (array $one): array => [...$three($one['at']), (float) $one['radius']], $asked['whole'] ?? []));

        return Told::of($answers->ask($project, HowToCut::of($piece, $printer->space(), (float) $asked['margin'], (float) $asked['gap'], (float) $asked['peg'], $whole, $cuts, (bool) ($asked['more'] ?? false))));
    }
}
