<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Geometry\Plane;

/** A flat blade with what it leaves: everything that decides what a cut does. */
final readonly class FlatBlade
{
    /**
     * @param  float  $kerf  width of material removed, mm
     * @param  float  $catch  vertices within this distance are taken onto the blade, mm
     * @param  float|null  $edge  edge length of an even seal, mm; null to follow the surrounding skin
     */
    public function __construct(
        public Plane $plane,
        public Keep $keep = Keep::Both,
        public Seal $seal = Seal::Lean,
        public float $kerf = 0.0,
        public KerfSide $kerfSide = KerfSide::Centre,
        public float $catch = 0.0,
        public ?float $edge = null,
    ) {
    }

    /** The same settings on another plane. */
    public function on(Plane $plane): self
    {
        return new self($plane, $this->keep, $this->seal, $this->kerf, $this->kerfSide, $this->catch, $this->edge);
    }

    /**
     * The two faces of the removed width, behind and ahead; the plane itself twice without a kerf.
     *
     * @return array{Plane, Plane}
     */
    public function faces(): array
    {
        if ($this->kerf <= 0.0 || $this->keep === Keep::Outline) {
            return [$this->plane, $this->plane];
        }
        $back = match ($this->kerfSide) {
            KerfSide::Centre => -$this->kerf / 2,
            KerfSide::Ahead => 0.0,
            KerfSide::Behind => -$this->kerf,
        };

        return [$this->plane->shifted($back), $this->plane->shifted($back + $this->kerf)];
    }
}
