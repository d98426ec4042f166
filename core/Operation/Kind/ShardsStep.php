<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cells\CellsBlade;
use Isotome\Cells\Sites;
use Isotome\Schema\Schema;

/** Shards round places by chance: anywhere, or evenly spaced. */
final class ShardsStep extends CellsStep
{
    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['cells'], 'blade.by' => ['uniform', 'even']];
    }

    public static function schema(): array
    {
        return self::withBlade('Shards round places by chance', ['uniform', 'even'], [
            'count' => Schema::whole('About so many pieces', 2, Sites::MOST, null, 'give 2 to '.Sites::MOST), 'seed' => Schema::seed(), ...Stretch::schema(),
        ], ['count']);
    }

    protected function cellsOf(array $blade, string $at): CellsBlade
    {
        /** @var array{by: string, count: int, seed: int} $blade */
        [$along, $times] = Stretch::of($blade);

        return new CellsBlade($blade['by'], $blade['count'], $blade['seed'], along: $along, stretch: $times);
    }
}
