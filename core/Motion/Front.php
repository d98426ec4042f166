<?php

declare(strict_types=1);

namespace Isotome\Motion;

/** By what a wave meets one piece after the other. */
enum Front: string
{
    case Plane = 'plane';
    case Ball = 'ball';
    case Axis = 'axis';
    case Order = 'order';
    case Random = 'random';
}
