<?php

declare(strict_types=1);

namespace App\Http;

use App\Answers\Answer;
use App\Answers\Answers;
use App\Http\Resources\RunResource;
use App\Models\Run;
use Illuminate\Http\JsonResponse;
use Symfony\Component\HttpFoundation\Response;

/** What a question is answered with: the answer, or (202) the run that works it out, after which the same question has its answer. */
final class Told
{
    public static function of(Answer|Run $told): Response
    {
        if ($told instanceof Run) {
            return RunResource::make($told)->response()->setStatusCode(202);
        }

        return $told->name === null
            ? JsonResponse::fromJsonString(app(Answers::class)->text($told))
            : new JsonResponse(['url' => "/api/v1/answers/$told->question", 'name' => $told->name, 'bytes' => $told->bytes]);
    }
}
