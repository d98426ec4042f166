<?php

declare(strict_types=1);

namespace Isotome\Cut;

/** Where the removed width lies. */
enum KerfSide: string
{
    case Centre = 'centre';
    case Ahead = 'ahead';
    case Behind = 'behind';
}
