<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\Keep;
use Isotome\Drawn\BentBlade;
use Isotome\Drawn\DrawnBlade;
use Isotome\Schema\Schema;

/** A cut with a flat blade whose edge has corners, so that it goes round things. */
final class BentStep extends DrawingStep
{
    private const MOST_CORNERS = 500;

    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['bent']];
    }

    public static function schema(): array
    {
        $corner = ['title' => '', 'type' => 'array', 'items' => Schema::number(''), 'minItems' => 2, 'maxItems' => 2, 'x-give' => 'give two numbers, [across, height]'];

        return self::withBlade('A cut with a blade that is bent', Schema::object([
            'kind' => Schema::word('bent'),
            'through' => Schema::place('A place on the flat blade: the profile\'s 0, 0'),
            'facing' => Schema::triple('The facing of the flat blade, the way that heights are counted'),
            'along' => Schema::triple('The direction in which it runs straight, square to the facing'),
            'profile' => Schema::length(Schema::list('Its corners: across (to the right, looking along it with the facing up) and height. Beyond its ends it runs straight on', $corner, 2, self::MOST_CORNERS, 'give 2 to '.self::MOST_CORNERS.' corners, [[across, height], …]')),
            'smooth' => Schema::yesNo('Whether it is a smooth curve through its corners', false),
        ], ['kind', 'through', 'facing', 'along', 'profile']));
    }

    protected function bladeOf(array $blade, float $kerf, Keep $keep): DrawnBlade
    {
        /** @var array{through: array{float, float, float}, facing: array{float, float, float}, along: array{float, float, float}, profile: list<array{float, float}>, smooth: bool} $blade */
        return BentBlade::of($blade['through'], $blade['facing'], $blade['along'], $blade['profile'], $blade['smooth'], $kerf, $keep);
    }
}
