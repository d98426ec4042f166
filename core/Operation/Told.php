<?php

declare(strict_types=1);

namespace Isotome\Operation;

/** What is known of a piece when it is said what was done. */
final readonly class Told
{
    /**
     * @param  string  $title  as a person reads it
     * @param  float  $volume  mm³
     * @param  float|null  $over  mm by which it is too large for the printer; null when it fits or nobody knows the printer
     */
    public function __construct(
        public string $name,
        public string $title,
        public bool $watertight,
        public float $volume,
        public ?float $over = null,
    ) {
    }
}
