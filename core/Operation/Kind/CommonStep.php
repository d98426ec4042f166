<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Closure;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Applied;
use Isotome\Operation\Done;
use Isotome\Operation\Given;
use Isotome\Operation\Names;
use Isotome\Operation\Piece;
use Isotome\Operation\Report;
use Isotome\Operation\Words;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;
use Isotome\Solid\Combined;
use Isotome\Solid\FileProof;

/** Keeps of several pieces what is in all of them. */
final class CommonStep extends CombiningStep
{
    public static function form(): array
    {
        return ['do' => ['common']];
    }

    public static function schema(): array
    {
        return ['title' => 'What several pieces have in common', ...Schema::object(['do' => Schema::word('common'), 'of' => Schema::of()], ['do'])];
    }

    public function apply(array $pieces, Work $work): Applied
    {
        OpenPieces::refuse($pieces, $work->at);
        $bodies = count($pieces) < 2 ? [] : Combined::common(array_map(static fn (Piece $piece): Mesh => $piece->mesh, $pieces), $work->closure());
        $gave = [];
        foreach ($bodies as $n => [$body]) {
            $gave[] = Given::madeOf($pieces, FileProof::of($body, $work->closure()), $n === 0 ? $pieces[0]->name.'-I' : Names::child($pieces[0]->name.'-I', $n));
        }

        return new Applied($gave === [] ? [] : array_map(static fn (Piece $piece): string => $piece->name, $pieces), $gave, new Report(fine: Given::fine($gave)));
    }

    protected function outcome(array $pieces): Closure
    {
        return static fn (array $windings): bool => min(1, ...$windings) > 0;
    }

    public function refusal(array $pieces, string $at): string
    {
        return count($pieces) === 1 ? "$at compares {$pieces[0]->name} with nothing; take two pieces or more." : "$at: no place is in all of the ".count($pieces).' pieces; move them until they overlap.';
    }

    public function what(): string
    {
        return 'the overlap';
    }

    public function doing(): string
    {
        return 'finding what is common';
    }

    public function said(Done $done): string
    {
        return 'Kept what is common to '.count($done->took).' pieces: '.Words::pieces([$done]);
    }
}
