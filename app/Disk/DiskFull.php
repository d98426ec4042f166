<?php

declare(strict_types=1);

namespace App\Disk;

use RuntimeException;

/** There is no room for what was asked; nothing was changed. */
final class DiskFull extends RuntimeException
{
    /** @param  int  $missing  bytes; at least one megabyte is named */
    public static function missing(int $missing): self
    {
        return new self(sprintf('The disk that holds Isotome\'s data is full: %s MB are missing; remove projects or free space, then try again. Nothing was changed.', number_format(max(1, (int) ceil($missing / 1e6)))));
    }
}
