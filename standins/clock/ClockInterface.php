<?php

declare(strict_types=1);

namespace Symfony\Component\Clock;

use DateTimeZone;

/** The part of symfony/clock's interface that Carbon implements. */
interface ClockInterface extends \Psr\Clock\ClockInterface
{
    public function sleep(float|int $seconds): void;

    public function withTimeZone(DateTimeZone|string $timezone): static;
}
