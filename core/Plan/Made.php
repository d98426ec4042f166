<?php

declare(strict_types=1);

namespace Isotome\Plan;

/** A cut of a plan as it was made: through the piece that a path leads to. A path tells, from the whole on, which of a cut's pieces is meant each time, counted from 0 in the order of their names. */
final readonly class Made
{
    /**
     * @param  list<int>  $path
     * @param  list<list<array{float, float, float}>>  $outlines  of the section, mm
     */
    public function __construct(
        public array $path,
        public Cut $cut,
        public array $outlines,
    ) {
    }
}
