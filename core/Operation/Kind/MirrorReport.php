<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Mirror\MirrorOutcome;
use Isotome\Operation\Report;

/** What there is to say about the seams of a mirror or of copies. */
final class MirrorReport extends Report
{
    /**
     * @param  array<string, MirrorOutcome>  $seams  by the piece that was mirrored
     */
    public function __construct(public readonly array $seams)
    {
        $unclosed = [];
        foreach ($seams as $name => $seam) {
            foreach ($seam->unjoined as $path) {
                $unclosed[] = self::outline((string) $name, $path);
            }
        }
        parent::__construct($unclosed);
    }

    public function toArray(): array
    {
        return [...parent::toArray(), 'mirrored' => array_map(static fn (MirrorOutcome $seam): array => $seam->said(), $this->seams)];
    }

    /** In the line about what was done: the first seam. */
    public function said(): string
    {
        foreach ($this->seams as $seam) {
            return ($seam->joined > 0 ? sprintf(', joined at %d edges, kink at most %.1f°', $seam->joined, $seam->kink) : '')
                .($seam->overlaps ? ', and what was added overlaps what was there' : '')
                .($seam->apart > 0.0 ? sprintf(', %.1f mm apart from its reflection', $seam->apart) : '')
                .($seam->banded > 0 ? ', joined by a band' : '');
        }

        return '';
    }
}
