<?php

declare(strict_types=1);

namespace Isotome\Operation;

/** What a step did to the pieces it was given. Pieces that it did not take stay as they are. */
final readonly class Applied
{
    /**
     * @param  list<string>  $took  names of the pieces that it used up or changed
     * @param  list<Given>  $gave  their parents are among those it took
     */
    public function __construct(
        public array $took,
        public array $gave,
        public Report $report,
    ) {
    }
}
