<?php

declare(strict_types=1);

namespace Isotome\Plan;

/**
 * What a plan costs, term by term; the least is the best. The unit is one piece: a term of 0.5 is worth as much as half a piece more.
 *
 * Which terms there are follows L. Luo, I. Baran, S. Rusinkiewicz, W. Matusik, "Chopper: partitioning models into 3D-printable parts", ACM Transactions on Graphics 31 (2012); how much each counts is Isotome's own.
 */
final readonly class Terms
{
    /** A section as large as the bed. */
    public const AREA = 0.5;

    /** One outline of a section more than one. */
    public const OUTLINE = 0.25;

    /** A section that is next to nothing somewhere. */
    public const THIN = 0.4;

    /** A cut face without room for a peg. */
    public const PEGLESS = 0.3;

    /** A piece that is next to nothing. */
    public const LEFTOVER = 0.6;

    /** A piece smaller than this share of the whole is a leftover. */
    public const SMALL = 0.02;

    /** A cut that is not square to an axis. */
    public const TILT = 0.08;

    /** A cut in the plane of symmetry. */
    public const SYMMETRY = -0.2;

    /** Pieces of which all skin would hang over. */
    public const SUPPORTS = 1.0;

    public function __construct(
        public float $pieces = 0.0,
        public float $area = 0.0,
        public float $outlines = 0.0,
        public float $thin = 0.0,
        public float $pegs = 0.0,
        public float $leftovers = 0.0,
        public float $tilt = 0.0,
        public float $symmetry = 0.0,
        public float $supports = 0.0,
    ) {
    }

    public function plus(self $other): self
    {
        return new self(
            $this->pieces + $other->pieces, $this->area + $other->area, $this->outlines + $other->outlines, $this->thin + $other->thin, $this->pegs + $other->pegs,
            $this->leftovers + $other->leftovers, $this->tilt + $other->tilt, $this->symmetry + $other->symmetry, $this->supports + $other->supports,
        );
    }

    public function total(): float
    {
        return array_sum($this->toArray());
    }

    /** @return array{pieces: float, area: float, outlines: float, thin: float, pegs: float, leftovers: float, tilt: float, symmetry: float, supports: float} */
    public function toArray(): array
    {
        return [
            'pieces' => $this->pieces, 'area' => $this->area, 'outlines' => $this->outlines, 'thin' => $this->thin, 'pegs' => $this->pegs,
            'leftovers' => $this->leftovers, 'tilt' => $this->tilt, 'symmetry' => $this->symmetry, 'supports' => $this->supports,
        ];
    }
}
