<?php

declare(strict_types=1);

namespace Isotome\Join;

/** What holds two pieces in place. */
enum Style: string
{
    /** A pin on the first piece, a socket in the second. */
    case Pin = 'pin';
    /** Sockets in both, and a loose dowel. */
    case Dowel = 'dowel';
    /** Pockets in both, for a magnet each. */
    case Magnet = 'magnet';
}
