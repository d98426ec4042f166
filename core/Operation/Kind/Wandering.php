<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Schema\Schema;

/** By how much the walls of blocks and rings leave their even places, as a setting. */
final class Wandering
{
    /** @return array<string, mixed> */
    public static function share(): array
    {
        return Schema::amount('Walls leave their even places by this share at most', 0.0, '0 to 0.45', 0.45);
    }
}
