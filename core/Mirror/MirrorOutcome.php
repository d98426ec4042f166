<?php

declare(strict_types=1);

namespace Isotome\Mirror;

use Isotome\Mesh\Mesh;

/** What a mirror gave, and what there is to say about its seam. */
final readonly class MirrorOutcome
{
    /**
     * @param  list<Mesh>  $bodies  the kept side's first
     * @param  int  $joined  edges of the seam at which both sides were joined
     * @param  list<list<array{float, float, float}>>  $unjoined  rims near the plane that could not be joined, as points, mm
     * @param  float  $kink  largest angle along the seam between the faces of either side, degrees
     * @param  float  $meanKink  its mean by length, degrees
     * @param  bool  $overlaps  the reflection passes through what is mirrored
     * @param  float  $apart  mm by which the kept side and its reflection stand apart; 0 where they meet
     * @param  int  $banded  rims joined by bands
     */
    public function __construct(
        public array $bodies,
        public int $joined,
        public array $unjoined,
        public float $kink,
        public float $meanKink,
        public bool $overlaps,
        public float $apart,
        public int $banded,
    ) {
    }

    /** @return array<string, mixed> for a manifest */
    public function said(): array
    {
        return [
            'joined_edges' => $this->joined,
            'unjoined' => count($this->unjoined),
            'kink_deg' => $this->kink,
            'mean_kink_deg' => $this->meanKink,
            'overlaps' => $this->overlaps,
            'apart_mm' => $this->apart,
            'banded' => $this->banded,
        ];
    }
}
