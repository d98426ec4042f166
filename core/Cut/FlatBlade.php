<?php

declare(strict_types=1);

namespace Isotome\Cut;

/** A flat blade with what it leaves: everything that decides what a cut does. */
final readonly class FlatBlade
{
    /** @param  float  $kerf width of material removed, mm */
    public function __construct(
        public Plane $plane,
        public Keep $keep = Keep::Both,
        public Seal $seal = Seal::Lean,
        public float $kerf = 0.0,
        public KerfSide $kerfSide = KerfSide::Centre,
    ) {
    }
}
