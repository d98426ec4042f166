<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\Keep;
use Isotome\Drawn\DrawnBlade;
use Isotome\Drawn\DrawnScore;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Applied;
use Isotome\Operation\Done;
use Isotome\Operation\Given;
use Isotome\Operation\Report;
use Isotome\Operation\Step;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** Lays a drawn line into the skin, where it is seen or all round, and divides nothing (Isotome\Drawn\DrawnScore). */
final class DrawnScoreStep extends Step implements AlongLines
{
    private DrawnBlade $drawn;

    public static function form(): array
    {
        return ['do' => ['score'], 'blade.kind' => ['drawn']];
    }

    public static function group(): string
    {
        return 'drawn';
    }

    public static function schema(): array
    {
        return ['title' => 'Score only: the edges of a drawn line, nothing is divided', ...Schema::object([
            'do' => Schema::word('score'), 'blade' => DrawnStep::line(), 'of' => Schema::of(),
            'seen' => Schema::yesNo('Only where the line is seen by who draws; else all round', true),
        ], ['do', 'blade'])];
    }

    protected function accept(string $at): void
    {
        /** @var array{blade: array<string, mixed>} $settings */
        $settings = $this->settings;
        try {
            $this->drawn = DrawnStep::drawnOf($settings['blade'], 0.0, Keep::Both);
            $this->drawn->drawn();
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at.blade: ".$refusal->getMessage());
        }
    }

    public function drawn(): DrawnBlade
    {
        return $this->drawn;
    }

    public function apply(array $pieces, Work $work): Applied
    {
        $took = $gave = [];
        foreach ($pieces as $n => $piece) {
            $scored = DrawnScore::of($piece->mesh, $this->drawn, $this->settings['seen'] === true, $work->part($n, count($pieces))->closure());
            if ($scored !== null) {
                $took[] = $piece->name;
                $gave[] = Given::inPlace($piece, $scored);
            }
        }

        return new Applied($took, $gave, new Report);
    }

    public function closes(): bool
    {
        return true;
    }

    public function refusal(array $pieces, string $at): string
    {
        return "The line of $at scores nothing: it meets none of the pieces, or it ends within them; let it begin and end outside, or close on itself.";
    }

    public function what(): string
    {
        return 'the score';
    }

    public function doing(): string
    {
        return 'scoring';
    }

    public function said(Done $done): string
    {
        return count($done->took) === 1 ? 'Scored 1 piece: the line\'s edges are in its mesh now.' : 'Scored '.count($done->took).' pieces: the line\'s edges are in their meshes now.';
    }
}
