<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Operation\Report;

/** What a mend did, in numbers. */
final class MendReport extends Report
{
    /** How the numbers are called: one, several. */
    private const WORDS = [
        'joined' => ['vertex joined', 'vertices joined'], 'join' => ['vertex joined', 'vertices joined'],
        'slivers' => ['sliver removed', 'slivers removed'], 'doubled' => ['doubled face removed', 'doubled faces removed'],
        'scraps' => ['loose face removed', 'loose faces removed'], 'inner' => ['inner face removed', 'inner faces removed'],
        'turned' => ['face turned', 'faces turned'], 'turn' => ['face turned', 'faces turned'],
        'rims_closed' => ['rim closed', 'rims closed'], 'close' => ['rim closed', 'rims closed'], 'faces_added' => ['face added', 'faces added'],
        'uncrossed' => ['body that crossed itself made solid', 'bodies that crossed themselves made solid'],
        'redrawn' => ['loose face replaced by a new surface around what all of them enclose', 'loose faces replaced by a new surface around what they enclose'],
    ];

    /**
     * @param  array<string, array<string, int>>  $mended  by piece
     * @param  list<string>  $fine  see Report
     */
    public function __construct(public readonly array $mended, array $fine)
    {
        parent::__construct(fine: $fine);
    }

    public function toArray(): array
    {
        return [...parent::toArray(), 'mended' => $this->mended];
    }

    /** @return list<string> of all pieces together: "3 rims closed" */
    public function said(): array
    {
        $sum = [];
        foreach ($this->mended as $did) {
            foreach ($did as $what => $count) {
                $sum[$what] = ($sum[$what] ?? 0) + $count;
            }
        }
        $said = [];
        foreach ($sum as $what => $count) {
            if ($count > 0) {
                $said[] = $count.' '.(self::WORDS[$what] ?? [$what, $what])[$count === 1 ? 0 : 1];
            }
        }

        return $said;
    }
}
