<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

/** Which side of a surface stays. */
enum Side: string
{
    case Both = 'both';
    case Ahead = 'ahead';
    case Behind = 'behind';
}
