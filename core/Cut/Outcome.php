<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Mesh\Mesh;

/** What a cut gave: bodies in naming order, and what could not be closed. */
final readonly class Outcome
{
    /**
     * @param  list<Mesh>  $bodies  from behind to ahead, on either side the largest volume first
     * @param  list<list<array{float, float, float}>>  $unclosed  rims left open although sealing was asked, as points, mm
     * @param  bool  $sound  false when outlines crossed each other, so that cap faces overlap
     */
    public function __construct(
        public array $bodies,
        public array $unclosed,
        public bool $sound,
    ) {
    }
}
