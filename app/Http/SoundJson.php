<?php

declare(strict_types=1);

namespace App\Http;

use Illuminate\Http\JsonResponse;
use Illuminate\Routing\ResponseFactory;

/** Answers in JSON whatever is stored: a byte that is no UTF-8 becomes a mark for itself, and hides nothing else. */
final class SoundJson extends ResponseFactory
{
    /**
     * @param  mixed  $data
     * @param  int  $status
     * @param  array<string, mixed>  $headers
     * @param  int  $options
     */
    public function json($data = [], $status = 200, array $headers = [], $options = 0): JsonResponse
    {
        return parent::json($data, $status, $headers, $options | JSON_INVALID_UTF8_SUBSTITUTE);
    }
}
