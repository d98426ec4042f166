<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Operation\SideBySide;
use PHPUnit\Framework\TestCase;
use RuntimeException;

final class SideBySideTest extends TestCase
{
    public function test_results_come_in_order_from_one_process_and_from_two(): void
    {
        $works = array_map(static fn (int $n): \Closure => static fn (): array => [$n * $n], range(0, 6));
        foreach ([false, true] as $isLarge) {
            self::assertSame([[0], [1], [4], [9], [16], [25], [36]], SideBySide::all($works, $isLarge));
        }
    }

    public function test_what_is_wrong_in_the_other_process_is_told_here(): void
    {
        $this->expectExceptionMessage('The chute is jammed.');
        SideBySide::all([static fn (): array => [1], static fn (): array => throw new RuntimeException('The chute is jammed.')], true);
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
        self::assertSame([['done'], ['done'], ['done'], ['done']], SideBySide::all([$work, $work, $work, $work], true));
    }
}
