<?php

declare(strict_types=1);

namespace App\Runs;

use RuntimeException;

/** The worker is asked to end: the run waits again, for the next one. */
final class Interrupted extends RuntimeException
{
}
