<?php

declare(strict_types=1);

namespace Isotome\Motion;

/** A piece that moves: its name, and its centre of mass, about which it is turned and scaled. */
final readonly class Actor
{
    /** @param  array{float, float, float}  $centre  mm, where the piece stands */
    public function __construct(
        public string $name,
        public array $centre,
    ) {
    }
}
