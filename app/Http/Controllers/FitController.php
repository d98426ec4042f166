<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\Answers;
use App\Answers\WhetherTheyFit;
use App\Http\Told;
use App\Meshes\Fits;
use App\Models\Piece;
use App\Models\Project;
use Symfony\Component\HttpFoundation\Response;

/** Has it worked out which pieces go into the printer's space in any turn, where that is not known yet. */
final class FitController
{
    public function __invoke(Project $project, Answers $answers): Response
    {
        $space = $project->printer?->space();
        $meshes = [];
        /** @var Piece $piece */
        foreach ($project->pieces()->with('mesh')->whereNull('spent_by')->get() as $piece) {
            $meshes[] = $piece->mesh;
        }
        $fits = new Fits($space, $meshes);
        $unsure = array_values(array_filter($meshes, $fits->isUnsure(...)));

        return $space === null || $unsure === [] ? response()->json(['looked_at' => 0]) : Told::of($answers->ask($project, WhetherTheyFit::of($unsure, $space)));
    }
}
