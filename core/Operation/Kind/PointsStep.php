<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cells\CellsBlade;
use Isotome\Cells\Sites;
use Isotome\Schema\Schema;

/** Shards round given points. */
final class PointsStep extends CellsStep
{
    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['cells'], 'blade.by' => ['points']];
    }

    public static function schema(): array
    {
        return self::withBlade('Shards round given points', ['points'], [
            'points' => Schema::length(Schema::list('The points', Schema::triple(''), 2, Sites::MOST, 'give 2 to '.Sites::MOST.' places, [[x, y, z], …]')), ...Stretch::schema(),
        ], ['points']);
    }

    protected function cellsOf(array $blade, string $at): CellsBlade
    {
        /** @var array{points: list<array{float, float, float}>} $blade */
        [$along, $times] = Stretch::of($blade);

        return new CellsBlade('points', points: array_merge(...$blade['points']), along: $along, stretch: $times);
    }
}
