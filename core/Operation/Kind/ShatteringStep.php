<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cells\ShatterSettings;
use Isotome\Cut\Seal;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\VolumeAfter;
use Isotome\Schema\Schema;

/** What all cuts have in common that divide a body into many pieces at once: their settings beside the blade, and their words. */
abstract class ShatteringStep extends CuttingStep
{
    private ShatterSettings $shatter;

    public static function group(): string
    {
        return 'cells';
    }

    /**
     * @param  list<string>  $by  words of the blade
     * @param  array<string, array<string, mixed>>  $blade  its other settings
     * @param  list<string>  $required
     * @param  bool  $hasGrain  whether its walls can be rough
     * @return array<string, mixed>
     */
    final protected static function withBlade(string $title, array $by, array $blade, array $required, bool $hasGrain = true): array
    {
        return ['title' => $title, ...Schema::object([
            'do' => Schema::word('cut'),
            'blade' => Schema::object(['kind' => Schema::word('cells'), 'by' => Schema::choice('How space is divided', $by), ...$blade], ['kind', 'by', ...$required]),
            'of' => Schema::of(),
            'kerf' => Schema::length(Schema::amount('Width that is taken out between the pieces', 0.0, 'the width to take out between pieces, 0 or more')),
            ...BladeSettings::seal(),
            ...($hasGrain ? ['grain' => GrainSettings::schema()] : []),
            'smallest' => Schema::amount('Pieces of a smaller share of the volume join a neighbour', 0.0, 'the smallest piece as a share of the volume, 0 to 0.5', 0.5),
            'apart' => Schema::yesNo('Every connected body is a piece of its own; else what lies in one cell stays together', true),
            'wall_mm' => Schema::amount('Wall of hollow pieces in millimetres; 0 for solid ones', 0.0, 'the wall of hollow pieces in millimetres, 0 or more'),
        ], ['do', 'blade'])];
    }

    protected function accept(string $at): void
    {
        /** @var array{kerf: float, seal: string, edge_mm?: float, smallest: float, apart: bool, wall_mm: float} $settings */
        $settings = $this->settings;
        try {
            $this->shatter = new ShatterSettings(
                $settings['kerf'], Seal::from($settings['seal']), $settings['edge_mm'] ?? null, $settings['smallest'], $settings['apart'], $settings['wall_mm'], GrainSettings::grainOrNone($settings, $at),
            );
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at: ".$refusal->getMessage());
        }
    }

    final public function shatter(): ShatterSettings
    {
        return $this->shatter;
    }

    public function closes(): bool
    {
        return $this->shatter->seal !== Seal::Open;
    }

    public function volume(): VolumeAfter
    {
        return match (true) {
            $this->shatter->wall > 0.0 => VolumeAfter::Other,
            $this->shatter->kerf > 0.0 => VolumeAfter::LessKerf,
            default => VolumeAfter::Same,
        };
    }

    public function what(): string
    {
        return 'the shattering';
    }

    public function refusal(array $pieces, string $at): string
    {
        return "The cells of $at cut nothing: each piece lies within one cell, or is smaller than the smallest; give more cells or a smaller share.";
    }
}
