<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Operation\Done;
use Isotome\Operation\Words;
use Isotome\Schema\Schema;

/** Moves pieces along; each coordinate is rounded once. */
final class MoveStep extends PlacingStep
{
    public static function form(): array
    {
        return ['do' => ['move']];
    }

    public static function schema(): array
    {
        return ['title' => 'Pieces moved along', ...Schema::object([
            'do' => Schema::word('move'), 'of' => Schema::of(), 'by' => Schema::place('How far along X, Y and Z'),
        ], ['do', 'by'])];
    }

    /** @return array{float, float, float} */
    private function by(): array
    {
        /** @var array{float, float, float} */
        return $this->settings['by'];
    }

    public function rows(): array
    {
        return [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]];
    }

    protected function map(array $through): array
    {
        return [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, ...$this->by()];
    }

    protected function placed(array $xyz, array $through): array
    {
        [$x, $y, $z] = $this->by();
        $moved = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $moved[] = $xyz[$i] + $x;
            $moved[] = $xyz[$i + 1] + $y;
            $moved[] = $xyz[$i + 2] + $z;
        }

        return $moved;
    }

    public function what(): string
    {
        return 'the move';
    }

    public function doing(): string
    {
        return 'moving';
    }

    public function said(Done $done): string
    {
        return 'Moved: '.Words::pieces([$done]);
    }
}
