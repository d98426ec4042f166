<?php

declare(strict_types=1);

namespace Isotome\Cut;

/** How a cut face is closed. */
enum Seal: string
{
    case Open = 'open';
    case Lean = 'lean';
    case Even = 'even';
}
