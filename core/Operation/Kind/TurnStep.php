<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Turn;
use Isotome\Schema\Schema;

/** A turn about an axis by so many degrees (Isotome\Geometry\Turn). */
final class TurnStep extends TurningStep
{
    private Turn $turn;

    public static function form(): array
    {
        return ['do' => ['turn'], 'face' => false];
    }

    public static function schema(): array
    {
        return ['title' => 'A turn about an axis', ...Schema::object([
            'do' => Schema::word('turn'), 'of' => Schema::of(), 'about' => Schema::triple('Direction of the axis, of any length'),
            'degrees' => Schema::number('Degrees, counter-clockwise seen from where the axis points'), 'through' => Schema::placeOr('centre', 'A place on the axis; centre is the middle of the box around all that is turned'),
        ], ['do', 'about', 'degrees'])];
    }

    protected function accept(string $at): void
    {
        /** @var array{about: array{float, float, float}, degrees: float} $settings */
        $settings = $this->settings;
        try {
            $this->turn = Turn::about($settings['about'], $settings['degrees']);
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at.about: ".$refusal->getMessage());
        }
    }

    protected function turn(): Turn
    {
        return $this->turn;
    }
}
