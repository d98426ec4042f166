<?php

declare(strict_types=1);

namespace Isotome\Operation;

use RuntimeException;
use Throwable;

/**
 * Does independent work in two processes where the system can, each sending back a small result; one after the other elsewhere.
 * Results come in the order of the work, and are the same either way.
 */
final class SideBySide
{
    /**
     * @template T of array<mixed>|null
     *
     * @param  list<\Closure(): T>  $works
     * @param  bool  $isLarge  worth a second process
     * @return list<T>
     */
    public static function all(array $works, bool $isLarge): array
    {
        if (! $isLarge || count($works) < 2 || ! function_exists('pcntl_fork') || PHP_SAPI !== 'cli') {
            return array_map(static fn (\Closure $work): mixed => $work(), $works);
        }
        $file = tempnam(sys_get_temp_dir(), 'isotome');
        $child = $file === false ? -1 : pcntl_fork();
        if ($file === false || $child < 0) {
            return array_map(static fn (\Closure $work): mixed => $work(), $works);
        }
        $results = [];
        if ($child === 0) {
            // Every second work here; nothing of this process may run to its end but this.
            try {
                foreach ($works as $n => $work) {
                    if ($n % 2 === 1) {
                        $results[$n] = $work();
                    }
                }
                file_put_contents($file, serialize(['results' => $results]));
            } catch (Throwable $wrong) {
                file_put_contents($file, serialize(['wrong' => $wrong->getMessage()]));
            }
            posix_kill(posix_getpid(), SIGKILL);
        }
        try {
            foreach ($works as $n => $work) {
                if ($n % 2 === 0) {
                    $results[$n] = $work();
                }
            }
        } finally {
            pcntl_waitpid($child, $status);
            $sent = @unserialize((string) file_get_contents($file), ['allowed_classes' => false]);
            @unlink($file);
        }
        if (is_array($sent) && is_string($sent['wrong'] ?? null)) {
            throw new RuntimeException($sent['wrong']);
        }
        /** @var array<int, T> $theirs */
        $theirs = is_array($sent) && is_array($sent['results'] ?? null) ? $sent['results'] : [];
        foreach ($works as $n => $work) {
            // The other process was ended from outside, for want of memory say: then its share is done here.
            if (! array_key_exists($n, $results)) {
                $results[$n] = array_key_exists($n, $theirs) ? $theirs[$n] : $work();
            }
        }
        ksort($results);

        return array_values($results);
    }
}
