<?php

declare(strict_types=1);

namespace Isotome\Mirror;

/** What joins facing rims that stand apart: nothing, straight faces, or faces that go on from either side's slope. */
enum Band: string
{
    case None = 'none';
    case Straight = 'straight';
    case Smoothed = 'smoothed';
}
