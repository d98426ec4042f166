<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cells\Shatter;
use Isotome\Cut\Keep;
use Isotome\Cut\KerfSide;
use Isotome\Cut\Outcome;
use Isotome\Drawn\DrawnCut;
use Isotome\Drawn\Grain;
use Isotome\Drawn\RoughBlade;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
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
        $heightAndSize = static fn (string $of): array => [
            'height' => Schema::length(Schema::number("How far $of departs from the blade at most, to either side", null, 'give the height, more than 0', null, 0.0)),
            'size' => Schema::length(Schema::number("How far apart the hills of $of are", null, 'give the size, more than 0', null, 0.0)),
        ];

        return ['title' => 'A cut with a rough blade', ...Schema::object([
            'do' => Schema::word('cut'), 'blade' => BladeSettings::flat(),
            'grain' => ['title' => 'The roughness of its surface', ...Schema::object([
                ...$heightAndSize('the grain'),
                'finer' => ['title' => 'A second, finer grain on the first', ...Schema::object($heightAndSize('the finer grain'), ['height', 'size'], 'write {"height": 0.3, "size": 1.5}')],
                'edge_mm' => Schema::number('Edge length of the surface in millimetres; a quarter of the size when it is left out', null, 'give the edge length of the surface in millimetres, or leave it out', null, 0.0),
                'seed' => Schema::seed(),
            ], ['height', 'size'], 'write {"height": 1.5, "size": 8}')],
            'of' => Schema::of(),
            'keep' => Schema::oneOf('What stays: both sides, or one of them', Side::class, 'both'),
            ...BladeSettings::kerf(),
            'kerf_side' => Schema::oneOf('The side of the blade that the kerf is taken from', KerfSide::class, 'centre'),
        ], ['do', 'blade', 'grain'])];
    }

    protected function accept(string $at): void
    {
        /** @var array{grain: array{height: float, size: float, finer?: array{height: float, size: float}, edge_mm?: float, seed: int}, keep: string, kerf: float, kerf_side: string} $settings */
        $settings = $this->settings;
        $grain = $settings['grain'];
        $plane = BladeSettings::plane($this->settings, $at);
        try {
            $this->blade = new RoughBlade(
                $plane, new Grain($grain['height'], $grain['size'], $grain['finer']['height'] ?? 0.0, $grain['finer']['size'] ?? 0.0, $grain['edge_mm'] ?? null, $grain['seed']),
                $settings['kerf'], KerfSide::from($settings['kerf_side']), Keep::from($settings['keep']),
            );
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at.grain: ".$refusal->getMessage());
        }
    }

    protected function cut(Piece $piece, Work $work): ?Outcome
    {
        if ($piece->watertight !== true) {
            Shatter::refuseOpen($piece->mesh);
        }

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
