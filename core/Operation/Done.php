<?php

declare(strict_types=1);

namespace Isotome\Operation;

/** A step that was done: the pieces that it took, those that it made, and its report. */
final readonly class Done
{
    /**
     * @param  list<Told>  $took
     * @param  list<Told>  $made
     */
    public function __construct(
        public Step $step,
        public array $took,
        public array $made,
        public Report $report,
    ) {
    }
}
