<?php

declare(strict_types=1);

namespace Tests\Core;

use PHPUnit\Framework\TestCase;

/**
 * A worker that is asked to end computes on as if it was not. With pcntl_async_signals, as the framework's worker has it, the function JIT of
 * PHP 8.2.36 does not: a signal in a compiled loop leaves it with stale variables, and the shattering below ended with "Undefined array
 * key" in Overlay, other pieces, or in a loop without end.
 */
final class SignalsTest extends TestCase
{
    public function test_signals_do_not_change_results(): void
    {
        $process = proc_open([
            PHP_BINARY, '-d', 'memory_limit=2G', '-d', 'opcache.enable_cli=1', '-d', 'opcache.jit=1105', '-d', 'opcache.jit_buffer_size=128M', '-d', 'opcache.file_update_protection=0', '-d', 'max_execution_time=0',
            dirname(__DIR__).'/Support/under-signals.php',
        ], [1 => ['pipe', 'w']], $pipes);
        self::assertIsResource($process);
        $said = json_decode((string) stream_get_contents($pipes[1]), true);
        self::assertSame(0, proc_close($process));
        self::assertSame(['results' => 1, 'heard' => true, 'async' => false, 'jit' => true], $said);
    }
}
