<?php

declare(strict_types=1);

/*
 * Reads files made from the formats' grammars, with what an attacker would write, as long as one likes:
 *
 *     php <flags of bin/lib.sh> bench/fuzz-formats.php FORMAT|all SECONDS [SEED [BYTES]]
 *
 * Each is read and reported on in a process that may take 5 s of the processor and 500 MB for each MB of the file (a started one counts
 * whole). What needs more, says more than one sentence, or warns, is kept in test-results/formats and fails the run.
 */

use Isotome\Check\Report;
use Isotome\Exception\Refusal;
use Isotome\Format\MeshFile;
use Tests\Support\FormatGrammar;

require __DIR__.'/../vendor/autoload.php';

[$what, $seconds, $seed, $bytes] = [$argv[1] ?? 'all', (float) ($argv[2] ?? 60), (int) ($argv[3] ?? 1), (int) ($argv[4] ?? 1_000_000)];
$folder = __DIR__.'/../test-results/formats';
@mkdir($folder, 0700, true);
set_error_handler(static function (int $level, string $message, string $file, int $line): bool {
    // Silenced with @: asked for.
    if ((error_reporting() & $level) === 0) {
        return false;
    }
    throw new ErrorException($message, 0, $level, $file, $line);
}, E_ALL & ~E_DEPRECATED);

$failed = 0;
foreach ($what === 'all' ? MeshFile::FORMATS : [$what] as $format) {
    $end = microtime(true) + $seconds;
    [$cases, $refused, $worst, $largest] = [0, 0, 0.0, 0.0];
    for ($n = $seed; microtime(true) < $end; $n++) {
        $size = [2000, 20_000, 200_000, $bytes][$n % 4];
        $file = (new FormatGrammar($n, $size))->file($format);
        $path = "$folder/$format-$n.$format";
        file_put_contents($path, $file);
        $mb = max(1.0, ceil(strlen($file) / 1e6));
        $said = "$path.said";
        $child = pcntl_fork();
        if ($child === 0) {
            $limit = (int) ($mb * 500e6) + memory_get_usage(true);
            ini_set('memory_limit', (string) $limit);
            memory_reset_peak_usage();
            $before = memory_get_usage(true);
            $outcome = 'ended by itself, or for want of memory';
            register_shutdown_function(static function () use (&$outcome, $said, $before): void {
                $used = getrusage() ?: [];
                file_put_contents($said, json_encode([$outcome, ($used['ru_utime.tv_sec'] ?? 0) + ($used['ru_utime.tv_usec'] ?? 0) / 1e6, (memory_get_peak_usage(true) - $before) / 1e6]));
                posix_kill(posix_getpid(), SIGKILL);
            });
            $start = getrusage() ?: [];
            try {
                $read = MeshFile::read($path);
                Report::of($read->mesh, $read->collapsed, false)->toArray();
                $outcome = 'read';
            } catch (Refusal $refusal) {
                $outcome = preg_match('/^[A-Z][^\n\x00-\x1f]{20,400}\.$/u', $refusal->getMessage()) === 1 && ! str_contains($refusal->getMessage(), 'at line 0') ? 'refused' : 'said '.substr($refusal->getMessage(), 0, 600);
            } catch (Throwable $error) {
                $outcome = get_class($error).': '.$error->getMessage().' at '.$error->getFile().':'.$error->getLine();
            }
            exit;
        }
        for ($waited = 0.0; pcntl_waitpid($child, $status, WNOHANG) === 0; $waited += 0.002) {
            usleep(2000);
            if ($waited > 30 * $mb) {
                posix_kill($child, SIGKILL);
                pcntl_waitpid($child, $status);
                break;
            }
        }
        [$outcome, $time, $memory] = json_decode((string) @file_get_contents($said), true) ?? ['did not end', 30 * $mb, 0];
        @unlink($said);
        $cases++;
        $refused += $outcome === 'refused' ? 1 : 0;
        $worst = max($worst, $time / $mb);
        $largest = max($largest, $memory / $mb);
        if (in_array($outcome, ['read', 'refused'], true) && $time <= 5 * $mb && $memory <= 500 * $mb) {
            unlink($path);
        } else {
            $failed++;
            printf("%s (%d bytes): %s, %.1f s, %.0f MB\n", realpath($path), strlen($file), $outcome, $time, $memory);
        }
    }
    printf("%s: %d files, %d refused in a sentence, %d read; at most %.2f s and %.0f MB for each MB\n", $format, $cases, $refused, $cases - $refused, $worst, $largest);
}
exit($failed > 0 ? 1 : 0);
