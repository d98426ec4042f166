<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Cut\Seal;
use Isotome\Exception\BadBlade;

/** What a cells blade leaves. */
final readonly class ShatterSettings
{
    /**
     * @param  float  $kerf  width taken out between shards, mm
     * @param  float|null  $edge  edge length of an even seal, mm; null to follow the skin
     * @param  float  $smallest  share of the piece's volume below which a shard joins a neighbour, 0 to 0.5
     * @param  bool  $apart  every connected body is a piece of its own; else what is in one cell stays together
     * @param  float  $wall  thickness of hollow shards, mm; 0 for solid ones
     * @param  Grain|null  $grain  roughness of the walls between shards
     */
    public function __construct(
        public float $kerf = 0.0,
        public Seal $seal = Seal::Lean,
        public ?float $edge = null,
        public float $smallest = 0.0,
        public bool $apart = true,
        public float $wall = 0.0,
        public ?Grain $grain = null,
    ) {
        if ($smallest < 0.0 || $smallest > 0.5) {
            throw new BadBlade("The smallest piece is a share of $smallest; give 0 to 0.5.");
        }
        if ($kerf < 0.0 || $wall < 0.0) {
            throw new BadBlade('The kerf or the wall is negative; give 0 or more.');
        }
        if ($grain !== null && $seal === Seal::Even) {
            throw new BadBlade('Rough walls have triangles of about one size already; leave out the even seal, and give the grain edges of that length.');
        }
    }
}
