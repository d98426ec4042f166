<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\Outcome;
use Isotome\Cut\SeriesCut;
use Isotome\Operation\Piece;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** Cuts with a series of parallel flat blades (Isotome\Cut\SeriesCut). */
final class SeriesStep extends StopsStep
{
    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['series'], 'blade.wander' => false, 'grain' => false];
    }

    public static function group(): string
    {
        return 'blade';
    }

    public static function schema(): array
    {
        return ['title' => 'Cuts with a series of parallel blades', ...Schema::object(['do' => Schema::word('cut'), 'blade' => Stops::schema(), ...BladeSettings::schema()], ['do', 'blade'])];
    }

    public function keepsPlaces(): bool
    {
        return $this->blade()->catch <= 0.0;
    }

    protected function cut(Piece $piece, Work $work): ?Outcome
    {
        return SeriesCut::of($piece->mesh, $this->series()->planes($piece->mesh), $this->blade(), $work->number, $work->closure());
    }
}
