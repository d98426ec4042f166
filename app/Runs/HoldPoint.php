<?php

declare(strict_types=1);

namespace App\Runs;

use Closure;

/**
 * Lets tests hold a worker at a named point, so that none of them depends on catching a moment: while the file "hold" in the data folder
 * names the beginning of a phase, the worker waits there and says so in the file "held". Only with ISOTOME_HOLDS=1 in its environment.
 */
final class HoldPoint
{
    public static function isAt(string $phase): bool
    {
        return config('isotome.holds') && str_starts_with($phase, trim((string) @file_get_contents(storage_path('hold'))) ?: "\0");
    }

    /** @param  Closure(): mixed  $listen  it may throw to go on */
    public static function pass(string $phase, Closure $listen): void
    {
        if (! self::isAt($phase)) {
            return;
        }
        $held = storage_path('held');
        file_put_contents($held, $phase);
        try {
            while (self::isAt($phase) && ! StopSignal::isGiven()) {
                $listen();
                usleep(20_000);
            }
        } finally {
            @unlink($held);
        }
    }
}
