<?php

declare(strict_types=1);

namespace Isotome\Operation;

/** What one step did. */
final readonly class StepRecord
{
    /**
     * @param  list<string>  $took  names of the pieces it took
     * @param  list<string>  $gave  names of the pieces it made
     * @param  array<string, list<string>>  $parents  of each piece it made, by name
     * @param  string  $do  the word after "do" in the recipe
     */
    public function __construct(
        public string $do,
        public array $took,
        public array $gave,
        public array $parents,
        public float $seconds,
        public float $peakMb,
        public Report $report,
    ) {
    }

    /** @return array<string, mixed> as the manifest writes it */
    public function toArray(): array
    {
        return ['do' => $this->do, 'took' => $this->took, 'gave' => $this->gave, 'seconds' => $this->seconds, 'peak_mb' => $this->peakMb, ...$this->report->toArray()];
    }
}
