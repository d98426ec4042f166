<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Seal\Rim;

/**
 * What Split gives: both sides with their cut still open, and the rim between them.
 *
 * Rim points are numbered from 0 in both sides alike: point k is vertex aheadBase + k of the ahead side and
 * behindBase + k of the behind side, with the same coordinates. The rim's coordinates end either side's list.
 */
final class Halves
{
    /**
     * @param  array{list<float>, list<int>, list<int>}  $ahead  coordinates, corners, tags
     * @param  array{list<float>, list<int>, list<int>}  $behind
     * @param  Quads  $aheadQuads  faces ahead that were kept whole, see Split::of
     */
    public function __construct(
        public readonly Rim $rim,
        private array $ahead,
        private array $behind,
        public readonly int $aheadBase,
        public readonly int $behindBase,
        public readonly Quads $aheadQuads = new Quads(),
    ) {
    }

    /** Does either side have no triangle? */
    public function isOneSided(): bool
    {
        return $this->ahead[2] === [] || $this->behind[2] === [];
    }

    /**
     * Hands a side out, once: the lists are not copied, so that the receiver can add to them in place.
     *
     * @return array{list<float>, list<int>, list<int>} coordinates, corners, tags
     */
    public function take(bool $behind): array
    {
        if ($behind) {
            $side = $this->behind;
            $this->behind = [[], [], []];
        } else {
            $side = $this->ahead;
            $this->ahead = [[], [], []];
        }

        return $side;
    }
}
