<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cells\CellsBlade;
use Isotome\Cells\Sites;
use Isotome\Schema\Schema;

/** Shards that are small round picked places and larger away from them. */
final class GatheredStep extends CellsStep
{
    private const MOST_PLACES = 100;

    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['cells'], 'blade.by' => ['gathered']];
    }

    public static function schema(): array
    {
        return self::withBlade('Shards that gather round places', ['gathered'], [
            'count' => Schema::whole('About so many pieces', 2, Sites::MOST, null, 'give 2 to '.Sites::MOST), 'seed' => Schema::seed(),
            'places' => Schema::length(Schema::list('The places', Schema::triple(''), 1, self::MOST_PLACES, 'give 1 to '.self::MOST_PLACES.' places, [[x, y, z], …]')),
            'falloff' => Schema::length(Schema::number('Most pieces gather within this distance of a place', null, 'give the distance within which most pieces gather', null, 0.0)),
            ...Stretch::schema(),
        ], ['count', 'places', 'falloff']);
    }

    protected function cellsOf(array $blade, string $at): CellsBlade
    {
        /** @var array{count: int, seed: int, places: list<array{float, float, float}>, falloff: float} $blade */
        [$along, $times] = Stretch::of($blade);

        return new CellsBlade('gathered', $blade['count'], $blade['seed'], $blade['places'], $blade['falloff'], along: $along, stretch: $times);
    }
}
