<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cells\Blocks;
use Isotome\Cells\CellsBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Schema\Schema;

/** Blocks as a wall is built, by their number or by their size. */
final class BlocksStep extends CellsStep
{
    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['cells'], 'blade.by' => ['blocks']];
    }

    public static function schema(): array
    {
        return self::withBlade('Blocks, as a wall is built', ['blocks'], [
            'count' => Schema::list('So many along each axis', Schema::whole('', 1, Blocks::MOST, null, 'give a whole number from 1 to '.Blocks::MOST), 3, 3, 'give three whole numbers, [x, y, z]'),
            'size' => Schema::place('Their size, instead of the number'),
            'turned' => Schema::triple('Degrees about the axes x, y and z, one after the other', [0.0, 0.0, 0.0]),
            'brick' => Schema::yesNo('Every second row is moved by half a block', false), 'wander' => Wandering::share(), 'seed' => Schema::seed(),
        ], []);
    }

    protected function cellsOf(array $blade, string $at): CellsBlade
    {
        /** @var array{count?: array{int, int, int}, size?: array{float, float, float}, turned: array{float, float, float}, brick: bool, wander: float, seed: int} $blade */
        if (isset($blade['count']) === isset($blade['size'])) {
            throw new BadRecipe("$at has ".(isset($blade['count']) ? 'both count and size' : 'neither count nor size').'; give one of them, three numbers each.');
        }

        return new CellsBlade('blocks', seed: $blade['seed'], blocks: $blade['count'] ?? null, size: $blade['size'] ?? null, turned: $blade['turned'], brick: $blade['brick'], wander: $blade['wander']);
    }
}
