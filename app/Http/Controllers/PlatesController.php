<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\Answers;
use App\Answers\OnPlates;
use App\Http\Requests\ListOfNumbers;
use App\Http\Told;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Http\Request;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Symfony\Component\HttpFoundation\Response;

/** Living pieces, all or some, on plates of the project's printer: where they lie, or as files. */
final class PlatesController
{
    public function __invoke(Request $request, Project $project, Answers $answers): Response
    {
        $lengths = 'The margin and the spacing are not two ordinary numbers; type them again.';
        $asked = $request->validate([
            'margin' => ['required', 'numeric'], 'spacing' => ['required', 'numeric'], 'turned' => ['sometimes', 'boolean'], 'as' => ['sometimes', 'nullable', 'in:3mf,stl'],
            'pieces' => ['sometimes', 'nullable', new ListOfNumbers(10_000, 'The picked pieces are not a list of pieces; pick them again.')],
        ], ['margin' => $lengths, 'spacing' => $lengths, 'turned' => 'Say with true or false whether pieces may be turned.', 'as' => 'Plates are written as 3mf or stl; choose one of them.']);
        $printer = $project->printer ?? throw new BadRecipe('The project has no printer; choose one beside its name, then put pieces on its plates.');
        $pieces = $project->pieces()->with('mesh')->whereNull('spent_by');
        $some = $asked['pieces'] ?? null;
        /** @var Collection<int, Piece> $taken */
        $taken = ($some === null ? $pieces : $pieces->whereIn('id', $some))->get();

        return Told::of($answers->ask($project, OnPlates::of(
            $project, $taken, $printer->space(), (float) $asked['margin'], (float) $asked['spacing'], (bool) ($asked['turned'] ?? true), $asked['as'] ?? null,
        )));
    }
}
