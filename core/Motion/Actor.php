<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Isotome\Mesh\Mesh;

/** A piece that moves: its name, its centre of mass, about which it is turned and scaled, and its shape for what falls. */
final readonly class Actor
{
    /** @param  array{float, float, float}  $centre  mm, where the piece stands */
    public function __construct(
        public string $name,
        public array $centre,
        public ?Mesh $mesh = null,
    ) {
    }
}
