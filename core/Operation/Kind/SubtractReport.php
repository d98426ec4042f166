<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Operation\Report;

/** What there is to say about a gap that was left all round. */
final class SubtractReport extends Report
{
    /**
     * @param  int  $short  faces of what was taken out that stopped in folds before they were a whole gap away
     * @param  list<string>  $fine  see Report
     */
    public function __construct(public readonly int $short, array $fine)
    {
        parent::__construct(fine: $fine);
    }

    public function toArray(): array
    {
        return [...parent::toArray(), 'gap_short' => $this->short];
    }

    public function said(): string
    {
        return $this->short === 0 ? '' : ($this->short === 1 ? ', 1 face in a narrow fold has' : ', '.number_format($this->short).' faces in narrow folds have').' less than the whole gap';
    }
}
