<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\Series;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Plane;

/** What series of blades have in common, whether they wander or not. */
abstract class StopsStep extends BladeStep
{
    private FlatBlade $blade;

    private Series $series;

    /**
     * @param  array<string, mixed>  $blade  as the schema of the kind reads it
     *
     * @throws BadRecipe
     */
    protected function seriesOf(array $blade, string $at): Series
    {
        return Stops::series($blade, $at);
    }

    protected function accept(string $at): void
    {
        /** @var array{facing: array{float, float, float}} $blade */
        $blade = $this->settings['blade'];
        $this->series = $this->seriesOf($blade, "$at.blade");
        $this->blade = BladeSettings::blade($this->settings, Plane::at($this->series->stops[0] ?? 0.0, $blade['facing']));
        if ($this->blade->kerf >= $this->series->gap()) {
            throw new BadRecipe(sprintf('%s.kerf is %g mm and the stops are only %g mm apart; make it smaller.', $at, $this->blade->kerf, $this->series->gap()));
        }
    }

    final public function blade(): FlatBlade
    {
        return $this->blade;
    }

    final public function series(): Series
    {
        return $this->series;
    }

    public function refusal(array $pieces, string $at): string
    {
        return self::missed($pieces, $this->blade->plane, 'first stop', $at);
    }
}
