<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\Keep;
use Isotome\Cut\Outcome;
use Isotome\Drawn\DrawnBlade;
use Isotome\Drawn\DrawnCut;
use Isotome\Drawn\FlatSheet;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Piece;
use Isotome\Operation\VolumeAfter;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** What cuts along lines have in common (Isotome\Drawn\DrawnCut): drawn across the view, or the profile of a bent blade. */
abstract class DrawingStep extends CuttingStep implements AlongLines
{
    private DrawnBlade $drawn;

    /**
     * @param  array<string, mixed>  $blade  as the schema of the kind reads it
     *
     * @throws BadBlade
     */
    abstract protected function bladeOf(array $blade, float $kerf, Keep $keep): DrawnBlade;

    public static function group(): string
    {
        return 'drawn';
    }

    /**
     * @param  array<string, mixed>  $blade
     * @return array<string, mixed>
     */
    final protected static function withBlade(string $title, array $blade): array
    {
        return ['title' => $title, ...Schema::object([
            'do' => Schema::word('cut'), 'blade' => $blade, 'of' => Schema::of(),
            'keep' => Schema::oneOf('What stays: both sides, what is ahead (left of a stroke, above a bent blade, around an outline), or what is behind', Side::class, 'both'),
            ...BladeSettings::kerf(),
            'grain' => GrainSettings::schema(),
        ], ['do', 'blade'])];
    }

    protected function accept(string $at): void
    {
        /** @var array{blade: array<string, mixed>, kerf: float, keep: string} $settings */
        $settings = $this->settings;
        try {
            $this->drawn = $this->bladeOf($settings['blade'], $settings['kerf'], Keep::from($settings['keep']))->withGrain(GrainSettings::grainOrNone($settings, $at));
            $this->drawn->drawn();
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at.blade: ".$refusal->getMessage());
        }
    }

    final public function drawn(): DrawnBlade
    {
        return $this->drawn;
    }

    protected function cut(Piece $piece, Work $work): ?Outcome
    {
        $isSheet = $piece->watertight !== true && FlatSheet::is($piece->mesh);
        if (! $isSheet) {
            OpenPieces::refuse([$piece], $work->at);
        }

        return DrawnCut::of($piece->mesh, $this->drawn, $work->number, $work->closure(), $isSheet);
    }

    public function closes(): bool
    {
        return true;
    }

    public function volume(): VolumeAfter
    {
        return match (true) {
            $this->drawn->keep !== Keep::Both => VolumeAfter::Other,
            $this->drawn->kerf > 0.0 => VolumeAfter::LessKerf,
            default => VolumeAfter::Same,
        };
    }

    public function refusal(array $pieces, string $at): string
    {
        return "The blade of $at cuts nothing: it meets none of the pieces, or what it meets still hangs together beside its ends; let it begin and end outside, or close on itself.";
    }
}
