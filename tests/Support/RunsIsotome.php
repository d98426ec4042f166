<?php

declare(strict_types=1);

namespace Tests\Support;

/** bin/isotome as another program calls it. */
trait RunsIsotome
{
    /** @return array{int, string, string} exit code, standard output, standard error */
    private function isotome(string ...$arguments): array
    {
        $process = proc_open([dirname(__DIR__, 2).'/bin/isotome', ...$arguments], [1 => ['pipe', 'w'], 2 => ['pipe', 'w']], $pipes);
        self::assertIsResource($process);
        $out = (string) stream_get_contents($pipes[1]);
        $error = (string) stream_get_contents($pipes[2]);

        return [proc_close($process), $out, $error];
    }
}
