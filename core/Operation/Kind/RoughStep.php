<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\Keep;
use Isotome\Cut\KerfSide;
use Isotome\Cut\Outcome;
use Isotome\Drawn\DrawnCut;
use Isotome\Drawn\RoughBlade;
use Isotome\Operation\Piece;
use Isotome\Operation\VolumeAfter;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** A cut with a flat blade that has a grain, like broken stone (Isotome\Drawn\RoughBlade). */
final class RoughStep extends CuttingStep
{
    private RoughBlade $blade;

    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['flat'], 'grain' => true];
    }

    public static function group(): string
    {
        return 'blade';
    }

    public static function schema(): array
    {
        return ['title' => 'A cut with a rough blade', ...Schema::object([
            'do' => Schema::word('cut'), 'blade' => BladeSettings::flat(),
            'grain' => GrainSettings::schema(),
            'of' => Schema::of(),
            'keep' => Schema::oneOf('What stays: both sides, or one of them', Side::class, 'both'),
            ...BladeSettings::kerf(),
            'kerf_side' => Schema::oneOf('The side of the blade that the kerf is taken from', KerfSide::class, 'centre'),
        ], ['do', 'blade', 'grain'])];
    }

    protected function accept(string $at): void
    {
        /** @var array{keep: string, kerf: float, kerf_side: string} $settings */
        $settings = $this->settings;
        $this->blade = new RoughBlade(
            BladeSettings::plane($this->settings, $at), GrainSettings::grain($this->settings, $at), $settings['kerf'], KerfSide::from($settings['kerf_side']), Keep::from($settings['keep']),
        );
    }

    protected function cut(Piece $piece, Work $work): ?Outcome
    {
        OpenPieces::refuse([$piece], $work->at);

        return DrawnCut::of($piece->mesh, $this->blade, $work->number, $work->closure());
    }

    public function closes(): bool
    {
        return true;
    }

    public function volume(): VolumeAfter
    {
        return match (true) {
            $this->blade->keep !== Keep::Both => VolumeAfter::Other,
            $this->blade->kerf > 0.0 => VolumeAfter::LessKerf,
            default => VolumeAfter::Same,
        };
    }

    public function refusal(array $pieces, string $at): string
    {
        return BladeStep::missed($pieces, $this->blade->plane, 'blade', $at);
    }
}
