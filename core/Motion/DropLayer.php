<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Isotome\Exception\BadRecipe;
use Isotome\Mesh\Mesh;
use Isotome\Schema\Schema;

/**
 * Pieces fall as rigid bodies, from where they are when it begins, onto a floor, onto each other and onto pieces that stay.
 *
 * A piece touches others with its convex hull (Shape); what overlaps from the beginning is not pushed apart. From its first frame on it takes the place of the layers before it; layers after it add up with it.
 */
final class DropLayer extends MovementLayer
{
    /** Seconds of a step at most, and at least however fast bodies are. */
    private const STEP = 0.01;

    private const SHORTEST = 0.0025;

    /** mm that a body may come in a step. */
    private const FAR = 5.0;

    private const MOST_PIECES = 2000;

    public static function schema(): array
    {
        return self::form('drop', 'Drop', [
            'start' => Schema::number('Frame at which it begins', 0.0, 'give a frame, 0 or more', 0.0, null, (float) self::MOST_FRAMES),
            'density' => Schema::number('Density, g/cm³', 1.2, 'give a density above 0', null, 0.0, 100.0),
            'gravity' => Schema::number('Gravity, m/s²', 9.81, 'give 0 or more', 0.0, null, 1000.0),
            'friction' => Schema::number('Friction', 0.6, 'give a number from 0 to 10', 0.0, null, 10.0),
            'bounce' => Schema::number('Share of the speed with which pieces leave each other again', 0.1, 'give a number from 0 to 1', 0.0, null, 1.0),
            'floor' => Schema::number('Height of the floor, in millimetres', 0.0, 'give a height in millimetres', -1e6, null, 1e6),
            'speed' => Schema::triple('Speed at the beginning, in millimetres a second', [0.0, 0.0, 0.0]),
            'spin' => Schema::triple('Spin at the beginning about X, Y and Z, in degrees a second', [0.0, 0.0, 0.0]),
            'push' => Schema::number('Speed away from a place at the beginning, in millimetres a second, next to it', 0.0, 'give a speed in millimetres a second', -1e6, null, 1e6),
            'push_from' => Schema::placeOr('centre', 'That place, or centre for the middle of the pieces'),
            'push_reach' => Schema::number('How far from it, in millimetres, nothing is pushed any more', 200.0, 'give a distance above 0', null, 0.0, 1e6),
            'glue' => Schema::number('Strength of the glue between neighbours, N/mm²: 0 for none', 0.0, 'give 0 or more', 0.0, null, 1e6),
            'stay' => ['title' => 'Pieces that stay where they are, and are fallen on', ...Schema::names()],
        ]);
    }

    /** How far the middle of them is above the lowest that it comes to. */
    protected function curve(Poses $poses, array $pieces): array
    {
        $heights = [];
        $low = INF;
        $high = -INF;
        for ($frame = 0; $frame < $poses->frames; $frame++) {
            $sum = 0.0;
            foreach ($pieces as $n) {
                $sum += $poses->actors[$n]->centre[2] + $poses->shifts[$n][3 * $frame + 2];
            }
            $heights[] = $sum / count($pieces);
            $low = min($low, $heights[$frame]);
            $high = max($high, $heights[$frame]);
        }
        $high = max($high, $low + 1e-9);

        return $this->shares($poses, static fn (int $frame): float => ($heights[$frame] - $low) / ($high - $low));
    }

    public function needsShapes(): bool
    {
        return true;
    }

    protected function act(Poses $poses, array $pieces): void
    {
        $start = (int) ceil($this->number('start'));
        if ($start >= $poses->frames) {
            return;
        }
        /** @var list<string> $names */
        $names = $this->settings['stay'] ?? [];
        $staying = $names === [] ? [] : self::named($poses, $names);
        $all = array_values(array_unique([...$pieces, ...$staying]));
        if (count($all) > self::MOST_PIECES) {
            throw new BadRecipe(number_format(count($all)).' pieces are too many to fall at once; let up to '.number_format(self::MOST_PIECES).' fall.');
        }
        $shapes = $stay = [];
        foreach ($all as $n) {
            $actor = $poses->actors[$n];
            if (abs($poses->scales[$n][$start] - 1.0) > 1e-9) {
                throw new BadRecipe("$actor->name is scaled when it begins to fall; let it fall first, and scale it in a layer after that.");
            }
            $shape = Shape::of($actor->mesh ?? throw new BadRecipe("$actor->name has no shape, so it cannot fall."), $this->number('density'));
            if ($shape->mass <= 0.0 || $shape->faces === []) {
                throw new BadRecipe("$actor->name encloses no volume, so it weighs nothing and cannot fall; mend it first, or leave it out.");
            }
            $shapes[] = $shape;
            $stay[] = in_array($n, $staying, true);
        }
        $world = new RigidBodies($shapes, $stay, $this->number('floor'), 1000 * $this->number('gravity'), $this->number('friction'), $this->number('bounce'));
        $spin = $this->three('spin');
        $pushed = $this->settings['push_from'] ?? 'centre';
        /** @var array{float, float, float} $from */
        $from = is_array($pushed) ? $pushed : self::middleAt($poses, $pieces, $start);
        foreach ($all as $k => $n) {
            [$x, $y, $z, $qx, $qy, $qz, $qw] = $poses->at($n, $start);
            $world->places[$k] = [$x, $y, $z];
            $world->turns[$k] = [$qx, $qy, $qz, $qw];
            if (! $stay[$k]) {
                $world->speeds[$k] = $this->pushed($world->places[$k], $from);
                $world->spins[$k] = [deg2rad($spin[0]), deg2rad($spin[1]), deg2rad($spin[2])];
            }
        }
        if ($this->number('glue') > 0.0) {
            $this->glue($world, $poses, $all);
        }
        for ($frame = $start; $frame < $poses->frames; $frame++) {
            foreach ($all as $k => $n) {
                $poses->put($n, $frame, $world->places[$k], $world->turns[$k]);
            }
            $poses->reached === null || ($poses->reached)($frame);
            $long = min(self::STEP, max(self::SHORTEST, self::FAR / max(1e-9, $world->fastest())));
            $steps = max(1, (int) ceil(1.0 / $poses->fps / $long - 1e-9));
            for ($step = 0; $step < $steps && $frame + 1 < $poses->frames; $step++) {
                $world->step(1.0 / $poses->fps / $steps);
            }
        }
    }

    /**
     * @param  non-empty-list<int>  $pieces
     * @return array{float, float, float} of where they are at a frame
     */
    private static function middleAt(Poses $poses, array $pieces, int $frame): array
    {
        $sum = [0.0, 0.0, 0.0];
        foreach ($pieces as $n) {
            $at = $poses->at($n, $frame);
            foreach ([0, 1, 2] as $k) {
                $sum[$k] += $at[$k] / count($pieces);
            }
        }

        return $sum;
    }

    /**
     * The speed at the beginning: that of all, and away from the place of the push, evenly less the farther it is.
     *
     * @param  array{float, float, float}  $place
     * @param  array{float, float, float}  $from
     * @return array{float, float, float} mm/s
     */
    private function pushed(array $place, array $from): array
    {
        $speed = $this->three('speed');
        $way = [$place[0] - $from[0], $place[1] - $from[1], $place[2] - $from[2]];
        $far = sqrt($way[0] ** 2 + $way[1] ** 2 + $way[2] ** 2);
        $by = $far > 0.0 ? $this->number('push') * max(0.0, 1.0 - $far / $this->number('push_reach')) / $far : 0.0;

        return [$speed[0] + $by * $way[0], $speed[1] + $by * $way[1], $speed[2] + $by * $way[2]];
    }

    /**
     * Neighbours that are still beside each other when it begins are glued.
     *
     * @param  list<int>  $all
     */
    private function glue(RigidBodies $world, Poses $poses, array $all): void
    {
        $meshes = array_map(static fn (int $n): Mesh => $poses->actors[$n]->mesh ?? throw new BadRecipe("{$poses->actors[$n]->name} has no shape, so it cannot fall."), $all);
        foreach (Glue::between($meshes, Neighbours::pairs($meshes, Glue::REACH)) as [$a, $b, $glue]) {
            $world->glue($a, $b, $glue, 1e6 * $this->number('glue'));
        }
    }
}
