<?php

declare(strict_types=1);

namespace Isotome\Operation;

/** What becomes of the volume of the pieces that a step takes. */
enum VolumeAfter
{
    /** All of it is still there. */
    case Same;
    /** All but what the kerf removes. */
    case LessKerf;
    /** Nothing can be said. */
    case Other;
}
