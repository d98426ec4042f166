<?php

declare(strict_types=1);

namespace Isotome\Process;

use RuntimeException;
use Throwable;

/**
 * Does independent work in two processes where the system can, each sending back a small result; one after the other elsewhere.
 * Both get about the same amount to do. Results come in the order of the work, and are the same either way. What throws here ends the other process too.
 * Work that is itself done side by side does not divide again.
 */
final class SideBySide
{
    /** Triangles of the smaller share from which on a second process saves time. */
    private const WORTH_TWO = 50_000;

    private static bool $isDivided = false;

    /** In the second process: the number of the first. */
    private static int $first = 0;

    /**
     * Will such work be done in two processes?
     *
     * @param  list<int>  $triangles
     */
    public static function isWorthTwo(array $triangles): bool
    {
        return array_sum(array_intersect_key($triangles, self::share($triangles))) >= self::WORTH_TWO && ! self::$isDivided && function_exists('pcntl_fork') && PHP_SAPI === 'cli';
    }

    /** Is this the second process? It ends here when the first one is gone, so that locks which it has inherited are released. */
    public static function isSecond(): bool
    {
        if (self::$first !== 0 && posix_getppid() !== self::$first) {
            posix_kill(posix_getpid(), SIGKILL);
        }

        return self::$first !== 0;
    }

    /**
     * @template T of array<mixed>|null
     *
     * @param  list<\Closure(): T>  $works
     * @param  list<int>  $triangles  that each of them goes through
     * @return list<T>
     */
    public static function all(array $works, array $triangles): array
    {
        $theirs = self::share($triangles);
        if (! self::isWorthTwo($triangles)) {
            return array_map(static fn (\Closure $work): mixed => $work(), $works);
        }
        $file = tempnam(sys_get_temp_dir(), 'isotome');
        $first = posix_getpid();
        $child = $file === false ? -1 : pcntl_fork();
        if ($file === false || $child < 0) {
            return array_map(static fn (\Closure $work): mixed => $work(), $works);
        }
        $results = [];
        self::$isDivided = true;
        if ($child === 0) {
            self::$first = $first;
            // Its share here; nothing of this process may run to its end but this.
            try {
                foreach (array_keys($theirs) as $n) {
                    $results[$n] = $works[$n]();
                }
                file_put_contents($file, serialize(['results' => $results]));
            } catch (Throwable $wrong) {
                file_put_contents($file, serialize(['wrong' => $wrong->getMessage()]));
            }
            posix_kill(posix_getpid(), SIGKILL);
        }
        try {
            foreach ($works as $n => $work) {
                if (! isset($theirs[$n])) {
                    $results[$n] = $work();
                }
            }
        } catch (Throwable $wrong) {
            // Nobody waits for the rest any more.
            posix_kill($child, SIGKILL);
            throw $wrong;
        } finally {
            self::$isDivided = false;
            pcntl_waitpid($child, $status);
            $sent = @unserialize((string) file_get_contents($file), ['allowed_classes' => false]);
            @unlink($file);
        }
        if (is_array($sent) && is_string($sent['wrong'] ?? null)) {
            throw new RuntimeException($sent['wrong']);
        }
        /** @var array<int, T> $done */
        $done = is_array($sent) && is_array($sent['results'] ?? null) ? $sent['results'] : [];
        foreach ($works as $n => $work) {
            // The other process was ended from outside, for want of memory say: then its share is done here.
            if (! array_key_exists($n, $results)) {
                $results[$n] = array_key_exists($n, $done) ? $done[$n] : $work();
            }
        }
        ksort($results);

        return array_values($results);
    }

    /**
     * One of two shares, the largest work given out first, always to the one that has less (R. L. Graham 1969).
     *
     * @param  list<int>  $triangles
     * @return array<int, true> by number of the work
     */
    private static function share(array $triangles): array
    {
        arsort($triangles);
        $mine = $theirs = 0;
        $share = [];
        foreach ($triangles as $n => $count) {
            if ($mine <= $theirs) {
                $mine += $count;
            } else {
                $theirs += $count;
                $share[$n] = true;
            }
        }

        return $share;
    }
}
