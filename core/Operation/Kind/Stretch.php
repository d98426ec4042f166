<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Schema\Schema;

/** Cells that are longer along one direction, as a setting. */
final class Stretch
{
    /** @return array<string, array<string, mixed>> */
    public static function schema(): array
    {
        return ['stretch' => ['title' => 'Cells are so many times longer along a direction', ...Schema::object(
            ['along' => Schema::triple('The direction'), 'times' => Schema::number('How many times', null, 'give 0.05 to 50', 0.05, null, 50.0)], ['along', 'times'], 'write {"along": [x, y, z], "times": 3}',
        )]];
    }

    /**
     * @param  array<string, mixed>  $blade
     * @return array{array{float, float, float}|null, float} along, times
     */
    public static function of(array $blade): array
    {
        /** @var array{along: array{float, float, float}, times: float}|null $stretch */
        $stretch = $blade['stretch'] ?? null;

        return $stretch === null ? [null, 1.0] : [$stretch['along'], $stretch['times']];
    }
}
