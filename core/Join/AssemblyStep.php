<?php

declare(strict_types=1);

namespace Isotome\Join;

/** One step of putting pieces together. */
final readonly class AssemblyStep
{
    /**
     * @param  list<int>  $pieces  that are put in: one, or a group that was put together before
     * @param  list<int>  $onto  pieces that are there already and share a face with them
     * @param  array{float, float, float}|null  $along  the direction in which they are moved in, of length 1; null for those that the others are put onto
     * @param  bool  $isApart  whether this happens within a group that is put together by itself
     * @param  bool  $isBlocked  whether these hold each other, so that no order was found for them
     */
    public function __construct(
        public array $pieces,
        public array $onto,
        public ?array $along,
        public bool $isApart,
        public bool $isBlocked,
    ) {
    }
}
