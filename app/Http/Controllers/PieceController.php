<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\ListOfNumbers;
use App\Http\Resources\ProjectResource;
use App\Lineage\History;
use App\Models\Project;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Names;

/** Names and colours of pieces; the name under which the recipe knows a piece stays. */
final class PieceController
{
    public function update(Request $request, Project $project, History $history): ProjectResource
    {
        $asked = $request->validate([
            'pieces' => ['required', new ListOfNumbers(10_000, 'The picked pieces are not a list of pieces; pick them again.', 1)],
            'title' => ['sometimes', 'nullable', 'string', 'max:120'], 'colour' => ['sometimes', 'string', 'regex:/^#[0-9a-f]{6}$/i'],
        ], [
            'pieces' => 'No piece is named; pick at least one.',
            'title' => 'The name is longer than 120 characters; shorten it.', 'colour' => 'The colour is not written as #rrggbb; choose it again.',
        ]);
        DB::transaction(function () use ($project, $asked, $history): void {
            $pieces = $project->pieces()->whereNull('spent_by')->whereIn('id', $asked['pieces'])->get();
            if ($pieces->isEmpty()) {
                throw new BadRecipe('The picked pieces are not there any more; pick them again.');
            }
            $change = [];
            if (array_key_exists('title', $asked)) {
                $title = trim((string) $asked['title']);
                $change['title'] = $title === '' ? null : $title;
            }
            if (isset($asked['colour'])) {
                $change['colour'] = strtolower($asked['colour']);
            }
            $history->remember($project, (array_key_exists('title', $change) ? 'the new name of ' : 'the new colour of ').($pieces->count() === 1 ? Names::title((string) $pieces[0]?->name) : $pieces->count().' pieces'));
            $project->pieces()->whereIn('id', $pieces->pluck('id'))->update($change);
        });

        return ProjectResource::of($project->refresh());
    }
}
