<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** Says how long an answer is: a browser then knows when it has all of it, however the connection ends. */
final class TellsLength
{
    /** @param  Closure(Request): Response  $next */
    public function handle(Request $request, Closure $next): Response
    {
        $answer = $next($request);
        if (! $answer instanceof StreamedResponse && ! $answer instanceof BinaryFileResponse && ! $answer->isEmpty() && ! $answer->headers->has('Content-Length')) {
            $answer->headers->set('Content-Length', (string) strlen((string) $answer->getContent()));
        }

        return $answer;
    }
}
