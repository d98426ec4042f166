<?php

declare(strict_types=1);

namespace App\Lineage;

/** A piece that a step took, and the pieces that the step made of it. */
final readonly class Family
{
    /** @param  list<Draft>  $made */
    public function __construct(
        public Draft $taken,
        public array $made,
    ) {
    }

    /** @return list<string> */
    public function names(): array
    {
        return array_map(static fn (Draft $draft): string => $draft->name, $this->made);
    }
}
