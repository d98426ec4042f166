<?php

declare(strict_types=1);

namespace Isotome\Cut;

/** What a cut leaves. */
enum Keep: string
{
    case Both = 'both';
    case Ahead = 'ahead';
    case Behind = 'behind';
    /** Only the section face, as a flat sheet. */
    case Outline = 'outline';
}
