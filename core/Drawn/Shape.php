<?php

declare(strict_types=1);

namespace Isotome\Drawn;

/** What is drawn across the view. */
enum Shape: string
{
    /** One line from side to side. */
    case Stroke = 'stroke';
    /** Lines that close: what they go round an odd number of times lies within. */
    case Outline = 'outline';
    /** Several lines that may cross. */
    case Grid = 'grid';
}
