<?php

declare(strict_types=1);

namespace App\Runs;

use RuntimeException;

/** Thrown from a progress report when the person asked to stop. */
final class Cancelled extends RuntimeException
{
}
