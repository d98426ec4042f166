<?php

declare(strict_types=1);

namespace Isotome\Seal;

/** The triangles that close a cut, for both sides: as they are for the side behind, turned over for the side ahead. */
final readonly class Cap
{
    /**
     * @param  list<int>  $triangles  rim points, counter-clockwise seen from ahead; new points are numbered on from the rim's
     * @param  list<float>  $newXyz  coordinates of the new points
     * @param  list<list<int>>  $unclosed  outlines that do not come back: left open, first to last point
     * @param  bool  $sound  false when outlines cross each other, so that triangles of the cap overlap
     * @param  list<array{int, int, list<int>}>  $divided  rim edges (from, to) that got new points between their ends, in order
     */
    public function __construct(
        public array $triangles,
        public array $newXyz,
        public array $unclosed,
        public bool $sound,
        public array $divided = [],
    ) {
    }

    public static function none(): self
    {
        return new self([], [], [], true);
    }
}
