<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\Answer;
use App\Answers\Answers;
use App\Answers\TakenOut;
use App\Http\Requests\ExportRequest;
use App\Http\Told;
use App\Models\Project;
use App\Serving\SendsFile;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

final class DownloadController
{
    /** Makes files of living pieces, all or some, apart or together, with manifest.json, in one zip: tells where it lies, or the run that makes it. */
    public function make(ExportRequest $request, Project $project, Answers $answers): Response
    {
        return Told::of($answers->ask($project, $this->asked($request, $project)));
    }

    /** The same zip at once: one that is small, or that was made before. */
    public function pieces(ExportRequest $request, Project $project, Answers $answers): Response
    {
        $question = $this->asked($request, $project);
        $told = $question->isShort() ? $answers->ask($project, $question) : $answers->kept($question->key());

        return $told instanceof Answer
            ? SendsFile::kept($told, $request)
            : new JsonResponse(['message' => 'These files are not made yet, or the pieces were changed since; take them out again.'], 409);
    }

    /** A zip that was made. */
    public function answer(Request $request, string $key, Answers $answers): Response
    {
        $answer = $answers->kept($key);
        abort_if($answer?->name === null, 404);

        return SendsFile::kept($answer, $request);
    }

    /** The steps as a recipe: running it on the same stock gives the same pieces. */
    public function recipe(Project $project): JsonResponse
    {
        return response()->json(TakenOut::recipe($project), 200, [
            'Content-Disposition' => 'attachment; filename="recipe.json"',
        ], JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION);
    }

    private function asked(ExportRequest $request, Project $project): TakenOut
    {
        return TakenOut::of($project, $request->pieces($project), $request->ending(), $request->isTogether(), $request->density());
    }
}
