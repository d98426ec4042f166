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
    /** @param  Closure(): mixed  $listen  it may throw to go on */
    public static function pass(string $phase, Closure $listen): void
    {
        if (! config('isotome.holds')) {
            return;
        }
        $hold = storage_path('hold');
        $held = storage_path('held');
        $wait = static fn (): bool => str_starts_with($phase, trim((string) @file_get_contents($hold)) ?: "\0");
        if (! $wait()) {
            return;
        }
        file_put_contents($held, $phase);
        try {
            while ($wait() && ! StopSignal::isGiven()) {
                $listen();
                usleep(20_000);
            }
        } finally {
            @unlink($held);
        }
    }
}
