<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Process\SideBySide;
use PHPUnit\Framework\TestCase;
use RuntimeException;

final class SideBySideTest extends TestCase
{
    public function test_results_come_in_order_from_one_process_and_from_two(): void
    {
        $works = array_map(static fn (int $n): \Closure => static fn (): array => [$n * $n], range(0, 6));
        foreach ([[0, 0, 0, 0, 0, 0, 0], [90_000, 10, 80_000, 20, 70_000, 30, 60_000]] as $triangles) {
            self::assertSame([[0], [1], [4], [9], [16], [25], [36]], SideBySide::all($works, $triangles));
        }
    }

    public function test_what_is_wrong_in_the_other_process_is_told_here(): void
    {
        $this->expectExceptionMessage('The chute is jammed.');
        SideBySide::all([static fn (): array => [1], static fn (): array => throw new RuntimeException('The chute is jammed.')], [60_000, 60_000]);
    }

    public function test_the_share_of_a_process_that_was_killed_is_done_here(): void
    {
        $here = getmypid();
        $work = static function () use ($here): array {
            if (getmypid() !== $here) {
                posix_kill((int) getmypid(), SIGKILL);
            }

            return ['done'];
        };
        self::assertSame([['done'], ['done'], ['done'], ['done']], SideBySide::all([$work, $work, $work, $work], [60_000, 60_000, 60_000, 60_000]));
    }

    public function test_what_throws_here_ends_the_other_process(): void
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'isotome-test');
        $here = static function () use ($file): array {
            while (file_get_contents($file) === '') {
                usleep(1000);
            }
            throw new RuntimeException('Stopped.');
        };
        $there = static function () use ($file): array {
            file_put_contents($file, (string) getmypid());
            sleep(3600);

            return [];
        };
        try {
            SideBySide::all([$here, $there], [60_000, 60_000]);
            self::fail('It was stopped.');
        } catch (RuntimeException $error) {
            self::assertSame('Stopped.', $error->getMessage());
        }
        self::assertFalse(posix_kill((int) file_get_contents($file), 0), 'the other process is gone');
        unlink($file);
        // And the next work is divided again.
        self::assertTrue(SideBySide::isWorthTwo([60_000, 60_000]));
    }

    public function test_the_second_process_ends_when_the_first_one_is_killed(): void
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'isotome-test');
        $code = 'require $argv[1]; $wait = static function () use ($argv): array {
            while (true) {
                Isotome\Process\SideBySide::isSecond() && file_get_contents($argv[2]) === "" && file_put_contents($argv[2], (string) getmypid());
                usleep(1000);
            }
        }; Isotome\Process\SideBySide::all([$wait, $wait], [60_000, 60_000]);';
        $process = proc_open([PHP_BINARY, '-r', $code, '--', dirname(__DIR__, 2).'/vendor/autoload.php', $file], [], $pipes);
        self::assertIsResource($process);
        // Read anew each time: what is_file() has seen once, PHP remembers.
        $isGone = static fn (int $pid): bool => preg_match('/\) [^ZX] /', (string) @file_get_contents("/proc/$pid/stat")) !== 1;
        for ($n = 0; $n < 30_000 && file_get_contents($file) === ''; $n++) {
            usleep(1000);
        }
        $second = (int) file_get_contents($file);
        self::assertFalse($isGone($second));
        posix_kill(proc_get_status($process)['pid'], SIGKILL);
        proc_close($process);
        for ($n = 0; $n < 30_000 && ! $isGone($second); $n++) {
            usleep(1000);
        }
        self::assertTrue($isGone($second));
        unlink($file);
    }

    public function test_work_within_such_work_is_not_divided_again(): void
    {
        $work = static fn (): array => [SideBySide::isWorthTwo([60_000, 60_000])];
        self::assertTrue($work()[0]);
        self::assertSame([[false], [false]], SideBySide::all([$work, $work], [60_000, 60_000]));
    }

    public function test_both_processes_get_about_the_same_to_do(): void
    {
        $here = getmypid();
        // One large, one tiny, one large: counted off in turn, both large ones would be done by one process.
        $sizes = [517_576, 1_572, 502_564];
        $works = array_map(static fn (int $_): \Closure => static fn (): array => [getmypid() === $here], $sizes);
        self::assertSame([[true], [false], [false]], SideBySide::all($works, $sizes));
        self::assertSame([[true], [true]], SideBySide::all(array_slice($works, 0, 2), [900_000, 40_000]), 'not worth a process');
    }
}
