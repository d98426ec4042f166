<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\Outcome;
use Isotome\Operation\Applied;
use Isotome\Operation\Given;
use Isotome\Operation\Piece;
use Isotome\Operation\Report;

/** Collects what cuts of several pieces gave, one outcome after the other. */
final class CutPieces
{
    /** @var list<string> */
    private array $took = [];

    /** @var list<Given> */
    private array $gave = [];

    /** @var list<array{piece: string, points: int, length_mm: float, from: array{float, float, float}, to: array{float, float, float}}> */
    private array $unclosed = [];

    /** @var list<string> */
    private array $crossing = [];

    public function add(Piece $piece, Outcome $outcome): void
    {
        $this->took[] = $piece->name;
        foreach ($outcome->bodies as $body) {
            $this->gave[] = Given::partOf($piece, $body);
        }
        foreach ($outcome->unclosed as $path) {
            $this->unclosed[] = Report::outline($piece->name, $path);
        }
        if (! $outcome->sound) {
            $this->crossing[] = $piece->name;
        }
    }

    public function applied(): Applied
    {
        return new Applied($this->took, $this->gave, new Report($this->unclosed, $this->crossing));
    }
}
