<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\Outcome;
use Isotome\Cut\Series;
use Isotome\Cut\SeriesCut;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Plane;
use Isotome\Operation\Piece;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** Cuts with a series of parallel flat blades (Isotome\Cut\SeriesCut). */
final class SeriesStep extends BladeStep
{
    private FlatBlade $blade;

    private Series $series;

    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['series'], 'blade.wander' => false];
    }

    public static function group(): string
    {
        return 'blade';
    }

    public static function schema(): array
    {
        return ['title' => 'Cuts with a series of parallel blades', ...Schema::object(['do' => Schema::word('cut'), 'blade' => Stops::schema(), ...BladeSettings::schema()], ['do', 'blade'])];
    }

    protected function accept(string $at): void
    {
        /** @var array{facing: array{float, float, float}} $blade */
        $blade = $this->settings['blade'];
        $this->series = Stops::series($blade, "$at.blade");
        $this->blade = BladeSettings::blade($this->settings, Plane::at($this->series->stops[0] ?? 0.0, $blade['facing']));
        if ($this->blade->kerf >= $this->series->gap()) {
            throw new BadRecipe(sprintf('%s.kerf is %g mm and the stops are only %g mm apart; make it smaller.', $at, $this->blade->kerf, $this->series->gap()));
        }
    }

    public function blade(): FlatBlade
    {
        return $this->blade;
    }

    public function series(): Series
    {
        return $this->series;
    }

    protected function cut(Piece $piece, Work $work): ?Outcome
    {
        return SeriesCut::of($piece->mesh, $this->series->planes($piece->mesh), $this->blade, $work->number, $work->closure());
    }

    public function refusal(array $pieces, string $at): string
    {
        return self::missed($pieces, $this->blade->plane, 'first stop', $at);
    }
}
