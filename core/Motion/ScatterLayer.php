<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Isotome\Geometry\Chance;
use Isotome\Schema\Schema;

/** Each piece gets a shift and a turn of its own at random, reached after the length; or drifts on at that pace for ever. */
final class ScatterLayer extends MovementLayer
{
    public static function schema(): array
    {
        return self::form('scatter', 'Scatter', [
            'distance_mm' => Schema::amount('How far a piece is shifted at most, in millimetres', 10.0, 'a distance in millimetres, 0 or more', 1e6),
            'degrees' => Schema::number('How far a piece is turned at most, in degrees', 30.0, 'give an angle from 0 to 180 degrees', 0.0, null, 180.0),
            'drift' => Schema::yesNo('Whether it goes on at the same pace', false),
            ...self::span(25.0), 'ease' => Schema::oneOf('How it begins and ends, unless it drifts', Ease::class, Ease::Smooth->value),
            'seed' => Schema::seed(),
        ]);
    }

    protected function curve(Poses $poses, array $pieces): array
    {
        if ($this->settings['drift'] !== true) {
            return parent::curve($poses, $pieces);
        }
        // What goes on for ever is drawn as a line to the last frame.
        $start = $this->number('start');

        return $this->shares($poses, static fn (int $frame): float => ($frame - $start) / max(1.0, $poses->frames - 1 - $start));
    }

    protected function act(Poses $poses, array $pieces): void
    {
        /** @var int $seed */
        $seed = $this->settings['seed'] ?? 0;
        $chance = new Chance($seed);
        [$start, $long, $distance, $degrees, $ease] = [$this->number('start'), $this->number('length'), $this->number('distance_mm'), $this->number('degrees'), $this->ease()];
        foreach ($pieces as $n) {
            // Evenly over the ball: the cube root of an even share.
            $way = $chance->direction();
            $by = $distance * $chance->uniform() ** (1 / 3);
            $axis = $chance->direction();
            $turn = $degrees * $chance->uniform();
            for ($frame = (int) floor($start); $frame < $poses->frames; $frame++) {
                $t = ($frame - $start) / $long;
                $share = $this->settings['drift'] === true ? max(0.0, $t) : $ease->at($t);
                $poses->add($n, $frame, [$way[0] * $by * $share, $way[1] * $by * $share, $way[2] * $by * $share], Quaternion::about($axis, $turn * $share));
            }
        }
    }
}
