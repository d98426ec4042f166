<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\Answers;
use App\Answers\HowToCut;
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
        $asked = $request->validate([
            'piece' => ['required', 'integer:strict'], 'margin' => ['required', 'numeric'], 'gap' => ['required', 'numeric'], 'peg' => ['required', 'numeric'],
        ], ['piece' => 'There is no piece to plan for; pick one.', 'margin' => $lengths, 'gap' => $lengths, 'peg' => $lengths]);
        $printer = $project->printer ?? throw new BadRecipe('The project has no printer; choose one beside its name, then plan.');
        /** @var Piece $piece */
        $piece = $project->pieces()->with('mesh')->whereNull('spent_by')->find($asked['piece']) ?? throw new BadRecipe('The piece is not there any more; pick another one.');

        return Told::of($answers->ask($project, HowToCut::of($piece, $printer->space(), (float) $asked['margin'], (float) $asked['gap'], (float) $asked['peg'])));
    }
}
