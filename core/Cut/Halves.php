<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Mesh\Mesh;

/**
 * What Split gives: both sides with their cut still open, and the rim between them.
 *
 * Rim points are numbered from 0 in both sides alike: point k is vertex aheadBase + k of the ahead side and
 * behindBase + k of the behind side, with the same coordinates.
 */
final readonly class Halves
{
    /**
     * @param  list<float>  $rimXyz  3 a rim point
     * @param  list<int>  $rimFrom  rim edge e runs rimFrom[e] → rimTo[e]; material lies to its left, seen from ahead
     * @param  list<int>  $rimTo
     * @param  array<int, int>  $lyingEdges  how many triangles have each edge that lies on the blade; key: lower × points + higher
     */
    public function __construct(
        public Plane $plane,
        public Mesh $ahead,
        public Mesh $behind,
        public int $aheadBase,
        public int $behindBase,
        public array $rimXyz,
        public array $rimFrom,
        public array $rimTo,
        public array $lyingEdges,
    ) {
    }

    public function rimPoints(): int
    {
        return intdiv(count($this->rimXyz), 3);
    }
}
