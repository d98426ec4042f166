<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadBlade;
use Isotome\Mend\Widened;
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

/** Takes pieces out of others. What they leave is inside; they themselves are used up, or stay. */
final class SubtractStep extends ToolStep
{
    private const MOST_GAP = 1000.0;

    public static function form(): array
    {
        return ['do' => ['subtract']];
    }

    public static function schema(): array
    {
        return ['title' => 'Pieces taken out of others', ...Schema::object([
            'do' => Schema::word('subtract'), 'of' => Schema::of(),
            'with' => ['title' => 'The pieces that are taken out of the others, by name', ...array_diff_key(Schema::names(), ['title' => true])],
            'gap_mm' => Schema::amount('By how much they are widened all round before, in millimetres: a fit gap; in folds narrower than twice that they may fall short of it', 0.0, 'the gap in millimetres, 0 or more', self::MOST_GAP),
            'spend' => Schema::yesNo('Whether these are used up', true),
        ], ['do', 'with'])];
    }

    protected function with(): array
    {
        /** @var list<string> */
        return $this->settings['with'];
    }

    public function apply(array $pieces, Work $work): Applied
    {
        OpenPieces::refuse($pieces, $work->at);
        [$tools, $targets] = $this->apart($pieces);
        $isSpent = $this->settings['spend'] === true;
        $took = $gave = [];
        [$carving, $short] = $this->carving($tools, $work->part(0, 2));
        foreach ($tools === [] ? [] : $targets as $n => $target) {
            $part = $work->part(1, 2)->part($n, count($targets));
            $bodies = Combined::subtract([$target->mesh, ...$carving], $work->number, $part->closure());
            if (count($bodies) === 1 && $bodies[0][1] === [0] && $bodies[0][0]->triangleCount() === $target->mesh->triangleCount()) {
                continue;
            }
            if ($bodies === []) {
                throw new BadBlade("{$work->at}: nothing would be left of {$target->name}; do not name it in of, or move what is taken out.");
            }
            $took[] = $target->name;
            foreach ($bodies as $k => [$body]) {
                $body = FileProof::of($body, $part->closure());
                // What was used up lives again with what was made of it.
                $gave[] = $isSpent ? Given::madeOf([$target, ...$tools], $body, Names::child($target->name, $k)) : Given::partOf($target, $body);
            }
        }
        if ($gave !== [] && $isSpent) {
            array_push($took, ...array_map(static fn (Piece $tool): string => $tool->name, $tools));
        }

        return new Applied($took, $gave, new SubtractReport($short, Given::fine($gave)));
    }

    /**
     * @param  list<Piece>  $tools
     * @return array{list<Mesh>, int} as they carve, widened by the gap; and how many of their faces have less than the whole gap
     */
    private function carving(array $tools, Work $work): array
    {
        /** @var float $gap */
        $gap = $this->settings['gap_mm'];

        $carving = [];
        $short = 0;
        foreach ($tools as $n => $tool) {
            $widened = $gap > 0.0 ? Widened::of($tool->mesh, $gap, $work->part($n, count($tools))->closure()) : ['mesh' => $tool->mesh, 'stopped' => 0];
            $carving[] = $widened['mesh'];
            $short += $widened['stopped'];
        }

        return [$carving, $short];
    }

    protected function meshes(array $pieces, Work $work): array
    {
        $meshes = [];
        foreach ($pieces as $n => $piece) {
            $meshes[] = $this->isTool($piece->name) ? ($this->carving([$piece], $work->part($n, count($pieces)))[0][0] ?? $piece->mesh) : $piece->mesh;
        }

        return $meshes;
    }

    public function more(Report $report): string
    {
        return $report instanceof SubtractReport ? $report->said() : '';
    }

    protected function missing(): string
    {
        return 'to be taken out';
    }

    public function what(): string
    {
        return 'the subtracting';
    }

    public function doing(): string
    {
        return 'subtracting';
    }

    public function said(Done $done): string
    {
        return 'Subtracted: '.Words::pieces([$done]);
    }
}
