<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\Answers;
use App\Answers\HowSymmetric;
use App\Http\Requests\ThreeNumbers;
use App\Http\Told;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/** How symmetric a piece is. */
final class SymmetryController
{
    /** Deviations of a piece from its own reflection, over a plane or over the best one. */
    public function __invoke(Request $request, Project $project, Answers $answers): Response
    {
        $plane = 'The plane\'s place and facing are not three ordinary numbers each; set it again.';
        $asked = $request->validate([
            'piece' => ['required', 'integer:strict'], 'through' => ['sometimes', 'nullable', new ThreeNumbers($plane)], 'facing' => ['required_with:through', 'nullable', new ThreeNumbers($plane)],
        ], ['piece' => 'There is no piece to measure; pick one.', 'facing' => $plane]);
        /** @var Piece $piece */
        $piece = $project->pieces()->with('mesh')->findOrFail($asked['piece']);
        $three = static fn (array $list): array => [(float) $list[0], (float) $list[1], (float) $list[2]];

        return Told::of($answers->ask($project, HowSymmetric::of($piece->mesh, isset($asked['through'], $asked['facing']) ? ['through' => $three($asked['through']), 'facing' => $three($asked['facing'])] : null)));
    }
}
