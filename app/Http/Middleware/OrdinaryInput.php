<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * Nothing comes in that could not go out again: all text is valid UTF-8 without control characters that end it, and all numbers are finite,
 * wherever they stand in an address or a body.
 */
final class OrdinaryInput
{
    private const DEEPEST = 64;

    /** Values in a request, keys counted: the longest list that anything takes has 100,000. */
    private const MOST = 400_000;

    private int $left = self::MOST;

    /** @param  Closure(Request): Response  $next */
    public function handle(Request $request, Closure $next): Response
    {
        $this->left = self::MOST;
        $wrong = $this->wrongText(rawurldecode($request->getPathInfo())) ?? $this->wrong($request->query->all());
        if ($wrong === null && $request->isJson()) {
            $body = $request->getContent();
            $wrong = match (true) {
                $body === '' => null,
                ! mb_check_encoding($body, 'UTF-8') => 'The request holds text that is not valid UTF-8; type it again.',
                // What is no JSON is refused where its parts are missed.
                default => $this->wrong(json_decode($body, true, self::DEEPEST)),
            };
        } elseif ($wrong === null) {
            $wrong = $this->wrong($request->request->all());
        }

        return $wrong === null ? $next($request) : response()->json(['message' => $wrong], 422);
    }

    private function wrong(mixed $value): ?string
    {
        if (is_string($value)) {
            return $this->wrongText($value);
        }
        if (is_float($value) && ! is_finite($value)) {
            return 'A number in the request is too large to be used; type it again.';
        }
        if (is_array($value)) {
            $this->left -= count($value);
            if ($this->left < 0) {
                return 'The request holds more than 400,000 values; ask for less at once.';
            }
            foreach ($value as $key => $inner) {
                $wrong = $this->wrong($key) ?? $this->wrong($inner);
                if ($wrong !== null) {
                    return $wrong;
                }
            }
        }

        return null;
    }

    private function wrongText(string $text): ?string
    {
        return match (true) {
            ! mb_check_encoding($text, 'UTF-8') => 'The request holds text that is not valid UTF-8; type it again.',
            str_contains($text, "\0") => 'The request holds a text with a zero character; type it again.',
            default => null,
        };
    }
}
