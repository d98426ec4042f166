<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cells\CellsBlade;
use Isotome\Schema\Schema;

/** Rings about an axis, divided into sectors and layers. */
final class RingsStep extends CellsStep
{
    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['cells'], 'blade.by' => ['rings']];
    }

    public static function schema(): array
    {
        return self::withBlade('Rings about an axis, with sectors and layers', ['rings'], [
            'through' => Schema::place('A place on the axis; the middle of the piece when it is left out'), 'axis' => Schema::triple('Direction of the axis', [0.0, 0.0, 1.0]),
            'rings' => Schema::whole('Rings', 1, 500, 1, 'give 1 to 500'), 'sectors' => Schema::whole('Sectors', 1, 360, 1, 'give 1 to 360'), 'layers' => Schema::whole('Layers', 1, 500, 1, 'give 1 to 500'),
            'wander' => Wandering::share(), 'seed' => Schema::seed(),
        ], []);
    }

    protected function cellsOf(array $blade, string $at): CellsBlade
    {
        /** @var array{through?: array{float, float, float}, axis: array{float, float, float}, rings: int, sectors: int, layers: int, wander: float, seed: int} $blade */
        return new CellsBlade(
            'rings', seed: $blade['seed'], wander: $blade['wander'], through: $blade['through'] ?? null, axis: $blade['axis'], rings: $blade['rings'], sectors: $blade['sectors'], layers: $blade['layers'],
        );
    }
}
