<?php

declare(strict_types=1);

namespace App\Runs;

use RuntimeException;

/** Somebody else has the run now, or it is over: what was worked out is not stored. */
final class LeaseLost extends RuntimeException
{
}
