<?php

declare(strict_types=1);

namespace Isotome\Plan;

/** A part, the cut through it, and what that gives. */
final readonly class Split
{
    /** @param  list<Part>  $gave */
    public function __construct(
        public Part $part,
        public Cut $cut,
        public array $gave,
        public Terms $terms,
    ) {
    }
}
