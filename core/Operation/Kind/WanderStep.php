<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\Outcome;
use Isotome\Cut\Series;
use Isotome\Cut\Wander;
use Isotome\Cut\WanderCut;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Piece;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;
use Isotome\Schema\Shown;

/** Cuts with a series of blades that each wander from their stop by chance, and so may cross (Isotome\Cut\WanderCut). */
final class WanderStep extends StopsStep
{
    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['series'], 'blade.wander' => true];
    }

    public static function group(): string
    {
        return 'blade';
    }

    public static function schema(): array
    {
        $wander = Schema::object([
            'shift' => Schema::number('At most this share of the extent away from the stop', 0.0, 'give a shift of 0 to 0.5', 0.0, null, 0.5),
            'tilt' => Schema::number('At most so many degrees away from the facing', 0.0, 'give a tilt of 0 to 45', 0.0, null, 45.0), 'seed' => Schema::seed(),
        ], [], 'write {"shift": 0.02, "tilt": 5, "seed": 1}');

        return ['title' => 'Cuts with a series of blades that wander', ...Schema::object([
            'do' => Schema::word('cut'), 'blade' => Stops::schema(['wander' => ['title' => 'How far they wander', ...$wander]], 'wander'), ...BladeSettings::schema(),
        ], ['do', 'blade'])];
    }

    protected function accept(string $at): void
    {
        if ($this->settings['keep'] !== 'both') {
            throw new BadRecipe("$at.keep is ".Shown::of($this->settings['keep']).'; blades that wander keep both sides, so write "both".');
        }
        parent::accept($at);
    }

    protected function seriesOf(array $blade, string $at): Series
    {
        /** @var array{wander: array{shift: float, tilt: float, seed: int}} $blade */
        $wander = $blade['wander'];

        return parent::seriesOf($blade, $at)->wandering(new Wander($wander['shift'], $wander['tilt'], $wander['seed']));
    }

    protected function cut(Piece $piece, Work $work): ?Outcome
    {
        return WanderCut::of($piece->mesh, $this->series()->planes($piece->mesh), $this->blade(), $work->number, $work->closure());
    }
}
