<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Isotome\Geometry\Chance;
use Isotome\Schema\Schema;

/**
 * A front passes through the pieces and sets each going: into a shift, a turn about its centre and a scale.
 *
 * The front is at the nearest piece when the wave begins and at the farthest after its length; each piece then takes the width. Softness is how much of that time it gets under way and comes to rest in: 0 moves it evenly, 1 smoothly.
 * A random share makes each piece late by up to that share of the length.
 */
final class WaveLayer extends MovementLayer
{
    public static function schema(): array
    {
        return self::form('wave', 'Wave', [
            'front' => Schema::oneOf('What passes: a plane along a direction, a ball that grows from a place, a tube that grows around an axis, the order of the pieces, or chance', Front::class, Front::Plane->value),
            'facing' => Schema::triple('Direction in which a plane travels', [0.0, 0.0, 1.0]),
            'from' => Schema::placeOr('centre', 'Place from which a ball grows, or through which the axis goes'),
            'along' => Schema::triple('Direction of the axis', [0.0, 0.0, 1.0]),
            ...self::span(50.0),
            'width' => Schema::number('Frames that each piece takes', 12.0, 'give a number of frames above 0', null, 0.0, (float) self::MOST_FRAMES),
            'softness' => Schema::number('How softly a piece begins and ends, 0 to 1', 1.0, 'give a number from 0 to 1', 0.0, null, 1.0),
            'random' => Schema::number('Share of the length by which pieces are late at random', 0.0, 'give a number from 0 to 1', 0.0, null, 1.0),
            'shift' => Schema::triple('Shift, in millimetres', [0.0, 0.0, 0.0]),
            'about' => Schema::triple('Axis of the turn', [0.0, 0.0, 1.0]),
            'degrees' => Schema::number('Degrees of the turn', 0.0, 'give an angle in degrees', -36000.0, null, 36000.0),
            'scale' => Schema::number('Scale in the end', 1.0, 'give a number from 0 to 1,000', 0.0, null, 1000.0),
            'seed' => Schema::seed(),
        ]);
    }

    public function starts(Poses $poses, array $pieces): array
    {
        $from = $this->settings['from'] ?? 'centre';
        /** @var array{float, float, float} $origin */
        $origin = is_array($from) ? $from : self::middle($poses, $pieces);
        $facing = $this->three('facing');
        $axis = $this->three('along');
        $square = $axis[0] ** 2 + $axis[1] ** 2 + $axis[2] ** 2;
        /** @var int $seed */
        $seed = $this->settings['seed'] ?? 0;
        $chance = new Chance($seed);
        /** @var string $word */
        $word = $this->settings['front'];
        $front = Front::from($word);
        $far = $late = [];
        foreach ($pieces as $k => $n) {
            $centre = $poses->actors[$n]->centre;
            $way = [$centre[0] - $origin[0], $centre[1] - $origin[1], $centre[2] - $origin[2]];
            $random = $chance->uniform();
            $late[$n] = $chance->uniform();
            $far[$n] = match ($front) {
                Front::Plane => $facing[0] * $centre[0] + $facing[1] * $centre[1] + $facing[2] * $centre[2],
                Front::Ball => sqrt($way[0] ** 2 + $way[1] ** 2 + $way[2] ** 2),
                Front::Axis => sqrt(max(0.0, $way[0] ** 2 + $way[1] ** 2 + $way[2] ** 2 - ($way[0] * $axis[0] + $way[1] * $axis[1] + $way[2] * $axis[2]) ** 2 / $square)),
                Front::Order => (float) $k,
                Front::Random => $random,
            };
        }
        $least = min($far);
        $wide = max($far) - $least;
        $starts = [];
        foreach ($far as $n => $at) {
            $starts[$n] = $this->number('start') + $this->number('length') * (($wide > 0.0 ? ($at - $least) / $wide : 0.0) + $this->number('random') * $late[$n]);
        }

        return $starts;
    }

    protected function curve(Poses $poses, array $pieces): array
    {
        $starts = $this->starts($poses, $pieces);

        return $this->shares($poses, fn (int $frame): float => array_sum(array_map(fn (float $start): float => $this->share($frame, $start), $starts)) / max(1, count($starts)));
    }

    /** How far a piece has come that begins at a frame. */
    private function share(int $frame, float $start): float
    {
        $t = max(0.0, min(1.0, ($frame - $start) / $this->number('width')));
        $soft = $this->number('softness');

        return (1.0 - $soft) * $t + $soft * Ease::Smooth->at($t);
    }

    protected function act(Poses $poses, array $pieces): void
    {
        [$degrees, $scale, $shift, $about] = [$this->number('degrees'), $this->number('scale'), $this->three('shift'), $this->three('about')];
        foreach ($this->starts($poses, $pieces) as $n => $start) {
            for ($frame = max(0, (int) floor($start)); $frame < $poses->frames; $frame++) {
                $share = $this->share($frame, $start);
                $poses->add($n, $frame, [$shift[0] * $share, $shift[1] * $share, $shift[2] * $share], $degrees === 0.0 ? null : Quaternion::about($about, $degrees * $share), 1.0 + ($scale - 1.0) * $share);
            }
        }
    }
}
