<?php

declare(strict_types=1);

namespace App\Meshes;

use Closure;
use Illuminate\Support\Facades\Cache;
use Throwable;

/** What was worked out of a mesh and is kept for the next question; a full disk only means that it is worked out again. */
final class Kept
{
    private const SECONDS = 86400 * 30;

    public static function get(string $key): mixed
    {
        try {
            return Cache::get($key);
        } catch (Throwable) {
            return null;
        }
    }

    public static function put(string $key, mixed $value): void
    {
        try {
            Cache::put($key, $value, self::SECONDS);
        } catch (Throwable) {
            // Half a file of the cache is taken for nothing.
        }
    }

    /**
     * @template T
     *
     * @param  Closure(): T  $make
     * @return T
     */
    public static function remember(string $key, Closure $make): mixed
    {
        /** @var T|null $kept */
        $kept = self::get($key);
        if ($kept === null) {
            $kept = $make();
            self::put($key, $kept);
        }

        return $kept;
    }
}
