<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadBlade;
use Isotome\Join\Marks;
use Isotome\Operation\Applied;
use Isotome\Operation\Done;
use Isotome\Operation\Piece;
use Isotome\Operation\Report;
use Isotome\Operation\Words;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** Numbers and arrows on the faces that pieces share, the same on both neighbours (Isotome\Join\Marks). */
final class MarkStep extends JoiningStep
{
    public static function form(): array
    {
        return ['do' => ['mark']];
    }

    public static function schema(): array
    {
        return ['title' => 'Marks on common faces', ...Schema::object([
            'do' => Schema::word('mark'), ...self::which(),
            'first' => Schema::whole('The first number; every further face that has room takes the next one', 1, 9999, 1, 'give a whole number from 1 to 9999'),
            'arrow' => Schema::yesNo('Whether an arrow stands beside the number where there is room, which points the same way on both pieces', true),
            'raised' => Schema::yesNo('Whether it is raised on the first piece, with room in the second; else it is engraved in both', false),
            'size_mm' => Schema::number('Height of the signs, in millimetres; by the size of each face, 4 to 10, when it is left out', null, 'give a height in millimetres, 1 or more', 1.0, null, 1000.0),
            'depth_mm' => Schema::number('How deep they are, or how high, in millimetres', 0.6, 'give a depth in millimetres, above 0', null, 0.0, 100.0),
            'clearance_mm' => Schema::amount('Around what is raised, in millimetres', 0.3, 'a clearance in millimetres, 0 or more', 10.0),
            'rim_mm' => Schema::number('Least distance to the rim of the face, in millimetres', 1.0, 'give a length in millimetres, 0.2 or more', 0.2, null, 1000.0),
            'wall_mm' => Schema::number('Least material behind the mark, in millimetres', 1.2, 'give a length in millimetres, 0.2 or more', 0.2, null, 1000.0),
        ], ['do'])];
    }

    /**
     * Where the marks will be.
     *
     * @param  non-empty-list<Piece>  $pieces
     * @return non-empty-list<array{int, int, Marks}> by pair of pieces
     *
     * @throws BadBlade when there is room for none
     */
    private function planned(array $pieces, Work $work): array
    {
        /** @var array{first: int, arrow: bool, raised: bool, size_mm?: float, depth_mm: float, clearance_mm: float, rim_mm: float, wall_mm: float} $set */
        $set = $this->settings;
        $joints = $this->joints($pieces, $work->part(0, 2));
        $planned = [];
        $next = $set['first'];
        foreach ($joints as $n => [$first, $second, $faces]) {
            foreach ($faces as $face) {
                // The number alone goes where an arrow has no room; faces without a mark take no number.
                foreach ($set['arrow'] ? ['^', ''] : [''] as $arrow) {
                    $marks = Marks::on($face, $pieces[$first]->mesh, $pieces[$second]->mesh, $next.$arrow, $set['size_mm'] ?? null, $set['depth_mm'], $set['rim_mm'], $set['wall_mm'], $set['raised'] ? $set['clearance_mm'] : 0.0);
                    if ($marks->why === null) {
                        $next++;
                        break;
                    }
                }
                $planned[] = [$first, $second, $marks];
            }
            $work->part(1, 2)->report(($n + 1) / count($joints));
        }
        if (array_filter($planned, static fn (array $one): bool => $one[2]->why === null) === []) {
            [$first, $second, $marks] = $planned[0];
            throw new BadBlade("{$work->at}: between {$pieces[$first]->name} and {$pieces[$second]->name} there is no room for a mark: {$marks->why}; give a smaller size, or leave the arrow out.");
        }

        /** @var non-empty-list<array{int, int, Marks}> */
        return $planned;
    }

    public function foreseen(array $pieces, Work $work): array
    {
        $faces = $lines = [];
        foreach ($this->planned($pieces, $work) as [$first, $second, $marks]) {
            $faces[] = MarksReport::face([$pieces[$first]->name, $pieces[$second]->name, $marks]);
            array_push($lines, ...$marks->lines());
        }

        return [$faces, $lines];
    }

    public function apply(array $pieces, Work $work): Applied
    {
        /** @var array{raised: bool, depth_mm: float, clearance_mm: float} $set */
        $set = $this->settings;
        $tools = $told = [];
        foreach ($this->planned($pieces, $work->part(0, 4)) as [$first, $second, $marks]) {
            $told[] = [$pieces[$first]->name, $pieces[$second]->name, $marks];
            if ($marks->why === null) {
                [$one, $two] = $marks->tools($pieces[$first]->mesh, $pieces[$second]->mesh, $set['depth_mm'], $set['raised'], $set['clearance_mm']);
                $tools[$first] = [...$tools[$first] ?? [], ...$one];
                $tools[$second] = [...$tools[$second] ?? [], ...$two];
            }
        }
        [$took, $gave] = $this->carved($pieces, $tools, new Work($work->number, $work->at, static fn (float $share) => $work->report(0.25 + 0.75 * $share)));

        return new Applied($took, $gave, new MarksReport($told));
    }

    public function more(Report $report): string
    {
        return $report instanceof MarksReport ? $report->said() : '';
    }

    public function what(): string
    {
        return 'the marks';
    }

    public function doing(): string
    {
        return 'marking';
    }

    public function said(Done $done): string
    {
        return 'Marked: '.Words::pieces([$done]);
    }
}
