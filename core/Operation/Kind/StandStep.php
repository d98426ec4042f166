<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Turn;
use Isotome\Schema\Schema;

/** The shortest turn that brings a direction of the pieces to another: a face to the ground, the scan's up to ours (Isotome\Geometry\Turn). */
final class StandStep extends TurningStep
{
    private Turn $turn;

    public static function form(): array
    {
        return ['do' => ['turn'], 'face' => true];
    }

    public static function schema(): array
    {
        return ['title' => 'A turn that brings one direction to another', ...Schema::object([
            'do' => Schema::word('turn'), 'of' => Schema::of(), 'face' => Schema::triple('The direction that is brought'), 'towards' => Schema::triple('Where it is brought', [0.0, 0.0, -1.0]),
            'through' => Schema::placeOr('centre', 'The place that stays; centre is the middle of the box around all that is turned'),
        ], ['do', 'face'])];
    }

    protected function accept(string $at): void
    {
        /** @var array{face: array{float, float, float}, towards: array{float, float, float}} $settings */
        $settings = $this->settings;
        try {
            $this->turn = Turn::between($settings['face'], $settings['towards']);
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at: ".$refusal->getMessage());
        }
    }

    protected function turn(): Turn
    {
        return $this->turn;
    }
}
