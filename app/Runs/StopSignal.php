<?php

declare(strict_types=1);

namespace App\Runs;

/**
 * The system's wish that a worker ends, heard only where the work asks for it.
 *
 * Never by pcntl_async_signals: PHP then breaks into compiled loops to call the handler, and the function JIT of PHP 8.2 goes on with
 * stale values of some variables: wrong results, without a word (tests/Core/SignalsTest.php shows it).
 */
final class StopSignal
{
    private static bool $given = false;

    public static function hear(): void
    {
        if (! function_exists('pcntl_signal')) {
            return;
        }
        pcntl_async_signals(false);
        foreach ([SIGTERM, SIGINT, SIGQUIT, SIGHUP] as $signal) {
            pcntl_signal($signal, static function (): void {
                self::$given = true;
            });
        }
    }

    /** @phpstan-impure */
    public static function isGiven(): bool
    {
        if (function_exists('pcntl_signal_dispatch')) {
            pcntl_signal_dispatch();
        }

        return self::$given;
    }
}
