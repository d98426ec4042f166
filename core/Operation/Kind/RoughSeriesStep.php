<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cells\Grain;
use Isotome\Cut\KerfSide;
use Isotome\Cut\Outcome;
use Isotome\Cut\Series;
use Isotome\Drawn\RoughSeriesCut;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Plane;
use Isotome\Operation\Piece;
use Isotome\Operation\VolumeAfter;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** Cuts with a series of rough blades (Isotome\Drawn\RoughSeriesCut); all pieces stay. */
final class RoughSeriesStep extends CuttingStep
{
    private Series $series;

    private Grain $grain;

    private Plane $first;

    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['series'], 'blade.wander' => false, 'grain' => true];
    }

    public static function group(): string
    {
        return 'blade';
    }

    public static function schema(): array
    {
        return ['title' => 'Cuts with a series of rough blades', ...Schema::object([
            'do' => Schema::word('cut'), 'blade' => Stops::schema(), 'grain' => GrainSettings::schema(), 'of' => Schema::of(),
            ...BladeSettings::kerf(),
            'kerf_side' => Schema::oneOf('The side of the blade that the kerf is taken from', KerfSide::class, 'centre'),
        ], ['do', 'blade', 'grain'])];
    }

    protected function accept(string $at): void
    {
        /** @var array{blade: array<string, mixed>, kerf: float} $settings */
        $settings = $this->settings;
        $this->series = Stops::series($settings['blade'], "$at.blade");
        /** @var array{float, float, float} $facing */
        $facing = $settings['blade']['facing'];
        $this->first = Plane::at($this->series->stops[0] ?? 0.0, $facing);
        $this->grain = GrainSettings::grain($this->settings, $at);
        $room = $this->series->gap() - $settings['kerf'];
        if (2 * $this->grain->reach() >= $room) {
            throw new BadRecipe(sprintf('%s.grain: neighbouring blades would cross, as the stops are only %g mm apart; with heights of less than %.3g mm together they do not.', $at, $this->series->gap(), max(0.0, $room / 2)));
        }
    }

    protected function cut(Piece $piece, Work $work): ?Outcome
    {
        OpenPieces::refuse([$piece], $work->at);
        /** @var array{kerf: float, kerf_side: string} $settings */
        $settings = $this->settings;

        return RoughSeriesCut::of($piece->mesh, $this->series->planes($piece->mesh), $this->grain, $settings['kerf'], KerfSide::from($settings['kerf_side']), $work->number, $work->closure());
    }

    public function closes(): bool
    {
        return true;
    }

    public function volume(): VolumeAfter
    {
        return $this->settings['kerf'] > 0.0 ? VolumeAfter::LessKerf : VolumeAfter::Same;
    }

    public function refusal(array $pieces, string $at): string
    {
        return BladeStep::missed($pieces, $this->first, 'first stop', $at);
    }
}
