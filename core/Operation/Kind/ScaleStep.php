<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadRecipe;
use Isotome\Operation\Done;
use Isotome\Operation\VolumeAfter;
use Isotome\Operation\Words;
use Isotome\Schema\Schema;

/** Makes pieces larger or smaller, alike or along each axis by itself. */
final class ScaleStep extends PlacingStep
{
    private const LEAST = 1e-4;

    private const MOST = 1e4;

    public static function form(): array
    {
        return ['do' => ['scale']];
    }

    public static function schema(): array
    {
        return ['title' => 'Pieces made larger or smaller', ...Schema::object([
            'do' => Schema::word('scale'), 'of' => Schema::of(), 'times' => Schema::triple('Factors along X, Y and Z, from 0.0001 to 10000'),
            'through' => Schema::placeOr('centre', 'The place that stays; centre is the middle of the box around all that is scaled'),
        ], ['do', 'times'])];
    }

    protected function accept(string $at): void
    {
        if (min($this->times()) < self::LEAST || max($this->times()) > self::MOST) {
            throw new BadRecipe("$at.times holds a factor that is not from 0.0001 to 10000; give three of these, or mirror what is to be turned over.");
        }
    }

    /** @return array{float, float, float} */
    private function times(): array
    {
        /** @var array{float, float, float} */
        return $this->settings['times'];
    }

    public function rows(): array
    {
        [$x, $y, $z] = $this->times();

        return [[$x, 0.0, 0.0], [0.0, $y, 0.0], [0.0, 0.0, $z]];
    }

    protected function map(array $through): array
    {
        [$x, $y, $z] = $this->times();

        return [$x, 0.0, 0.0, 0.0, $y, 0.0, 0.0, 0.0, $z, $through[0] * (1.0 - $x), $through[1] * (1.0 - $y), $through[2] * (1.0 - $z)];
    }

    protected function placed(array $xyz, array $through): array
    {
        [$x, $y, $z] = $this->times();
        [$cx, $cy, $cz] = $through;
        $placed = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $placed[] = $cx + ($xyz[$i] - $cx) * $x;
            $placed[] = $cy + ($xyz[$i + 1] - $cy) * $y;
            $placed[] = $cz + ($xyz[$i + 2] - $cz) * $z;
        }

        return $placed;
    }

    public function volume(): VolumeAfter
    {
        return VolumeAfter::Other;
    }

    public function what(): string
    {
        return 'the scaling';
    }

    public function doing(): string
    {
        return 'scaling';
    }

    public function said(Done $done): string
    {
        return 'Scaled: '.Words::pieces([$done]);
    }
}
