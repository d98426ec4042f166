<?php

declare(strict_types=1);

namespace Isotome\Mirror;

/** What a mirror leaves: both halves as one body, both as pieces of their own, or the reflection alone. */
enum Gives: string
{
    case One = 'one';
    case Two = 'two';
    case Reflection = 'reflection';
}
