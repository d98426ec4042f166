<?php

declare(strict_types=1);

namespace Tests\Support;

use Isotome\Mesh\Together;
use Isotome\Operation\Applied;
use Isotome\Operation\Given;
use Isotome\Operation\Piece;
use Isotome\Operation\Report;
use Isotome\Operation\Step;
use Isotome\Operation\VolumeAfter;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** A kind of step that only tests know: several pieces become one, side by side. It shows what a step of several parents does to everything around it. */
final class JoinStep extends Step
{
    public static function form(): array
    {
        return ['do' => ['join']];
    }

    public static function group(): string
    {
        return 'join';
    }

    public static function schema(): array
    {
        return ['title' => 'Several pieces become one', ...Schema::object(['do' => Schema::word('join'), 'of' => Schema::of()], ['do'])];
    }

    public function apply(array $pieces, Work $work): Applied
    {
        if (count($pieces) < 2) {
            return new Applied([], [], new Report);
        }
        $whole = Together::of(array_map(static fn (Piece $piece) => $piece->mesh, $pieces));

        return new Applied(array_map(static fn (Piece $piece): string => $piece->name, $pieces), [Given::madeOf($pieces, $whole, $pieces[0]->name.'-U')], new Report);
    }

    public function closes(): bool
    {
        return true;
    }

    public function refusal(array $pieces, string $at): string
    {
        return "$at joins one piece with nothing; name two or more.";
    }

    public function what(): string
    {
        return 'the joining';
    }

    public function doing(): string
    {
        return 'joining';
    }

    public function volume(): VolumeAfter
    {
        return VolumeAfter::Same;
    }
}
