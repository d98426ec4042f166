<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Outcome;
use Isotome\Operation\Piece;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** A cut with one flat blade (Isotome\Cut\FlatCut). */
final class FlatStep extends BladeStep
{
    private FlatBlade $blade;

    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['flat'], 'faces' => false, 'grain' => false];
    }

    public static function group(): string
    {
        return 'blade';
    }

    public static function schema(): array
    {
        return ['title' => 'A cut with one flat blade', ...Schema::object(['do' => Schema::word('cut'), 'blade' => BladeSettings::flat(), ...BladeSettings::schema()], ['do', 'blade'])];
    }

    protected function accept(string $at): void
    {
        $this->blade = BladeSettings::blade($this->settings, BladeSettings::plane($this->settings, $at));
    }

    public function blade(): FlatBlade
    {
        return $this->blade;
    }

    public function keepsPlaces(): bool
    {
        return $this->blade->catch <= 0.0;
    }

    protected function cut(Piece $piece, Work $work): ?Outcome
    {
        return FlatCut::of($piece->mesh, $this->blade, $work->number);
    }
}
