<?php

declare(strict_types=1);

namespace Isotome\Join;

/** What pegs are asked for. Lengths in millimetres; null lets the common face decide. */
final readonly class PegWishes
{
    /**
     * @param  float|null  $length  of a pin from its face on, of a dowel in each piece, of a magnet
     * @param  float  $clearance  between a peg and its socket, all round and at the end
     * @param  float  $taper  by so much the tip is narrower all round, over as much of its length
     * @param  float  $rim  least distance from a socket to the rim of the face
     * @param  float  $wall  least material between a socket and any other face
     * @param  bool  $isOneWay  pegs of one face differ, so that it goes together in one way
     * @param  bool  $isShortened  where there is no room behind, down to half the length; else there is no peg
     * @param  list<array{float, float, float}>  $at  places by hand
     */
    public function __construct(
        public Style $style = Style::Pin,
        public Shape $shape = Shape::Round,
        public ?float $diameter = null,
        public ?float $length = null,
        public ?int $count = null,
        public float $clearance = 0.3,
        public float $taper = 0.8,
        public float $rim = 1.2,
        public float $wall = 1.2,
        public float $degrees = 0.0,
        public bool $isOneWay = true,
        public bool $isShortened = true,
        public array $at = [],
    ) {
    }

    /** The skin begins at the rim: a wall is kept there as well. */
    public function edge(): float
    {
        return max($this->rim, $this->wall);
    }
}
